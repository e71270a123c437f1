import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import { PLACES } from '../parts'
import { choices } from '../seeded'
import { readSite } from '../site'
import { everyState, literal, nobody, randomFormula } from './random.testkit'
import {
  all,
  any,
  Asker,
  chanceOf,
  cutSets,
  detailOf,
  Diagrams,
  failuresIn,
  faultsOf,
  houseHours,
  isSo,
  not,
  pairsThatMatter,
  QUESTIONS,
  rateBy,
  unavailability,
  whoIsLeft,
  type Failure,
} from '.'

// Sources of the checks: textbook values of the reliability of networks (series, parallel, the five-part bridge, k out
// of n; any handbook, from memory); the example of repeated events in the Fault Tree Handbook, NUREG-0492, chapter VII
// (from memory); and counting every state of small random formulas.

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const pottery = parsed.value

const named = (sets: readonly (readonly Failure[])[]): string[] => sets.map((set) => [...set].sort().join(' ')).sort()

describe('textbook values', () => {
  const works = (of: Parameters<typeof chanceOf>[0], p: number): number => 1 - chanceOf(of, () => 1 - p)(() => null)
  it('series and parallel', () => {
    expect(works(nobody([1, 2, 3]), 0.9)).toBeCloseTo(0.9 ** 3, 12)
    expect(works(nobody([1], [2], [3]), 0.9)).toBeCloseTo(1 - 0.1 ** 3, 12)
  })
  it('the five-part bridge at 0.9 works with 0.97848', () =>
    expect(works(nobody([1, 4], [2, 5], [1, 3, 5], [2, 3, 4]), 0.9)).toBeCloseTo(0.97848, 10))
  it('two out of three at 0.9 works with 0.972', () =>
    expect(works(nobody([1, 2], [1, 3], [2, 3]), 0.9)).toBeCloseTo(3 * 0.81 * 0.1 + 0.729, 12))
  it('a repeated part counts once: (a or b) and (a or c) is a or (b and c)', () => {
    const p = 0.2
    const twice = nobody(['a', 'b'], ['a', 'c'])
    expect(chanceOf(twice, () => p)(() => null)).toBeCloseTo(p + (1 - p) * p * p, 12)
  })
  it('the handbook’s tree of repeated events: T = E1·E2, E1 = A + B + C, E2 = C + A·B has the cut sets C and A·B', () => {
    const [a, b, c] = ['a', 'b', 'c'].map((name) => literal(name)) as [never, never, never]
    const top = all([any([a, any([b, c])]), any([c, all([a, b])])])
    expect(named(cutSets(top, 3))).toEqual(['load:a!gone load:b!gone', 'load:c!gone'])
    const p = 0.1
    expect(chanceOf(top, () => p)(() => null)).toBeCloseTo(p + (1 - p) * p * p, 12)
  })
  it('Birnbaum’s measure of the bridge’s middle part at 0.9 is 0.0162', () => {
    // 2 p² q² (any handbook; from memory)
    const chance = chanceOf(nobody([1, 4], [2, 5], [1, 3, 5], [2, 3, 4]), () => 0.1)
    const held = (state: boolean): number => chance((one) => (one === 'load:3!gone' ? state : null))
    expect(held(true) - held(false)).toBeCloseTo(2 * 0.81 * 0.01, 12)
  })
  it('a diagram is the same node for the same function', () => {
    const diagrams = new Diagrams()
    const [a, b, c] = [0, 1, 2].map((i) => diagrams.variable(i)) as [number, number, number]
    expect(diagrams.and(diagrams.or(a, b), diagrams.or(a, c))).toBe(diagrams.or(a, diagrams.and(b, c)))
    expect(diagrams.not(diagrams.and(a, b))).toBe(diagrams.or(diagrams.not(a), diagrams.not(b)))
  })
})

describe('1,000 random formulas, every state counted', () => {
  it('the chance is that of the count, with parts that fail in one way at a time', () => {
    const random = choices(11)
    for (let run = 0; run < 1_000; run++) {
      const formula = randomFormula(random, random.whole(2, 6), random.whole(1, 3))
      const failures = failuresIn(formula)
      const shares = new Map(failures.map((failure) => [failure, random.real() / 2]))
      const parts = [...new Set(failures.map((failure) => failure.split('!')[0]!))]
      const stateChance = (state: readonly Failure[]): number =>
        parts.reduce((product, part) => {
          const failed = state.find((one) => one.startsWith(`${part}!`))
          const out = failures.filter((one) => one.startsWith(`${part}!`)).map((one) => shares.get(one)!)
          return product * (failed ? shares.get(failed)! : 1 - out.reduce((a, b) => a + b, 0))
        }, 1)
      const counted = everyState(failures)
        .filter((state) => isSo(formula, new Set(state)))
        .reduce((sum, state) => sum + stateChance(state), 0)
      expect(chanceOf(formula, (failure) => shares.get(failure)!)(() => null)).toBeCloseTo(counted, 10)
    }
  })
  it('the cut sets are the states of which no smaller one does it', () => {
    const random = choices(12)
    for (let run = 0; run < 1_000; run++) {
      const formula = randomFormula(random, random.whole(2, 6), random.whole(1, 3))
      const so = everyState(failuresIn(formula)).filter((state) => isSo(formula, new Set(state)))
      const least = so.filter(
        (state) => !so.some((other) => other.length < state.length && other.every((one) => state.includes(one))),
      )
      expect(named(cutSets(formula, 6))).toEqual(named(least))
      expect(named(cutSets(formula, 2))).toEqual(named(least.filter(({ length }) => length <= 2)))
    }
  })
})

