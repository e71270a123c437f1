import { crc16, ERASED, hexRecord, type Program } from './hexRecords'

/** The boot loader of the 8-bit board (firmware/ports/avr-loader): its speed, the room below it, its page. */
export const LOADER_BAUD = 115_200
export const LOADER_ROOM = 0x7c00
const PAGE = 128
const RECORD = 16

/** A serial port, as it is in the browser or on the bench. Bytes are read as text of one character each. */
export interface SerialPort {
  write(text: string): Promise<void>
  /** the next character; null: none came within so many ms */
  read(withinMs: number): Promise<string | null>
}

/** The program did not arrive: in one line why, and what to do. */
export class LoaderRefused extends Error {
  readonly code = 'loader-refused'
}

/**
 * The records of a program in the order in which the loader wants them: its first page last, so that what is cut off
 * has no beginning and is never started.
 */
export function recordsFor({ bytes }: Program): string[] {
  const records: { page: number; text: string }[] = []
  for (let at = 0; at < bytes.length; at += RECORD) {
    const data = [...bytes.slice(at, at + RECORD)]
    if (data.some((byte) => byte !== ERASED) || at + RECORD >= bytes.length)
      records.push({ page: Math.floor(at / PAGE), text: hexRecord(at, data) })
  }
  return [...records.filter(({ page }) => page > 0), ...records.filter(({ page }) => page === 0)].map(
    ({ text }) => text,
  )
}

const HELLO_MS = 8_000
const ANSWER_MS = 1_000
const TRIES = 3

/** Waits until the loader says that it is there. */
async function waitsForLoader(port: SerialPort): Promise<void> {
  for (let waited = 0; waited < HELLO_MS; waited += 250) {
    for (let character = await port.read(250); character !== null; character = await port.read(20))
      if (character === '>') return
  }
  throw new LoaderRefused('the loader does not answer: press the board’s reset button, and try again within a second')
}

async function sendRecord(port: SerialPort, record: string): Promise<void> {
  for (let tried = 0; tried < TRIES; tried++) {
    await port.write(`${record}\n`)
    for (;;) {
      const answer = await port.read(ANSWER_MS)
      if (answer === '+') return
      if (answer === '!') throw new LoaderRefused('the program is too large for the room below the loader')
      // a greeting that was on its way
      if (answer === '>') continue
      // what was garbled, or not answered, is said again
      break
    }
  }
  throw new LoaderRefused(
    'the line is too bad: a record was refused three times; use a shorter cable, and send it again',
  )
}

/** What the loader has read back of the flash. */
async function sumSaid(port: SerialPort): Promise<number> {
  let text = ''
  for (
    let character = await port.read(ANSWER_MS);
    character !== null && character !== '\n';
    character = await port.read(ANSWER_MS)
  )
    text += character
  return Number.parseInt(text, 16)
}

/**
 * Sends a program to the loader, and holds what stands in flash against it. `onProgress`: 0 to 1. Throws LoaderRefused;
 * the loader then waits for the next try.
 */
export async function sendProgram(
  port: SerialPort,
  program: Program,
  onProgress: (done: number) => void = () => undefined,
  isStopped: () => boolean = () => false,
): Promise<void> {
  const records = recordsFor(program)
  await waitsForLoader(port)
  for (const [at, record] of records.entries()) {
    if (isStopped()) throw new LoaderRefused('stopped: the board has no program now, and waits for one')
    await sendRecord(port, record)
    onProgress((at + 1) / records.length)
  }
  await sendRecord(port, hexRecord(0, [], 1))
  const said = await sumSaid(port)
  if (said !== crc16(program.bytes))
    throw new LoaderRefused('what stands in flash is not what was sent: send it again, or the flash is worn out')
}
