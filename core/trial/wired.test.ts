import { describe, expect, it } from 'vitest'
import { lampFanStrike } from '../outputs/kinds.testkit'
import type { Site } from '../site'
import { World } from '.'

// Hubs and voice bridges with a wire of their own, in the simulated house: they stand and fall with their own
// connection, and the hub on the broker of the house with the broker's.

const started = (site: Site): World => {
  const world = World.begin(site)
  world.advance(3_000)
  return world
}
const level = (world: World, id: string): number => world.snapshot().channels.find((one) => one.id === id)!.level
const refused = (world: World): string[] =>
  world.snapshot().timeline.flatMap(({ kind, text }) => (kind === 'refused' ? [text] : []))
const press = (world: World): void => {
  const at = world.snapshot().now
  world.act({ kind: 'press', input: 'lamp-button' })
  world.advance(at + 100)
  world.act({ kind: 'release', input: 'lamp-button' })
  world.advance(at + 600)
}
const say = (world: World, entity: string, command: string): void => {
  world.act({ kind: 'hub', hub: 'hub', entity, command })
  world.advance(world.snapshot().now + 600)
}

describe('a hub with a wire of its own', () => {
  it('works lamp, fan and strike by its words, and believes what is', () => {
    const world = started(lampFanStrike(['device-file']))
    press(world)
    expect(level(world, 'lamp')).toBe(1)
    expect(world.snapshot().hub['hub/lamp']).toBe(1)
    say(world, 'lamp', 'toggle')
    expect(level(world, 'lamp')).toBe(0)
    say(world, 'fan', '3')
    expect(level(world, 'fan')).toBe(3)
    say(world, 'fan', 'down')
    expect(level(world, 'fan')).toBe(2)
    say(world, 'fan', 'off')
    expect(level(world, 'fan')).toBe(0)
    world.act({ kind: 'hub', hub: 'hub', entity: 'strike', command: 'pulse' })
    world.advance(world.snapshot().now + 100)
    expect(level(world, 'strike')).toBe(1)
  })

  it('says so while its connection is down, and the wall works; the hub on the broker is another matter', () => {
    const world = started(lampFanStrike(['device-file']))
    world.act({ kind: 'break', what: 'service:hub', broken: true })
    say(world, 'lamp', 'on')
    expect(level(world, 'lamp')).toBe(0)
    expect(refused(world).at(-1)).toMatch(/^the connection of Local hub with device file is down/)
    press(world)
    expect(level(world, 'lamp')).toBe(1)
    world.act({ kind: 'break', what: 'service:hub', broken: false })
    world.act({ kind: 'break', what: 'hub', broken: true })
    world.advance(world.snapshot().now + 90_000)
    say(world, 'lamp', 'off')
    expect(level(world, 'lamp')).toBe(0)
  })
})

describe('a voice bridge that speaks to the controller itself', () => {
  it('works the lamp by its name, and not while its connection is down', () => {
    const world = started(lampFanStrike(['voice-bridge']))
    world.act({ kind: 'say', text: 'turn on lamp' })
    world.advance(4_000)
    expect(level(world, 'lamp')).toBe(1)
    world.act({ kind: 'break', what: 'service:voice-bridge', broken: true })
    world.act({ kind: 'say', text: 'turn off lamp' })
    world.advance(5_000)
    expect(level(world, 'lamp')).toBe(1)
  })
})
