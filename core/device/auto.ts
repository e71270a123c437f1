import { targetOf } from './channels'
import { sayMode } from './sayToMain'
import { applyWishes } from './rules'
import { log, type DeviceState } from './state'
import { storeSoon } from './store'
import type { Command } from './types'

/**
 * May a hand's command act? In auto mode: `yield` keeps the rules away for a while, `leave` goes to manual, `ignore`
 * refuses, but never what turns off.
 */
export function handInAuto(state: DeviceState, index: number, told: Command): boolean {
  const channel = state.channels[index]!
  if (!state.ruled[index] || !channel.auto) return true
  const { hand, yieldMs } = state.image.auto
  if (hand === 'ignore') {
    // a pulse is never an off
    if (state.image.channels[index]!.kind !== 'pulsed' && targetOf(state, index, told) === 0) return true
    channel.reportDue = true
    log(state, `${state.image.channels[index]!.topic}: in auto, ignored`)
    return false
  }
  if (hand === 'yield') {
    state.timers.arm(state.slots.yield(index), state.now, yieldMs)
    channel.reportDue = true
  } else setChannelMode(state, index, false)
  return true
}

function setChannelMode(state: DeviceState, index: number, auto: boolean): void {
  const channel = state.channels[index]!
  state.timers.cancel(state.slots.yield(index))
  channel.reportDue = true
  if (channel.auto === auto) return
  channel.auto = auto
  state.modeDue = true
  storeSoon(state)
}

/** Auto or manual for every channel that has a rule; back in auto, the rules say again what they want. */
export function setMode(state: DeviceState, auto: boolean): void {
  if (state.mirrors) return sayMode(state, auto)
  state.modeDue = true
  state.image.channels.forEach((_, index) => {
    if (!state.ruled[index]) return
    setChannelMode(state, index, auto)
    if (auto) applyWishes(state, index)
  })
}

export function yieldOver(state: DeviceState, index: number): void {
  state.channels[index]!.reportDue = true
  applyWishes(state, index)
}

/** The controller is in auto while any channel with a rule is. */
export const isAuto = (state: DeviceState): boolean =>
  state.channels.some((channel, index) => state.ruled[index] && channel.auto)

export const modeWord = (state: DeviceState, index: number): 'auto' | 'yield' | 'manual' =>
  !state.channels[index]!.auto ? 'manual' : state.timers.isArmed(state.slots.yield(index)) ? 'yield' : 'auto'
