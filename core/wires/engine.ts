import { encodeValue } from './coding'
import { isStale, learn } from './count'
import type { DeviceWord, WireAction, WireEvent } from './events'
import { callArrives, newHook } from './hook'
import { answerArrives, newHttp, pump, startHttp, stopHttp, wakeHttp } from './http'
import { plainLink } from './plain'
import { valueAt } from './pointer'
import { signed, verified } from './sign'
import { act, decoded, forgetRows, linkIs, tell, type EngineState, type LinkState } from './state'
import type { ControllerWires } from './types'

/**
 * The wire engine of a controller: what its runtime says under its own topics goes out as each link's wire wants it,
 * and what the wires say comes in under the controller's topics. It is told what happens and answers with what is to be
 * done; it does no I/O, and knows the time only as it is told (ms, wrapping at 2^32). firmware/wires does the same,
 * byte for byte (firmware/test/wires.test.ts).
 */
export interface WireEngine {
  /** The runtime's own doings. */
  joins(t: number, link: number): void
  subscribes(t: number, link: number, topic: string): void
  says(t: number, link: number, topic: string, payload: string, retain: boolean): void
  /** Something comes over a wire. What it means for the runtime comes back, in order. */
  event(t: number, event: WireEvent): DeviceWord[]
  /** What is due by itself at t or before; what it means for the runtime comes back. */
  tick(t: number): DeviceWord[]
  /** Begins requests where none is on its way; at the end of each instant. */
  pump(t: number): void
  nextDeadline(): number | null
  /** What was done since the last time. */
  takeActions(): WireAction[]
}

/** `reveal` gives a secret's value by its key; texts are put together once. */
export function createWires(wires: ControllerWires, reveal: (secret: string) => string): WireEngine {
  const state: EngineState = {
    prefix: wires.prefix,
    links: wires.links.map((link, index) => {
      const table = plainLink(link, reveal)
      return {
        index,
        table,
        count: { known: false, last: 0 },
        rows: 'says' in table ? table.says.map(() => ({ pending: null, freeAt: null })) : [],
        http: table.transport === 'http' || (table.transport === 'hook' && table.call) ? newHttp(table) : null,
        hook: table.transport === 'hook' ? newHook() : null,
        isUp: false,
        dueAt: null,
      }
    }),
    actions: [],
    words: [],
  }
  return {
    joins: (t, link) => joins(state, t, state.links[link]!),
    subscribes: (t, link, topic) => subscribes(state, t, state.links[link]!, topic),
    says: (t, link, topic, payload, retain) => says(state, t, state.links[link]!, topic, payload, retain),
    event: (t, event) => taken(state, () => eventArrives(state, t, event)),
    tick: (t) => taken(state, () => state.links.forEach((link) => wakes(state, t, link))),
    pump: (t) => state.links.forEach((link) => pump(state, t, link)),
    nextDeadline: () => earliest(state),
    takeActions: () => {
      const { actions } = state
      state.actions = []
      return actions
    },
  }
}

function taken(state: EngineState, work: () => void): DeviceWord[] {
  work()
  const { words } = state
  state.words = []
  return words
}

/** Of deadlines less than 2^31 ms apart, the first (RFC 1982). */
function earliest(state: EngineState): number | null {
  let first: number | null = null
  for (const { dueAt, rows } of state.links)
    for (const at of [dueAt, ...rows.map(({ freeAt }) => freeAt)])
      if (at !== null && (first === null || ((at - first) | 0) < 0)) first = at
  return first
}

function joins(state: EngineState, t: number, link: LinkState): void {
  if (link.table.transport === 'http') return startHttp(t, link)
  act(state, t, link, { connect: true })
}

const isOver = (at: number | null, t: number): boolean => at !== null && ((at - t) | 0) <= 0

function wakes(state: EngineState, t: number, link: LinkState): void {
  link.rows.forEach((row, index) => {
    if (!isOver(row.freeAt, t)) return
    row.freeAt = null
    if (row.pending !== null && link.table.transport === 'mqtt') sendRow(state, t, link, index)
  })
  if (!isOver(link.dueAt, t)) return
  link.dueAt = null
  wakeHttp(state, link)
}

