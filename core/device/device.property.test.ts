import { describe, expect, it } from 'vitest'
import { createDevice } from './device'
import { choices } from '../seeded'
import { randomImage, randomTrace } from './random.testkit'
import { difference, later } from './time'
import { eventOf, runTrace } from './trace'
import type { DeviceEvent, DeviceOutput } from './types'

const SEEDS = Array.from({ length: 120 }, (_, i) => i + 1)

/** Plays a trace, but also advances the device to instants where nothing happens. */
function runAtCadence(seed: number, step: (random: ReturnType<typeof choices>) => number): DeviceOutput[] {
  const image = randomImage(seed)
  const lines = randomTrace(seed, image, 25)
  const random = choices(seed + 5)
  const device = createDevice(image)
  const out: DeviceOutput[] = []
  let now = lines[0]!.t
  for (let i = 0; i < lines.length;) {
    const t = lines[i]!.t
    const first = i === 0
    for (let next = later(now, step(random)); !first && difference(next, t) < 0; next = later(now, step(random))) {
      out.push(...device.advance(next))
      now = next
    }
    const events: DeviceEvent[] = []
    for (; i < lines.length && lines[i]!.t === t; i++) {
      const event = eventOf(image, lines[i]!)
      if (event) events.push(event)
    }
    if (first && !events.some((event) => event.kind === 'power')) events.unshift({ kind: 'power', on: true })
    out.push(...device.advance(t, events))
    now = t
  }
  return out
}

const expected = (seed: number) => runTrace(randomImage(seed), randomTrace(seed, randomImage(seed), 25))

describe('any cadence gives the same outputs', () => {
  it('each millisecond', () => {
    const wrong = SEEDS.slice(0, 30).filter(
      (seed) => JSON.stringify(runAtCadence(seed, () => 1)) !== JSON.stringify(expected(seed)),
    )
    expect(wrong).toEqual([])
  })
  it('random steps', () => {
    const wrong = SEEDS.filter(
      (seed) => JSON.stringify(runAtCadence(seed, (random) => random.whole(1, 900))) !== JSON.stringify(expected(seed)),
    )
    expect(wrong).toEqual([])
  })
})

describe('the clock wraps after 2^32 ms', () => {
  it('a trace shifted across the wrap gives the same outputs, shifted', () => {
    const wrong = SEEDS.filter((seed) => {
      const image = randomImage(seed)
      const lines = randomTrace(seed, image, 40)
      const shift = (0xffff_ffff - lines[Math.floor(lines.length / 2)]!.t) >>> 0
      const moved = runTrace(
        image,
        lines.map((line) => ({ ...line, t: later(line.t, shift) })),
      )
      const plain = runTrace(image, lines).map((output) => ({ ...output, t: later(output.t, shift) }))
      return JSON.stringify(moved) !== JSON.stringify(plain)
    })
    expect(wrong).toEqual([])
  })
})
