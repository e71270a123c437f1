import { encodeFrame } from './encode'
import type { Decoded } from './types'

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
  const name =
    { nec: 'NEC', 'nec-ext': 'NEC', rc5: 'RC-5', rc6: 'RC-6', sirc12: 'SIRC-12', sirc15: 'SIRC-15', sirc20: 'SIRC-20' }[
      code.protocol
    ] ?? code.protocol
  return `${name} ${hex(code.address ?? 0, code.protocol === 'nec-ext' || code.protocol === 'sirc20' ? 4 : 2)}·${hex(code.command ?? 0)}`
}
