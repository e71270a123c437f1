import { KINDS } from '../site'
import type { DeviceState } from './state'

/** The level is restored after a power cut: by the policy, or by its second choice. */
export function levelIsStored(state: DeviceState, index: number): boolean {
  const channel = state.image.channels[index]!
  const waits = channel.powerUp === 'service' || channel.powerUp === 'timetable'
  return channel.powerUp === 'last' || (waits && channel.otherwise === 'last')
}

/** Part of the stored record: a level that is restored, or a last level that is kept in any case. */
export const isStored = (state: DeviceState, index: number): boolean =>
  levelIsStored(state, index) || KINDS[state.image.channels[index]!.kind].keepsLastLevel

export const storeSoon = (state: DeviceState): void =>
  state.timers.arm(state.slots.store, state.now, state.image.storeMs)

/** Writes levels, last levels and modes, if they differ from what is stored. */
export function storeDue(state: DeviceState): void {
  const { channels } = state.image
  const record = state.channels.map((channel, index) => ({
    level: levelIsStored(state, index) ? channel.level : 0,
    last: channel.lastLevel,
    auto: channel.auto,
  }))
  const same = (index: number): boolean => {
    const old = state.stored!.channels[index]!
    const now = record[index]!
    return (
      old.level === now.level &&
      (!KINDS[channels[index]!.kind].keepsLastLevel || old.last === now.last) &&
      (!state.ruled[index] || old.auto === now.auto)
    )
  }
  if (state.stored && record.every((_, index) => same(index))) return
  state.stored = { channels: record }
  const words = channels.flatMap((channel, index) => {
    const { level, last, auto } = record[index]!
    return [
      ...(isStored(state, index)
        ? [`${channel.id}=${level}${KINDS[channel.kind].keepsLastLevel ? `,${last}` : ''}`]
        : []),
      ...(state.ruled[index] ? [`${channel.id}:${auto ? 'auto' : 'manual'}`] : []),
    ]
  })
  state.out.push({ t: state.now, store: words.join(' ') })
}
