import { valueAt } from './pointer'
import type { PlainHear, PlainLink } from './plain'
import {
  act,
  decoded,
  forgetRows,
  isTooLong,
  linkIs,
  tell,
  type EngineState,
  type HttpState,
  type LinkState,
} from './state'

/**
 * A link of requests (RFC 9110): one at a time, writes before reads. It is up when a first round of reading has
 * succeeded. What is read is a state and no command: first as what the service holds, later, when it has become
 * another, as a wish; and never for what only pulses or moves.
 */
type Asked = NonNullable<HttpState['onItsWay']>
type Table = Extract<PlainLink, { transport: 'http' | 'hook' }>

/** Too many requests: none for so long (RFC 6585, 4), ms. */
const TOO_FAST_MS = 5_000

export const newHttp = ({ hears }: Table): HttpState => ({
  known: hears.map(() => null),
  onItsWay: null,
  active: false,
  reading: -1,
  firstRound: true,
  waiting: false,
})

const readOf = (table: PlainLink) => (table.transport === 'http' ? table.read : null)

export function startHttp(t: number, link: LinkState): void {
  const http = link.http!
  stopHttp(link)
  http.active = true
  const read = readOf(link.table)
  // nothing is asked, so nothing says whether it can be reached: the first write will
  if (read) http.reading = 0
  else link.dueAt = (t + 1) >>> 0
}

export function stopHttp(link: LinkState): void {
  const { http } = link
  if (!http) return
  forgetRows(link)
  http.known.fill(null)
  http.onItsWay = null
  http.active = false
  http.reading = -1
  http.firstRound = true
  http.waiting = false
  link.dueAt = null
}

/** Its time has come: the next round, or a link that asks nothing is up. */
export function wakeHttp(state: EngineState, link: LinkState): void {
  const http = link.http
  if (!http) return
  http.waiting = false
  if (readOf(link.table)) {
    if (http.reading < 0) http.reading = 0
  } else if (!link.isUp && link.table.transport === 'http') linkIs(state, link, true)
}

/** Begins the next request, where none is on its way. */
export function pump(state: EngineState, t: number, link: LinkState): void {
  const { http, table } = link
  if (!http || http.onItsWay || table.transport === 'own' || table.transport === 'mqtt') return
  if (http.waiting) return
  const write = link.isUp ? link.rows.findIndex(({ pending, freeAt }) => pending !== null && freeAt === null) : -1
  if (write >= 0) {
    const row = table.says[write]!
    const method = table.transport === 'http' ? table.method : table.call!.method
    const own = link.rows[write]!
    const value = own.pending!
    own.pending = null
    if (row.everyMs > 0) own.freeAt = (t + row.everyMs) >>> 0
    http.onItsWay = { write, value }
    const body = row.before + value + row.after
    return act(state, t, link, { ask: { method, path: row.to, body } })
  }
  if (!http.active || http.reading < 0) return
  http.onItsWay = { read: http.reading }
  act(state, t, link, { ask: { method: 'GET', path: table.hears[http.reading]!.from, body: '' } })
}

export function answerArrives(state: EngineState, t: number, link: LinkState, status: number, body: string): void {
  const { http } = link
  const asked = http?.onItsWay
  if (!http || !asked) return
  http.onItsWay = null
  if (status === 429) return waits(state, t, link, asked)
  if (status < 200 || status > 299) return fails(state, t, link, status)
  if ('write' in asked) return written(link, asked)
  readDone(state, t, link, asked.read, body)
}

/** What was asked for is asked again later. */
function waits(state: EngineState, t: number, link: LinkState, asked: Asked): void {
  if ('write' in asked) link.rows[asked.write]!.pending ??= asked.value
  act(state, t, link, { note: 'too many requests, waiting' })
  link.http!.waiting = true
  link.dueAt = (t + TOO_FAST_MS) >>> 0
}

function fails(state: EngineState, t: number, link: LinkState, status: number): void {
  const why =
    status === 0 ? 'no answer' : status === 401 || status === 403 ? `refused (${status})` : `answered ${status}`
  act(state, t, link, { note: why })
  if (link.table.transport === 'hook') {
    // the controller itself is there: what could not be told is told with the next change
    forgetRows(link)
    return
  }
  stopHttp(link)
  linkIs(state, link, false)
}

function written(link: LinkState, { write, value }: Extract<Asked, { write: number }>): void {
  const http = link.http!
  const { table } = link
  if (table.transport === 'own' || table.transport === 'mqtt') return
  const { from } = table.says[write]!
  // what it says itself is no news when it reads it
  table.hears.forEach((hear, i) => {
    if (from === `${hear.to}/state`) http.known[i] = value
  })
}

function readDone(state: EngineState, t: number, link: LinkState, first: number, body: string): void {
  const http = link.http!
  const { table } = link
  const read = readOf(table)
  if (!read || table.transport !== 'http') return
  const last = read.all ? table.hears.length - 1 : first
  const round = http.firstRound
  http.reading = last + 1 < table.hears.length ? last + 1 : -1
  const isOver = http.reading < 0
  if (round && isOver && !link.isUp) linkIs(state, link, true)
  for (let i = first; i <= last; i++) take(state, link, table.hears[i]!, i, body, round)
  if (!isOver) return
  if (round) holds(state, link, table.hears)
  http.firstRound = false
  link.dueAt = (t + read.everyMs) >>> 0
}

/** A value that has become another is a wish; one that is being written meanwhile is not looked at. */
function take(state: EngineState, link: LinkState, row: PlainHear, i: number, body: string, round: boolean): void {
  const http = link.http!
  const value = row.pointer === null ? body : valueAt(body, row.pointer)
  if (value === undefined || isBeingWritten(link, row)) return
  const before = http.known[i]
  const short = isTooLong(value) ? '?' : value
  http.known[i] = short
  if (!round && before !== short && row.lasting) tell(state, link, `${row.to}/set`, decoded(row, short), false)
}

function isBeingWritten(link: LinkState, row: PlainHear): boolean {
  const { table, rows } = link
  if (table.transport === 'own' || table.transport === 'mqtt') return false
  return table.says.some((say, i) => rows[i]!.pending !== null && say.from === `${row.to}/state`)
}

/** The first round: what the service holds. */
function holds(state: EngineState, link: LinkState, rows: readonly PlainHear[]): void {
  rows.forEach((row, i) => {
    const value = link.http!.known[i]
    if (value !== null && value !== undefined && row.lasting)
      tell(state, link, `${row.to}/held`, decoded(row, value), false)
  })
}
