import type { Fit } from './fit'
import { type Durations } from './fit'

/**
 * Turns durations into a row of half-bit levels (1: mark), each duration counting for as many units as fit it best.
 * Null: a duration that is no number of units, or more halves than the frame has.
 */
export function unitsOf(
  { list, from, to }: Durations,
  fit: Fit,
  nominal: readonly number[],
  wanted: number,
  levels: Uint8Array,
): boolean {
  const most = nominal.length - 1
  let count = 0
  for (let at = from; at < to; at++) {
    const mark = ((at - from) & 1) === 0
    const plain = mark ? list[at]! - fit.stretch : list[at]! + fit.stretch
    let units = 1
    while (units < most && plain * 2 > nominal[units]! + nominal[units + 1]!) units++
    if (!fit.take(list[at]!, nominal[units]!, mark)) return false
    if (count + units > wanted) return false
    for (let k = 0; k < units; k++) levels[count++] = mark ? 1 : 0
  }
  // The space that may end a frame cannot be seen: the line simply stays quiet.
  if (count === wanted - 1) levels[count++] = 0
  return count === wanted
}

/** Row of half-bit levels to durations; leading and trailing spaces are not seen. */
export function durationsOf(levels: readonly number[], nominal: (units: number) => number): number[] {
  const first = levels.indexOf(1)
  const last = levels.lastIndexOf(1)
  const out: number[] = []
  for (let at = first; at <= last;) {
    let end = at
    while (end <= last && levels[end] === levels[at]) end++
    out.push(nominal(end - at))
    at = end
  }
  return out
}
