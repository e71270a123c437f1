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

/** What is read at once: ten seconds a duration are longer than any pause within a capture. */
const LONGEST_US = 10_000_000
const MOST_DURATIONS = 200_000
const Microseconds = z.array(z.number())

/** What is wrong with the durations, with the place of the first that is: null, nothing. */
function wrongDurations(list: readonly number[]): string | null {
  if (list.length > MOST_DURATIONS) return `holds ${list.length} durations, at most ${MOST_DURATIONS} are read`
  const at = list.findIndex((value) => value < 0 || value > LONGEST_US)
  if (at < 0) return null
  return list[at]! < 0
    ? `duration ${at + 1} is ${list[at]} µs: each is 0 or more`
    : `duration ${at + 1} is ${list[at]} µs: longer than ${LONGEST_US / 1_000_000} s, the longest that is read`
}

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
  if (!list.success) {
    const [place] = list.error.issues[0]!.path
    const what =
      place === undefined ? 'is not a JSON array of µs' : `duration ${Number(place) + 1} is not a number of µs`
    throw new Unusable(`${where}: ${what}`)
  }
  const wrong = wrongDurations(list.data)
  if (wrong !== null) throw new Unusable(`${where}: ${wrong}`)
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
  const out = text.split('\n').flatMap((line, i) => (line.trim() === '' ? [] : [`${decodeLine(line, i + 1)}\n`]))
  return { exit: 0, text: out.join('') }
}

/** A line's frames; one that cannot be read leaves an error in its place, and the next is read all the same. */
function decodeLine(line: string, number: number): string {
  try {
    return JSON.stringify(decodeJson(line, `line ${number}`))
  } catch (error) {
    if (error instanceof Unusable) return JSON.stringify({ error: error.message })
    throw error
  }
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
