import { basesOf } from '../broken'
import { partsOf } from '../parts'
import type { Choices } from '../seeded'
import type { World } from '../trial'
import {
  ANSWERS,
  brokenWorld,
  costOf,
  DANGERS,
  kindOfPart,
  observe,
  priorsOf,
  searchOf,
  Suspicion,
  type FaultTable,
  type Given,
  type Observation,
  type Suspect,
} from '.'

/** Searches played against a house in which something has failed, and others to hold them against. */

export interface Played {
  /** parts that were named; none: it was lost */
  readonly named: readonly string[]
  readonly observations: number
  readonly given: readonly Given[]
}

/** What a household would say first: the first thing that is not as it should be, without opening anything. */
export function complaintOf(table: FaultTable, world: World): Given[] {
  for (const [i, observation] of table.observations.entries()) {
    if (!['way', 'rest', 'screen'].includes(observation.kind)) continue
    const answer = observe(world, observation)
    if (answer !== table.whole[i]) return [{ observation: observation.id, answer }]
  }
  return []
}

export const soundHouse = (table: FaultTable): World => basesOf(table.site, 2).off

/** Asks until it is found. `random`: one answer in twenty is wrong. */
export function search(table: FaultTable, world: World, error: number, random?: Choices): Played {
  const given = complaintOf(table, world)
  const start = given.length
  while (given.length < 120) {
    const state = searchOf(new Suspicion(table, given, error))
    if (state.kind !== 'ask')
      return {
        named: state.kind === 'found' ? state.parts.map(({ part }) => part) : [],
        observations: given.length - start,
        given,
      }
    const { observation } = state.next
    const answer = observe(world, observation)
    given.push({ observation: observation.id, answer: random?.chance(0.05) ? lie(answer) : answer })
  }
  return { named: [], observations: given.length - start, given }
}

const lie = (answer: (typeof ANSWERS)[number]): (typeof ANSWERS)[number] => (answer === 'yes' ? 'no' : 'yes')

/**
 * The trade's usual order (common practice): the light on the module first; if it is lit, what is behind it, else what
 * is before it, each swapped or metered in turn until it works.
 */
const BEHIND = ['load', 'contact', 'coil']
const BEFORE = [
  'switch',
  'wire',
  'remote',
  'receiver',
  'phone',
  'wifi',
  'router',
  'internet',
  'service',
  'hub',
  'broker',
]
const BEYOND = [
  'hub-machine',
  'voice',
  'link',
  'breaker',
  'mains',
  'strip',
  'power',
  'board',
  'module',
  'modem',
  'drive',
  'opto',
  'sensor',
]

export function usualOrder(table: FaultTable, world: World, suspect: Suspect): number {
  const indicator = table.observations.find(
    ({ kind, id }) => kind === 'indicator' && id === `indicator ${table.channel}`,
  )
  const lit = indicator ? observe(world, indicator) === 'yes' : false
  const kinds = lit ? [...BEHIND, ...BEFORE, ...BEYOND] : [...BEFORE, ...BEYOND, ...BEHIND]
  const isOwn = (part: string): boolean => part.includes(`:${table.channel}`)
  const parts = [...partsOf(table.site).keys()]
    .map((part) => ({ part, place: kinds.indexOf(kindOfPart(part)) }))
    .sort((a, b) => a.place - b.place || Number(isOwn(b.part)) - Number(isOwn(a.part)))
  return 1 + parts.findIndex(({ part }) => part === suspect.part) + 1
}

/**
 * The fewest observations that any order needs in the mean, over suspects that answer without chance: worked out over
 * every set of suspects that can be left (dynamic programming). What can be done outside comes first here too.
 */
export function optimum(table: FaultTable, suspects: readonly number[]): number {
  const priors = priorsOf(table)
  const answerOf = (suspect: number, observation: number): number =>
    table.chances[suspect]![observation]!.indexOf(Math.max(...table.chances[suspect]![observation]!))
  const known = new Map<string, number>()
  const weight = (set: readonly number[]): number => set.reduce((sum, one) => sum + priors[one]!, 0)
  const splits = (set: readonly number[], observation: number): number[][] => {
    const by = ANSWERS.map((_, answer) => set.filter((one) => answerOf(one, observation) === answer))
    return by.filter((part) => part.length > 0)
  }
  const best = (set: readonly number[]): number => {
    if (new Set(set.map((one) => table.suspects[one]!.part)).size <= 1) return 0
    const key = set.join()
    const before = known.get(key)
    if (before !== undefined) return before
    let least = Infinity
    for (const danger of DANGERS) {
      const seen = new Set<string>()
      for (const i of worthTrying(table, set, danger, splits, weight)) {
        const parts = splits(set, i)
        const sketch = parts
          .map((part) => part.join())
          .sort()
          .join('|')
        if (seen.has(sketch)) continue
        seen.add(sketch)
        const whole = weight(set)
        least = Math.min(least, 1 + parts.reduce((sum, part) => sum + (weight(part) / whole) * best(part), 0))
      }
      if (least < Infinity) break
    }
    known.set(key, least === Infinity ? 0 : least)
    return known.get(key)!
  }
  return best(suspects)
}

/** Of checks that take one part by itself only the likeliest can come first: any other order is longer. */
function worthTrying(
  table: FaultTable,
  set: readonly number[],
  danger: (typeof DANGERS)[number],
  splits: (set: readonly number[], observation: number) => number[][],
  weight: (set: readonly number[]) => number,
): number[] {
  const able = table.observations.flatMap((observation: Observation, i) =>
    costOf(observation).danger === danger && splits(set, i).length > 1 ? [i] : [],
  )
  const isPart = (i: number): boolean => table.observations[i]!.kind === 'part'
  const ofPart = (i: number): number => Math.min(...splits(set, i).map(weight))
  const parts = able.filter(isPart).sort((a, b) => ofPart(b) - ofPart(a))
  return [...able.filter((i) => !isPart(i)), ...parts.slice(0, 1)]
}

export const brokenBy = (sound: World, suspect: Suspect, seed = 7): World => brokenWorld(sound, [suspect], seed)
