import { readFileSync } from 'node:fs'
import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { readSite } from '../site'
import { Recording } from '../trial'
import {
  bounceOf,
  inputMisses,
  missChance,
  missedShare,
  overlay,
  quantile,
  runMeasures,
  wayLatencies,
  waveEdges,
  type TimedEdge,
} from '.'

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const pottery = parsed.value

/** The distribution of a sum of two exponential times with different means (any handbook of queues; from memory). */
const sumBelow = (x: number, a: number, b: number): number =>
  x <= 0 ? 0 : 1 - (a * Math.exp(-x / a) - b * Math.exp(-x / b)) / (a - b)

/** The value that a share stays below, by halving. */
function quantileOf(below: (x: number) => number, share: number): number {
  let [low, high] = [0, 1_000]
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2
    if (below(middle) < share) low = middle
    else high = middle
  }
  return low
}

describe('latencies against their closed form', () => {
  const [wall] = wayLatencies(pottery, { samples: 600, ways: ['bench-lights-wall'] })

  it('from wall to load: the settle time, always', () => {
    const settle = pottery.inputs.find(({ id }) => id === 's1')!.settleMs
    expect(wall!.toLoad).toEqual({ p50: settle, p95: settle, p99: settle, seen: 600, tried: 600 })
  })

  it('from wall to hub: settle, 3 ms, and an exponential tail of 5 ms', () => {
    const { spread } = wall!.toScreens.find(({ who }) => who === 'hub')!
    const exact = (share: number): number => 25 + 3 - 5 * Math.log(1 - share)
    expect(spread.seen).toBe(600)
    // four standard errors of a quantile of 600: sqrt(p(1-p)/n) / density, and half a millisecond of rounding
    for (const [share, found] of [
      [0.5, spread.p50],
      [0.95, spread.p95],
    ] as const) {
      const error = (4 * Math.sqrt((share * (1 - share)) / 600) * 5) / (1 - share) + 0.5
      expect(Math.abs(found! - exact(share))).toBeLessThan(error)
    }
  })

  it('from wall to phone: settle, 15 ms, and the sum of two exponential times of 5 and 8 ms', () => {
    const { spread } = wall!.toScreens.find(({ who }) => who === 'phone')!
    // the slowest hundredth is another matter: a report may wait for the shortest time between two
    for (const [share, found] of [
      [0.5, spread.p50],
      [0.95, spread.p95],
    ] as const) {
      const tail = quantileOf((x) => sumBelow(x, 8, 5), share)
      const density = (sumBelow(tail + 0.01, 8, 5) - sumBelow(tail - 0.01, 8, 5)) / 0.02
      const error = (4 * Math.sqrt((share * (1 - share)) / 600)) / density + 1
      expect(Math.abs(found! - (25 + 15 + tail))).toBeLessThan(error)
    }
  })

  it('nearest rank', () => {
    expect(quantile([1, 2, 3, 4, 5, 6, 7, 8, 9, 10], 0.95)).toBe(10)
    expect(quantile([1, 2, 3, 4], 0.5)).toBe(2)
    expect(quantile([], 0.5)).toBeNull()
  })
})

describe('presses that nobody hears', () => {
  it.each([50, 120, 300, 499])('%i ms under a program that looks every 500 ms: 1 − press/500', (press) => {
    expect(missChance(press, { settleMs: 0, scanMs: 500 })).toBeCloseTo(1 - press / 500, 12)
    const share = missedShare([press, press], { settleMs: 0, scanMs: 500 }, { samples: 40_000 })
    expect(Math.abs(share - (1 - press / 500))).toBeLessThan(4 * Math.sqrt(0.25 / 40_000))
  })
  it.each([
    [700, 25],
    [1_200, 25],
    [900, 600],
  ])('%i ms that must settle for %i ms, as followed look by look', (press, settleMs) => {
    const watching = { settleMs, scanMs: 500 }
    const share = missedShare([press, press], watching, { samples: 40_000 })
    expect(Math.abs(share - missChance(press, watching))).toBeLessThan(4 * Math.sqrt(0.25 / 40_000))
  })
  it('a controller of ours hears what lasts as long as its settle time, and nothing shorter', () => {
    const hears = (ms: number): boolean => {
      const run = new Recording(pottery, 1, [
        { t: 600_000, action: { kind: 'press', input: 's3' } },
        { t: 600_000 + ms, action: { kind: 'release', input: 's3' } },
      ])
      run.advance(605_000)
      return run.snapshot().channels.find(({ id }) => id === 'wedging-lamp')!.level === 1
    }
    for (const ms of [5, 20, 24, 26, 40, 120]) expect(hears(ms)).toBe(missChance(ms, { settleMs: 25, scanMs: 0 }) === 0)
  })
})

