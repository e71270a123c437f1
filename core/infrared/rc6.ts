import { durationsOf, unitsOf } from './biphase'
import { Fit, GOOD_ENOUGH, TRIED_STRETCHES, type Durations } from './fit'
import { msbFirst } from './rc5'
import { bitText, byCells } from './bits'
import type { Fitness, Frame, ProtocolRecord } from './types'

/**
 * RC-6 mode 0 (values from memory): unit 444.4 µs; leader 6 units mark, 2 units space; start bit 1, three mode bits
 * 000, a toggle bit of double width, eight bits of address and eight of command, most significant first. A 1 is a mark,
 * then a space.
 */
const UNITS = [0, 444, 889, 1333] as const
const LEAD_MARK = 2667
const LEAD_SPACE = 889
/** start, mode, toggle (twice as wide), address and command, in units */
const HALVES = 2 + 6 + 4 + 32
const TOLERANCE = 220
const LEAD_TOLERANCE = 150

const row = new Uint8Array(HALVES)

export function decodeRc6({ list, from, to }: Durations): { frame: Frame; fit: Fitness } | null {
  const count = to - from
  if (count < 24 || count > 2 + HALVES || Math.abs(list[from]! - LEAD_MARK) * 1000 > LEAD_MARK * LEAD_TOLERANCE)
    return null
  let best: { frame: Frame; fit: Fitness } | null = null
  for (const stretch of TRIED_STRETCHES) {
    const fit = new Fit(stretch, TOLERANCE)
    if (!fit.take(list[from]!, LEAD_MARK, true) || !fit.take(list[from + 1]!, LEAD_SPACE, false)) continue
    if (!unitsOf({ list, from: from + 2, to }, fit, UNITS, HALVES, row) || !fit.fitsOnTheWhole()) continue
    const bits = read()
    if (bits < 0) continue
    const result = fit.result()
    if (best && result.mean >= best.fit.mean) continue
    best = {
      frame: {
        protocol: 'rc6',
        address: (bits >> 8) & 0xff,
        command: bits & 0xff,
        toggle: ((bits >> 16) & 1) as 0 | 1,
      },
      fit: result,
    }
    if (result.mean <= GOOD_ENOUGH) break
  }
  return best
}

/** Toggle, address and command as 17 bits; -1: not mode 0, or halves that are alike. */
function read(): number {
  if (row[0] !== 1 || row[1] !== 0) return -1
  for (let bit = 0; bit < 3; bit++) if (row[2 + 2 * bit] !== 0 || row[3 + 2 * bit] !== 1) return -1
  if (row[8] !== row[9] || row[10] !== row[11] || row[8] === row[10]) return -1
  let bits = row[8]!
  for (let bit = 0; bit < 16; bit++) {
    const a = row[12 + 2 * bit]!
    if (a === row[13 + 2 * bit]) return -1
    bits = (bits << 1) | a
  }
  return bits
}

export function encodeRc6(address: number, command: number, toggle: 0 | 1): number[] {
  const halves = (bit: number): number[] => (bit ? [1, 0] : [0, 1])
  const wide = toggle ? [1, 1, 0, 0] : [0, 0, 1, 1]
  const levels = [
    ...halves(1),
    ...halves(0),
    ...halves(0),
    ...halves(0),
    ...wide,
    ...msbFirst(address, 8).flatMap(halves),
    ...msbFirst(command, 8).flatMap(halves),
  ]
  return [LEAD_MARK, LEAD_SPACE, ...durationsOf(levels, (units) => UNITS[units] ?? Math.round(units * 444.4))]
}

/** Half a bit, and the leader of six and two of them, µs. */
const HALF = 444
const LEADER = 8 * HALF

/** Carrier and period from memory. */
const rc6: ProtocolRecord = {
  name: 'RC-6',
  form: '',
  most: { address: 0xff, command: 0xff },
  carrierKhz: 36,
  periodMs: 107,
  encode: encodeRc6,
  bits: (_list, { address, command, toggle }) =>
    byCells(LEADER, HALF, ['1', '000', String(toggle), bitText(address, 8), bitText(command, 8)], 2),
}

export const RC6_PROTOCOLS = { rc6 }
