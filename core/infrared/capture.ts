/** A capture as durations in µs: mark and space in turn, a mark first. */
export interface Capture {
  readonly durations: readonly number[]
  readonly unit: 'µs'
}

/** A capture that cannot be read: where, and what is wrong. */
export class CaptureRefused extends Error {
  readonly code = 'capture-refused'
}

/** Longest duration that is kept, µs; a longer quiet says no more. */
export const LONGEST_US = 1_000_000
/** Most durations that are read from one capture. */
export const MOST_DURATIONS = 2_000_000

export function whole(text: string, line: number): number {
  const value = Math.round(Number(text))
  if (!Number.isFinite(value) || value < 0) throw new CaptureRefused(`line ${line}: "${text}" is no length`)
  return Math.min(value, LONGEST_US)
}

/** A change of a wire at an instant, µs. */
export interface Edge {
  readonly at: number
  readonly level: 0 | 1
}

/**
 * Edges to durations. A receiver's output rests high and goes low in a mark, a sender's the other way round: the level
 * at which the wire rests longest is taken for the quiet.
 */
export function durationsFromEdges(edges: readonly Edge[]): number[] {
  const changes = edges.filter((edge, i) => i === 0 || edge.level !== edges[i - 1]!.level)
  const time = [0, 0]
  for (let i = 0; i + 1 < changes.length; i++) time[changes[i]!.level]! += changes[i + 1]!.at - changes[i]!.at
  const quiet = time[1]! >= time[0]! ? 1 : 0
  const first = changes.findIndex((edge) => edge.level !== quiet)
  if (first < 0) return []
  const out: number[] = []
  for (let i = first; i + 1 < changes.length; i++)
    out.push(Math.min(LONGEST_US, Math.round(changes[i + 1]!.at - changes[i]!.at)))
  return out
}
