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

function valueOf(state: DeviceState, index: number): string {
  if (!hasContact(state, index)) return String(state.channels[index]!.level)
  const closed = doorIsClosed(state, index)
  return closed === undefined ? '?' : closed ? '0' : '1'
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
  const words = state.image.channels.map((channel, index) => `${channel.id}=${valueOf(state, index)} `).join('')
  const text = `S ${words}${state.unknownChars > 0 ? `?=${state.unknownChars} ` : ''}`
  let sum = 0
  for (let i = 0; i < text.length; i++) sum ^= text.charCodeAt(i)
  state.out.push({ t: state.now, line: `${text}*${sum.toString(16).toUpperCase().padStart(2, '0')}` })
}

export function statusOver(state: DeviceState): void {
  state.statusDue = true
}
