import { KINDS, outputName } from '../site'
import { REST_MS, type DeviceState } from './state'

/**
 * Brings the contacts to the pattern of the channel's level: opens first what must open; closes what must close once
 * gapMs has passed since the last opening. A change of mind during the gap only changes what is closed at its end. A
 * limit runs from the closing of the contact, and asking again does not stretch it.
 */
export function commitChannel(state: DeviceState, index: number): void {
  const { timers, slots } = state
  const table = state.image.channels[index]!
  const channel = state.channels[index]!
  const wanted = table.patterns[channel.level]!
  const opening = channel.closed & ~wanted
  if (opening) {
    writeContacts(state, index, channel.closed & wanted)
    if (table.gapMs > 0) timers.arm(slots.gap(index), state.now, table.gapMs)
    beginRest(state, index)
  }
  if (channel.closed === wanted || (timers.isArmed(slots.gap(index)) && !goesOn(state, index, wanted))) return
  writeContacts(state, index, wanted)
  channel.lastClosed = wanted
  if (KINDS[table.kind].limitRunsFrom !== 'contact' || table.maxOnMs === 0) return
  timers.cancel(slots.rest(index))
  if (!timers.isArmed(slots.limit(index))) timers.arm(slots.limit(index), state.now, table.maxOnMs)
}

/** Dead time stands between different directions: the one that ran last may run on at once. */
const goesOn = (state: DeviceState, index: number, wanted: number): boolean =>
  state.image.channels[index]!.kind === 'paired' && wanted === state.channels[index]!.lastClosed

/**
 * A contact has opened, or its channel gone to level 0 while it was open. Where a limit runs, only REST_MS of being
 * open end it. A stepped channel is open for the gap between two levels, which is no rest.
 */
export function beginRest(state: DeviceState, index: number): void {
  const { timers, slots } = state
  const { level, closed } = state.channels[index]!
  const { kind } = state.image.channels[index]!
  if (KINDS[kind].limitRunsFrom !== 'contact' || !timers.isArmed(slots.limit(index))) return
  if (closed === 0 && (level === 0 || kind === 'paired')) timers.arm(slots.rest(index), state.now, REST_MS)
}

function writeContacts(state: DeviceState, index: number, mask: number): void {
  const table = state.image.channels[index]!
  const channel = state.channels[index]!
  const changed = channel.closed ^ mask
  channel.closed = mask
  table.gpios.forEach((_, contact) => {
    if (changed & (1 << contact))
      state.out.push({ t: state.now, out: outputName(table, contact), level: mask & (1 << contact) ? 1 : 0 })
  })
}
