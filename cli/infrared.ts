import { z } from 'zod'
import {
  CaptureRefused,
  codeName,
  CodeRefused,
  decodeCapture,
  encodeFrame,
  PROTOCOLS,
  readCapture,
  writePulseSpace,
  writeVcd,
  type Frame,
  type Protocol,
} from '../core/infrared'
import { readFile, Unusable, type Answer } from './commands'

const Microseconds = z.array(z.number().min(0).max(10_000_000)).max(200_000)

/** One frame as scripts read it: the same keys for every protocol, null where it has no such thing. */
function frameRecord(frame: Frame): object {
  if (frame.protocol === 'unknown')
    return { protocol: 'unknown', address: null, command: null, toggle: null, hash: frame.hash }
  if (frame.protocol === 'nec-repeat') return { protocol: 'nec-repeat', address: null, command: null, toggle: null }
  return { protocol: frame.protocol, address: frame.address, command: frame.command, toggle: frame.toggle }
}

function decodeJson(text: string, where: string): object[] {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    throw new Unusable(`${where}: is not a JSON array of µs`)
  }
  const list = Microseconds.safeParse(data)
  if (!list.success) throw new Unusable(`${where}: is not a JSON array of µs, each 0 or more`)
  return decodeCapture(list.data).map(({ frame }) => frameRecord(frame))
}

const words = (records: readonly object[]): string =>
  records.length === 0
    ? 'nothing decoded\n'
    : records
        .map((record) => {
          const one = record as {
            protocol: string
            address?: number
            command?: number
            toggle?: number | null
            hash?: number
          }
          return `${codeName(one)}${one.toggle === null || one.toggle === undefined ? '' : `, toggle ${one.toggle}`}\n`
        })
        .join('')

/** `ir decode`: a JSON array on standard input (with `lines`, one a line), or a capture file in any format. */
export function irDecode(
  path: string | undefined,
  readInput: () => string,
  { json, lines }: { json: boolean; lines: boolean },
): Answer {
  if (path !== undefined) {
    try {
      const records = decodeCapture(readCapture(readFile(path, 32 * 1024 * 1024)).durations).map(({ frame }) =>
        frameRecord(frame),
      )
      return { exit: 0, text: json ? `${JSON.stringify(records)}\n` : words(records) }
    } catch (error) {
      if (error instanceof CaptureRefused) throw new Unusable(`${path}: ${error.message}`)
      throw error
    }
  }
  const text = readInput()
  if (!lines) {
    const records = decodeJson(text, 'standard input')
    return { exit: 0, text: json ? `${JSON.stringify(records)}\n` : words(records) }
  }
  const out = text
    .split('\n')
    .flatMap((line, i) => (line.trim() === '' ? [] : [`${JSON.stringify(decodeJson(line, `line ${i + 1}`))}\n`]))
  return { exit: 0, text: out.join('') }
}

function number(text: string, name: string): number {
  if (!/^(\d+|0x[0-9a-f]+)$/i.test(text)) throw new Unusable(`${name} ${text}: is no whole number`)
  return Number(text)
}

export function irEncode(
  protocol: string,
  address: string,
  command: string,
  toggle: string | undefined,
  format: string,
): Answer {
  if (!PROTOCOLS.includes(protocol as Protocol))
    throw new Unusable(`--protocol ${protocol}: is none of ${PROTOCOLS.join(', ')}`)
  if (toggle !== undefined && toggle !== '0' && toggle !== '1')
    throw new Unusable(`--toggle ${toggle}: is neither 0 nor 1`)
  let durations: number[]
  try {
    durations = encodeFrame(
      { protocol: protocol as Protocol, address: number(address, '--address'), command: number(command, '--command') },
      toggle === '1' ? 1 : 0,
    )
  } catch (error) {
    if (error instanceof CodeRefused) throw new Unusable(error.message)
    throw error
  }
  if (format === 'json') return { exit: 0, text: `${JSON.stringify(durations)}\n` }
  if (format === 'pulse-space') return { exit: 0, text: writePulseSpace(durations) }
  if (format === 'vcd') return { exit: 0, text: writeVcd(durations) }
  throw new Unusable(`--format ${format}: is none of json, pulse-space, vcd`)
}
