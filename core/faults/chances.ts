import { Diagrams, type Node } from './diagram'
import { partOf, type Failure } from './failure'
import { failuresIn, type Formula } from './formula'

/** A failure held as it is for a question: there, not there, or by its own chance (null). */
export type Held = (failure: Failure) => boolean | null

/**
 * The chance that something is so, each part failing by itself: exact however often a part is repeated, and a part
 * fails in one way at a time. `chanceOf`: the share of time in which a failure is there.
 */
export function chanceOf(formula: Formula, share: (failure: Failure) => number): (held: Held) => number {
  const failures = failuresIn(formula)
  const byPart = new Map<string, number[]>()
  failures.forEach((failure, i) => byPart.set(partOf(failure), [...(byPart.get(partOf(failure)) ?? []), i]))
  const diagrams = new Diagrams()
  const top = compiled(diagrams, formula, literals(diagrams, failures, byPart))
  return (held) => {
    const chances = failures.map((failure) => {
      const state = held(failure)
      return state === null ? share(failure) : Number(state)
    })
    // a held failure leaves no room for another of the same part
    for (const indices of byPart.values())
      if (indices.some((i) => held(failures[i]!) === true))
        for (const i of indices) if (held(failures[i]!) !== true) chances[i] = 0
    return diagrams.probability(top, conditional(chances, byPart))
  }
}

/**
 * A failure as a node. Of several ways in which one part can fail, the second counts only where the first has not
 * happened, and so on: so they exclude each other.
 */
function literals(
  diagrams: Diagrams,
  failures: readonly Failure[],
  byPart: ReadonlyMap<string, readonly number[]>,
): ReadonlyMap<Failure, Node> {
  const made = new Map<Failure, Node>()
  for (const indices of byPart.values()) {
    let room = diagrams.not(0)
    for (const i of indices) {
      const variable = diagrams.variable(i)
      made.set(failures[i]!, diagrams.and(room, variable))
      room = diagrams.and(room, diagrams.not(variable))
    }
  }
  return made
}

/** The chance of each variable, given that those before it of the same part have not happened. */
function conditional(chances: readonly number[], byPart: ReadonlyMap<string, readonly number[]>): number[] {
  const made = [...chances]
  for (const indices of byPart.values()) {
    let room = 1
    for (const i of indices) {
      made[i] = room <= 0 ? 0 : Math.min(1, chances[i]! / room)
      room -= chances[i]!
    }
  }
  return made
}

function compiled(diagrams: Diagrams, formula: Formula, literal: ReadonlyMap<Failure, Node>): Node {
  const known = new Map<Formula, Node>()
  const of = (one: Formula): Node => {
    if (one.kind === 'failed') return literal.get(one.failure)!
    const before = known.get(one)
    if (before !== undefined) return before
    const made =
      one.kind === 'not'
        ? diagrams.not(of(one.of))
        : one.kind === 'all'
          ? one.of.map(of).reduce((a, b) => diagrams.and(a, b), 1)
          : one.of.map(of).reduce((a, b) => diagrams.or(a, b), 0)
    known.set(one, made)
    return made
  }
  return of(formula)
}
