import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { barsOf, differences, TracksKept, valueAt, type Kept } from '.'

// Source of the checks: what a drawing of a signal must keep. No time is drawn twice or left out, what is drawn as one
// value has that value, and nothing that is wide enough to be seen is lost.

const laneOf = (changes: readonly (readonly [t: number, value: number])[]): readonly Kept[] => {
  const tracks = new TracksKept()
  for (const [t, value] of changes) tracks.add({ t, lane: 'load:x', value, cause: null })
  return tracks.of('load:x')
}
const changes = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 10_000 }), fc.integer({ min: 0, max: 3 })), { maxLength: 60 })
  .map((list) => [...list].sort(([a], [b]) => a - b))

describe('bars', () => {
  it('lie end to end, keep every wide value, and say where there are too many changes', () => {
    fc.assert(
      fc.property(
        changes,
        fc.integer({ min: 0, max: 5_000 }),
        fc.integer({ min: 10, max: 5_000 }),
        (list, from, span) => {
          const events = laneOf(list)
          const to = from + span
          const bars = barsOf(events, { from, to, pixels: 100 }, 9_000)
          const end = Math.min(to, 9_000)
          expect(bars[0]?.from).toBe(from)
          expect(bars.at(-1)?.to).toBe(end)
          bars.forEach((bar, i) => expect(bar.from).toBe(i === 0 ? from : bars[i - 1]!.to))
          for (let t = from; t < end; t += Math.max(1, Math.floor(span / 37))) {
            const bar = bars.find((one) => one.from <= t && t < one.to)!
            if (bar.changes === 0) expect(bar.value).toBe(valueAt(events, t))
          }
        },
      ),
    )
  })
  it('a gap between two contacts does not spoil the level that follows', () =>
    expect(
      barsOf(
        laneOf([
          [1_000, 1],
          [2_000, 0],
          [2_020, 2],
        ]),
        { from: 0, to: 60_000, pixels: 600 },
        50_000,
      ),
    ).toEqual([
      { from: 0, to: 1_000, value: 0, changes: 0 },
      { from: 1_000, to: 2_000, value: 1, changes: 0 },
      { from: 2_000, to: 2_020, value: 0, changes: 1 },
      { from: 2_020, to: 50_000, value: 2, changes: 0 },
    ]))
})

describe('where two lanes differ', () => {
  it('is exactly where their values do', () => {
    fc.assert(
      fc.property(changes, changes, (a, b) => {
        const [one, two] = [laneOf(a), laneOf(b)]
        const found = differences(one, two, 0, 10_001)
        for (let t = 0; t <= 10_000; t += 83) {
          const isDrawn = found.some(({ from, to }) => from <= t && t < to)
          expect(isDrawn).toBe(valueAt(one, t) !== valueAt(two, t))
        }
      }),
    )
  })
})
