import type { TimedEdge } from './overlay'

/** What a capture of a switch says of its bounce. */
export interface Bounce {
  /** presses and releases that were found */
  readonly movements: number
  /** from the first edge of a movement to its last, ms: the longest, and the middle */
  readonly longestMs: number
  readonly medianMs: number
  readonly mostEdges: number
  /** the settle time that it needs: half as much again, in steps of 5 ms (as finding I02 asks) */
  readonly settleMs: number
}

/** Edges that are farther apart belong to different movements: no finger is so fast (common practice), ms. */
const APART_MS = 50
const MARGIN = 1.5
const STEP_MS = 5

/** The middle of sorted numbers; of an even count the mean of the two in the middle. */
const middleOf = (sorted: readonly number[]): number =>
  (sorted[(sorted.length - 1) >> 1]! + sorted[sorted.length >> 1]!) / 2

/** The movements of a contact, by the quiet between them; null: nothing moves. */
export function bounceOf(edges: readonly TimedEdge[]): Bounce | null {
  if (edges.length === 0) return null
  const movements: { from: number; to: number; edges: number }[] = []
  for (const { t } of edges) {
    const last = movements.at(-1)
    if (last && t - last.to < APART_MS) Object.assign(last, { to: t, edges: last.edges + 1 })
    else movements.push({ from: t, to: t, edges: 1 })
  }
  const lengths = movements.map(({ from, to }) => to - from).sort((a, b) => a - b)
  const longestMs = lengths.at(-1)!
  return {
    ...{ movements: movements.length, longestMs, medianMs: middleOf(lengths) },
    mostEdges: Math.max(...movements.map((one) => one.edges)),
    settleMs: Math.max(STEP_MS, Math.ceil((longestMs * MARGIN) / STEP_MS) * STEP_MS),
  }
}
