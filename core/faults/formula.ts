import type { Failure } from './failure'

/**
 * When something is so, over failures: a formula without numbers. Formulas share what they have in common by reference,
 * so that one that is written once is worked out once.
 */
export type Formula =
  | { readonly kind: 'failed'; readonly failure: Failure }
  | { readonly kind: 'all' | 'any'; readonly of: readonly Formula[] }
  | { readonly kind: 'not'; readonly of: Formula }

export const ALWAYS: Formula = { kind: 'all', of: [] }
export const NEVER: Formula = { kind: 'any', of: [] }

export const not = (of: Formula): Formula =>
  of === ALWAYS ? NEVER : of === NEVER ? ALWAYS : of.kind === 'not' ? of.of : { kind: 'not', of }

function joined(kind: 'all' | 'any', of: readonly Formula[], idle: Formula, decides: Formula): Formula {
  const parts: Formula[] = []
  for (const one of of) {
    if (one === decides) return decides
    // nested formulas stay whole: what is shared is worked out once
    if (one !== idle && !parts.includes(one)) parts.push(one)
  }
  if (parts.length === 0) return idle
  return parts.length === 1 ? parts[0]! : { kind, of: parts }
}

export const all = (of: readonly Formula[]): Formula => joined('all', of, ALWAYS, NEVER)
export const any = (of: readonly Formula[]): Formula => joined('any', of, NEVER, ALWAYS)

/** Whether it is so when these have failed, and nothing else. */
export function isSo(formula: Formula, failed: ReadonlySet<Failure>): boolean {
  switch (formula.kind) {
    case 'failed':
      return failed.has(formula.failure)
    case 'all':
      return formula.of.every((one) => isSo(one, failed))
    case 'any':
      return formula.of.some((one) => isSo(one, failed))
    case 'not':
      return !isSo(formula.of, failed)
  }
}

/** Everything that it speaks of, in the order in which it does. */
export function failuresIn(formula: Formula): Failure[] {
  const found = new Set<Failure>()
  const seen = new Set<Formula>()
  const look = (one: Formula): void => {
    if (seen.has(one)) return
    seen.add(one)
    if (one.kind === 'failed') found.add(one.failure)
    else if (one.kind === 'not') look(one.of)
    else one.of.forEach(look)
  }
  look(formula)
  return [...found]
}
