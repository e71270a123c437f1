import { doorIsClosed, hasContact } from './channels'
import { doDeed } from './deeds'
import type { DeviceState } from './state'

/** A character of a nearby or serial link. Unknown ones are counted, not acted on. */
export function charArrives(state: DeviceState, char: string): void {
  if (!state.image.serial) return
  const rows = state.image.chars.filter((row) => row.char === char)
  if (rows.length === 0) {
    if (state.unknownChars < 65_535) state.unknownChars++
    return
  }
  for (const row of rows) doDeed(state, row, row.level, row.source)
}

/** What the line says of a channel; -1: a door whose position is not known. */
function valueOf(state: DeviceState, index: number): number {
  if (!hasContact(state, index)) return state.channels[index]!.level
  const closed = doorIsClosed(state, index)
  return closed === undefined ? -1 : closed ? 0 : 1
}

/** The line as it was made last holds while no value has changed: it is said every few seconds all day. */
function statusLine(state: DeviceState): string {
  const { said } = state
  let same = said.line !== '' && said.unknown === state.unknownChars
  for (let index = 0; index < state.image.channels.length; index++) {
    const value = valueOf(state, index)
    if (said.values[index] === value) continue
    said.values[index] = value
    same = false
  }
  if (same) return said.line
  said.unknown = state.unknownChars
  const words = state.image.channels
    .map(({ id }, index) => `${id}=${said.values[index] === -1 ? '?' : said.values[index]} `)
    .join('')
  const text = `S ${words}${said.unknown > 0 ? `?=${said.unknown} ` : ''}`
  let sum = 0
  for (let i = 0; i < text.length; i++) sum ^= text.charCodeAt(i)
  said.line = `${text}*${sum.toString(16).toUpperCase().padStart(2, '0')}`
  return said.line
}

/**
 * The status line, on a change and every statusMs: `S <channel>=<value> … *<xor of all before the star, two hex
 * digits>`.
 */
export function sendStatusLine(state: DeviceState): void {
  const { serial } = state.image
  if (!serial || !state.statusDue) return
  state.statusDue = false
  state.timers.arm(state.slots.status, state.now, serial.statusMs)
  state.out.push({ t: state.now, line: statusLine(state) })
}

export function statusOver(state: DeviceState): void {
  state.statusDue = true
}
