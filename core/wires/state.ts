import { decodeValue, LONGEST_VALUE } from './coding'
import type { DeviceWord, WireAction } from './events'
import type { PlainLink } from './plain'
import type { Coding } from './types'

/** What the engine remembers of each link. */

/** The number that each wish bears: only one above the last acts, so that what is sent again does nothing. */
export interface CountState {
  /** the service has said its last number since the link came up */
  known: boolean
  last: number
}

/** Of a link of requests (http.ts). */
export interface HttpState {
  /** of each row: the value that was read or written last; null: none since the link came up */
  readonly known: (string | null)[]
  onItsWay: { readonly write: number; readonly value: string } | { readonly read: number } | null
  /** joining or up */
  active: boolean
  /** the next row to be read in this round; -1: the round is over */
  reading: number
  firstRound: boolean
  /** it was too fast, and asks nothing before it is due */
  waiting: boolean
}

/** Of a link that is called (hook.ts). */
export interface HookState {
  /** wrong keys since the last right one */
  wrong: number
  /** no call is taken before that; null: any */
  closedUntil: number | null
  /** marks of the last calls that pulsed */
  readonly done: number[]
}

/** Of each row that is said. */
export interface SayState {
  /** what waits to go out; a later value takes the place of an earlier one */
  pending: string | null
  /** nothing goes out before that; null: anything may */
  freeAt: number | null
}

export interface LinkState {
  readonly index: number
  readonly table: PlainLink
  readonly count: CountState
  readonly rows: readonly SayState[]
  readonly http: HttpState | null
  readonly hook: HookState | null
  isUp: boolean
  /** instant at which it does something by itself; null: never */
  dueAt: number | null
}

export interface EngineState {
  readonly prefix: string
  readonly links: readonly LinkState[]
  actions: WireAction[]
  words: DeviceWord[]
}

export const act = (state: EngineState, t: number, link: LinkState, what: WireAction['what']): void =>
  void state.actions.push({ t, of: link.table.id, what })

export function linkIs(state: EngineState, link: LinkState, up: boolean): void {
  link.isUp = up
  state.words.push({ kind: 'link', link: link.index, up })
}

export const tell = (state: EngineState, link: LinkState, to: string, payload: string, retain: boolean): void =>
  void state.words.push({ kind: 'message', link: link.index, topic: state.prefix + to, payload, retain })

/** A connection is new, or gone: what waited is told anew with everything else. */
export function forgetRows(link: LinkState): void {
  for (const row of link.rows) Object.assign(row, { pending: null, freeAt: null })
}

/** A text that is longer than any value is none. */
export const decoded = (row: { readonly coding: Coding }, value: string): string =>
  isTooLong(value) ? '?' : decodeValue(row.coding, value)

export const isTooLong = (value: string): boolean => new TextEncoder().encode(value).length > LONGEST_VALUE