/** What waits of a row goes out. */
function sendRow(state: EngineState, t: number, link: LinkState, index: number): void {
  const { table, rows } = link
  if (table.transport !== 'mqtt') return
  const row = table.says[index]!
  const own = rows[index]!
  const payload = row.before + own.pending! + row.after
  own.pending = null
  if (row.everyMs > 0) own.freeAt = (t + row.everyMs) >>> 0
  const message = signed(table.sign, row.to, payload)
  act(state, t, link, { say: { topic: row.to, payload: message, qos: row.qos, retain: row.retain } })
}

/** The first subscription after a link-up stands for all that is heard there. */
function subscribes(state: EngineState, t: number, link: LinkState, topic: string): void {
  const { table } = link
  if (table.transport === 'own') return act(state, t, link, { hear: topic, qos: 1 })
  if (table.transport !== 'mqtt' || !topic.endsWith('vp/+/set')) return
  for (const filter of table.filters) act(state, t, link, { hear: filter, qos: 0 })
}

function says(state: EngineState, t: number, link: LinkState, topic: string, payload: string, retain: boolean): void {
  const { table } = link
  if (table.transport === 'own') return act(state, t, link, { say: { topic, payload, qos: 1, retain } })
  const from = topic.slice(state.prefix.length)
  if (table.transport === 'mqtt' && from === 'status' && table.status) {
    const { topic: where, online, offline, retain: retained } = table.status
    const word = payload === 'online' ? online : offline
    return act(state, t, link, { say: { topic: where, payload: word, qos: 1, retain: retained } })
  }
  if (table.transport === 'mqtt' && from === 'log' && table.log !== null)
    return act(state, t, link, { say: { topic: table.log, payload, qos: 0, retain: false } })
  table.says.forEach((row, index) => {
    if (row.from !== from) return
    const own = link.rows[index]!
    own.pending = encodeValue(row.coding, payload)
    if (table.transport === 'mqtt' && own.freeAt === null) sendRow(state, t, link, index)
  })
}

function eventArrives(state: EngineState, t: number, event: WireEvent): void {
  const link = state.links[event.link]
  if (!link) return
  if (event.kind === 'open') return opens(state, link, event.open)
  if (event.kind === 'heard') return heard(state, t, link, event)
  if (event.kind === 'answer') return answerArrives(state, t, link, event.status, event.body)
  callArrives(state, t, link, event)
}

function opens(state: EngineState, link: LinkState, open: boolean): void {
  if (link.table.transport === 'http') return
  forgetRows(link)
  if (!open) {
    stopHttp(link)
    return linkIs(state, link, false)
  }
  link.count.known = false
  linkIs(state, link, true)
}

type Heard = Extract<WireEvent, { kind: 'heard' }>

function heard(state: EngineState, t: number, link: LinkState, { topic, payload: message, stale }: Heard): void {
  const { table } = link
  if (!link.isUp) return
  if (table.transport === 'own')
    return void state.words.push({ kind: 'message', link: link.index, topic, payload: message, retain: stale })
  if (table.transport !== 'mqtt') return
  const payload = verified(table.sign, topic, message)
  if (payload === undefined) return act(state, t, link, { note: 'a message with a wrong signature, refused' })
  if (table.count?.topic === topic) {
    const said = table.count.pointer === null ? payload : valueAt(payload, table.count.pointer)
    return learn(link.count, said)
  }
  const rows = table.hears.filter((row) => row.from === topic)
  const wish = rows.find((row) => row.meaning === 'wish')
  let whole = payload
  if (wish && table.count) {
    const { pointer } = table.count
    const blank = payload.lastIndexOf(' ')
    const said = wish.pointer === null ? (blank < 0 ? undefined : payload.slice(blank + 1)) : valueAt(payload, pointer!)
    if (isStale(link.count, said)) return act(state, t, link, { note: 'a wish that was sent before, ignored' })
    if (wish.pointer === null) whole = payload.slice(0, blank)
  }
  for (const row of rows) {
    const value = row.pointer === null ? whole : valueAt(payload, row.pointer)
    if (value !== undefined)
      tell(state, link, row.to + (row.meaning === 'wish' ? '/set' : '/held'), decoded(row, value), stale)
  }
}
