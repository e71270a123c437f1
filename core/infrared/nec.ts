import { clampStretch, Fit, type Durations } from './fit'
import { byLength } from './bits'
import type { Fitness, Frame, ProtocolRecord } from './types'

/**
 * NEC (µPD6121 data sheet, values from memory): 9 ms mark, 4.5 ms space, then 32 bits, least significant first, each a
 * mark of 562.5 µs and a space of 562.5 (0) or 1687.5 µs (1), and a stop mark. A held key sends 9 ms, 2.25 ms, 562.5
 * µs.
 */
export const NEC = {
  leadMark: 9000,
  leadSpace: 4500,
  repeatSpace: 2250,
  mark: 563,
  zero: 563,
  one: 1688,
  bits: 32,
} as const

/**
 * Thousandths. Marks and spaces are so different that a wide tolerance costs nothing; the complement guards the
 * command.
 */
const TOLERANCE = 300
const LEAD_TOLERANCE = 160

const near = (duration: number, nominal: number): boolean =>
  Math.abs(duration - nominal) * 1000 <= nominal * LEAD_TOLERANCE

const LENGTH = 2 + 2 * NEC.bits + 1

/** `refused`: a NEC frame that fails its own check, which must not become anything else either. */
export function decodeNec({ list, from, to }: Durations): { frame: Frame; fit: Fitness } | 'refused' | null {
  const length = to - from
  if (length < 3 || !near(list[from]!, NEC.leadMark)) return null
  if (length === 3) {
    const stretch = clampStretch(list[from + 2]! - NEC.mark)
    const fit = new Fit(stretch, TOLERANCE)
    if (!near(list[from + 1]!, NEC.repeatSpace) || !fit.take(list[from + 2]!, NEC.mark, true)) return null
    fit.take(list[from]!, NEC.leadMark, true)
    fit.take(list[from + 1]!, NEC.repeatSpace, false)
    return { frame: { protocol: 'nec-repeat' }, fit: fit.result() }
  }
  if (length !== LENGTH || !near(list[from + 1]!, NEC.leadSpace)) return null
  let marks = 0
  for (let at = from + 2; at < to; at += 2) marks += list[at]!
  const fit = new Fit(clampStretch(Math.trunc(marks / (NEC.bits + 1)) - NEC.mark), TOLERANCE)
  fit.take(list[from]!, NEC.leadMark, true)
  fit.take(list[from + 1]!, NEC.leadSpace, false)
  const bytes = [0, 0, 0, 0]
  for (let bit = 0; bit < NEC.bits; bit++) {
    const space = list[from + 3 + 2 * bit]!
    const one = space + fit.stretch > (NEC.zero + NEC.one) / 2
    if (!fit.take(list[from + 2 + 2 * bit]!, NEC.mark, true)) return null
    if (!fit.take(space, one ? NEC.one : NEC.zero, false)) return null
    if (one) bytes[bit >> 3]! |= 1 << (bit & 7)
  }
  if (!fit.take(list[to - 1]!, NEC.mark, true) || !fit.fitsOnTheWhole()) return null
  const [low, high, command, inverse] = bytes as [number, number, number, number]
  if ((command ^ inverse) !== 0xff) return 'refused'
  const frame: Frame =
    (low ^ high) === 0xff
      ? { protocol: 'nec', address: low, command, toggle: null }
      : { protocol: 'nec-ext', address: low + 256 * high, command, toggle: null }
  return { frame, fit: fit.result() }
}

/**
 * The 32 bits of a code as a list of durations, µs. An extended address that happens to be a byte and its inverse is
 * sent as it is.
 */
export function encodeNec(address: number, command: number, extended: boolean): number[] {
  const high = extended ? address >> 8 : ~address & 0xff
  const out: number[] = [NEC.leadMark, NEC.leadSpace]
  for (const byte of [address & 0xff, high, command, ~command & 0xff])
    for (let bit = 0; bit < 8; bit++) out.push(NEC.mark, (byte >> bit) & 1 ? NEC.one : NEC.zero)
  return [...out, NEC.mark]
}

export const encodeNecRepeat = (): number[] => [NEC.leadMark, NEC.repeatSpace, NEC.mark]

/** Carrier and period from memory. A space longer than 1.1 ms is a 1: half way between the two. */
const record = (form: string, address: number, extended: boolean): ProtocolRecord => ({
  name: 'NEC',
  form,
  most: { address, command: 0xff },
  carrierKhz: 38,
  periodMs: 108,
  encode: (a, c) => encodeNec(a, c, extended),
  bits: (list) => byLength(list, 2, 1, 1100, [8, 8, 8, 8]),
})

export const NEC_PROTOCOLS = { nec: record('', 0xff, false), 'nec-ext': record('16 bit', 0xffff, true) }
