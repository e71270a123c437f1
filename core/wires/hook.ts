import type { WireEvent } from './events'
import { act, decoded, tell, type EngineState, type HookState, type LinkState } from './state'

/**
 * Calls to the controller's own port. A call bears the key; a wrong one is refused, counted, and slows all that follow.
 * What pulses or moves is only done by POST, and only once for each Idempotency-Key: a page that is fetched ahead, or a
 * call that is sent again because its answer was lost, opens no door.
 */

const FIRST_WAIT_MS = 1_000
const LONGEST_WAIT_MS = 60_000
const REMEMBERED = 4

export const newHook = (): HookState => ({ wrong: 0, closedUntil: null, done: [] })

type Call = Extract<WireEvent, { kind: 'call' }>

export function callArrives(state: EngineState, t: number, link: LinkState, call: Call): void {
  const { table, hook } = link
  if (!hook || table.transport !== 'hook' || !link.isUp) return
  const reply = (status: number): void => act(state, t, link, { reply: status })
  // a closed door asks nobody for a key, the right one neither: else it could be guessed meanwhile
  if (hook.closedUntil !== null && ((hook.closedUntil - t) | 0) > 0) return reply(429)
  const path = pathBehindKey(call, table)
  if (path === null) {
    hook.wrong = Math.min(hook.wrong + 1, 7)
    hook.closedUntil = (t + Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (hook.wrong - 1))) >>> 0
    act(state, t, link, { note: 'a call with a wrong key, refused' })
    return reply(403)
  }
  hook.wrong = 0
  hook.closedUntil = null
  if (call.method !== 'GET' && call.method !== 'POST') return reply(405)
  const row = table.hears.find(({ from }) => path.startsWith(from))
  if (!row) return reply(404)
  const value = decoded(row, path.slice(row.from.length))
  if (!/^-?[0-9]{1,5}$/.test(value) || Number(value) < row.min || Number(value) > row.max) return reply(400)
  if (!row.lasting) {
    if (call.method !== 'POST') return reply(405)
    if (call.once === '') return reply(428)
    const mark = markOf(call.once)
    if (hook.done.includes(mark)) return reply(200)
    hook.done.push(mark)
    if (hook.done.length > REMEMBERED) hook.done.shift()
  }
  tell(state, link, `${row.to}/set`, value, false)
  reply(200)
}

/** What stands behind the key, or null where the key is wrong. */
function pathBehindKey(call: Call, table: { readonly key: string; readonly keyInPath: boolean }): string | null {
  // an empty key would open to everybody
  if (table.key === '') return null
  if (!table.keyInPath) return call.key === table.key ? call.path : null
  const end = call.path.indexOf('/', 1)
  if (!call.path.startsWith('/') || end < 0) return null
  return call.path.slice(1, end) === table.key ? call.path.slice(end) : null
}

/** FNV-1a, 32 bits (Fowler, Noll, Vo; the constants of RFC 9923), over the text's bytes. */
function markOf(text: string): number {
  let hash = 0x811c9dc5
  for (const byte of new TextEncoder().encode(text)) hash = Math.imul(hash ^ byte, 0x01000193) >>> 0
  return hash
}
