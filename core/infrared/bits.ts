import type { Decoded } from './types'

/** One bit of a frame, where it stands in it. */
export interface SentBit {
  readonly bit: '0' | '1'
  /** µs since the frame's first mark; a bi-phase start bit whose first half is dark begins before it */
  readonly from: number
  readonly to: number
  /** bits are read in groups: fields of bi-phase codes, bytes or address and command of the others */
  readonly group: number
}

/** Half a bit of RC-5 is 889 µs, of RC-6 444 µs: 32 and 16 periods of 36 kHz. Common practice. */
const RC5_HALF = 889
const RC6_HALF = 444
const RC6_LEADER = 6 * RC6_HALF + 2 * RC6_HALF

const text = (value: number, count: number): string => value.toString(2).padStart(count, '0')

/**
 * Bits that are told by durations: each is a mark and a space, the first of them at `first`; `told` of the two carries
 * it.
 */
function byLength(
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
function byCells(from: number, half: number, groups: readonly string[], wide: number | null): SentBit[] {
  let at = from
  return groups.flatMap((bits, group) =>
    [...bits].map((bit): SentBit => {
      const start = at
      at += 2 * half * (group === wide ? 2 : 1)
      return { bit: bit as '0' | '1', from: start, to: at, group }
    }),
  )
}

/** The bits of a decoded frame in the order in which they were sent; none for a repeat or an unknown code. */
export function bitsSent(durations: readonly number[], decoded: Decoded): SentBit[] {
  const { frame } = decoded
  const list = durations.slice(decoded.from, decoded.to)
  switch (frame.protocol) {
    case 'unknown':
    case 'nec-repeat':
      return []
    case 'nec':
    case 'nec-ext':
      return byLength(list, 2, 1, 1100, [8, 8, 8, 8])
    case 'sirc12':
      return byLength(list, 2, 0, 900, [7, 5])
    case 'sirc15':
      return byLength(list, 2, 0, 900, [7, 8])
    case 'sirc20':
      return byLength(list, 2, 0, 900, [7, 5, 8])
    case 'rc5':
      // the start bit's first half is dark: the frame is seen from its middle on
      return byCells(
        -RC5_HALF,
        RC5_HALF,
        [`1${frame.command & 64 ? 0 : 1}`, String(frame.toggle), text(frame.address, 5), text(frame.command & 63, 6)],
        null,
      )
    case 'rc6':
      return byCells(
        RC6_LEADER,
        RC6_HALF,
        ['1', '000', String(frame.toggle), text(frame.address, 8), text(frame.command, 8)],
        2,
      )
  }
}
