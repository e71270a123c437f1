import type { Choices } from '../seeded'
import { failureOf, type Failure } from './failure'
import { all, any, not, type Formula } from './formula'

/** Formulas drawn by chance, and every state of what they speak of. */

export const literal = (name: string | number, how: 'gone' | 'stuck' = 'gone'): Formula => ({
  kind: 'failed',
  failure: failureOf(`load:${name}`, how),
})

/** Ways of parts in series, of which all must be broken: as nobodyTurnsOn builds them. */
export const nobody = (...paths: readonly (readonly (number | string)[])[]): Formula =>
  all(paths.map((path) => any(path.map((name) => literal(name)))))

export function randomFormula(random: Choices, names: number, depth: number): Formula {
  if (depth === 0 || random.chance(0.2))
    return literal(random.whole(0, names - 1), random.chance(0.3) ? 'stuck' : 'gone')
  const of = Array.from({ length: random.whole(2, 3) }, () => randomFormula(random, names, depth - 1))
  const joined = random.chance(0.5) ? all(of) : any(of)
  return random.chance(0.25) ? not(joined) : joined
}

/** Every state in which each part works or has failed in one of its ways. */
export function everyState(failures: readonly Failure[]): Failure[][] {
  const byPart = new Map<string, Failure[]>()
  for (const failure of failures) {
    const part = failure.split('!')[0]!
    byPart.set(part, [...(byPart.get(part) ?? []), failure])
  }
  let states: Failure[][] = [[]]
  for (const ways of byPart.values()) states = states.flatMap((state) => [state, ...ways.map((one) => [...state, one])])
  return states
}
