import type { Protocol } from './names'
import type { SentBit } from './bits'

export type { Protocol } from './names'

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

/** A frame that has an address and a command. */
export type KnownFrame = Extract<Frame, { readonly address: number }>

/** All that is known of a protocol: how its codes read, what fits into them, and how they are sent. */
export interface ProtocolRecord {
  /** as a person writes it */
  readonly name: string
  /** tells two apart that share a name */
  readonly form: string
  /** largest address and command: the protocol's own field widths */
  readonly most: { readonly address: number; readonly command: number }
  /** carrier, kHz */
  readonly carrierKhz: number
  /** from the start of one frame to the start of the next while a key is held, ms */
  readonly periodMs: number
  /** durations of a frame, µs, mark and space in turn, a mark first and last */
  readonly encode: (address: number, command: number, toggle: 0 | 1) => number[]
  /** the bits of a frame in the order in which they were sent; `list` are its durations */
  readonly bits: (list: readonly number[], frame: KnownFrame) => SentBit[]
}
