import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import { choices } from '../seeded'
import { readSite } from '../site'
import { partsOf, PLACES, type PartId } from '../parts'
import {
  chancesOf,
  cutSets,
  darkChance,
  Diagrams,
  faultsOf,
  isDark,
  minimal,
  rateOf,
  structureOf,
  unavailability,
  whoIsLeft,
  type Structure,
} from '.'

// Sources of the checks: textbook values of the reliability of networks (series, parallel, the five-part bridge, k out
// of n; handbook of reliability engineering, from memory), and counting every state of small random sites.

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const pottery = parsed.value

const part = (n: number | string): PartId => `load:${n}`
const structure = (...paths: readonly (readonly (number | string)[])[]): Structure => ({
  ...{ channel: 'x', from: 'here' },
  paths: paths.map((parts, i) => ({ way: `w${i}`, parts: parts.map(part) })),
})

describe('textbook values', () => {
  const works = (of: Structure, p: number): number => 1 - darkChance(of, () => 1 - p)
  it('series and parallel', () => {
    expect(works(structure([1, 2, 3]), 0.9)).toBeCloseTo(0.9 ** 3, 12)
    expect(works(structure([1], [2], [3]), 0.9)).toBeCloseTo(1 - 0.1 ** 3, 12)
  })
  it('the five-part bridge at 0.9 works with 0.97848', () =>
    expect(works(structure([1, 4], [2, 5], [1, 3, 5], [2, 3, 4]), 0.9)).toBeCloseTo(0.97848, 10))
  it('two out of three at 0.9 works with 0.972', () =>
    expect(works(structure([1, 2], [1, 3], [2, 3]), 0.9)).toBeCloseTo(3 * 0.81 * 0.1 + 0.729, 12))
  it('a repeated part counts once: (a or b) and (a or c) is a or (b and c)', () => {
    const p = 0.2
    expect(darkChance(structure(['a', 'b'], ['a', 'c']), () => p)).toBeCloseTo(p + (1 - p) * p * p, 12)
  })
  it('a diagram is the same node for the same function', () => {
    const diagrams = new Diagrams()
    const [a, b, c] = [0, 1, 2].map((i) => diagrams.variable(i)) as [number, number, number]
    expect(diagrams.and(diagrams.or(a, b), diagrams.or(a, c))).toBe(diagrams.or(a, diagrams.and(b, c)))
  })
})

describe('1,000 random structures, every state counted', () => {
  it('chance, cut sets and importance are those of the count', () => {
    const random = choices(11)
    for (let run = 0; run < 1_000; run++) {
      const count = random.whole(2, 8)
      const paths = Array.from({ length: random.whole(1, 5) }, () =>
        Array.from({ length: count }, (_, i) => i).filter(() => random.chance(0.45)),
      ).map((one) => (one.length === 0 ? [0] : one))
      const of = structure(...paths)
      const chances = Array.from({ length: count }, () => random.real())
      const chanceOf = (id: PartId): number => chances[Number(id.slice('load:'.length))]!
      let dark = 0
      const sets: PartId[][] = []
      for (let state = 0; state < 2 ** count; state++) {
        const out = Array.from({ length: count }, (_, i) => i).filter((i) => (state >> i) & 1)
        const ids = out.map(part)
        if (!isDark(of, new Set(ids))) continue
        dark += chances.reduce((p, chance, i) => p * (out.includes(i) ? chance : 1 - chance), 1)
        sets.push(ids)
      }
      const chance = chancesOf([of], chanceOf)
      expect(chance(() => null)).toBeCloseTo(dark, 10)
      const least = minimal(sets)
      const named = (list: readonly (readonly PartId[])[]): string[] =>
        list.map((set) => [...set].sort().join(' ')).sort()
      expect(named(cutSets(of, count))).toEqual(named(least))
      expect(named(cutSets(of, 2))).toEqual(named(least.filter((set) => set.length <= 2)))
      // Birnbaum: what one part's failing changes, by its chance
      const one = part(random.whole(0, count - 1))
      const held = (isOut: boolean): number => chance((id) => (id === one ? isOut : null))
      expect(chanceOf(one) * held(true) + (1 - chanceOf(one)) * held(false)).toBeCloseTo(dark, 10)
    }
  })
})

describe('who is left', () => {
  it('is what the structures say, part by part', () => {
    const graph = partsOf(pottery)
    for (const from of PLACES) {
      const { columns, rows } = whoIsLeft(pottery, from)
      expect(columns.length).toBeGreaterThan(5)
      for (const { channel: id, ways, left } of rows) {
        const channel = pottery.channels.find((one) => one.id === id)!
        const of = structureOf(pottery, graph, channel, from)
        columns.forEach((column, i) => {
          const out: PartId = column.kind === 'house' ? column.part : `${column.part}:${channel.controller}`
          expect(left[i] === 0, `${id} without ${out}`).toBe(ways === 0 || isDark(of, new Set([out])))
          expect(left[i]!).toBeLessThanOrEqual(ways)
        })
      }
    }
  })
})

describe('the pottery', () => {
  const found = faultsOf(pottery)
  it('says hours a year, and what costs most of them', () => {
    for (const { cuts, darkHours, worst, ways } of found) {
      if (cuts === null) expect([darkHours, ways]).toEqual([null, 0])
      else {
        expect(darkHours!).toBeGreaterThan(0)
        expect(worst[0]!.hours).toBeLessThanOrEqual(darkHours! + 1e-9)
      }
    }
  })
  it('one who is away has never more ways than one in the house, and who stands there most', () => {
    for (const { id } of pottery.channels) {
      const [here, house, away] = (['here', 'house', 'away'] as const).map((from) =>
        found.find(({ channel, from: at }) => channel === id && at === from),
      )
      if (!here || !house || !away) continue
      expect(here.ways).toBeGreaterThanOrEqual(house.ways)
      expect(house.ways).toBeGreaterThanOrEqual(away.ways)
      if (house.darkHours !== null) expect(here.darkHours!).toBeLessThanOrEqual(house.darkHours + 1e-9)
    }
  })
  it('a part’s share of time out is repair over the whole turn', () => {
    const { betweenHours, repairHours } = rateOf('router')
    expect(unavailability('router')).toBeCloseTo(repairHours / (betweenHours + repairHours), 12)
  })
  it('a site without channels has nothing to say', () =>
    expect(faultsOf({ ...cleanSite(), channels: [], ways: [] })).toEqual([]))
})
