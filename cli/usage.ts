/** What each command takes, so that help, refusals and reading of a command line have one source. */
export interface Command {
  readonly usage: readonly string[]
  /** what it does, and what a person must know before it is used */
  readonly what: readonly string[]
  /** words after the command: fewest and most */
  readonly words: readonly [number, number]
  readonly options: readonly Option[]
}

export const OPTIONS = {
  json: { type: 'boolean', what: 'as JSON (docs/formats.md, "What the command line prints")' },
  data: { type: 'string', what: 'the data folder; else VESTIBULE_DATA, else ./data' },
  port: { type: 'string', what: 'of the pages; 4100' },
  accept: { type: 'boolean', what: 'try every way and each outage, and end' },
  host: { type: 'string', what: 'the address to listen on; 127.0.0.1' },
  name: { type: 'string', multiple: true, what: 'a further name of this machine; may be given again' },
  'broker-port': { type: 'string', what: 'of the message broker; 1883' },
  'service-port': { type: 'string', what: 'of the services’ stand-ins; 18901' },
  'broker-host': { type: 'string', what: 'where the broker listens; as --host' },
  cert: { type: 'string', what: 'certificate, PEM; with --key, pages and broker speak TLS' },
  key: { type: 'string', what: 'its key, PEM' },
  'no-demo': { type: 'boolean', what: 'an empty store stays empty' },
  out: { type: 'string', what: 'where it is written' },
  controller: { type: 'string', what: 'the id of one controller' },
  trace: { type: 'string', what: 'a trace, one JSON line an instant (docs/formats.md); - is standard input' },
  engine: { type: 'string', what: 'core (usual), firmware, simavr, riscv' },
  format: { type: 'string', what: 'what is written' },
  scenario: { type: 'string', what: 'a scenario (docs/formats.md); - is standard input' },
  print: { type: 'boolean', what: 'print the library’s scenarios for this site, to be changed' },
  seed: { type: 'string', what: 'of the latencies and losses of the house, a whole number; 1' },
  vcd: { type: 'string', what: 'the run as a value change dump (IEEE 1364), to this file' },
  csv: { type: 'string', what: 'the run as a table, to this file' },
  samples: { type: 'string', what: 'how often each way is tried for its latencies; 100; 0: not at all' },
  question: { type: 'string', what: 'what is asked: on, off, screen, unbidden or limit; else all five' },
  from: { type: 'string', what: 'where one stands: here (at the controller), house, away; else all three' },
  signal: { type: 'string', what: 'the wire in the capture; else the first that moves' },
  run: { type: 'string', what: 'the run as a value change dump, as trial --vcd writes it' },
  lane: { type: 'string', what: 'the wire in the run, "contact_bench_lights_1"' },
  channels: { type: 'string', what: 'a table of channels (CSV)' },
  points: { type: 'string', what: 'a table of points (CSV)' },
  lines: { type: 'boolean', what: 'one capture a line' },
  protocol: { type: 'string', what: 'nec, nec-ext, rc5, rc6, sirc12, sirc15, sirc20' },
  address: { type: 'string', what: 'decimal, or hexadecimal with 0x' },
  command: { type: 'string', what: 'decimal, or hexadecimal with 0x' },
  toggle: { type: 'string', what: '0 or 1, where the protocol has it' },
  help: { type: 'boolean', short: 'h', what: 'this' },
  version: { type: 'boolean', short: 'V', what: 'the version' },
} as const
export type Option = keyof typeof OPTIONS

const STDIN = 'SITE.json may be - for standard input.'

