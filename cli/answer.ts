import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { TraceRefused } from '../core/device'
import { LARGEST_SITE_BYTES, type Site } from '../core/site'
import { FirmwareRefused } from '../firmware/host'
import { exportSite } from './exportCommand'
import { irDecode, irEncode } from './infrared'
import type { LiveRun } from './live'
import {
  build,
  check,
  importTable,
  loadSite,
  pins,
  readFile,
  run,
  Unusable,
  type Answer,
  type Source,
} from './commands'
import { COMMANDS, HELP, helpOf, OPTIONS, type Option } from './usage'

const LARGEST_PEM_BYTES = 1024 * 1024
const { version: VERSION } = JSON.parse(readFileSync(new URL('../package.json', import.meta.url), 'utf8')) as {
  version: string
}

type Words = ReturnType<typeof readWords>

function readWords(args: readonly string[]) {
  try {
    return parseArgs({ args: [...args], options: OPTIONS, allowPositionals: true })
  } catch (error) {
    throw new Unusable((error as Error).message.split('. ')[0]!)
  }
}

function needed(value: string | undefined, name: string): string {
  if (value === undefined) throw new Unusable(`${name} is needed; see "vestibule help"`)
  return value
}

function portOf(text: string | undefined, usual: number, name: string): number {
  const port = text === undefined ? usual : Number(text)
  if (!Number.isInteger(port) || port < 0 || port > 65_535) throw new Unusable(`${name} ${text}: is not a port`)
  return port
}

const dataFolder = (values: Words['values']): string =>
  values.data ?? process.env['VESTIBULE_DATA'] ?? join(process.cwd(), 'data')

/** Writes a backup, or brings one back. */
async function keepCopy(command: 'backup' | 'restore', path: string | undefined, words: Words): Promise<Answer> {
  const { backUp, restore, tryBackup } = await import('../server')
  const [file, folder] = [needed(path, 'FILE'), dataFolder(words.values)]
  if (command === 'restore') {
    restore(file, folder)
    return { exit: 0, text: `${file} is back in ${folder}: start with "vestibule serve --data ${folder}"\n` }
  }
  const { bytes } = backUp(folder, file)
  const { sites, builds, entries } = tryBackup(file)
  return {
    exit: 0,
    text:
      `${file}: ${Math.ceil(bytes / 1024)} kB. Tried by restoring: ${sites} sites, ${builds} builds, ${entries} entries ` +
      'of the log. It opens every credential: keep it as you keep keys\n',
  }
}

/** Certificate and key, as PEM; null: none were named. */
function tlsOf(cert: string | undefined, key: string | undefined): { cert: string; key: string } | null {
  if (cert === undefined && key === undefined) return null
  const read = (path: string | undefined, name: string) => readFile(needed(path, name), LARGEST_PEM_BYTES)
  return { cert: read(cert, '--cert'), key: read(key, '--key') }
}

async function serve({ values }: Words): Promise<Answer> {
  // the server and its parts are loaded only when they are asked for: the other commands start in half the time
  const { startServer } = await import('../server')
  const server = await startServer({
    dataFolder: dataFolder(values),
    port: portOf(values.port, 4100, '--port'),
    host: values.host ?? '127.0.0.1',
    names: values.name ?? [],
    brokerPort: portOf(values['broker-port'], 1883, '--broker-port'),
    doorPort: portOf(values['service-port'], 18_901, '--service-port'),
    brokerHost: values['broker-host'] ?? null,
    tls: tlsOf(values.cert, values.key),
    brokerUrl: process.env['VESTIBULE_BROKER_URL'] ?? null,
    passphrase: process.env['VESTIBULE_PASSPHRASE'] ?? null,
    seed: !values['no-demo'],
    quiet: false,
  })
  const stop = () => void server.close().then(() => process.exit(0))
  process.once('SIGINT', stop)
  process.once('SIGTERM', stop)
  return { exit: 0, text: `Vestibule is at ${server.url} (broker ${server.brokerUrl.replace(/\/\/[^@/]*@/, '//')})\n` }
}

