import type { SentBit } from './bits'
import { encodeFrame } from './encode'
import { PROTOCOLS, type Protocol } from './names'
import { PROTOCOL_RECORDS } from './protocols'
import type { Code, Decoded } from './types'

/** One duration of a frame as it is drawn: which bit it carries, and how far it lies from its nominal length. */
export interface DrawnDuration {
  readonly from: number
  readonly microseconds: number
  readonly mark: boolean
  readonly nominal: number | null
}

/** A decoded frame's durations beside their nominal lengths, µs. An unknown frame and a repeat have no nominal ones. */
export function drawnFrame(list: readonly number[], decoded: Decoded): DrawnDuration[] {
  const { frame, from, to } = decoded
  const nominal =
    frame.protocol === 'unknown' || frame.protocol === 'nec-repeat' ? [] : encodeFrame(frame, frame.toggle ?? 0)
  let at = 0
  return list.slice(from, to).map((microseconds, i) => {
    const drawn = { from: at, microseconds, mark: i % 2 === 0, nominal: nominal[i] ?? null }
    at += microseconds
    return drawn
  })
}

/** "NEC 04·1A", "RC-5 05·35", "unknown 1A2B3C4D": hexadecimal, as remotes' tables are written. */
export function codeName(code: {
  readonly protocol: string
  readonly address?: number
  readonly command?: number
  readonly hash?: number
}): string {
  const hex = (value: number, digits = 2): string => value.toString(16).toUpperCase().padStart(digits, '0')
  if (code.protocol === 'unknown') return `unknown ${hex(code.hash ?? 0, 8)}`
  if (code.protocol === 'nec-repeat') return 'NEC repeat'
  const protocol = code.protocol as Protocol
  if (!PROTOCOLS.includes(protocol)) return `${code.protocol} ${hex(code.address ?? 0)}·${hex(code.command ?? 0)}`
  const { name, most } = PROTOCOL_RECORDS[protocol]
  // an address of more than a byte is written in four digits
  return `${name} ${hex(code.address ?? 0, most.address > 0xff ? 4 : 2)}·${hex(code.command ?? 0)}`
}

/** Where a frame's edges should stand, µs since its first mark, and how far each is off, as a part of its duration. */
export function ticksOf(drawn: readonly DrawnDuration[]): { readonly at: number; readonly off: number }[] {
  const total = drawn.reduce((sum, one) => sum + one.microseconds, 0)
  let nominal = 0
  return drawn.flatMap((one) => {
    nominal += one.nominal ?? one.microseconds
    if (one.nominal === null) return []
    return [{ at: Math.min(total, nominal), off: Math.abs(one.microseconds - one.nominal) / one.nominal }]
  })
}

/** The bits of a decoded frame in the order in which they were sent; none for a repeat or an unknown code. */
export function bitsSent(durations: readonly number[], { frame, from, to }: Decoded): SentBit[] {
  if (frame.protocol === 'unknown' || frame.protocol === 'nec-repeat') return []
  return PROTOCOL_RECORDS[frame.protocol].bits(durations.slice(from, to), frame)
}

/** The same as text, a space between their groups. */
export const bitsText = (durations: readonly number[], decoded: Decoded): string =>
  bitsSent(durations, decoded)
    .map(({ bit, group }, i, all) => (i > 0 && all[i - 1]!.group !== group ? ` ${bit}` : bit))
    .join('')

/** The code that a frame teaches to a key; null: a repeat frame teaches nothing. */
export function taughtCode({ frame }: Decoded): Code | { readonly protocol: 'unknown'; readonly hash: number } | null {
  if (frame.protocol === 'nec-repeat') return null
  if (frame.protocol === 'unknown') return { protocol: 'unknown', hash: frame.hash }
  return { protocol: frame.protocol, address: frame.address, command: frame.command }
}
