import { encodeNec, encodeNecRepeat } from './nec'
import { encodeRc5 } from './rc5'
import { encodeRc6 } from './rc6'
import { encodeSirc } from './sirc'
import { RANGES, type Code } from './types'

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
  switch (protocol) {
    case 'nec':
      return encodeNec(address, command, false)
    case 'nec-ext':
      return encodeNec(address, command, true)
    case 'rc5':
      return encodeRc5(address, command, toggle)
    case 'rc6':
      return encodeRc6(address, command, toggle)
    case 'sirc12':
      return encodeSirc(address, command, 12)
    case 'sirc15':
      return encodeSirc(address, command, 15)
    case 'sirc20':
      return encodeSirc(address, command, 20)
  }
}

export const encodeRepeat = encodeNecRepeat
