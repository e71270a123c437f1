import type { FaultKind, PartId } from '../parts'
import { costOf } from './costs'
import { DANGERS, type Danger, type Observation } from './observation'
import type { Suspicion } from './suspicion'
import type { Suspect } from './table'

/** Which observation comes next, and why. */

export interface Next {
  readonly observation: Observation
  readonly minutes: number
  readonly danger: Danger
  /** bits by which it would narrow down the suspects, in the mean */
  readonly gain: number
  /** the chance of each answer, in the order of ANSWERS */
  readonly expected: readonly number[]
}

/** What tells less, outside the box is used up: a cover is opened before one walks for a twentieth of a bit. */
export const WORTH_A_WALK = 0.05
/** What tells less tells nothing, bits. */
const LEAST_GAIN = 0.002
/** A minute weighs so much beside the walk to where one looks (common practice, a guess). */
const PER_MINUTE = 0.02
/** An observation may be made again where its answer could have been wrong: so often in all. */
const MOST_TIMES = 3

/**
 * The observation that tells most for its minutes, among those that come no nearer to mains than they must: nothing
 * behind a cover before what can be done outside is used up, nothing live before what can be done dead is.
 */
export function nextOf(suspicion: Suspicion, skipped: ReadonlySet<string> = NONE): Next | null {
  const { table, given } = suspicion
  const times = new Map<string, number>()
  for (const { observation } of given) times.set(observation, (times.get(observation) ?? 0) + 1)
  const worth = (next: Next): number => next.gain / (1 + PER_MINUTE * next.minutes)
  const able = table.observations.flatMap((observation, i): Next[] => {
    if ((times.get(observation.id) ?? 0) >= MOST_TIMES || skipped.has(observation.id)) return []
    const gain = suspicion.gain(i)
    return gain < LEAST_GAIN ? [] : [{ observation, ...costOf(observation), gain, expected: suspicion.expected(i) }]
  })
  for (const least of [WORTH_A_WALK, LEAST_GAIN])
    for (const danger of DANGERS) {
      const there = able.filter((next) => next.danger === danger && next.gain >= least)
      if (there.length > 0) return there.reduce((best, next) => (worth(next) > worth(best) ? next : best))
    }
  return null
}

/** So sure is sure of a part that was taken by itself and found bad, and of one that was not. */
export const SURE = 0.99
export const SURE_UNSEEN = 0.9999

const NONE: ReadonlySet<string> = new Set()

/** A part that is named, and how it may have failed: what was seen need not tell “failed” from “stuck”. */
export interface FoundPart {
  readonly part: PartId
  readonly name: string
  readonly hows: readonly FaultKind[]
}
/** A way of failing that has less of the part's chance is not named. */
const NAMED_HOW = 0.05

/** How a search stands. */
export type Search =
  /** these parts it is: each was taken by itself and found bad, or nothing else explains what was seen */
  | { readonly kind: 'found'; readonly parts: readonly FoundPart[] }
  | { readonly kind: 'ask'; readonly next: Next }
  /** nothing that could be looked at tells more */
  | { readonly kind: 'lost' }

/** `skipped`: observations that cannot be made now. */
export function searchOf(suspicion: Suspicion, skipped: ReadonlySet<string> = NONE): Search {
  const { suspects } = suspicion.table
  const groups = new Map<string, { chance: number; suspects: readonly number[] }>()
  for (const { suspects: of, chance } of suspicion.explanations) {
    const key = of.map((one) => suspects[one]!.part).join('+')
    const known = groups.get(key)
    groups.set(key, { suspects: known?.suspects ?? of, chance: (known?.chance ?? 0) + chance })
  }
  const best = [...groups.values()].sort((a, b) => b.chance - a.chance)[0]
  if (!best || suspicion.given.length === 0) return asked(suspicion, skipped)
  const parts = best.suspects.map((one) => foundPart(suspicion, suspects[one]!))
  const isBad = ({ part }: FoundPart): boolean =>
    suspicion.given.some(({ observation, answer }) => observation === `part ${part}` && answer === 'no')
  const isPlain = parts.length === 1 && best.chance >= SURE_UNSEEN
  if (isPlain || (best.chance >= SURE && parts.every(isBad))) return { kind: 'found', parts }
  const search = asked(suspicion, skipped)
  return search.kind === 'lost' && best.chance >= SURE ? { kind: 'found', parts } : search
}

function foundPart({ explanations, table }: Suspicion, { part, name }: Suspect): FoundPart {
  const hows = new Map<FaultKind, number>()
  for (const { suspects, chance } of explanations)
    for (const one of suspects) {
      const { part: of, how } = table.suspects[one]!
      if (of === part) hows.set(how, (hows.get(how) ?? 0) + chance)
    }
  const sum = [...hows.values()].reduce((a, b) => a + b, 0)
  const named = [...hows].filter(([, chance]) => chance >= NAMED_HOW * sum).sort((a, b) => b[1] - a[1])
  return { part, name, hows: named.map(([how]) => how) }
}

function asked(suspicion: Suspicion, skipped: ReadonlySet<string>): Search {
  const next = nextOf(suspicion, skipped)
  return next ? { kind: 'ask', next } : { kind: 'lost' }
}
