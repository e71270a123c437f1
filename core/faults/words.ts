import { FAULT_WORDS, type PartGraph } from '../parts'
import { howOf, partOf, type Failure } from './failure'

/** "Router", "Contact, Bench lights (stuck)": a failure as a person says it. */
export function failureWords(graph: PartGraph, failure: Failure): string {
  const name = graph.get(partOf(failure))?.name ?? partOf(failure)
  const how = howOf(failure)
  return how === 'gone' ? name : `${name} (${FAULT_WORDS[how]})`
}

/** Several at once: "Router and Switch S4". */
export const setWords = (graph: PartGraph, set: readonly Failure[]): string =>
  set.map((failure) => failureWords(graph, failure)).join(' and ')
