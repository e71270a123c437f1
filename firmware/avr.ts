import { outputName } from '../core/site'
import { execFile } from 'node:child_process'
import { createHash, randomBytes } from 'node:crypto'
import { existsSync } from 'node:fs'
import { mkdir, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { promisify } from 'node:util'
import type { TraceLine } from '../core/device'
import type { ControllerImage } from '../core/image'
import { imageHeader } from '../core/outputs'
import { FirmwareRefused, RUNTIME_DIR, WIRES_DIR } from './host'

/** Compiles the firmware of a controller for the 8-bit board, and runs it on a simulator of that core (simavr). */

const run = promisify(execFile)
const HERE = dirname(fileURLToPath(import.meta.url))
export const AVR_DIR = join(HERE, 'ports', 'avr')
const OUT_DIR = join(HERE, 'out')
const HARNESS = join(HERE, 'test', 'simavr.cpp')

/** The board has pins 0 to 19; an expander's pins are numbered from 100 and have no driver in this port. */
const LAST_PIN = 19

export const avrSupported = (): boolean => existsSync('/usr/bin/avr-g++') && existsSync('/usr/lib/avr/include/avr/io.h')
export const simulatorSupported = (): boolean => avrSupported() && existsSync('/usr/include/simavr/sim_avr.h')

/** Bytes of a program: flash, and memory that is taken before it runs. */
export interface AvrSize {
  readonly flash: number
  readonly memory: number
}

async function filesDigest(folder: string, digest: ReturnType<typeof createHash>): Promise<void> {
  for (const name of (await readdir(folder)).sort()) digest.update(name).update(await readFile(join(folder, name)))
}

/** Runs a tool; what it says against the sources becomes one refusal. */
async function tool(command: string, ...words: string[]): Promise<string> {
  try {
    return (await run(command, words, { maxBuffer: 1 << 24 })).stdout
  } catch (error) {
    const failed = error as NodeJS.ErrnoException & { stderr?: string; stdout?: string }
    throw new FirmwareRefused(
      failed.code === 'ENOENT'
        ? `${command} is not on this machine (Debian: gcc-avr, avr-libc, make)`
        : `${command} refused: ${failed.stdout?.trim() || failed.stderr || failed.message}`,
      { cause: error },
    )
  }
}

/** What a board with a modem needs beside its image: the headers of its build, and secrets.h. */
export type NetworkFiles = Readonly<Record<'wires_image.h' | 'modem_image.h' | 'secrets.h', string>>

/** Builds with the port's own Makefile, which is also what a maker uses. Throws FirmwareRefused. */
export async function buildAvr(image: ControllerImage, network?: NetworkFiles): Promise<string> {
  const beyond = [
    ...image.channels.flatMap((channel) => channel.gpios),
    ...image.inputs.flatMap((input) => input.gpios),
  ].find((gpio) => gpio > LAST_PIN)
  if (beyond !== undefined)
    throw new FirmwareRefused(
      `controller ${image.controller}: pin ${beyond} is not on the 8-bit board (0 to ${LAST_PIN}); its ` +
        'port drives no expander',
    )
  const files = { 'image.h': imageHeader(image), ...network }
  const digest = createHash('sha256').update(JSON.stringify(files))
  await filesDigest(RUNTIME_DIR, digest)
  if (network) await filesDigest(WIRES_DIR, digest)
  await filesDigest(AVR_DIR, digest)
  const program = join(OUT_DIR, `avr-${digest.digest('hex').slice(0, 16)}.elf`)
  if (existsSync(program)) return program
  const draft = join(OUT_DIR, `draft-${randomBytes(6).toString('hex')}`)
  await mkdir(draft, { recursive: true })
  try {
    for (const [name, text] of Object.entries(files)) await writeFile(join(draft, name), text)
    await tool(
      'make',
      '-s',
      '-C',
      AVR_DIR,
      `RUNTIME=${RUNTIME_DIR}`,
      `WIRES=${WIRES_DIR}`,
      `IMAGE=${draft}`,
      `OUT=${draft}`,
      join(draft, 'controller.elf'),
    )
    await rename(join(draft, 'controller.elf'), program)
  } finally {
    await rm(draft, { recursive: true, force: true })
  }
  return program
}

export const LOADER_DIR = join(HERE, 'ports', 'avr-loader')

/** The boot loader of the 8-bit board. Throws FirmwareRefused. */
export async function buildLoader(): Promise<string> {
  const digest = createHash('sha256')
  await filesDigest(LOADER_DIR, digest)
  const program = join(OUT_DIR, `loader-${digest.digest('hex').slice(0, 16)}.elf`)
  if (existsSync(program)) return program
  const draft = join(OUT_DIR, `draft-${randomBytes(6).toString('hex')}`)
  await mkdir(draft, { recursive: true })
  try {
    await tool('make', '-s', '-C', LOADER_DIR, `OUT=${draft}`, join(draft, 'loader.elf'))
    await rename(join(draft, 'loader.elf'), program)
  } finally {
    await rm(draft, { recursive: true, force: true })
  }
  return program
}

/** A program as hex records, as a loader or a programmer takes it. */
export async function hexOf(program: string): Promise<string> {
  const file = `${program}.${randomBytes(4).toString('hex')}.hex`
  try {
    await tool('avr-objcopy', '-O', 'ihex', '-R', '.eeprom', program, file)
    return await readFile(file, 'utf8')
  } finally {
    await rm(file, { force: true })
  }
}

export async function avrSize(program: string): Promise<AvrSize> {
  const [text, data, bss] = (await tool('avr-size', program)).split('\n')[1]!.trim().split(/\s+/).map(Number)
  return { flash: text! + data!, memory: data! + bss! }
}

/** The chip, as compiler and simulator call it. */
export const avrChip = async (): Promise<string> => (await tool('sh', join(AVR_DIR, 'chip.sh'))).trim()

export const loaderSimulator = (): Promise<string> => simulator(join(HERE, 'test', 'loaderSim.cpp'))

export async function simulator(harness = HARNESS): Promise<string> {
  const text = await readFile(harness, 'utf8')
  const program = join(OUT_DIR, `simavr-${createHash('sha256').update(text).digest('hex').slice(0, 16)}`)
  if (existsSync(program)) return program
  await mkdir(OUT_DIR, { recursive: true })
  const draft = `${program}.${randomBytes(4).toString('hex')}`
  await tool(
    'g++',
    '-O2',
    '-Wall',
    '-Wextra',
    '-Wno-missing-field-initializers',
    harness,
    '-lsimavr',
    '-lelf',
    '-o',
    draft,
  )
  await rename(draft, program)
  return program
}

/** What the simulated board did: outputs by their trace names, lines of its serial port, and what it took. */
export interface AvrRun {
  readonly outputs: readonly { readonly t: number; readonly out: string; readonly level: 0 | 1 }[]
  readonly lines: readonly string[]
  /** when each line's last character left, ms */
  readonly lineTimes: readonly number[]
  /** what must never be: a pin that leaves its safe level before the firmware has started */
  readonly troubles: readonly string[]
  /**
   * cycles of the longest pass of the loop, at 16 MHz: after, and within, the first 100 ms, when all inputs settle at
   * once
   */
  readonly worstCycles: number
  readonly startCycles: number
  readonly passes: number
  /** cycles of the longest decoding of a remote's frame, which comes before a pass */
  readonly decodeCycles: number
  /** when frames were handed over, ms: a frame ends after its quiet, and decoding takes some ms */
  readonly frames: readonly number[]
  /** bytes of memory in use at most, stack and all */
  readonly memory: number
}

/**
 * A pin is sampled at each millisecond's beginning; what a trace says for an instant stands half a millisecond before
 * it, µs.
 */
const BEFORE_US = 500
/** A frame ends once nothing has come for 6 ms (ports/avr/receiver.cpp); seen at the seventh sample, ms. */
const FRAME_ENDS_MS = 7

/**
 * From the character's command to its interrupt the simulator lets the time of two characters of 11 bits pass
 * (measured).
 */
const SIMULATED_BITS = 22

interface Step {
  readonly at: number
  readonly words: string
}

/**
 * Trace lines as the simulator's commands. Lines that the 8-bit board does not have (messages, link, readings, clock)
 * are left out.
 */
function stepsOf(image: ControllerImage, trace: readonly TraceLine[]): Step[] {
  const pins = new Map(
    image.inputs.flatMap((input) =>
      input.gpios.map((gpio, bit) => [input.kind === 'selector' ? `${input.id}.${bit + 1}` : input.id, gpio] as const),
    ),
  )
  const characterUs = image.serial ? Math.round((SIMULATED_BITS * 1_000_000) / image.serial.baud) : 0
  const start = trace[0]!.t
  const open = image.inputs.flatMap((input) =>
    input.gpios.map((gpio): Step => ({
      at: start * 1000 - 2 * BEFORE_US,
      words: `P ${gpio} ${1 - input.closedLevel}`,
    })),
  )
  const receiver =
    image.receiver <= LAST_PIN ? [{ at: start * 1000 - 2 * BEFORE_US, words: `P ${image.receiver} 1` }] : []
  const steps = trace.flatMap((line): Step[] => {
    const at = line.t * 1000
    if ('pin' in line) return [{ at: at - BEFORE_US, words: `P ${pins.get(line.pin)!} ${line.level}` }]
    if ('char' in line) return [{ at: at - BEFORE_US - characterUs, words: `C ${line.char.charCodeAt(0)}` }]
    if ('power' in line) return [{ at, words: line.power === 'on' ? 'R' : 'O' }]
    if ('end' in line) return [{ at: at + 900, words: 'E' }]
    if (!('edges' in line)) return []
    let edge = (line.t - FRAME_ENDS_MS) * 1000 + BEFORE_US - line.edges.reduce((sum, us) => sum + us, 0)
    return [...line.edges, 0].map((us, i): Step => {
      const step = { at: edge, words: `P ${image.receiver} ${i % 2 === 0 ? 0 : 1}` }
      edge += us
      return step
    })
  })
  const powered = trace.some((line) => 'power' in line && line.t === start) ? [] : [{ at: start * 1000, words: 'R' }]
  return [...open, ...receiver, ...powered, ...steps]
    .map((step, i) => ({ step, i }))
    .sort((a, b) => a.step.at - b.step.at || a.i - b.i)
    .map(({ step }) => step)
}

export interface Output {
  readonly name: string
  readonly activeLow: boolean
}

export const outputsByPin = (image: ControllerImage): ReadonlyMap<number, Output> =>
  new Map(
    image.channels.flatMap((channel) =>
      channel.gpios.map(
        (gpio, contact) => [gpio, { name: outputName(channel, contact), activeLow: channel.activeLow }] as const,
      ),
    ),
  )

/** Plays a trace on the simulated board. Throws FirmwareRefused. */
export async function runAvrTrace(
  program: string,
  image: ControllerImage,
  trace: readonly TraceLine[],
  longestMs = 120_000,
): Promise<AvrRun> {
  const names = outputsByPin(image)
  const shift = 1000 - trace[0]!.t // the simulator's time begins before the trace's, and never below nought
  const shifted = trace.map((line) => ({ ...line, t: line.t + shift }) as TraceLine)
  const commands = stepsOf(image, shifted)
    .map(({ at, words }) => `${words[0]} ${Math.max(0, at)}${words.slice(1)}\n`)
    .join('')
  const harness = await simulator()
  const chip = await avrChip()
  const pins = [...names].map(([gpio, { activeLow }]) => `${gpio}:${activeLow ? 1 : 0}`)
  return runOf(await simulated(harness, [program, chip, ...pins], commands, longestMs), names, shift)
}

/** The simulator's report for a program that is fed with commands. */
const simulated = (harness: string, words: readonly string[], commands: string, longestMs: number): Promise<string> =>
  new Promise((resolve, reject) => {
    const child = execFile(harness, words, { timeout: longestMs, maxBuffer: 1 << 26 }, (error, stdout) =>
      error && !stdout ? reject(new FirmwareRefused(`simavr: ${error.message}`)) : resolve(stdout),
    )
    child.stdin!.end(commands)
  })

/** The report's rows, one letter for each sort, read back into the trace's time. */
function runOf(text: string, names: ReadonlyMap<number, Output>, shift: number): AvrRun {
  const rows = text.split('\n').filter(Boolean)
  const of = (letter: string) => rows.filter((row) => row.startsWith(`${letter} `)).map((row) => row.slice(2))
  const [worst, passes] = (of('W')[0] ?? '0 0').split(' ').map(Number)
  return {
    outputs: of('D').map((row) => {
      const [us, pin, level] = row.split(' ').map(Number)
      const { name, activeLow } = names.get(pin!)!
      return { t: Math.floor(us! / 1000) - shift, out: name, level: ((level === 1) !== activeLow ? 1 : 0) as 0 | 1 }
    }),
    lines: of('L').map((row) => row.slice(row.indexOf(' ') + 1)),
    lineTimes: of('L').map((row) => Math.floor(Number(row.split(' ')[0]) / 1000) - shift),
    troubles: of('X'),
    worstCycles: worst!,
    startCycles: Number(of('Z')[0] ?? 0),
    passes: passes!,
    decodeCycles: Number(of('I')[0] ?? 0),
    frames: of('F').map((us) => Math.floor(Number(us) / 1000) - shift),
    memory: Number(of('M')[0] ?? 0),
  }
}
