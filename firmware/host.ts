import { execFile } from 'node:child_process'
import { createHash, randomBytes } from 'node:crypto'
import { existsSync } from 'node:fs'
import { mkdir, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { promisify } from 'node:util'
import type { ControllerImage, PairRole } from '../core/image'
import { imageHeader } from '../core/outputs'

/**
 * Compiles the firmware of a controller for this machine (the host port). Needs g++; live mode needs libmosquitto-dev.
 */

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

const liveSupported = (): boolean => existsSync('/usr/include/mosquitto.h')

/** What an object depends on beside its own source: the headers of its folder and of the runtime, and the flags. */
async function headersDigest(folders: readonly string[]): Promise<string> {
  const digest = createHash('sha256').update(String(liveSupported()))
  for (const folder of folders)
    for (const name of (await readdir(folder)).filter((one) => one.endsWith('.h')).sort())
      digest.update(name).update(await readFile(join(folder, name)))
  return digest.digest('hex')
}

/**
 * Compiles a source once for each state of it and of its headers. The object appears whole or not at all, so that
 * several processes may ask at the same time; a change of one file costs the compilation of that file only.
 */
async function objectOf(source: string, text: string, headers: string, flags: readonly string[]): Promise<string> {
  const key = createHash('sha256')
    .update(headers)
    .update(text)
    .update(flags.filter((flag) => !flag.startsWith('-I')).join(' '))
    .digest('hex')
    .slice(0, 20)
  const object = join(OUT_DIR, 'objects', `${source.split('/').at(-1)!.replace('.cpp', '')}-${key}.o`)
  if (existsSync(object)) return object
  await mkdir(dirname(object), { recursive: true })
  const draft = `${object}.${randomBytes(4).toString('hex')}`
  await compiler(...flags, '-c', source, '-o', draft)
  await rename(draft, object)
  return object
}

export interface HostOptions {
  readonly runtimeDir?: string
  /** with AddressSanitizer and UndefinedBehaviorSanitizer: the first misstep ends the program and names its place */
  readonly sanitize?: boolean
}

const SANITIZERS = ['-fsanitize=address,undefined', '-fno-sanitize-recover=all', '-fno-omit-frame-pointer', '-g1']
const sanitizers = (options: HostOptions): readonly string[] => (options.sanitize ? SANITIZERS : [])

/** Objects that all controllers share: the runtime, and the host port but for the one file that sees image.h. */
async function sharedObjects(runtimeDir: string, more: readonly string[]): Promise<string[]> {
  const headers = await headersDigest([runtimeDir, HOST_DIR])
  const hostSources = ['json', 'events', 'output', 'trace', 'main', ...(liveSupported() ? ['live', 'reach'] : [])].map(
    (name) => join(HOST_DIR, `${name}.cpp`),
  )
  const compile = async (source: string, flags: readonly string[]) =>
    objectOf(source, await readFile(source, 'utf8'), headers, [...flags, ...more, `-I${runtimeDir}`])
  const runtime = await runtimeSources(runtimeDir)
  const hostFlags = [...STRICT_FLAGS, '-O1', ...(liveSupported() ? ['-DVESTIBULE_LIVE'] : [])]
  return inPairs([
    ...runtime.map((source) => () => compile(source, RUNTIME_FLAGS)),
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
  readonly live: boolean
}

/** Builds the host program of an image; the same image and runtime give the same file. */
export async function buildHost(image: ControllerImage, options: HostOptions = {}): Promise<HostBuild> {
  const runtimeDir = options.runtimeDir ?? RUNTIME_DIR
  const more = sanitizers(options)
  const header = imageHeader(image)
  const headers = createHash('sha256')
    .update(await headersDigest([runtimeDir, HOST_DIR]))
    .update(header)
    .digest('hex')
  const objects = await sharedObjects(runtimeDir, more)
  const program = join(
    OUT_DIR,
    `controller-${createHash('sha256').update(objects.join('\n')).update(header).digest('hex').slice(0, 16)}`,
  )
  if (!existsSync(program)) {
    const draft = join(OUT_DIR, `draft-${randomBytes(6).toString('hex')}`)
    await mkdir(draft, { recursive: true })
    await writeFile(join(draft, 'image.h'), header)
    const source = join(HOST_DIR, 'controller.cpp')
    const object = await objectOf(source, await readFile(source, 'utf8'), headers, [
      ...STRICT_FLAGS,
      '-O1',
      ...more,
      `-I${runtimeDir}`,
      `-I${draft}`,
    ])
    await compiler(
      ...more,
      object,
      ...objects,
      ...(liveSupported() ? ['-lmosquitto'] : []),
      '-o',
      join(draft, 'controller'),
    )
    await rename(join(draft, 'controller'), program)
    await rm(draft, { recursive: true, force: true })
  }
  return { program, live: liveSupported() }
}

/** Plays several traces in one process, each on a controller of its own; their outputs in the same order. */
export async function runHostTraces(
  program: string,
  traces: readonly string[],
  longestMs?: number,
  as: PairRole = 'main',
): Promise<string[]> {
  const out = await runHostTrace(program, traces.map((trace) => `${trace}~\n`).join(''), longestMs, as)
  return out.split('~\n').slice(0, traces.length)
}

/**
 * Plays a trace (JSON lines) through the firmware and returns what it prints; a program that runs longer than that is
 * killed and refused.
 */
export function runHostTrace(program: string, trace: string, longestMs = 0, as: PairRole = 'main'): Promise<string> {
  return new Promise((resolve, reject) => {
    const child = execFile(
      program,
      ['trace', ...(as === 'mirror' ? ['mirror'] : [])],
      { maxBuffer: 1 << 28, timeout: longestMs },
      (error, stdout, stderr) =>
        error ? reject(new FirmwareRefused(stderr.trim() || error.message)) : resolve(stdout),
    )
    child.stdin!.end(trace)
  })
}
