/** Protocols that are decoded to an address and a command. */
export const PROTOCOLS = ['nec', 'nec-ext', 'rc5', 'rc6', 'sirc12', 'sirc15', 'sirc20'] as const
export type Protocol = (typeof PROTOCOLS)[number]

/** A code of a remote: what one key sends. */
export interface Code {
  readonly protocol: Protocol
  readonly address: number
  readonly command: number
}

/** What a receiver has heard. `toggle` is the bit that a biphase remote turns over at each new press. */
export type Frame =
  | { readonly protocol: Protocol; readonly address: number; readonly command: number; readonly toggle: 0 | 1 | null }
  | { readonly protocol: 'nec-repeat' }
  | { readonly protocol: 'unknown'; /** 32 bits that stay the same from press to press */ readonly hash: number }

/** How well a frame fits its protocol, in thousandths of each nominal length. */
export interface Fitness {
  /** mean deviation */
  readonly mean: number
  /** worst deviation; a frame is refused above `tolerance` */
  readonly worst: number
  readonly tolerance: number
  /** common lengthening of marks that was taken off, µs */
  readonly stretch: number
}

export interface Decoded {
  readonly frame: Frame
  readonly fit: Fitness | null
  /** first and one-past-last duration of the frame in what was given */
  readonly from: number
  readonly to: number
}

/**
 * Largest address and command of each protocol (the protocols' own field widths). NEC: 8-bit and 16-bit address, 8-bit
 * command. RC-5: 5 and, with the second start bit as inverse of bit 6, 7. RC-6 mode 0: 8 and 8. SIRC: 5, 8 or 13
 * address bits, 7 command bits.
 */
export const RANGES: Record<Protocol, { readonly address: number; readonly command: number }> = {
  nec: { address: 0xff, command: 0xff },
  'nec-ext': { address: 0xffff, command: 0xff },
  rc5: { address: 0x1f, command: 0x7f },
  rc6: { address: 0xff, command: 0xff },
  sirc12: { address: 0x1f, command: 0x7f },
  sirc15: { address: 0xff, command: 0x7f },
  sirc20: { address: 0x1fff, command: 0x7f },
}

/** Carrier, kHz (the protocols' publications, values from memory). */
export const CARRIER_KHZ: Record<Protocol, number> = {
  nec: 38,
  'nec-ext': 38,
  rc5: 36,
  rc6: 36,
  sirc12: 40,
  sirc15: 40,
  sirc20: 40,
}

/** From the start of one frame to the start of the next while a key is held, ms (values from memory). */
export const PERIOD_MS: Record<Protocol, number> = {
  nec: 108,
  'nec-ext': 108,
  rc5: 114,
  rc6: 107,
  sirc12: 45,
  sirc15: 45,
  sirc20: 45,
}