async function live(source: Source, { values }: Words): Promise<Answer> {
  const { startLive } = await import('./live')
  const site = loadSite(source)
  const run = await startLive(site, portOf(values.port, values.accept ? 0 : 4100, '--port'))
  if (values.accept) return acceptance(site, run, values.json === true)
  const stop = () => void run.close().then(() => process.exit(0))
  process.once('SIGINT', stop)
  process.once('SIGTERM', stop)
  const print = async (): Promise<void> => {
    for (const line of await run.news()) process.stdout.write(`${line}\n`)
  }
  setInterval(() => void print().catch(() => undefined), 300)
  return { exit: 0, text: `The rig is at ${run.url}\n` }
}

async function acceptance(site: Site, run: LiveRun, json: boolean): Promise<Answer> {
  const { accept, acceptanceTable } = await import('./acceptance')
  try {
    const rows = await accept(site, run)
    const failed = rows.some(({ result }) => result === 'failed')
    return { exit: failed ? 1 : 0, text: json ? `${JSON.stringify(rows, null, 2)}\n` : acceptanceTable(rows) }
  } finally {
    await run.close()
  }
}

function infrared({ values, positionals }: Words, readInput: () => string): Answer {
  const [, what, path] = positionals
  if (what === 'decode') return irDecode(path, readInput, { json: values.json === true, lines: values.lines === true })
  if (what === 'encode')
    return irEncode(
      needed(values.protocol, '--protocol'),
      needed(values.address, '--address'),
      needed(values.command, '--command'),
      values.toggle,
      values.format ?? 'json',
    )
  throw new Unusable(`ir ${what ?? ''}: is neither decode nor encode; see "vestibule help"`)
}

const LARGEST_TEXT_BYTES = 64 * 1024 * 1024

/** A file by its path, or standard input, which is read once. */
const sources = (readInput: () => string) => {
  let input: string | undefined
  return (path: string, largest = LARGEST_SITE_BYTES): Source => ({
    name: path === '-' ? 'standard input' : path,
    text: path === '-' ? (input ??= readInput()) : readFile(path, largest),
  })
}

/** Refuses words and options that the command does not take. */
function checkWords(name: string, { values, positionals }: Words): void {
  const { words, options } = COMMANDS[name]!
  const rest = positionals.slice(1)
  if (rest.length > words[1])
    throw new Unusable(`${name}: “${rest[words[1]]!}” is one word too many; see "vestibule ${name} -h"`)
  const stray = (Object.keys(values) as Option[]).find((option) => !options.includes(option))
  if (stray) throw new Unusable(`${name}: --${stray} is no option of it; see "vestibule ${name} -h"`)
}

async function answer(words: Words, readInput: () => string): Promise<Answer> {
  const { values, positionals } = words
  const [command, path] = positionals
  if (values.version) return { exit: 0, text: `${VERSION}\n` }
  if (command === undefined || command === 'help') return { exit: 0, text: HELP }
  if (!Object.hasOwn(COMMANDS, command)) throw new Unusable(`there is no command "${command}"; see "vestibule help"`)
  if (values.help) return { exit: 0, text: helpOf(command) }
  checkWords(command, words)
  const source = sources(readInput)
  const site = (): Source => source(needed(path, 'SITE.json'))
  switch (command) {
    case 'serve':
      return serve(words)
    case 'trial':
    case 'accept':
    case 'measure':
    case 'faults':
      return inHouse(command, words, site(), source)
    case 'wave':
      return waves(words, (path) => source(path, LARGEST_TEXT_BYTES))
    case 'live':
      return live(site(), words)
    case 'backup':
    case 'restore':
      return keepCopy(command, path, words)
    case 'check':
      return check(site(), values.json === true)
    case 'pins':
      return pins(site(), values.json === true)
    case 'build':
      return build(site(), needed(values.out, '--out'), values.controller, values.json === true)
    case 'run':
      return runTrace(words, site(), source)
    case 'import':
      return takeTable(words, site(), source)
    case 'ir':
      return infrared(words, readInput)
  }
  return exportSite(path === undefined ? null : site(), needed(values.format, '--format'), values.controller)
}

function runTrace({ values }: Words, site: Source, source: (path: string, largest: number) => Source): Promise<Answer> {
  const id = needed(values.controller, '--controller')
  return run(site, id, source(needed(values.trace, '--trace'), LARGEST_TEXT_BYTES), values.engine ?? 'core')
}

