import { hmac } from '@noble/hashes/hmac.js'
import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js'

/** What a message is signed over, with its secrets filled in. */
export interface PlainSign {
  readonly key: string
  readonly before: string
  /** between topic and payload; null: the topic is not signed */
  readonly between: string | null
  readonly after: string
}

/**
 * The signature of a message: HMAC-SHA-256 (RFC 2104, FIPS 180-4) as 64 lower hexadecimal digits, over the wire's own
 * template. firmware/wires/sign.cpp does the same.
 */
export function signature({ key, before, between, after }: PlainSign, topic: string, payload: string): string {
  const over = before + (between === null ? '' : topic + between) + payload + after
  return bytesToHex(hmac(sha256, utf8ToBytes(key), utf8ToBytes(over)))
}

/** A message with its signature behind a blank. */
export const signed = (sign: PlainSign | null, topic: string, payload: string): string =>
  sign ? `${payload} ${signature(sign, topic, payload)}` : payload

/** What a signed message says; undefined: the signature is missing or wrong. An empty key signs nothing. */
export function verified(sign: PlainSign | null, topic: string, message: string): string | undefined {
  if (!sign) return message
  const blank = message.lastIndexOf(' ')
  if (blank < 0 || sign.key === '') return undefined
  const payload = message.slice(0, blank)
  return message.slice(blank + 1) === signature(sign, topic, payload) ? payload : undefined
}
