import type { Durations } from './fit'

/** Fewer durations than this are noise, not a frame. */
export const LEAST_DURATIONS = 8

/** FNV-1a, 32 bits (Fowler, Noll, Vo; constants from memory). */
const OFFSET = 0x811c9dc5
const PRIME = 0x01000193

/**
 * A hash that stays the same from press to press (common practice): each duration is only compared with the one two
 * before it (mark with mark, space with space) as shorter, alike or longer, so that jitter and a receiver's stretch do
 * not count.
 */
export function hashOf({ list, from, to }: Durations): number {
  let hash = OFFSET
  for (let at = from + 2; at < to; at++) {
    const before = list[at - 2]!
    const now = list[at]!
    const word = now * 100 > before * 135 ? 2 : before * 100 > now * 135 ? 0 : 1
    hash = Math.imul(hash ^ word, PRIME) >>> 0
  }
  return Math.imul(hash ^ (to - from), PRIME) >>> 0
}