/** What is done in the simulated house, or by its parts. */
function inHouse(
  command: 'trial' | 'accept' | 'measure' | 'faults',
  words: Words,
  site: Source,
  source: (path: string) => Source,
): Promise<Answer> {
  switch (command) {
    case 'trial':
      return tryHouse(words, site, source)
    case 'accept':
      return acceptHouse(words, site)
    case 'measure':
      return measureHouse(words, site, source)
    case 'faults':
      return failures(words, site)
  }
}

async function tryHouse({ values }: Words, site: Source, source: (path: string) => Source): Promise<Answer> {
  const { library, trial } = await import('./trial')
  if (values.print) return library(site)
  const { vcd, csv } = values
  const scenario = values.scenario === undefined ? null : source(values.scenario)
  return trial(site, scenario, { seed: numberOf(values.seed, 1, '--seed'), json: values.json === true, vcd, csv })
}

async function acceptHouse({ values }: Words, site: Source): Promise<Answer> {
  const { acceptInHouse } = await import('./acceptRun')
  if (values.format !== undefined && values.format !== 'markdown')
    throw new Unusable(`--format ${values.format}: the report is written as markdown, or with --json`)
  const form = values.json ? 'json' : (values.format ?? 'text')
  return acceptInHouse(site, numberOf(values.seed, 1, '--seed'), form as 'text' | 'json' | 'markdown')
}

async function measureHouse({ values }: Words, site: Source, source: (path: string) => Source): Promise<Answer> {
  const { measure } = await import('./measure')
  return measure(site, values.scenario === undefined ? null : source(values.scenario), {
    samples: numberOf(values.samples, 100, '--samples'),
    seed: numberOf(values.seed, 1, '--seed'),
    json: values.json === true,
  })
}

async function failures({ values }: Words, site: Source): Promise<Answer> {
  const { faults } = await import('./faults')
  return faults(site, { from: values.from, question: values.question, json: values.json === true })
}

async function waves({ values, positionals }: Words, source: (path: string) => Source): Promise<Answer> {
  const { bounce, lay } = await import('./wave')
  const [, what, path] = positionals
  const capture = (): Source => source(needed(path, 'CAPTURE.vcd'))
  const json = values.json === true
  if (what === 'bounce') return bounce(capture(), values.signal, json)
  if (what !== 'lay') throw new Unusable(`wave ${what ?? ''}: is neither bounce nor lay; see "vestibule help"`)
  const run = source(needed(values.run, '--run'))
  return lay(capture(), needed(values.signal, '--signal'), run, needed(values.lane, '--lane'), json)
}

function numberOf(text: string | undefined, usual: number, name: string): number {
  const value = text === undefined ? usual : Number(text)
  if (!Number.isInteger(value) || value < 0 || value > 1_000_000_000)
    throw new Unusable(`${name} ${text}: is not a whole number from 0`)
  return value
}

function takeTable({ values }: Words, site: Source, source: (path: string, largest: number) => Source): Answer {
  const { channels, points, out } = values
  if ((channels === undefined) === (points === undefined))
    throw new Unusable('import: one of --channels and --points is needed; see "vestibule import -h"')
  const kind = channels === undefined ? 'points' : 'channels'
  return importTable(site, kind, source((channels ?? points)!, LARGEST_TEXT_BYTES), out ?? null, values.json === true)
}

/** Refusals of the server carry a code, so that they are known without loading it. */
const isStartRefused = (error: unknown): error is Error =>
  error instanceof Error && ['start-refused', 'store-refused'].includes(String((error as { code?: unknown }).code))

/** What a command line gives: its exit code and what it says on standard output and standard error. */
export interface Said {
  readonly exit: number
  readonly out: string
  readonly err: string
}

/**
 * Answers a command line. `readInput` gives the whole of standard input; it is called only by commands that read it.
 */
export async function answerTo(args: readonly string[], readInput: () => string): Promise<Said> {
  try {
    const { exit, text } = await answer(readWords(args), readInput)
    return { exit, out: text, err: '' }
  } catch (error) {
    if (
      error instanceof Unusable ||
      error instanceof TraceRefused ||
      error instanceof FirmwareRefused ||
      isStartRefused(error)
    )
      return { exit: 2, out: '', err: `vestibule: ${error.message}\n` }
    throw error
  }
}