export const COMMANDS: Readonly<Record<string, Command>> = {
  serve: {
    usage: ['serve [--data DIR] [--port N] [--host H] [--name N …] [--cert FILE --key FILE]'],
    what: ['The pages, the store and the message broker of this house, until Ctrl-C.'],
    words: [0, 0],
    options: ['data', 'port', 'host', 'name', 'broker-port', 'broker-host', 'service-port', 'cert', 'key', 'no-demo'],
  },
  backup: {
    usage: ['backup FILE [--data DIR]'],
    what: ['The store and the key of its credentials in one file, while it runs or not. It opens every credential.'],
    words: [1, 1],
    options: ['data'],
  },
  restore: {
    usage: ['restore FILE [--data DIR]'],
    what: ['Brings a backup back, into a folder that holds no store.'],
    words: [1, 1],
    options: ['data'],
  },
  check: {
    usage: ['check SITE.json [--json]'],
    what: ['Findings, and what nobody has filled in. Exit 1 where one is an error or a danger.', STDIN],
    words: [1, 1],
    options: ['json'],
  },
  pins: {
    usage: ['pins SITE.json [--json]'],
    what: ['The pin plan of every controller, with why. Exit 1 where one has none.', STDIN],
    words: [1, 1],
    options: ['json'],
  },
  build: {
    usage: ['build SITE.json --out DIR [--controller ID] [--json]'],
    what: [
      'Firmware, sheets and tables, a folder a controller; files of an earlier build that are none of this one go.',
      STDIN,
    ],
    words: [1, 1],
    options: ['out', 'controller', 'json'],
  },
  run: {
    usage: ['run SITE.json --controller ID --trace FILE [--engine core|firmware|simavr|riscv]'],
    what: ['Plays a trace, and prints what the controller does.', STDIN],
    words: [1, 1],
    options: ['controller', 'trace', 'engine'],
  },
  trial: {
    usage: [
      'trial SITE.json [--scenario FILE [--vcd FILE] [--csv FILE]] [--seed N] [--json]',
      'trial SITE.json --print',
    ],
    what: [
      'Plays a scenario in a simulated house, or without one all of the library. Exit 1 with what broke first, and when.',
      STDIN,
    ],
    words: [1, 1],
    options: ['scenario', 'seed', 'vcd', 'csv', 'print', 'json'],
  },
  accept: {
    usage: ['accept SITE.json [--seed N] [--json | --format markdown]'],
    what: [
      'Works every way of every channel in a simulated house, then groups, limits, outages, power and what must never be.',
      'Exit 1 where something fails. The live rig does the same with the firmware itself: live --accept.',
      STDIN,
    ],
    words: [1, 1],
    options: ['seed', 'json', 'format'],
  },
  measure: {
    usage: ['measure SITE.json [--scenario FILE] [--samples N] [--seed N] [--json]'],
    what: [
      'Closings and wear, messages against plans, time in which nobody could work a channel, over a quiet day or a',
      'scenario; and from a hand to the load and each screen: half, 95 and 99 of a hundred are faster.',
      STDIN,
    ],
    words: [1, 1],
    options: ['scenario', 'samples', 'seed', 'json'],
  },
  faults: {
    usage: ['faults SITE.json [--question on|off|screen|unbidden|limit] [--from here|house|away] [--json]'],
    what: [
      'Which failures, alone or two together, leave nobody who could turn a channel on or off, make a screen lie, make',
      'a load move by itself or keep it on past its limit, and for how many hours per year.',
      STDIN,
    ],
    words: [1, 1],
    options: ['question', 'from', 'json'],
  },
  wave: {
    usage: [
      'wave bounce CAPTURE.vcd [--signal NAME] [--json]',
      'wave lay CAPTURE.vcd --signal NAME --run RUN.vcd --lane NAME [--json]',
    ],
    what: [
      'bounce: how long a switch bounces in a capture, and the settle time that it needs.',
      'lay: a capture of a real board over a simulated run, with the shift between them; exit 1 where edges differ.',
    ],
    words: [2, 2],
    options: ['signal', 'run', 'lane', 'json'],
  },
  live: {
    usage: ['live SITE.json [--port N] [--accept [--json]]'],
    what: [
      'Compiles the firmware of every controller for this machine and runs it against the broker and the services, with',
      'credentials made up for the run; prints what the boards say, and serves the pages, until Ctrl-C.',
      '--accept tries every way of every channel in both directions and each outage, prints a table, and ends; exit 1',
      'where one fails.',
      STDIN,
    ],
    words: [1, 1],
    options: ['port', 'accept', 'json'],
  },
  import: {
    usage: ['import SITE.json --channels FILE | --points FILE [--out FILE] [--json]'],
    what: [
      'Takes a table into a site: says what changes, and writes the site to --out; without it nothing is written.',
      'A table with one wrong row is refused whole. SITE.json or the table may be - for standard input.',
    ],
    words: [1, 1],
    options: ['channels', 'points', 'out', 'json'],
  },
  export: {
    usage: [
      'export SITE.json --format site|csv|points-csv|hub-yaml|hub-secrets|asyncapi|serial-table|voice|infrared|controls|quota|schema|template:ID',
      'export SITE.json --format svg|netlist|parts|connections|test-list|image --controller ID',
    ],
    what: ['One file, on standard output. The schema needs no site.', STDIN],
    words: [0, 1],
    options: ['format', 'controller'],
  },
  ir: {
    usage: [
      'ir decode [CAPTURE] [--json] [--lines]',
      'ir encode --protocol P --address N --command N [--toggle 0|1] [--format json|pulse-space|vcd]',
    ],
    what: ['Infrared frames from a capture file, or from a JSON array of µs on standard input; and the other way.'],
    words: [1, 2],
    options: ['json', 'lines', 'protocol', 'address', 'command', 'toggle', 'format'],
  },
}

/** All commands, for who does not know them. */
export const HELP = `vestibule: every way in to every channel, planned and proved before mains goes on

${Object.values(COMMANDS)
  .flatMap(({ usage }) => usage)
  .map((line) => `  vestibule ${line}`)
  .join('\n')}

  vestibule COMMAND -h      one command, with its options
  vestibule --version

Exit 0: fine. 1: findings of severity error or danger. 2: input that cannot be used.
`

/** One command, with what each option is. */
export function helpOf(name: string): string {
  const { usage, what, options } = COMMANDS[name]!
  const rows = options.map((option) => `  --${option.padEnd(13)} ${OPTIONS[option].what}`)
  return `${usage.map((line) => `vestibule ${line}`).join('\n')}\n\n${what.join('\n')}\n${rows.length ? `\n${rows.join('\n')}\n` : ''}`
}
