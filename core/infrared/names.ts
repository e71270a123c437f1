/** Protocols that are decoded to an address and a command; each has a record in the file of its family. */
export const PROTOCOLS = ['nec', 'nec-ext', 'rc5', 'rc6', 'sirc12', 'sirc15', 'sirc20'] as const
export type Protocol = (typeof PROTOCOLS)[number]
