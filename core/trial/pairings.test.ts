import { describe, expect, it } from 'vitest'
import { lampFanStrike, withHands } from '../outputs/kinds.testkit'
import { World } from '.'

// Source of the check: the words of docs/wires.md, "Pairing"; firmware/test/pairing.test.ts holds the board to them.

const HOUR = 3_600_000

class Bench {
  readonly world = World.begin(withHands(lampFanStrike(['provisioned'])))
  constructor() {
    this.wait(3_000)
  }
  wait(ms: number): void {
    this.world.advance(this.world.snapshot().now + ms)
  }
  hold(input: string, ms: number): void {
    this.world.act({ kind: 'press', input })
    this.wait(ms)
    this.world.act({ kind: 'release', input })
    this.wait(100)
  }
  says(right: boolean): void {
    this.world.act({ kind: 'pair', controller: 'box', right })
    this.wait(100)
  }
  get lines(): string[] {
    return this.world.snapshot().timeline.map(({ text }) => text)
  }
  get link(): string | undefined {
    return this.world.snapshot().links['box']
  }
  get truth() {
    return this.world.snapshot().pairing[0]!
  }
  lamp(on: boolean): number {
    this.world.act({ kind: 'widget', service: 'provisioned', widget: 'lamp', on })
    this.wait(1_500)
    return this.world.snapshot().channels.find(({ id }) => id === 'lamp')!.level
  }
}

describe('pairing in the house', () => {
  it('from a controller that knows nothing to its first command: offered at power, wrong PIN, right PIN', () => {
    const house = new Bench()
    house.hold('reset-button', 5_200)
    expect(house.link).not.toBe('up')
    house.wait(HOUR)
    expect(house.link).not.toBe('up')
    // power gone and back: still nothing, but it is ready to pair
    house.world.act({ kind: 'break', what: 'power:box', broken: true })
    house.wait(2_000)
    house.world.act({ kind: 'break', what: 'power:box', broken: false })
    house.wait(2_000)
    expect(house.truth).toMatchObject({ forgotten: true, offered: true })
    expect(house.lamp(true)).toBe(0)
    house.says(false)
    expect(house.truth.wrong).toBe(1)
    expect(house.link).not.toBe('up')
    house.says(true)
    house.wait(90_000)
    expect(house.link).toBe('up')
    expect(house.lamp(true)).toBe(1)
    expect(house.lines).toEqual(
      expect.arrayContaining([
        'Box has deleted its credentials',
        'Box refuses a wrong PIN, 4 tries left',
        'Box is paired',
      ]),
    )
    // over a further power cut it knows its network
    house.world.act({ kind: 'break', what: 'power:box', broken: true })
    house.wait(2_000)
    house.world.act({ kind: 'break', what: 'power:box', broken: false })
    house.wait(10_000)
    expect(house.link).toBe('up')
    expect(house.truth.offered).toBe(false)
  })

  it('accepts no PIN after five wrong ones, not even the right one, until the ten minutes are over', () => {
    const house = new Bench()
    house.hold('pair-button', 3_200)
    expect(house.truth).toMatchObject({ offered: true, forgotten: false })
    for (let i = 0; i < 5; i++) house.says(false)
    expect(house.truth.closedUntil).not.toBeNull()
    house.says(true)
    expect(house.lines.at(-1)).toBe('Box accepts no PIN for now, after too many wrong ones')
    expect(house.lines).not.toContain('Box is paired')
    // it stays on the network that it has all the while
    expect(house.link).toBe('up')
    house.wait(601_000)
    house.hold('pair-button', 3_200)
    house.says(true)
    expect(house.lines).toContain('Box is paired')
  })

  it('is ready to pair for ten minutes, and never before a hand has asked', () => {
    const house = new Bench()
    house.says(true)
    expect(house.lines).not.toContain('Box is paired')
    house.hold('pair-button', 3_200)
    house.wait(601_000)
    expect(house.truth.offered).toBe(false)
    house.says(true)
    expect(house.lines).not.toContain('Box is paired')
  })
})
