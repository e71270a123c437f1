import { durationsOf, unitsOf } from './biphase'
import { Fit, GOOD_ENOUGH, TRIED_STRETCHES, type Durations } from './fit'
import { bitText, byCells } from './bits'
import type { Fitness, Frame, ProtocolRecord } from './types'

/**
 * RC-5 (value from memory): half bit 889 µs, 14 bits, most significant first: two start bits, toggle, five of address,
 * six of command. A 1 is a space, then a mark. In the 7-bit command form the second start bit is the inverse of command
 * bit 6.
 */
const HALF = 889
const UNITS = [0, HALF, 2 * HALF] as const
const BITS = 14
/** Thousandths. From about 330 on, RC-5 also fits SIRC. */
const TOLERANCE = 200

const halves = new Uint8Array(2 * BITS)

export function decodeRc5(durations: Durations): { frame: Frame; fit: Fitness } | null {
  const first = durations.list[durations.from]!
  const count = durations.to - durations.from
  if (first < 600 || first > 2400 || count < 13 || count > 27) return null
  let best: { frame: Frame; fit: Fitness } | null = null
  for (const stretch of TRIED_STRETCHES) {
    const fit = new Fit(stretch, TOLERANCE)
    // The first half of the first start bit is a space: it cannot be told from the quiet before.
    if (!unitsOf(durations, fit, UNITS, 2 * BITS - 1, halves) || !fit.fitsOnTheWhole()) continue
    const bits = read(halves)
    if (bits < 0) continue
    const result = fit.result()
    if (best && result.mean >= best.fit.mean) continue
    const command = (bits & 0x3f) | (bits & 0x1000 ? 0 : 0x40)
    best = {
      frame: { protocol: 'rc5', address: (bits >> 6) & 0x1f, command, toggle: ((bits >> 11) & 1) as 0 | 1 },
      fit: result,
    }
    if (result.mean <= GOOD_ENOUGH) break
  }
  return best
}

/** The 14 bits, or -1 where two halves of a bit are alike. Half 0 (a space) is not in the row. */
function read(row: Uint8Array): number {
  let bits = 0
  for (let bit = 0; bit < BITS; bit++) {
    const a = bit === 0 ? 0 : row[2 * bit - 1]!
    const b = row[2 * bit]!
    if (a === b) return -1
    bits = (bits << 1) | b
  }
  return bits
}

export function encodeRc5(address: number, command: number, toggle: 0 | 1): number[] {
  const bits = [1, command & 0x40 ? 0 : 1, toggle, ...msbFirst(address, 5), ...msbFirst(command, 6)]
  return durationsOf(
    bits.flatMap((bit) => (bit ? [0, 1] : [1, 0])),
    (units) => units * HALF,
  )
}

/** The low bits of a number, the most significant first. */
export const msbFirst = (value: number, bits: number): number[] =>
  Array.from({ length: bits }, (_, i) => (value >> (bits - 1 - i)) & 1)

/** Carrier and period from memory. The start bit's first half is dark: the frame is seen from its middle on. */
const rc5: ProtocolRecord = {
  name: 'RC-5',
  form: '',
  // 5 bits, and 7 with the second start bit as inverse of bit 6
  most: { address: 0x1f, command: 0x7f },
  carrierKhz: 36,
  periodMs: 114,
  encode: encodeRc5,
  bits: (_list, { address, command, toggle }) => {
    const start = `1${command & 64 ? 0 : 1}`
    return byCells(-HALF, HALF, [start, String(toggle), bitText(address, 5), bitText(command & 63, 6)], null)
  },
}

export const RC5_PROTOCOLS = { rc5 }
