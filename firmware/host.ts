import { execFile } from 'node:child_process'
import { createHash, randomBytes } from 'node:crypto'
import { existsSync } from 'node:fs'
import { mkdir, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { promisify } from 'node:util'
import type { ControllerImage } from '../core/image'
import { imageHeader } from '../core/outputs'

/** Compiles the firmware of a controller for this machine (the host port). Needs g++; live mode needs libmosquitto-dev. */

const run = promisify(execFile)
const HERE = dirname(fileURLToPath(import.meta.url))
export const RUNTIME_DIR = join(HERE, 'runtime')
const HOST_DIR = join(HERE, 'ports', 'host')
const OUT_DIR = join(HERE, 'out')

export const STRICT_FLAGS = ['-std=c++11', '-Wall', '-Wextra', '-Werror']
const RUNTIME_FLAGS = [...STRICT_FLAGS, '-fno-exceptions', '-fno-rtti', '-O2']

/** The compiler said no, or is missing. */
export class FirmwareRefused extends Error {
  readonly code = 'firmware-refused'
}

async function compiler(...words: string[]): Promise<void> {
  try {
    await run('g++', words, { maxBuffer: 1 << 24 })
  } catch (error) {
    const failed = error as NodeJS.ErrnoException & { stderr?: string }
    if (failed.code === 'ENOENT') throw new FirmwareRefused('g++ is not on this machine: install it (Debian: apt-get install g++)', { cause: error })
    throw new FirmwareRefused(`g++ refused the firmware:\n${failed.stderr ?? failed.message}`, { cause: error })
  }
}

export const runtimeSources = async (dir = RUNTIME_DIR): Promise<string[]> => (await readdir(dir)).filter((name) => name.endsWith('.cpp')).sort().map((name) => join(dir, name))

const liveSupported = (): boolean => existsSync('/usr/include/mosquitto.h')

/**
 * Objects that all controllers share, compiled once for each state of the sources. The folder appears whole or not at all,
 * so that several processes may ask at the same time.
 */
async function sharedObjects(runtimeDir: string): Promise<string[]> {
  const hostSources = ['json', 'events', 'output', 'trace', 'main', ...(liveSupported() ? ['live'] : [])].map((name) => join(HOST_DIR, `${name}.cpp`))
  const sources = [...(await runtimeSources(runtimeDir)), ...hostSources]
  const digest = createHash('sha256')
  const folders = [runtimeDir, HOST_DIR]
  for (const folder of folders) for (const name of (await readdir(folder)).sort()) digest.update(name).update(await readFile(join(folder, name)))
  digest.update(String(liveSupported()))
  const folder = join(OUT_DIR, `objects-${digest.digest('hex').slice(0, 16)}`)
  const objectOf = (source: string, inside: string) => join(inside, `${source.startsWith(HOST_DIR) ? 'host' : 'runtime'}-${source.split('/').at(-1)!.replace('.cpp', '.o')}`)
  if (!existsSync(folder)) {
    const draft = `${folder}.${randomBytes(4).toString('hex')}`
    await mkdir(draft, { recursive: true })
    for (const source of sources) {
      const flags = source.startsWith(HOST_DIR) ? [...STRICT_FLAGS, '-O1', ...(liveSupported() ? ['-DVESTIBULE_LIVE'] : [])] : RUNTIME_FLAGS
      await compiler(...flags, `-I${runtimeDir}`, '-c', source, '-o', objectOf(source, draft))
    }
    await rename(draft, folder).catch(() => rm(draft, { recursive: true, force: true }))
  }
  return sources.map((source) => objectOf(source, folder))
}

export interface HostBuild {
  /** path of the program */
  readonly program: string
  readonly live: boolean
}

/** Builds the host program of an image; the same image and runtime give the same file. */
export async function buildHost(image: ControllerImage, runtimeDir = RUNTIME_DIR): Promise<HostBuild> {
  const objects = await sharedObjects(runtimeDir)
  const key = createHash('sha256').update(objects.join('\n')).update(imageHeader(image)).digest('hex').slice(0, 16)
  const program = join(OUT_DIR, `controller-${key}`)
  if (!existsSync(program)) {
    const draft = join(OUT_DIR, `draft-${randomBytes(6).toString('hex')}`)
    await mkdir(draft, { recursive: true })
    await writeFile(join(draft, 'image.h'), imageHeader(image))
    const object = join(draft, 'controller.o')
    await compiler(...STRICT_FLAGS, '-O1', `-I${runtimeDir}`, `-I${draft}`, '-c', join(HOST_DIR, 'controller.cpp'), '-o', object)
    await compiler(object, ...objects, ...(liveSupported() ? ['-lmosquitto'] : []), '-o', join(draft, 'controller'))
    await rename(join(draft, 'controller'), program)
    await rm(draft, { recursive: true, force: true })
  }
  return { program, live: liveSupported() }
}

/** Plays a trace (JSON lines) through the firmware and returns what it prints. */
export function runHostTrace(program: string, trace: string): Promise<string> {
  return new Promise((resolve, reject) => {
    const child = execFile(program, ['trace'], { maxBuffer: 1 << 28 }, (error, stdout, stderr) => (error ? reject(new FirmwareRefused(stderr.trim() || error.message)) : resolve(stdout)))
    child.stdin!.end(trace)
  })
}
