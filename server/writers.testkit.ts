import { spawn, type ChildProcess } from 'node:child_process'
import assert from 'node:assert/strict'
import { seeded } from '../core/seeded'

/** A server that is killed while everything is written into it at once, and what of it must be there afterwards. */

export interface Started {
  readonly child: ChildProcess
  readonly url: string
  readonly gone: Promise<unknown>
}

/** The program itself, in a process of its own. `shell`: a line that starts it, with "$@" for its words. */
export const startProgram = (data: string, shell?: string): Promise<Started> =>
  new Promise((resolve, reject) => {
    const words = [
      'cli/vestibule.mjs',
      'serve',
      '--port',
      '0',
      '--broker-port',
      '0',
      '--service-port',
      '0',
      '--data',
      data,
    ]
    const options = { stdio: ['ignore', 'pipe', 'inherit'] as ['ignore', 'pipe', 'inherit'] }
    const child =
      shell === undefined
        ? spawn(process.execPath, words, options)
        : spawn('sh', ['-c', shell, 'sh', process.execPath, ...words], options)
    const gone = new Promise((ended) => child.once('exit', ended))
    let text = ''
    child.stdout!.on('data', (chunk: Buffer) => {
      text += chunk.toString()
      const url = /Vestibule is at (\S+)/.exec(text)?.[1]
      if (url) resolve({ child, url, gone })
    })
    child.once('exit', () => reject(new Error(`the program ended: ${text}`)))
  })

const SITE = '/api/sites/studio-corner'
const CREDENTIAL = 'wifi/password'

/** What was said to be kept; `sent` may be one further, since only its answer may be lost. */
interface Counted {
  sent: number
  kept: number
}
export interface Ledger {
  readonly edits: Counted
  readonly notes: Counted
  readonly secrets: Counted
  readonly touches: Counted
}
const fresh = (): Counted => ({ sent: 0, kept: 0 })
export const ledger = (): Ledger => ({ edits: fresh(), notes: fresh(), secrets: fresh(), touches: fresh() })

export const json = { 'Content-Type': 'application/json' }
const ask = async (url: string, method: string, path: string, body: unknown, more: Record<string, string> = {}) => {
  const response = await fetch(url + path, { method, headers: { ...json, ...more }, body: JSON.stringify(body) })
  if (response.status >= 300) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`)
  return (await response.json()) as Record<string, unknown>
}
export const siteAt = async (url: string) =>
  (await (await fetch(url + SITE)).json()) as {
    revision: number
    site: { channels: { name: string }[]; services: { widgets: { id: string; kind: string; point: string }[] }[] }
  }

/** Writes the next number, and the number after it when that was kept. */
const count = async (counted: Counted, write: (n: number) => Promise<unknown>): Promise<void> => {
  for (;;) {
    await write(++counted.sent)
    counted.kept = counted.sent
  }
}

/** Edits, notes, credentials and values at once, until the server is gone; a refusal is thrown. */
export async function writeEverything(url: string, book: Ledger): Promise<void> {
  // killed before the first word of it: nothing was said to be kept
  const first = await siteAt(url).catch(() => undefined)
  if (!first) return
  let { revision } = first
  const writers = [
    count(book.edits, async (n) => {
      const patch = [{ op: 'replace', path: '/channels/0/name', value: `Lamp ${n}` }]
      const answer = await ask(url, 'PATCH', SITE, { label: `edit ${n}`, patch }, { 'If-Match': `"${revision}"` })
      revision = answer['revision'] as number
    }),
    count(book.notes, (n) => ask(url, 'POST', `${SITE}/log`, { kind: 'note', controller: null, text: `note ${n}.` })),
    count(book.secrets, (n) =>
      ask(url, 'PUT', `${SITE}/credentials`, { key: CREDENTIAL, value: `secret number ${n}` }),
    ),
    count(book.touches, (n) => ask(url, 'POST', `${SITE}/stand-ins/app/widgets/desk-lamp`, { on: n % 2 === 1 })),
  ]
  const ends = await Promise.allSettled(writers)
  for (const end of ends)
    if (end.status === 'rejected' && /: [45]\d\d /.test(String(end.reason))) throw end.reason as Error
}

const number = (text: string | undefined): number => Number(/\d+/.exec(text ?? '')?.[0] ?? 0)

/** Everything that was acknowledged is there; what was on its way may be there too. Then the books agree with it. */
export async function nothingLost(url: string, book: Ledger): Promise<void> {
  const { site } = await siteAt(url)
  const { entries } = (await (await fetch(`${url}${SITE}/log`)).json()) as { entries: { text: string }[] }
  const notes = entries.map(({ text }) => /^note (\d+)\.$/.exec(text)?.[1]).filter((found) => found !== undefined)
  const secrets = await (await fetch(`${url}${SITE}/controllers/corner/secrets`, { method: 'POST' })).text()
  const { values } = (await (await fetch(`${url}${SITE}/stand-ins/app`)).json()) as { values: Record<string, number> }
  const found = {
    edits: number(site.channels[0]!.name),
    notes: Math.max(0, ...notes.map(Number)),
    secrets: number(/secret number \d+/.exec(secrets)?.[0]),
  }
  for (const key of ['edits', 'notes', 'secrets'] as const) {
    const { kept, sent } = book[key]
    assert(found[key] >= kept && found[key] <= sent, `${key}: ${found[key]} of ${kept} to ${sent}`)
    book[key].kept = book[key].sent = found[key]
  }
  // no note is missing in between, nor there twice
  const numbers = notes.map(Number).sort((a, b) => a - b)
  assert.deepEqual(
    numbers,
    Array.from({ length: found.notes }, (_, i) => i + 1),
  )
  // touches turn the lamp on and off: the last that was sent may be missing, and none before it
  const { kept, sent } = book.touches
  const touches = sent === 0 || values['desk-lamp'] === sent % 2 ? sent : sent - 1
  assert(touches >= kept, `touches: ${touches} of ${kept} to ${sent}`)
  book.touches.kept = book.touches.sent = touches
}

/**
 * Kills a server `kills` times, each after a random moment of mixed writing, and looks each time at what is there. On a
 * slow machine little is written in such a moment: it goes on until `wanted` of each kind have been acknowledged; what
 * was only on its way may be gone.
 */
export async function killed(
  data: string,
  kills: number,
  seed: number,
  say: (line: string) => void,
  wanted = 0,
): Promise<Ledger> {
  const random = seeded(seed)
  const book = ledger()
  const few = () => (Object.values(book) as Counted[]).some(({ kept }) => kept < wanted)
  for (let i = 0; i < kills || (few() && i < 20 * kills); i++) {
    const { child, url, gone } = await startProgram(data)
    await nothingLost(url, book)
    // later each time while too little was written: a busy machine does little in a quarter of a second
    setTimeout(() => child.kill('SIGKILL'), 5 + random() * 250 * (few() ? 1 + i / 4 : 1))
    await writeEverything(url, book)
    await gone
    if ((i + 1) % 25 === 0)
      say(
        `${i + 1} kills: ${book.edits.sent} edits, ${book.notes.sent} notes, ${book.secrets.sent} credentials, ` +
          `${book.touches.sent} touches`,
      )
  }
  const { child, url } = await startProgram(data)
  await nothingLost(url, book)
  child.kill('SIGTERM')
  return book
}
