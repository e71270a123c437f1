import { NEC_PROTOCOLS } from './nec'
import { PROTOCOLS, type Protocol } from './names'
import { decodeRc5, RC5_PROTOCOLS } from './rc5'
import { decodeRc6, RC6_PROTOCOLS } from './rc6'
import { decodeSirc, SIRC_PROTOCOLS } from './sirc'
import type { ProtocolRecord } from './types'

/** The records of all protocols, gathered from their families. */
export const PROTOCOL_RECORDS: Readonly<Record<Protocol, ProtocolRecord>> = {
  ...NEC_PROTOCOLS,
  ...RC5_PROTOCOLS,
  ...RC6_PROTOCOLS,
  ...SIRC_PROTOCOLS,
}

/** A decoder a family; NEC's stands apart, since it alone can refuse a frame for all (decode.ts). */
export const DECODERS = [decodeRc5, decodeRc6, decodeSirc] as const

const of = <T>(part: (record: ProtocolRecord) => T): Readonly<Record<Protocol, T>> =>
  Object.fromEntries(PROTOCOLS.map((protocol) => [protocol, part(PROTOCOL_RECORDS[protocol])])) as Record<Protocol, T>

/** Largest address and command of each protocol. */
export const RANGES = of((record) => record.most)
/** Carrier, kHz. */
export const CARRIER_KHZ = of((record) => record.carrierKhz)
/** From the start of one frame to the start of the next while a key is held, ms. */
export const PERIOD_MS = of((record) => record.periodMs)

/** A protocol as it stands in a list of choices: "NEC", "NEC, 16 bit". */
export const protocolName = (protocol: Protocol): string => {
  const { name, form } = PROTOCOL_RECORDS[protocol]
  return form ? `${name}, ${form}` : name
}