const HOUSE = ['mains', 'router', 'wifi', 'internet', 'hub-machine', 'broker', 'hub', 'phone', 'voice']

describe('who is left', () => {
  it('is what the formulas say, cell by cell', () => {
    const asker = new Asker(pottery)
    for (const question of QUESTIONS)
      for (const from of PLACES) {
        const { columns, rows } = whoIsLeft(pottery, question, from, asker)
        for (const { channel: id, cells, whole, notAsked } of rows) {
          if (notAsked !== null) continue
          const channel = pottery.channels.find((one) => one.id === id)!
          const formula = asker.ask(question, channel, from)
          expect(whole.isSo).toBe(isSo(formula, new Set()))
          columns.forEach(({ key }, i) => {
            const cell = cells[i]
            if (!cell) return
            const failed = new Set(cell.failed)
            if (HOUSE.includes(key)) expect([...failed]).toEqual([`${key}!gone`])
            expect(failed.size).toBeGreaterThan(0)
            expect(cell.isSo, `${question} ${id} ${key}`).toBe(isSo(formula, failed))
          })
        }
      }
  })
})

describe('the pottery', () => {
  const found = faultsOf(pottery)
  const of = (question: string, channel: string, from = 'here') =>
    found.find((one) => one.question === question && one.channel === channel && one.from === from)!
  it('one who is away has never more hours in control than one in the house, and who stands there most', () => {
    for (const { id } of pottery.channels) {
      const [here, house, away] = PLACES.map((from) => of('on', id, from).hours ?? Infinity) as [number, number, number]
      expect(here).toBeLessThanOrEqual(house + 1e-9)
      expect(house).toBeLessThanOrEqual(away + 1e-9)
    }
  })
  it('a welded contact is the first reason why nobody turns a lamp off', () => {
    const { cuts, hours } = of('off', 'bench-lights')
    expect(cuts[0]).toEqual(['contact:bench-lights.0!stuck'])
    expect(hours!).toBeLessThan(of('on', 'bench-lights').hours!)
  })
  it('a channel that no screen is told of is not asked for one', () => {
    expect(of('screen', 'rack-lights')).toBeUndefined()
    expect(of('screen', 'bench-lights').cuts.length).toBeGreaterThan(0)
  })
  it('names the pairs over all channels once, the heaviest first', () => {
    const pairs = pairsThatMatter(
      pottery,
      found.filter(({ question, from }) => question === 'on' && from === 'here'),
    )
    expect(new Set(pairs.map(({ failures }) => [...failures].sort().join())).size).toBe(pairs.length)
    for (const [i, { hours, channels }] of pairs.entries())
      if (i > 0)
        expect(pairs[i - 1]!.hours * pairs[i - 1]!.channels.length).toBeGreaterThanOrEqual(hours * channels.length)
  })
  it('looked at closely, hours and measures hang together', () => {
    const channel = pottery.channels.find(({ id }) => id === 'sink-heater')!
    const { hours, importance, paths, cuts } = detailOf(pottery, 'on', channel, 'here')
    expect(hours).toBeCloseTo(of('on', 'sink-heater').hours!, 9)
    expect(paths.map(({ way }) => way)).toHaveLength(2)
    for (const { birnbaum, fussellVesely, hours: saved } of importance) {
      expect(birnbaum).toBeGreaterThan(0)
      expect(fussellVesely).toBeLessThanOrEqual(1)
      expect(saved).toBeLessThanOrEqual(hours!)
    }
    for (const set of cuts)
      for (const { parts } of paths) expect(set.some((one) => parts.includes(one.split('!')[0] as never))).toBe(true)
  })
  it('at least one channel is never less than the worst of them', () => {
    const worst = Math.max(...pottery.channels.map(({ id }) => of('on', id).hours!))
    expect(houseHours(pottery, 'on', 'here')).toBeGreaterThan(worst)
  })
})

describe('what a maker knows of failures', () => {
  it('a rate of their own counts, and says its source', () => {
    const own = { betweenHours: 8_760, repairHours: 2, source: 'our own log' }
    const site = { ...pottery, failures: { rates: { power: own }, onBattery: [], strips: [] } }
    expect(rateBy(site, 'power')).toEqual(own)
    expect(unavailability(own)).toBeCloseTo(2 / 8_762, 12)
    const [before, after] = [pottery, site].map((one) => faultsOf(one, ['on'], ['here'])[0]!.hours!)
    expect(after).toBeLessThan(before!)
  })
  it('what hangs on one strip goes out with it, and a battery keeps the router on', () => {
    const strip = { id: 'hall', name: 'Strip in the hall', feeds: ['router', 'hub-machine'] }
    const site = { ...pottery, failures: { rates: {}, onBattery: [], strips: [strip] } }
    const alone = (of: typeof pottery, from: 'here' | 'away'): string[] =>
      faultsOf(of, ['on'], [from])
        .find(({ channel }) => channel === 'radio-socket')!
        .cuts.flatMap((set) => (set.length === 1 ? set : []))
    expect(alone(site, 'away')).toContain('strip:hall!gone')
    const held = { ...site, failures: { ...site.failures, onBattery: ['router' as const, 'hub-machine' as const] } }
    expect(alone(held, 'away')).not.toContain('strip:hall!gone')
  })
  it('a site without channels has nothing to say', () =>
    expect(faultsOf({ ...cleanSite(), channels: [], ways: [] })).toEqual([]))
  it('what is so without any failure says so', () => {
    const site = { ...cleanSite(), ways: [] }
    for (const { cuts, hours } of faultsOf(site, ['on'], ['here'])) expect([cuts, hours]).toEqual([[[]], null])
    expect(not(any([]))).toEqual(all([]))
  })
})
