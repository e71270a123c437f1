import { execFile } from 'node:child_process'
import { createHash, randomBytes } from 'node:crypto'
import { existsSync } from 'node:fs'
import { mkdir, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { promisify } from 'node:util'
import { linksOf, type ControllerImage, type PairRole } from '../core/image'
import { imageHeader, wiresHeader } from '../core/outputs'
import { topicPrefix } from '../core/topics'
import { ownLink, type ControllerWires } from '../core/wires'

/**
 * Compiles the firmware of a controller for this machine (the host port). Needs g++.
 */

const run = promisify(execFile)
const HERE = dirname(fileURLToPath(import.meta.url))
export const RUNTIME_DIR = join(HERE, 'runtime')
export const WIRES_DIR = join(HERE, 'wires')
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
    if (failed.code === 'ENOENT')
      throw new FirmwareRefused('g++ is not on this machine: install it (Debian: apt-get install g++)', {
        cause: error,
      })
    throw new FirmwareRefused(`g++ refused the firmware:\n${failed.stderr ?? failed.message}`, { cause: error })
  }
}

export const runtimeSources = async (dir = RUNTIME_DIR): Promise<string[]> =>
  (await readdir(dir))
    .filter((name) => name.endsWith('.cpp'))
    .sort()
    .map((name) => join(dir, name))

/** What an object depends on beside its own source: the headers of its folder and of the runtime, and the flags. */
async function headersDigest(folders: readonly string[]): Promise<string> {
  const digest = createHash('sha256')
  for (const folder of folders)
    for (const name of (await readdir(folder)).filter((one) => one.endsWith('.h')).sort())
      digest.update(name).update(await readFile(join(folder, name)))
  return digest.digest('hex')
}

/**
 * Compiles a source once for each state of it and of its headers. The object appears whole or not at all, so that
 * several processes may ask at the same time; a change of one file costs the compilation of that file only.
 */
async function objectOf(
  source: string,
  text: string,
  headers: string,
  flags: readonly string[],
  outDir = OUT_DIR,
): Promise<string> {
  const key = createHash('sha256')
    .update(headers)
    .update(text)
    .update(flags.filter((flag) => !flag.startsWith('-I')).join(' '))
    .digest('hex')
    .slice(0, 20)
  const object = join(outDir, 'objects', `${source.split('/').at(-1)!.replace('.cpp', '')}-${key}.o`)
  if (existsSync(object)) return object
  await mkdir(dirname(object), { recursive: true })
  const draft = `${object}.${randomBytes(4).toString('hex')}`
  await compiler(...flags, '-c', source, '-o', draft)
  await rename(draft, object)
  return object
}

export interface HostOptions {
  readonly runtimeDir?: string
  readonly wiresDir?: string
  /** how its links reach their services; not said: each over the broker of the house */
  readonly wires?: ControllerWires
  /** where the program goes; not said: among what is kept from run to run. One with secrets belongs elsewhere */
  readonly outDir?: string
  /** text of secrets.h; not said: one in which everything is empty */
  readonly secrets?: string
  /** with AddressSanitizer and UndefinedBehaviorSanitizer: the first misstep ends the program and names its place */
  readonly sanitize?: boolean
}

const SANITIZERS = ['-fsanitize=address,undefined', '-fno-sanitize-recover=all', '-fno-omit-frame-pointer', '-g1']
const sanitizers = (options: HostOptions): readonly string[] => (options.sanitize ? SANITIZERS : [])

/** Objects that all controllers share: the runtime, and the host port but for the one file that sees image.h. */
async function sharedObjects(runtimeDir: string, wiresDir: string, more: readonly string[]): Promise<string[]> {
  const headers = await headersDigest([runtimeDir, wiresDir, HOST_DIR])
  const hostSources = ['json', 'events', 'output', 'trace', 'wires', 'main', 'sockets', 'live'].map((name) =>
    join(HOST_DIR, `${name}.cpp`),
  )
  const compile = async (source: string, flags: readonly string[]) =>
    objectOf(source, await readFile(source, 'utf8'), headers, [...flags, ...more, `-I${runtimeDir}`, `-I${wiresDir}`])
  const runtime = await runtimeSources(runtimeDir)
  const wires = await runtimeSources(wiresDir)
  const hostFlags = [...STRICT_FLAGS, '-O1']
  return inPairs([
    ...[...runtime, ...wires].map((source) => () => compile(source, RUNTIME_FLAGS)),
    ...hostSources.map((source) => () => compile(source, hostFlags)),
  ])
}

