import type { CountState } from './state'

const MOST = 0xffff_ffff
const numberOf = (text: string | undefined): number | undefined => {
  if (text === undefined || !/^[0-9]{1,10}$/.test(text)) return undefined
  const value = Number(text)
  return value > MOST ? undefined : value
}

/** The service says its last number. It only rises: an old one makes nothing new of what was done. */
export function learn(count: CountState, said: string | undefined): void {
  const value = numberOf(said)
  if (value === undefined) return
  count.last = Math.max(count.last, value)
  count.known = true
}

/** Was this wish done before, or may it have been? Takes its number, where it is new. */
export function isStale(count: CountState, said: string | undefined): boolean {
  const value = numberOf(said)
  if (value === undefined || !count.known || value <= count.last) return true
  count.last = value
  return false
}
