/** A program as it goes into flash: bytes by their addresses; what no record names is erased flash. */
export interface Program {
  readonly bytes: Uint8Array
}

/** A text that is no program, or one that does not fit: what, and in which line. */
export class ProgramRefused extends Error {
  readonly code = 'program-refused'
}

/** Flash without a program. */
export const ERASED = 0xff

function recordIn(line: string, number: number): { kind: number; address: number; data: number[] } {
  const refuse = (why: string): never => {
    throw new ProgramRefused(`line ${number}: ${why}`)
  }
  if (!/^:([0-9a-f]{2}){5,260}$/i.test(line)) return refuse('is no hex record')
  const all = [...line.slice(1).matchAll(/../g)].map(([two]) => Number.parseInt(two, 16))
  const [count, high, low, kind] = all as [number, number, number, number]
  if (all.length !== count + 5) return refuse(`says ${count} bytes and has ${all.length - 5}`)
  if (all.reduce((sum, byte) => (sum + byte) & 0xff, 0) !== 0) return refuse('its sum is wrong')
  return { kind, address: high * 256 + low, data: all.slice(4, -1) }
}

/**
 * Reads a program in the usual hex format: records of kind 0 (bytes) and 1 (the end); segments that begin at 0 are let
 * pass. Throws ProgramRefused. `room`: bytes that it may take.
 */
export function readHexRecords(text: string, room: number): Program {
  const bytes = new Uint8Array(room).fill(ERASED)
  let [end, isEnded] = [0, false]
  text.split(/\r?\n/).forEach((raw, at) => {
    const line = raw.trim()
    if (line === '' || isEnded) return
    const { kind, address, data } = recordIn(line, at + 1)
    if (kind === 1) isEnded = true
    else if (kind === 0) {
      if (address + data.length > room) throw new ProgramRefused(`line ${at + 1}: lies beyond ${room} bytes`)
      bytes.set(data, address)
      end = Math.max(end, address + data.length)
    } else if (data.some((byte) => byte !== 0) && kind !== 3 && kind !== 5)
      throw new ProgramRefused(`line ${at + 1}: a segment that does not begin at 0`)
  })
  if (!isEnded) throw new ProgramRefused('its last record is missing: the file is only a part of one')
  return { bytes: bytes.slice(0, end) }
}

const hex = (value: number): string => value.toString(16).toUpperCase().padStart(2, '0')

/** A record with its sum; kind 1, without bytes, is the last. */
export function hexRecord(address: number, data: readonly number[], kind = 0): string {
  const all = [data.length, address >> 8, address & 0xff, kind, ...data]
  const sum = (256 - (all.reduce((total, byte) => total + byte, 0) & 0xff)) & 0xff
  return `:${[...all, sum].map(hex).join('')}`
}

/** CRC-16 of XMODEM: polynomial x¹⁶ + x¹² + x⁵ + 1, from 0 (ITU-T V.41; avr-libc `_crc_xmodem_update`). */
export function crc16(bytes: Uint8Array): number {
  let crc = 0
  for (const byte of bytes) {
    crc ^= byte << 8
    for (let bit = 0; bit < 8; bit++) crc = (crc & 0x8000 ? (crc << 1) ^ 0x1021 : crc << 1) & 0xffff
  }
  return crc
}
