import { encodeNecRepeat } from './nec'
import { PROTOCOL_RECORDS, RANGES } from './protocols'
import type { Code } from './types'

/** The code cannot be sent: a number beyond its protocol's field. */
export class CodeRefused extends Error {
  readonly code = 'code-refused'
}

/** Says what keeps a code from being sent (finding I05 and the teach view), or null. */
export function codeTrouble({ protocol, address, command }: Code): string | null {
  const range = RANGES[protocol]
  if (!Number.isInteger(address) || address < 0 || address > range.address)
    return `address ${address}: ${protocol} has 0 to ${range.address}`
  if (!Number.isInteger(command) || command < 0 || command > range.command)
    return `command ${command}: ${protocol} has 0 to ${range.command}`
  return null
}

/** The durations of a frame, µs, mark and space in turn, a mark first and last. Throws CodeRefused. */
export function encodeFrame(code: Code, toggle: 0 | 1 = 0): number[] {
  const trouble = codeTrouble(code)
  if (trouble) throw new CodeRefused(trouble)
  const { protocol, address, command } = code
  return PROTOCOL_RECORDS[protocol].encode(address, command, toggle)
}

export const encodeRepeat = encodeNecRepeat
