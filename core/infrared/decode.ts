import type { Durations } from './fit'
import { decodeNec } from './nec'
import { DECODERS } from './protocols'
import { hashOf, LEAST_DURATIONS } from './unknown'
import type { Decoded, Fitness, Frame } from './types'

/**
 * A space this long ends a frame, µs: above the longest inside one (NEC's 4.5 ms and a tenth), below the shortest
 * between two.
 */
export const FRAME_GAP_US = 5_300

/**
 * A pulse shorter than this is a glitch of the receiver, µs; shorter than any protocol's shortest with jitter and
 * stretch.
 */
const LEAST_US = 100

/**
 * Decodes one frame: every protocol that fits within its own tolerance, the closest fit of them. A NEC frame that fails
 * its own check is refused altogether. What fits none is `unknown` with its hash, or null where it is too short to be
 * one.
 */
export function decodeFrame(durations: Durations): { frame: Frame; fit: Fitness | null } | null {
  const nec = decodeNec(durations)
  if (nec === 'refused') return null
  let best = nec
  for (const decode of DECODERS) {
    const found = decode(durations)
    if (found && (!best || found.fit.mean < best.fit.mean)) best = found
  }
  if (best) return best
  return durations.to - durations.from >= LEAST_DURATIONS
    ? { frame: { protocol: 'unknown', hash: hashOf(durations) }, fit: null }
    : null
}

/** Decodes a whole capture: durations in µs, mark and space in turn, a mark first. */
export function decodeCapture(list: ArrayLike<number>): Decoded[] {
  const out: Decoded[] = []
  for (let from = 0; from < list.length;) {
    let to = from + 1
    // a frame ends before a long space, or with the capture's last mark
    while (to + 1 < list.length && list[to]! < FRAME_GAP_US) to += 2
    const whole = to <= list.length && !hasGlitch(list, from, to)
    const found = whole ? decodeFrame({ list, from, to }) : null
    if (found) out.push({ ...found, from, to })
    from = to + 1
  }
  return out
}

function hasGlitch(list: ArrayLike<number>, from: number, to: number): boolean {
  for (let at = from; at < to; at++) if (!(list[at]! >= LEAST_US)) return true
  return false
}
