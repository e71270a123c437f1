import { hostname, networkInterfaces } from 'node:os'

export const isLoopback = (host: string): boolean =>
  host === '127.0.0.1' || host === 'localhost' || host === '::1' || host === '[::1]'

const listensToAll = (host: string): boolean => host === '0.0.0.0' || host === '::'

/** An address as it stands in a URL or a Host header: version 6 in brackets (RFC 3986, 3.2.2). */
export const inBrackets = (address: string): string =>
  address.includes(':') && !address.startsWith('[') ? `[${address}]` : address

const interfaces = () => Object.values(networkInterfaces()).flatMap((list) => list ?? [])

/** Names by which others reach this machine: all of its own where it listens to all, and those that it was given. */
export const namesOf = (host: string, given: readonly string[]): string[] => [
  ...(listensToAll(host)
    ? [hostname(), `${hostname()}.local`, ...interfaces().map(({ address }) => inBrackets(address.split('%')[0]!))]
    : [inBrackets(host)]),
  ...given,
]

/**
 * Where a board finds what listens at an address: a name that was given, else this machine's address in the house.
 * Boards do not resolve a machine's own name everywhere, so it is not used.
 */
export function boardAddress(host: string, given: readonly string[]): string {
  if (isLoopback(host)) return '127.0.0.1'
  if (given[0] !== undefined) return given[0]
  if (!listensToAll(host)) return host
  // 169.254 is link-local (RFC 3927): no board of the house is there
  const own = interfaces().find((row) => row.family === 'IPv4' && !row.internal && !row.address.startsWith('169.254.'))
  return own?.address ?? hostname()
}
