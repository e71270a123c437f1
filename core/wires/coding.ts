import type { Coding } from './types'

/** A value longer than that is none: the firmware's buffer for it. */
export const LONGEST_VALUE = 24

const WHOLE = /^-?[0-9]{1,5}$/
/** A whole number as services that know only decimals write it: "1.0". */
const WHOLE_AS_DECIMAL = /^(-?[0-9]{1,5})\.0+$/

/** What the controller says, on the wire. A reading (a decimal) goes as it is. */
export function encodeValue(coding: Coding, said: string): string {
  if (coding.form === 'number' || !WHOLE.test(said)) return said
  const value = Number(said)
  if (coding.form === 'words') return value === coding.min ? coding.off : coding.on
  const { min, max, least, most } = coding
  return String(least + Math.floor(((Math.min(max, Math.max(min, value)) - min) * (most - least)) / (max - min)))
}

/**
 * What the wire says, for the controller; what is no value of the coding goes through, so that the controller refuses
 * it by name.
 */
export function decodeValue(coding: Coding, heard: string): string {
  if (coding.form === 'words')
    return heard === coding.on ? String(coding.max) : heard === coding.off ? String(coding.min) : '?'
  const whole = WHOLE_AS_DECIMAL.exec(heard)?.[1] ?? heard
  if (coding.form === 'number') return whole
  const { min, max, least, most } = coding
  const value = Number(whole)
  if (!WHOLE.test(whole) || value < least || value > most) return '?'
  // upwards, so that what was encoded downwards comes back as it was
  return String(min + Math.ceil(((value - least) * (max - min)) / (most - least)))
}
