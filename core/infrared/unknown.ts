import type { Durations } from './fit'

/** Fewer durations than this are noise, not a frame. */
export const LEAST_DURATIONS = 8

/** FNV-1a, 32 bits (Fowler, Noll, Vo; constants from memory). */
const OFFSET = 0x811c9dc5
const PRIME = 0x01000193

/** Half of what a receiver may stretch a mark by, and take from a space, µs: put back, what is left is half as much. */
const HALF_STRETCH_US = 50
/**
 * Lengths whose ratio is above this are told apart, in hundredths. Two of one length differ by at most 1.1/0.9 = 1.22
 * under jitter of a tenth, two whose ratio is 1.6 by at least 1.6 · 0.9/1.1 = 1.31; the rest is room for stretch.
 */
const APART = 127
/** A first mark that is so many times longer than the next is a leader: leaders have 6 and more, bits 4 and less. */
const LEADER = 5
/** Lengths closer than this cannot be told apart under that noise, in tenths (docs/behaviour.md, version 3). */
const CLOSE = 16

/** A length as it was sent, as far as one knows: marks stand at even places. */
const sentLength = (list: ArrayLike<number>, from: number, at: number): number =>
  list[at]! + ((at - from) % 2 === 0 ? -HALF_STRETCH_US : HALF_STRETCH_US)

/**
 * A hash that stays the same from press to press (common practice): each duration is only compared with the one two
 * before it (mark with mark, space with space) as shorter, alike or longer, so that jitter and a receiver's stretch do
 * not count. A leader, which is far longer than the mark after it, is no part of the code: its space may be near to a
 * bit's.
 */
export function hashOf({ list, from, to }: Durations): number {
  const first = list[from]! > LEADER * list[from + 2]! ? 4 : 2
  let hash = OFFSET
  for (let at = from + first; at < to; at++) {
    const before = sentLength(list, from, at - 2)
    const now = sentLength(list, from, at)
    const word = now * 100 > before * APART ? 2 : before * 100 > now * APART ? 0 : 1
    hash = Math.imul(hash ^ word, PRIME) >>> 0
  }
  return Math.imul(hash ^ (to - from), PRIME) >>> 0
}

/** The lengths that stand in a list, each once: neighbours that jitter alone can make of one are one. */
function lengthsIn(list: readonly number[]): number[] {
  const groups: number[][] = []
  for (const value of [...list].sort((a, b) => a - b)) {
    const group = groups.at(-1)
    if (group && value * 100 <= group.at(-1)! * 110) group.push(value)
    else groups.push([value])
  }
  return groups.map((group) => Math.round(group.reduce((sum, value) => sum + value, 0) / group.length))
}

/**
 * Two lengths of a frame, both of marks or both of spaces, that lie so close that one press may be heard as another
 * code than the next; null: there are none. The leader is left out, as in the hash.
 */
export function closeLengths({ list, from, to }: Durations): readonly [number, number] | null {
  const first = list[from]! > LEADER * list[from + 2]! ? 2 : 0
  const every = Array.from({ length: to - from - first }, (_, i) => sentLength(list, from, from + first + i))
  for (const part of [0, 1]) {
    const lengths = lengthsIn(every.filter((_, i) => i % 2 === part))
    const at = lengths.findIndex((length, i) => i > 0 && length * 10 < lengths[i - 1]! * CLOSE)
    if (at > 0) return [lengths[at - 1]!, lengths[at]!]
  }
  return null
}
