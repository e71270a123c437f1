import { failureOf, rateOf } from '../faults'
import type { FaultKind, PartId } from '../parts'
import { ANSWERS, type Answer, type Given } from './observation'
import type { FaultTable } from './table'

/** How likely each suspect is, alone or with another, after what was seen (Bayes). */

/** One part, or two at once, that would explain what is seen. */
export interface Explanation {
  /** of the table's suspects */
  readonly suspects: readonly number[]
  readonly chance: number
}

/**
 * Mistakes of wiring and parts that have grown weak are rarer in a house that once worked: so much of a plain failure
 * (common practice, a guess).
 */
const RARER: Partial<Readonly<Record<FaultKind, number>>> = {
  ...{ inverted: 0.1, crossed: 0.1, jumper: 0.1, slow: 0.3, lossy: 0.3, weak: 0.3, lying: 0.3, stuck: 0.5 },
}
/** Two parts have failed before anybody has looked: within that many hours (common practice, a guess). */
const TOGETHER_HOURS = 24 * 30

/** Of all failures, the share that each suspect has: by how often its kind fails. */
export function priorsOf({ site, suspects }: Pick<FaultTable, 'site' | 'suspects'>): number[] {
  const often = suspects.map(({ part, how }) => (RARER[how] ?? 1) / rateOf(site, failureOf(part)).betweenHours)
  const sum = often.reduce((a, b) => a + b, 0)
  return often.map((one) => one / sum)
}

/** How often an answer is wrong: somebody looked at the wrong lamp. */
export const USUAL_ERROR = 0.02

/** The chance of an answer from one who is mistaken so often. */
const heard = (true_: number, error: number): number =>
  true_ * (1 - error) + ((1 - true_) * error) / (ANSWERS.length - 1)

export class Suspicion {
  readonly explanations: readonly Explanation[]
  private readonly rows: readonly (readonly number[])[][]

  constructor(
    readonly table: FaultTable,
    readonly given: readonly Given[],
    readonly error = USUAL_ERROR,
  ) {
    const priors = priorsOf(table)
    const index = new Map(table.observations.map(({ id }, i) => [id, i]))
    const asked = given.flatMap(({ observation, answer }): [number, number][] => {
      const i = index.get(observation)
      return i === undefined ? [] : [[i, ANSWERS.indexOf(answer)]]
    })
    const alone = table.suspects.map((_, a) => this.likelihood([a], asked))
    const candidates = alone.map((likelihood, a) => ({ suspects: [a], weight: priors[a]! * likelihood }))
    for (let a = 0; a < table.suspects.length; a++)
      for (let b = a + 1; b < table.suspects.length; b++) {
        if (table.suspects[a]!.part === table.suspects[b]!.part) continue
        const likelihood = this.likelihood([a, b], asked)
        // two are suspected together only where both are needed: what one explains alone says nothing of another
        if (likelihood <= NEEDED * Math.max(alone[a]!, alone[b]!)) continue
        candidates.push({ suspects: [a, b], weight: this.together(a, b) * priors[a]! * priors[b]! * likelihood })
      }
    const sum = candidates.reduce((total, { weight }) => total + weight, 0)
    const kept = candidates
      .map(({ suspects, weight }) => ({ suspects, chance: sum > 0 ? weight / sum : 0 }))
      .filter(({ chance }) => chance > LEAST)
      .sort((a, b) => b.chance - a.chance)
    this.explanations = kept
    this.rows = kept.map(({ suspects }) => table.observations.map((_, i) => this.chancesOf(suspects, i) as number[]))
  }

  /** Two at once: one has failed, and the other in the time before anybody looked. */
  private together(a: number, b: number): number {
    const { site, suspects } = this.table
    const often = (one: number): number => 1 / rateOf(site, failureOf(suspects[one]!.part)).betweenHours
    return Math.min(1, TOGETHER_HOURS * (often(a) + often(b)))
  }

  private likelihood(suspects: readonly number[], asked: readonly (readonly [number, number])[]): number {
    return asked.reduce((product, [i, answer]) => product * heard(this.chancesOf(suspects, i)[answer]!, this.error), 1)
  }

  /** Of one, what was played; of two, what either spoils: where one changes nothing the other shows. */
  chancesOf(suspects: readonly number[], observation: number): readonly number[] {
    const { chances, whole } = this.table
    const [a, b] = suspects.map((suspect) => chances[suspect]![observation]!) as [number[], number[] | undefined]
    if (!b) return a
    const usual = ANSWERS.indexOf(whole[observation]!)
    if (a[usual] === 1) return b
    if (b[usual] === 1) return a
    // both spoil it: nothing at all beats a late answer
    return a[NO]! >= b[NO]! ? a : b
  }

  /** How likely each part is to have failed, whatever else has: the likeliest first. */
  parts(): { readonly part: PartId; readonly name: string; readonly chance: number }[] {
    const sums = new Map<PartId, { name: string; chance: number }>()
    for (const { suspects, chance } of this.explanations)
      for (const one of suspects) {
        const { part, name } = this.table.suspects[one]!
        sums.set(part, { name, chance: (sums.get(part)?.chance ?? 0) + chance })
      }
    return [...sums].map(([part, rest]) => ({ part, ...rest })).sort((a, b) => b.chance - a.chance)
  }

  /** As many parts, equally likely, would be as uncertain as these are: 1 is sure. */
  spread(): number {
    const groups = this.groups()
    const sums = new Map<string, number>()
    this.explanations.forEach(({ chance }, k) => sums.set(groups[k]!, (sums.get(groups[k]!) ?? 0) + chance))
    return 2 ** entropy([...sums.values()])
  }

  /** By how many bits an observation would narrow down which parts it is, in the mean. */
  gain(observation: number): number {
    const groups = this.groups()
    const sums = ANSWERS.map(() => new Map<string, number>())
    this.explanations.forEach(({ chance }, k) => {
      const chances = this.rows[k]![observation]!
      ANSWERS.forEach((_, answer) => {
        const weight = chance * heard(chances[answer]!, this.error)
        const key = groups[k]!
        sums[answer]!.set(key, (sums[answer]!.get(key) ?? 0) + weight)
      })
    })
    const before = new Map<string, number>()
    this.explanations.forEach(({ chance }, k) => before.set(groups[k]!, (before.get(groups[k]!) ?? 0) + chance))
    const after = sums.reduce((total, of) => {
      const weight = [...of.values()].reduce((a, b) => a + b, 0)
      return total + (weight > 0 ? weight * entropy([...of.values()].map((one) => one / weight)) : 0)
    }, 0)
    return entropy([...before.values()]) - after
  }

  /** The chance of each answer to an observation, as things stand. */
  expected(observation: number): readonly number[] {
    return ANSWERS.map((_, answer) =>
      this.explanations.reduce((sum, { chance }, k) => sum + chance * this.rows[k]![observation]![answer]!, 0),
    )
  }

  /** Explanations by the parts that they name: how a part has failed need not be told apart. */
  private groups(): string[] {
    return this.explanations.map(({ suspects }) => suspects.map((one) => this.table.suspects[one]!.part).join('+'))
  }
}

/** By how much two must explain more than the better of them alone. */
const NEEDED = 2
/** What is less likely is not carried along. */
const LEAST = 1e-6
const NO = ANSWERS.indexOf('no')

const entropy = (chances: readonly number[]): number =>
  chances.reduce((sum, p) => (p > 0 ? sum - p * Math.log2(p) : sum), 0)

export const isAnswer = (text: string): text is Answer => (ANSWERS as readonly string[]).includes(text)
