/** One bit of a frame, where it stands in it. */
export interface SentBit {
  readonly bit: '0' | '1'
  /** µs since the frame's first mark; a bi-phase start bit whose first half is dark begins before it */
  readonly from: number
  readonly to: number
  /** bits are read in groups: fields of bi-phase codes, bytes or address and command of the others */
  readonly group: number
}

/** A number's low bits as text, the most significant first. */
export const bitText = (value: number, count: number): string => value.toString(2).padStart(count, '0')

/**
 * Bits that are told by durations: each is a mark and a space, the first of them at `first`; `told` of the two carries
 * it.
 */
export function byLength(
  list: readonly number[],
  first: number,
  told: 0 | 1,
  longerThan: number,
  groups: readonly number[],
): SentBit[] {
  let at = list.slice(0, first).reduce((sum, us) => sum + us, 0)
  return groups.flatMap((size, group) => {
    const before = groups.slice(0, group).reduce((sum, n) => sum + n, 0)
    return Array.from({ length: size }, (_, i): SentBit => {
      const mark = first + 2 * (before + i)
      const from = at
      at += list[mark]! + (list[mark + 1] ?? 0)
      return { bit: list[mark + told]! > longerThan ? '1' : '0', from, to: at, group }
    })
  })
}

/** Bits that stand in cells of equal length; `wide` names a group whose cells are twice as long. */
export function byCells(from: number, half: number, groups: readonly string[], wide: number | null): SentBit[] {
  let at = from
  return groups.flatMap((bits, group) =>
    [...bits].map((bit): SentBit => {
      const start = at
      at += 2 * half * (group === wide ? 2 : 1)
      return { bit: bit as '0' | '1', from: start, to: at, group }
    }),
  )
}
