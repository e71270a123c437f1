import { KINDS, outputName } from '../site'
import type { DeviceState } from './state'

/**
 * Brings the contacts to the pattern of the channel's level: opens first what must open; closes what must close once
 * gapMs has passed since the last opening. A change of mind during the gap only changes what is closed at its end.
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
  }
  if (channel.closed !== wanted && !timers.isArmed(slots.gap(index))) {
    writeContacts(state, index, wanted)
    // A motor's running time counts from when it really starts, after the dead time.
    if (KINDS[table.kind].limitRunsFrom === 'contact' && table.maxOnMs > 0)
      timers.arm(slots.limit(index), state.now, table.maxOnMs)
  }
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
