import { execFile } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync } from 'node:fs'
import { mkdir, mkdtemp, readFile, rename, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { promisify } from 'node:util'
import type { ControllerImage, PairRole } from '../core/image'
import { imageHeader, wiresHeader } from '../core/outputs'
import type { ControllerWires } from '../core/wires'
import { FirmwareRefused, houseWires, NO_SECRETS, RUNTIME_DIR, runtimeSources, STRICT_FLAGS, WIRES_DIR } from './host'

/**
 * A further instruction set on the desk: the firmware compiled for the RISC-V of a small Wi-Fi board (rv32imc), run
 * under an emulator with files of the current folder. Needs gcc-riscv64-unknown-elf, picolibc and qemu-system-
 * riscv32.
 */

const run = promisify(execFile)
const HERE = dirname(fileURLToPath(import.meta.url))
const BARE_DIR = join(HERE, 'ports', 'bare')
const OUT_DIR = join(HERE, 'out', 'riscv')
const CXX = 'riscv64-unknown-elf-g++'
// there is no library of C++ for it, so the driver of C links
const LINKER = 'riscv64-unknown-elf-gcc'
const MACHINE = ['-march=rv32imc', '-mabi=ilp32', '--specs=picolibc.specs']
const FLAGS = [...STRICT_FLAGS, ...MACHINE, '-O2', '-fno-exceptions', '-fno-rtti', '-ffunction-sections']
const PLACES = ['__flash=0x80000000', '__flash_size=0x400000', '__ram=0x80400000', '__ram_size=0x400000'].map(
  (place) => `-Wl,--defsym=${place}`,
)

export const riscvSupported = (): boolean =>
  existsSync('/usr/bin/riscv64-unknown-elf-g++') &&
  existsSync('/usr/bin/qemu-system-riscv32') &&
  existsSync('/usr/lib/picolibc')

async function compiles(command: string, words: readonly string[]): Promise<void> {
  try {
    await run(command, [...words], { maxBuffer: 1 << 24 })
  } catch (error) {
    throw new FirmwareRefused(`${command} refused the firmware:\n${(error as { stderr?: string }).stderr ?? ''}`, {
      cause: error,
    })
  }
}

export interface RiscvOptions {
  readonly wires?: ControllerWires
  readonly secrets?: string
}

/** Builds the program of an image for the emulator; the same sources give the same file. */
export async function buildRiscv(image: ControllerImage, options: RiscvOptions = {}): Promise<string> {
  const written = {
    'image.h': imageHeader(image),
    'wires_image.h': wiresHeader(options.wires ?? houseWires(image)),
    'secrets.h': options.secrets ?? NO_SECRETS,
  }
  const shared = [...(await runtimeSources()), ...(await runtimeSources(WIRES_DIR)), join(BARE_DIR, 'json.cpp')]
  const sources = [...shared, join(BARE_DIR, 'main.cpp')]
  const digest = createHash('sha256')
  for (const text of Object.values(written)) digest.update(text)
  for (const source of sources) digest.update(await readFile(source))
  const program = join(OUT_DIR, `${digest.digest('hex').slice(0, 20)}.elf`)
  if (existsSync(program)) return program
  await mkdir(OUT_DIR, { recursive: true })
  const folder = await mkdtemp(join(tmpdir(), 'vestibule-riscv-'))
  for (const [name, text] of Object.entries(written)) await writeFile(join(folder, name), text)
  const includes = [`-I${RUNTIME_DIR}`, `-I${WIRES_DIR}`, `-I${BARE_DIR}`, `-I${folder}`]
  const objects: string[] = []
  for (const source of sources) {
    const object = await objectOf(source, source.endsWith('main.cpp') ? folder : OUT_DIR, includes)
    objects.push(object)
  }
  const link = ['--oslib=semihost', '--crt0=hosted', ...PLACES, '-Wl,--gc-sections']
  await compiles(LINKER, [...MACHINE, ...objects, ...link, '-o', join(folder, 'program.elf')])
  await rename(join(folder, 'program.elf'), program).catch(async () => {
    await writeFile(program, await readFile(join(folder, 'program.elf')))
  })
  await rm(folder, { recursive: true, force: true })
  return program
}

/** What knows no image is compiled once for each state of its source and of the headers. */
async function objectOf(source: string, folder: string, includes: readonly string[]): Promise<string> {
  const digest = createHash('sha256').update(await readFile(source))
  for (const header of ['vestibule.h', 'tables.h', 'inside.h', 'kinds.h', 'text.h'])
    digest.update(await readFile(join(RUNTIME_DIR, header)))
  for (const header of ['wires.h', 'engine.h', 'mqtt.h', 'request.h', 'transports.h'])
    digest.update(await readFile(join(WIRES_DIR, header)))
  const object = join(folder, `${source.split('/').at(-1)!}-${digest.digest('hex').slice(0, 16)}.o`)
  if (!existsSync(object)) await compiles(CXX, [...FLAGS, ...includes, '-c', source, '-o', object])
  return object
}

/** Plays traces, each on a controller of its own; their outputs in the same order. */
export async function runRiscvTraces(
  program: string,
  traces: readonly string[],
  as: PairRole | 'wires' = 'main',
): Promise<string[]> {
  const folder = await mkdtemp(join(tmpdir(), 'vestibule-riscv-'))
  try {
    const first = as === 'main' ? '' : `${as}\n`
    await writeFile(join(folder, 'in.jsonl'), first + traces.map((trace) => `${trace}~\n`).join(''))
    await run(
      'qemu-system-riscv32',
      [
        ...['-machine', 'virt', '-bios', 'none', '-nographic', '-monitor', 'none', '-serial', 'none'],
        ...['-semihosting-config', 'enable=on,target=native', '-kernel', program],
      ],
      { cwd: folder, timeout: 120_000, maxBuffer: 1 << 24 },
    )
    const out = await readFile(join(folder, 'out.jsonl'), 'utf8')
    return out.split('~\n').slice(0, traces.length)
  } catch (error) {
    throw new FirmwareRefused(`the emulator did not play the trace: ${(error as Error).message.split('\n')[0]}`, {
      cause: error,
    })
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
