import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { TraceRefused } from '../core/device'
import { FirmwareRefused } from '../firmware/host'
import { irDecode, irEncode } from './infrared'
import { build, check, exportSite, pins, readFile, run, Unusable, type Answer } from './commands'

const HELP = `vestibule: every way in to every channel, planned and proved before mains goes on

  vestibule serve [--data DIR] [--port N] [--host H] [--name N …] [--broker-port N] [--broker-host H]
                  [--cert FILE --key FILE]
  vestibule backup FILE [--data DIR]                   while it runs, or not; the file opens every credential
  vestibule restore FILE [--data DIR]                  into a folder that holds no store
  vestibule check SITE.json [--json]
  vestibule pins SITE.json [--json]
  vestibule build SITE.json --out DIR [--controller ID] [--json]
  vestibule run SITE.json --controller ID --trace IN.jsonl [--engine core|firmware|simavr]
  vestibule export SITE.json --format site|csv|points-csv|hub-yaml|hub-secrets|asyncapi|serial-table|voice|infrared|controls|quota|schema|template:ID
  vestibule export SITE.json --format svg|netlist|parts|connections --controller ID

  vestibule ir decode [CAPTURE] [--json] [--lines]     reads a JSON array of µs on standard input, or a capture file
  vestibule ir encode --protocol P --address N --command N [--toggle 0|1] [--format json|pulse-space|vcd]

Exit 0: fine. 1: findings of severity error or danger. 2: input that cannot be used.
The data folder is --data, else VESTIBULE_DATA, else ./data.
`

const LARGEST_PEM_BYTES = 1024 * 1024

const OPTIONS = {
  json: { type: 'boolean' },
  data: { type: 'string' },
  port: { type: 'string' },
  host: { type: 'string' },
  name: { type: 'string', multiple: true },
  'broker-port': { type: 'string' },
  'broker-host': { type: 'string' },
  cert: { type: 'string' },
  key: { type: 'string' },
  'no-demo': { type: 'boolean' },
  out: { type: 'string' },
  controller: { type: 'string' },
  trace: { type: 'string' },
  engine: { type: 'string' },
  format: { type: 'string' },
  lines: { type: 'boolean' },
  protocol: { type: 'string' },
  address: { type: 'string' },
  command: { type: 'string' },
  toggle: { type: 'string' },
  help: { type: 'boolean' },
} as const

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
  const { backUp, restore } = await import('../server')
  const [file, folder] = [needed(path, 'FILE'), dataFolder(words.values)]
  if (command === 'restore') {
    restore(file, folder)
    return { exit: 0, text: `${file} is back in ${folder}: start with "vestibule serve --data ${folder}"\n` }
  }
  const { bytes } = backUp(folder, file)
  return {
    exit: 0,
    text: `${file}: ${Math.ceil(bytes / 1024)} kB. It opens every credential: keep it as you keep keys\n`,
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

async function answer(words: Words, readInput: () => string): Promise<Answer> {
  const { values, positionals } = words
  const [command, path] = positionals
  if (command === undefined || command === 'help' || values.help) return { exit: 0, text: HELP }
  switch (command) {
    case 'serve':
      return serve(words)
    case 'backup':
    case 'restore':
      return keepCopy(command, path, words)
    case 'check':
      return check(needed(path, 'SITE.json'), values.json === true)
    case 'pins':
      return pins(needed(path, 'SITE.json'), values.json === true)
    case 'build':
      return build(needed(path, 'SITE.json'), needed(values.out, '--out'), values.controller, values.json === true)
    case 'run':
      return run(
        needed(path, 'SITE.json'),
        needed(values.controller, '--controller'),
        needed(values.trace, '--trace'),
        values.engine ?? 'core',
      )
    case 'ir':
      return infrared(words, readInput)
    case 'export':
      return exportSite(path ?? '', needed(values.format, '--format'), values.controller)
    default:
      throw new Unusable(`there is no command "${command}"; see "vestibule help"`)
  }
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
