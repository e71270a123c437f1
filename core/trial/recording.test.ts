import { readFileSync } from 'node:fs'
import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readSite } from '../site'
import { Recording, type Deed, type TrialAction } from '.'

// Source of the checks: the promise itself. A run is its site, its seed and its deeds: however it is gone through,
// the same instant is the same house.

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const pottery = parsed.value

const HANDS: readonly TrialAction[] = [
  { kind: 'rock', input: 's1' },
  { kind: 'rock', input: 's6' },
  { kind: 'press', input: 's3' },
  { kind: 'release', input: 's3' },
  { kind: 'widget', service: 'app', widget: pottery.services[0]!.widgets[0]!.id, on: true },
  { kind: 'break', what: 'wifi', broken: true },
  { kind: 'break', what: 'wifi', broken: false },
  { kind: 'break', what: 'mains', broken: true },
  { kind: 'break', what: 'mains', broken: false },
  { kind: 'break', what: 'contact:bench-lights.0', broken: true, how: 'stuck' },
  { kind: 'break', what: 'broker', broken: true, how: 'lossy' },
  { kind: 'stand', place: 'away' },
  { kind: 'stand', place: 'here' },
]

const seen = (recording: Recording) => ({
  now: recording.snapshot(),
  tracks: [...recording.tracks.lanes].flatMap(([, events]) => events).sort((a, b) => a.order - b.order),
})

const deedsOf = fc.array(fc.record({ t: fc.integer({ min: 0, max: 400_000 }), action: fc.constantFrom(...HANDS) }), {
  maxLength: 14,
})

describe('a run', () => {
  it('is the same at an instant, whether it is played there, jumped to, or gone back to', () => {
    fc.assert(
      fc.property(
        deedsOf,
        fc.integer({ min: 1, max: 400_000 }),
        fc.integer({ min: 0, max: 400_000 }),
        (deeds, a, b) => {
          const straight = new Recording(pottery, 3, deeds)
          straight.advance(a)
          const wandering = new Recording(pottery, 3, deeds)
          wandering.goTo(Math.max(a, b))
          wandering.goTo(Math.min(a, b))
          wandering.goTo(a)
          expect(seen(wandering)).toEqual(seen(straight))
        },
      ),
      { numRuns: 25 },
    )
  }, 60_000)

  it('with a deed taken out is the run that never had it', () => {
    fc.assert(
      fc.property(
        deedsOf.filter((deeds) => deeds.length > 0),
        fc.nat(),
        (deeds, which) => {
          const changed = new Recording(pottery, 5, deeds)
          changed.advance(400_000)
          const without = changed.deeds.filter((_, i) => i !== which % deeds.length)
          changed.replace(without)
          const never = new Recording(pottery, 5, without)
          never.advance(400_000)
          expect(seen(changed)).toEqual(seen(never))
        },
      ),
      { numRuns: 25 },
    )
  }, 60_000)

  it('takes a press that is added in its past, and plays what was done later after it', () => {
    const later: Deed[] = [{ t: 20_000, action: { kind: 'rock', input: 's2' } }]
    const run = new Recording(pottery, 1, later)
    run.advance(30_000)
    run.goTo(10_000)
    run.act({ kind: 'rock', input: 's1' })
    run.goTo(30_000)
    const levels = Object.fromEntries(run.snapshot().channels.map(({ id, level }) => [id, level]))
    expect(levels).toMatchObject({ 'bench-lights': 1, 'shelf-lights': 1 })
    expect(run.deeds.map(({ t }) => t)).toEqual([10_000, 20_000])
  })

  it('with another seed has other latencies, and the same end', () => {
    const deeds: Deed[] = [{ t: 10_000, action: { kind: 'rock', input: 's1' } }]
    const [one, two] = [1, 2].map((seed) => {
      const run = new Recording(pottery, seed, deeds)
      run.advance(20_000)
      return seen(run)
    })
    expect(one!.tracks).not.toEqual(two!.tracks)
    expect(one!.now.channels).toEqual(two!.now.channels)
  })
})
