import { codeTrouble, PROTOCOLS, type Protocol } from '../infrared'
import type { Key } from '../site'
import type { KeyHeard } from './boards'

/** The code of a key as a board has said it; undefined: no protocol of that name, or out of its range. */
export function codeHeard({ protocol, address, command }: Omit<KeyHeard, 't'>): Key['code'] | undefined {
  if (protocol === 'unknown') return { protocol, hash: address * 0x1_0000 + command }
  if (!(PROTOCOLS as readonly string[]).includes(protocol)) return undefined
  const code = { protocol: protocol as Protocol, address, command }
  return codeTrouble(code) === null ? code : undefined
}

/**
 * A settle time that fits a bounce, ms: twice the longest that was heard, in steps of five, and ten at least (common
 * practice: margin for wear). Longer than 100 ms is no bounce but a worn switch, and feels slow.
 */
export const settleFor = (bounceMs: number): number => Math.min(100, Math.max(10, Math.ceil((bounceMs * 2) / 5) * 5))
