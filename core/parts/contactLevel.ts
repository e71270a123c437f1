import { kindOf, topLevel, type Channel } from '../site'

/** The level that closed contacts make, as bits: exactly, or the highest whose contacts are all closed. */
export function levelOfContacts(channel: Channel, bits: number): number {
  const masks = kindOf(channel)
    .patterns(channel)
    .map((pattern) => pattern.reduce((mask, contact) => mask | (1 << contact), 0))
  const exact = masks.indexOf(bits)
  if (exact >= 0) return exact
  for (let level = topLevel(channel); level > 0; level--) if ((bits & masks[level]!) === masks[level]) return level
  return 0
}