/** Two compilations at a time: as many as a small machine has cores. */
async function inPairs<T>(works: readonly (() => Promise<T>)[]): Promise<T[]> {
  const done: T[] = []
  for (let i = 0; i < works.length; i += 2)
    done.push(...(await Promise.all(works.slice(i, i + 2).map((work) => work()))))
  return done
}

export interface HostBuild {
  /** path of the program */
  readonly program: string
}

/** All links over the broker of the house, as it is without wires. */
export const houseWires = (image: ControllerImage): ControllerWires => ({
  site: image.site,
  controller: image.controller,
  prefix: topicPrefix(image.site, image.controller),
  links: linksOf(image).map(({ id }) => ownLink(image, id)),
})

export const NO_SECRETS = `#define VESTIBULE_BROKER_ADDRESS "127.0.0.1"
#define VESTIBULE_BROKER_PORT 1883
#define VESTIBULE_BROKER_USER ""
#define VESTIBULE_BROKER_PASSWORD ""
`

/** Builds the host program of an image; the same image and runtime give the same file. */
export async function buildHost(image: ControllerImage, options: HostOptions = {}): Promise<HostBuild> {
  const runtimeDir = options.runtimeDir ?? RUNTIME_DIR
  const more = sanitizers(options)
  const wiresDir = options.wiresDir ?? WIRES_DIR
  const written = {
    'image.h': imageHeader(image),
    'wires_image.h': wiresHeader(options.wires ?? houseWires(image)),
    'secrets.h': options.secrets ?? NO_SECRETS,
  }
  const header = Object.values(written).join('\n')
  const headers = createHash('sha256')
    .update(await headersDigest([runtimeDir, wiresDir, HOST_DIR]))
    .update(header)
    .digest('hex')
  const objects = await sharedObjects(runtimeDir, wiresDir, more)
  const outDir = options.outDir ?? OUT_DIR
  const program = join(
    outDir,
    `controller-${createHash('sha256').update(objects.join('\n')).update(header).digest('hex').slice(0, 16)}`,
  )
  if (!existsSync(program)) {
    const draft = join(outDir, `draft-${randomBytes(6).toString('hex')}`)
    await mkdir(draft, { recursive: true })
    for (const [name, text] of Object.entries(written)) await writeFile(join(draft, name), text)
    const source = join(HOST_DIR, 'controller.cpp')
    const object = await objectOf(
      source,
      await readFile(source, 'utf8'),
      headers,
      [...STRICT_FLAGS, '-O1', ...more, `-I${runtimeDir}`, `-I${wiresDir}`, `-I${draft}`],
      outDir,
    )
    await compiler(...more, object, ...objects, '-o', join(draft, 'controller'))
    await rename(join(draft, 'controller'), program)
    await rm(draft, { recursive: true, force: true })
  }
  return { program }
}

/** Plays several traces in one process, each on a controller of its own; their outputs in the same order. */
export async function runHostTraces(
  program: string,
  traces: readonly string[],
  longestMs?: number,
  as: PairRole | 'wires' = 'main',
): Promise<string[]> {
  const out = await runHostTrace(program, traces.map((trace) => `${trace}~\n`).join(''), longestMs, as)
  return out.split('~\n').slice(0, traces.length)
}

/**
 * Plays a trace (JSON lines) through the firmware and returns what it prints; a program that runs longer than that is
 * killed and refused.
 */
export function runHostTrace(
  program: string,
  trace: string,
  longestMs = 0,
  as: PairRole | 'wires' = 'main',
): Promise<string> {
  return new Promise((resolve, reject) => {
    const child = execFile(
      program,
      as === 'wires' ? ['wires'] : ['trace', ...(as === 'mirror' ? ['mirror'] : [])],
      { maxBuffer: 1 << 28, timeout: longestMs },
      (error, stdout, stderr) =>
        error ? reject(new FirmwareRefused(stderr.trim() || error.message)) : resolve(stdout),
    )
    child.stdin!.end(trace)
  })
}
