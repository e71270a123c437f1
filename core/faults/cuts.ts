import { partOf, type Failure } from './failure'
import { failuresIn, type Formula } from './formula'

/**
 * The smallest sets of failures that make something so: of each, no smaller one does. All sets of a size are tried at
 * once, 32 to a word, as logic simulators try their inputs; that holds for formulas with “not” too, where a further
 * failure can undo what another did.
 */
export function cutSets(formula: Formula, most = 2): Failure[][] {
  const failures = failuresIn(formula)
  if (evaluate(formula, failures, [[]])[0]! & 1) return [[]]
  const parts = failures.map(partOf)
  const found: number[][] = []
  let able = failures.map((_, i) => i)
  for (let size = 1; size <= Math.min(most, failures.length); size++) {
    const held = new Set(found.map((set) => set.join()))
    const all = setsOf(able, parts, size)
    const sets = size > 2 ? all.filter((set) => !holdsOne(set, found, held)) : all
    const words = evaluate(formula, failures, sets)
    const so = sets.filter((_, i) => (words[i >> 5]! >>> (i & 31)) & 1)
    found.push(...so)
    // what is enough alone is in no larger set
    if (size === 1) able = able.filter((one) => !so.some(([alone]) => alone === one))
  }
  return found.map((set) => set.map((index) => failures[index]!))
}

/** Whether a set has a smaller one in it that was found before. */
function holdsOne(set: readonly number[], found: readonly (readonly number[])[], held: ReadonlySet<string>): boolean {
  if (held.size === 0) return false
  if (set.length > 3) return found.some((one) => one.every((index) => set.includes(index)))
  return set.some((one, i) => set.slice(i + 1).some((other) => held.has(`${one},${other}`)))
}

/** Sets of a size out of these, in order; a part fails in one way at a time. */
function setsOf(able: readonly number[], parts: readonly string[], size: number): number[][] {
  let sets: number[][] = [[]]
  for (let i = 0; i < size; i++)
    sets = sets.flatMap((set) => {
      const last = set.at(-1) ?? -1
      return able
        .filter((index) => index > last && !set.some((one) => parts[one] === parts[index]))
        .map((index) => [...set, index])
    })
  return sets
}

/** Bit i of the answer: whether the formula holds when exactly set i has failed. */
function evaluate(formula: Formula, failures: readonly Failure[], sets: readonly (readonly number[])[]): Uint32Array {
  const size = Math.ceil(sets.length / 32)
  const inputs = new Map(failures.map((failure) => [failure, new Uint32Array(size)]))
  sets.forEach((set, i) => {
    for (const index of set) inputs.get(failures[index]!)![i >> 5]! |= 1 << (i & 31)
  })
  const known = new Map<Formula, Uint32Array>()
  const of = (one: Formula): Uint32Array => {
    if (one.kind === 'failed') return inputs.get(one.failure)!
    const before = known.get(one)
    if (before) return before
    const made = new Uint32Array(size)
    if (one.kind === 'not') of(one.of).forEach((word, i) => (made[i] = ~word))
    else {
      if (one.kind === 'all') made.fill(0xffffffff)
      for (const inner of one.of) {
        const words = of(inner)
        if (one.kind === 'all') for (let i = 0; i < size; i++) made[i]! &= words[i]!
        else for (let i = 0; i < size; i++) made[i]! |= words[i]!
      }
    }
    known.set(one, made)
    return made
  }
  return of(formula)
}
