import { cp, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { runWireTrace, writeWireOutputs } from '../../core/wires'
import { randomWired, randomWireTrace, revealed, SECRETS_FILE } from '../../core/wires/random.testkit'
import { every, THOROUGH } from './fuzz.testkit'
import { buildHost, runHostTraces, WIRES_DIR } from '../host'

// The wire engine in TypeScript and in C++, over random wires and traffic, byte by byte; and small changes of meaning
// in the C++, each of which must be seen.

const CONTROLLERS = 40
// the mutants are caught by as many
const TRACES = 60
/** What a run of all tests plays. */
const PLAYED = THOROUGH ? TRACES : 20

const written = (lines: readonly object[]): string => lines.map((line) => `${JSON.stringify(line)}\n`).join('')

const known = new Map<string, { trace: string; expected: string }[]>()
function references(seed: number, count: number) {
  const key = `${seed}/${count}`
  const before = known.get(key)
  if (before) return before
  const { image, wires } = randomWired(seed)
  const made = Array.from({ length: count }, (_, i) => {
    const lines = randomWireTrace(seed * 1000 + i, image, wires)
    return { trace: written(lines), expected: writeWireOutputs(runWireTrace(image, wires, revealed, lines)) }
  })
  known.set(key, made)
  return made
}

/** Traces on which the firmware says something else. */
async function disagreements(seeds: readonly number[], count: number, wiresDir?: string) {
  let bytes = 0
  const found: { trace: string; expected: string; got: string }[] = []
  for (const seed of seeds) {
    const { image, wires } = randomWired(seed)
    const { program } = await buildHost(image, {
      wires,
      secrets: SECRETS_FILE + HOUSE,
      ...(wiresDir ? { wiresDir } : {}),
    })
    const made = references(seed, count)
    const got = await runHostTraces(
      program,
      made.map(({ trace }) => trace),
      60_000,
      'wires',
    )
    made.forEach(({ trace, expected }, i) => {
      bytes += expected.length
      if (got[i] !== expected) found.push({ trace, expected, got: got[i] ?? '' })
    })
    if (wiresDir && found.length > 0) break
  }
  return { found, bytes }
}
const HOUSE = `#define VESTIBULE_BROKER_ADDRESS "127.0.0.1"
#define VESTIBULE_BROKER_PORT 1883
#define VESTIBULE_BROKER_USER "127.0.0.1"
#define VESTIBULE_BROKER_PASSWORD "127.0.0.1"
`
const SEEDS = Array.from({ length: CONTROLLERS }, (_, i) => i + 1)

/** The first line that differs, for a reader. */
function firstDifference({ expected, got }: { expected: string; got: string }): string {
  const [a, b] = [expected.split('\n'), got.split('\n')]
  const at = a.findIndex((line, i) => line !== b[i])
  return `line ${at + 1}: ${a[at]}\n   firmware: ${b[at]}`
}

describe('wire engine and its firmware', () => {
  it(`print the same bytes over ${CONTROLLERS} random controllers and ${CONTROLLERS * PLAYED} traces`, async () => {
    const { found, bytes } = await disagreements(SEEDS, PLAYED)
    console.log(`wires: ${CONTROLLERS * PLAYED} traces, ${(bytes / 1e6).toFixed(1)} MB of output compared`)
    expect(found.slice(0, 3).map(firstDifference)).toEqual([])
    expect(bytes).toBeGreaterThan(1_000_000)
  }, 300_000)
})

const MUTATIONS: { file: string; from: string; to: string }[] = [
  { file: 'coding.cpp', from: 'value == coding.min ? coding.off', to: 'value <= coding.min ? coding.on' },
  { file: 'coding.cpp', from: '+ span - 1) / span', to: ') / span' },
  { file: 'coding.cpp', from: "text.at[i] != '0'", to: 'false' },
  { file: 'coding.cpp', from: '(value - coding.min) *', to: '(value - coding.min + 1) *' },
  { file: 'pointer.cpp', from: "c = next == '0' ? '~' : '/';", to: "c = '~';" },
  { file: 'pointer.cpp', from: "c == '\"' || c == '\\\\'", to: "c == '\"'" },
  { file: 'pointer.cpp', from: '!same(value, WORDS("null"))', to: 'true' },
  { file: 'engine.cpp', from: '|| count <= state.countLast', to: '|| count < state.countLast' },
  { file: 'engine.cpp', from: '|| !state.countKnown', to: '' },
  { file: 'engine.cpp', from: 'if (count > state.countLast) state.countLast', to: 'state.countLast' },
  { file: 'engine.cpp', from: 'if (open) engine.links[link].countKnown = false;', to: '' },
  { file: 'engine.cpp', from: 'value.length > LONGEST_VALUE', to: 'value.length > 3' },
  { file: 'engine.cpp', from: 'hear.wish ? WORDS("/set")', to: 'true ? WORDS("/set")' },
  { file: 'engine.cpp', from: '!engine.links[link].isUp) return;', to: 'false) return;' },
  { file: 'sign.cpp', from: 'if (length <= BLOCK) return;', to: 'if (length < BLOCK) return;' },
  { file: 'sign.cpp', from: 'bytes << 3', to: 'bytes << 2' },
  { file: 'engine.cpp', from: 'return differs == 0;', to: 'return true;' },
  { file: 'engine.cpp', from: "if (payload.at[length] != ' ') return false;", to: '' },
  { file: 'http.cpp', from: 'TOO_FAST_MS = 5000', to: 'TOO_FAST_MS = 4000' },
  { file: 'http.cpp', from: '!round && news && hear.lasting', to: '!round && news' },
  { file: 'http.cpp', from: '.isSet && hear.lasting) tellValue', to: '.isSet) tellValue' },
  {
    file: 'http.cpp',
    from: 'if (isBeingWritten(state, table, hear.to)) return;',
    to: 'isBeingWritten(state, table, hear.to);',
  },
  { file: 'http.cpp', from: 'asked == OnItsWay::write && !pending', to: 'asked == OnItsWay::read && !pending' },
  { file: 'http.cpp', from: 'state.known[i] = state.sent', to: 'state.known[i].isSet = true' },
  { file: 'engine.cpp', from: '&& !own.isHeld) sendRow', to: ') sendRow' },
  { file: 'http.cpp', from: '!own.pending.isSet || own.isHeld', to: '!own.pending.isSet' },
  { file: 'hook.cpp', from: 'if (!post) return 405;', to: '' },
  { file: 'hook.cpp', from: 'if (wasDone(state, once)) return 200;', to: 'wasDone(state, once);' },
  { file: 'hook.cpp', from: "if (once[0] == '\\0') return 428;", to: '' },
  { file: 'hook.cpp', from: 'length > 0 && length == said.length', to: 'length == said.length' },
  { file: 'hook.cpp', from: 'state.wrong = 0;', to: '' },
  { file: 'hook.cpp', from: 'state.closedUntil - now) > 0', to: 'state.closedUntil - now) >= 0' },
  {
    file: 'hook.cpp',
    from: 'REMEMBERED_CALLS; i++) state.done[i - 1] = state.done[i]',
    to: '1; i++) state.done[0] = 0',
  },
]

describe('a change of meaning in the wires is seen', () => {
  const folders: string[] = []
  afterAll(() => Promise.all(folders.map((folder) => rm(folder, { recursive: true, force: true }))))

  it.each(every(6, MUTATIONS))(
    '$file: $from',
    async ({ file, from, to }) => {
      const folder = await mkdtemp(join(tmpdir(), 'vestibule-wires-'))
      folders.push(folder)
      await cp(WIRES_DIR, folder, { recursive: true })
      const source = await readFile(join(folder, file), 'utf8')
      expect(source.split(from).length).toBeGreaterThan(1)
      await writeFile(join(folder, file), source.replace(from, to))
      const { found } = await disagreements(SEEDS, TRACES, folder)
      expect(found.length).toBeGreaterThan(0)
    },
    120_000,
  )
})
