import { KINDS } from '../site'
import { goTo, topOf } from './channels'
import type { DeviceState } from './state'
import { difference, later } from './time'
import type { Source } from './types'

/**
 * Turns on as part of a power-up: channels follow each other by staggerMs, so that the coils do not pull in together.
 */
export function turnOnInTurn(state: DeviceState, index: number, level: number, source: Source): void {
  const at = difference(state.staggerNext, state.now) > 0 ? state.staggerNext : state.now
  state.staggerNext = later(at, state.image.staggerMs)
  if (at === state.now) goTo(state, index, level, source)
  else {
    state.channels[index]!.staggered = { level, source }
    state.timers.arm(state.slots.turnOn(index), state.now, difference(at, state.now))
  }
}

/** Restores the stored level, or off when nothing was ever stored. */
function restoreLast(state: DeviceState, index: number): void {
  const level = state.stored?.channels[index]?.level ?? 0
  if (level > 0) turnOnInTurn(state, index, level, 'power')
}

/** The power-up policy of one channel. Pulsed and paired ones never act at power-up. */
export function powerUpChannel(state: DeviceState, index: number): void {
  const channel = state.image.channels[index]!
  if (!KINDS[channel.kind].lasting) return
  if (channel.minOffMs > 0) state.timers.arm(state.slots.offGap(index), state.now, channel.minOffMs)
  if (channel.powerUp === 'on') turnOnInTurn(state, index, state.channels[index]!.lastLevel, 'power')
  else if (channel.powerUp === 'last') restoreLast(state, index)
  else if (channel.powerUp === 'service') state.timers.arm(state.slots.serviceWait(index), state.now, channel.waitMs)
}

/**
 * A rocker or selector learned at power-up: applied where the channel's policy is `wall`. `level` null: on, at the last
 * level.
 */
export function learnedFromWall(state: DeviceState, index: number, level: number | null): void {
  if (state.image.channels[index]!.powerUp !== 'wall' || level === 0) return
  turnOnInTurn(
    state,
    index,
    level === null ? state.channels[index]!.lastLevel : Math.min(level, topOf(state, index)),
    'wall',
  )
}

/** The service's value for a channel that waits for it at power-up. */
export function servedAtPowerUp(state: DeviceState, index: number, level: number): void {
  state.timers.cancel(state.slots.serviceWait(index))
  state.channels[index]!.reportDue = true
  if (level > 0) turnOnInTurn(state, index, level, 'service')
}

export function staggerTurn(state: DeviceState, index: number): void {
  const { level, source } = state.channels[index]!.staggered
  goTo(state, index, level, source)
}

/** The service stayed silent at power-up. */
export function serviceWaitOver(state: DeviceState, index: number): void {
  if (state.image.channels[index]!.otherwise === 'last') restoreLast(state, index)
}