describe('the switches of a site', () => {
  it('miss what is shorter than they settle, and more under a program that looks seldom', () => {
    const [first] = inputMisses(
      produce(pottery, (draft) => {
        for (const input of draft.inputs) input.settleMs = 100
      }),
    )
    // presses of 50 to 250 ms alike: a quarter is shorter than 100 ms
    expect(first!.missed).toBeCloseTo(0.25, 1)
    expect(first!.missedBySlow).toBe(1)
    for (const { missed, missedBySlow } of inputMisses(pottery)) expect([missed, missedBySlow > 0.9]).toEqual([0, true])
  })
})

describe('a run that is measured', () => {
  const day = 86_400_000
  const flips = Array.from({ length: 20 }, (_, i) => ({
    t: 600_000 + i * 60_000,
    action: { kind: 'rock' as const, input: 's1' },
  }))

  it('counts closings, and the years that contacts last', () => {
    const run = new Recording(pottery, 1, flips)
    run.advance(day)
    const found = runMeasures(pottery, run.tracks, day).channels.find(({ channel }) => channel === 'bench-lights')!
    expect(found).toMatchObject({ operations: 10, operationsAYear: 3_650, onMs: 600_000 })
    expect(found.lifeYears).toBeCloseTo(100_000 / 3_650, 9)
  })

  it('says for how long nobody could have worked a channel, by where they stood', () => {
    const run = new Recording(pottery, 1, [
      { t: 3_600_000, action: { kind: 'break', what: 'wifi', broken: true } },
      { t: 7_200_000, action: { kind: 'break', what: 'wire:s1', broken: true } },
      { t: 10_800_000, action: { kind: 'break', what: 'wifi', broken: false } },
      { t: 14_400_000, action: { kind: 'break', what: 'power:throwing', broken: true } },
      { t: 14_430_000, action: { kind: 'break', what: 'power:throwing', broken: false } },
    ])
    run.advance(day)
    const { darkMs } = runMeasures(pottery, run.tracks, day).channels.find(({ channel }) => channel === 'bench-lights')!
    // the board has no power for 30 s and starts for 1 s; elsewhere two hours without Wi-Fi come on top
    expect(darkMs.away).toBe(7_200_000 + 31_000)
    expect(darkMs.house).toBe(7_200_000 + 31_000)
    // a remote works it too, on the spot
    expect(darkMs.here).toBe(31_000)
  })

  it('holds messages against the plan of their service', () => {
    const run = new Recording(pottery, 1, flips)
    run.advance(day)
    const app = runMeasures(pottery, run.tracks, day).traffic.find(({ service }) => service === 'app')!
    expect(app.limit).toBe(
      pottery.profiles.services.find(({ id }) => id === 'datapoint')?.limits.messagesMonth ?? 100_000,
    )
    expect(app.messagesAMonth).toBe(app.messages * 30)
    expect(app.messages).toBeGreaterThan(20)
  })
})

describe('a capture of a real board', () => {
  const edges = (times: readonly number[]): TimedEdge[] => times.map((t, i) => ({ t, level: i % 2 === 0 ? 1 : 0 }))

  it('is laid over a run: the shift, and the edge that is missing', () => {
    const run = edges([1_000, 2_500, 4_000, 9_000, 12_345, 15_000])
    const capture = edges([1_000, 2_500, 4_000, 9_000]).map(({ t, level }, i) => ({ t: t - 812 + (i % 2) * 3, level }))
    const found = overlay(run, capture)
    expect(found.matched).toBe(4)
    expect(Math.abs(found.shiftMs! - 812)).toBeLessThanOrEqual(3)
    expect(found.worstMs).toBeLessThanOrEqual(3)
    expect(found.onlyRun.map(({ t }) => t)).toEqual([12_345, 15_000])
    expect(found.onlyCapture).toEqual([])
  })
  it('that fits nowhere has no shift', () => expect(overlay(edges([10]), []).shiftMs).toBeNull())

  it('says how long a switch bounces, and the settle time that it needs', () => {
    const dump = [
      '$timescale 10 us $end\n$var wire 1 ! s1 $end\n$enddefinitions $end\n#0\n1!',
      // a press at 100 ms that bounces for 6.4 ms, a release at 400 ms for 2 ms
      '#10000\n0!\n#10120\n1!\n#10300\n0!\n#10500\n1!\n#10640\n0!\n#40000\n1!\n#40100\n0!\n#40200\n1!\n#90000',
    ].join('\n')
    const found = bounceOf(waveEdges(dump))!
    expect(found.movements).toBe(2)
    expect(found.longestMs).toBeCloseTo(6.4, 6)
    expect(found.mostEdges).toBe(5)
    // 6.4 and 2 ms: the mean of the two in the middle
    expect(found.medianMs).toBeCloseTo(4.2, 6)
    expect(found.settleMs).toBe(10)
  })
})
