import { vcdEdges, type Edge } from '../infrared'

/** A capture of a real board beside a simulated run: how far one is shifted, and which edges have no partner. */

export interface Overlay {
  /** ms that must be added to the capture's times to lie on the run's; null: no edges of both fit anywhere */
  readonly shiftMs: number | null
  readonly matched: number
  /** edges of the run, and of the capture, that the other does not have; in the run's time, ms */
  readonly onlyRun: readonly TimedEdge[]
  readonly onlyCapture: readonly TimedEdge[]
  /** how far matched edges lie from each other after the shift, ms at most */
  readonly worstMs: number
}

export interface TimedEdge {
  readonly t: number
  readonly level: 0 | 1
}

/** Edges that are nearer than this count as one and the same, ms. */
const NEAR_MS = 20
const MOST_EDGES = 2_000

/** Changes only: what a dump says again is no edge, and neither is where it begins. */
export function changesOf(edges: readonly Edge[]): TimedEdge[] {
  return edges.flatMap(({ at, level }, i) => (i > 0 && level !== edges[i - 1]!.level ? [{ t: at / 1_000, level }] : []))
}

/** Edges of one wire of a dump, ms. The last time stamp of a dump is no edge. Throws CaptureRefused. */
export const waveEdges = (text: string, name?: string): TimedEdge[] => changesOf(vcdEdges(text, name, false))

/** The shift under which most edges of both lie on each other; of equal ones the nearest to no shift. */
export function overlay(run: readonly TimedEdge[], capture: readonly TimedEdge[], nearMs = NEAR_MS): Overlay {
  const ours = run.slice(0, MOST_EDGES)
  const theirs = capture.slice(0, MOST_EDGES)
  let best: { shift: number; matched: number } | null = null
  for (const first of theirs)
    for (const edge of ours) {
      if (edge.level !== first.level) continue
      const shift = edge.t - first.t
      const matched = pairs(ours, theirs, shift, nearMs).length
      if (!best || matched > best.matched || (matched === best.matched && Math.abs(shift) < Math.abs(best.shift)))
        best = { shift, matched }
    }
  if (!best) return { shiftMs: null, matched: 0, onlyRun: ours, onlyCapture: theirs, worstMs: 0 }
  // the middle of what the matched edges say, so that one late edge does not carry the rest
  const near = pairs(ours, theirs, best.shift, nearMs)
  const gaps = near.map(([a, b]) => ours[a]!.t - theirs[b]!.t).sort((a, b) => a - b)
  const shiftMs = gaps[gaps.length >> 1] ?? best.shift
  const matched = pairs(ours, theirs, shiftMs, nearMs)
  const [seen, known] = [new Set(matched.map(([a]) => a)), new Set(matched.map(([, b]) => b))]
  return {
    ...{ shiftMs, matched: matched.length },
    onlyRun: ours.filter((_, i) => !seen.has(i)),
    onlyCapture: theirs.filter((_, i) => !known.has(i)).map(({ t, level }) => ({ t: t + shiftMs, level })),
    worstMs: Math.max(0, ...matched.map(([a, b]) => Math.abs(ours[a]!.t - theirs[b]!.t - shiftMs))),
  }
}

/** Pairs of edges of the same direction that lie near each other, each used once, in order of time. */
function pairs(
  run: readonly TimedEdge[],
  capture: readonly TimedEdge[],
  shift: number,
  nearMs: number,
): [number, number][] {
  const found: [number, number][] = []
  let a = 0
  for (let b = 0; b < capture.length && a < run.length; b++) {
    const t = capture[b]!.t + shift
    while (a < run.length && run[a]!.t < t - nearMs) a++
    for (let at = a; at < run.length && run[at]!.t <= t + nearMs; at++)
      if (run[at]!.level === capture[b]!.level) {
        found.push([at, b])
        a = at + 1
        break
      }
  }
  return found
}
