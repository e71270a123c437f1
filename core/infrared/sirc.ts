import { clampStretch, Fit, type Durations } from './fit'
import { byLength } from './bits'
import type { Fitness, Frame, ProtocolRecord } from './types'

/**
 * SIRC (values from memory): 2.4 ms mark; every space 0.6 ms; a 0 is a mark of 0.6 ms, a 1 one of 1.2 ms; least
 * significant first, seven bits of command, then 5, 8 or 13 of address. The three forms differ by their length only.
 */
const LEAD = 2400
const SHORT = 600
const LONG = 1200
const TOLERANCE = 220
const LEAD_TOLERANCE = 140
const COMMAND_BITS = 7

const PROTOCOL_OF_BITS = { 12: 'sirc12', 15: 'sirc15', 20: 'sirc20' } as const

export function decodeSirc({ list, from, to }: Durations): { frame: Frame; fit: Fitness } | null {
  const bits = (to - from - 1) / 2
  if ((bits !== 12 && bits !== 15 && bits !== 20) || Math.abs(list[from]! - LEAD) * 1000 > LEAD * LEAD_TOLERANCE)
    return null
  let spaces = 0
  for (let at = from + 1; at < to; at += 2) spaces += list[at]!
  const fit = new Fit(clampStretch(SHORT - Math.trunc(spaces / bits)), TOLERANCE)
  if (!fit.take(list[from]!, LEAD, true)) return null
  let value = 0
  for (let bit = 0; bit < bits; bit++) {
    const mark = list[from + 2 + 2 * bit]!
    const one = mark - fit.stretch > (SHORT + LONG) / 2
    if (!fit.take(list[from + 1 + 2 * bit]!, SHORT, false) || !fit.take(mark, one ? LONG : SHORT, true)) return null
    if (one) value += 2 ** bit
  }
  if (!fit.fitsOnTheWhole()) return null
  const frame: Frame = {
    protocol: PROTOCOL_OF_BITS[bits],
    address: Math.trunc(value / 2 ** COMMAND_BITS),
    command: value % 2 ** COMMAND_BITS,
    toggle: null,
  }
  return { frame, fit: fit.result() }
}

export function encodeSirc(address: number, command: number, bits: 12 | 15 | 20): number[] {
  const value = command + address * 2 ** COMMAND_BITS
  const out = [LEAD]
  for (let bit = 0; bit < bits; bit++) out.push(SHORT, (value >> bit) & 1 ? LONG : SHORT)
  return out
}

/** Carrier and period from memory. A mark longer than 0.9 ms is a 1: half way between the two. */
const record = (bits: 12 | 15 | 20, address: number, groups: readonly number[]): ProtocolRecord => ({
  name: `SIRC-${bits}`,
  form: '',
  most: { address, command: 0x7f },
  carrierKhz: 40,
  periodMs: 45,
  encode: (a, c) => encodeSirc(a, c, bits),
  bits: (list) => byLength(list, 2, 0, 900, groups),
})

export const SIRC_PROTOCOLS = {
  sirc12: record(12, 0x1f, [7, 5]),
  sirc15: record(15, 0xff, [7, 8]),
  sirc20: record(20, 0x1fff, [7, 5, 8]),
}
