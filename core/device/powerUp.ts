import { KINDS } from '../site'
import { goTo, topOf } from './channels'
import { NO_TURN, type DeviceState } from './state'
import { difference, later } from './time'
import type { Source } from './types'

/** Asks to be turned on as part of a power-up, in turn. */
export function turnOnInTurn(state: DeviceState, index: number, level: number, source: Source): void {
  state.channels[index]!.staggered = { level, source }
  state.channels[index]!.reportDue = true
  state.turnsDue = true
}

/**
 * Channels that a power-up turns on follow each other by staggerMs, so that the coils do not pull in together: in
 * channel order, whatever asked.
 */
export function giveTurns(state: DeviceState): void {
  if (!state.turnsDue) return
  for (const [index, channel] of state.channels.entries()) {
    const { level, source } = channel.staggered
    if (level === 0) continue
    const wait = difference(state.staggerNext, state.now)
    if (wait > 0) return state.timers.arm(state.slots.turn, state.now, wait)
    channel.staggered = NO_TURN
    state.staggerNext = later(state.now, state.image.staggerMs)
    goTo(state, index, level, source)
  }
  state.turnsDue = false
}

/** Restores the stored level, or off when nothing was ever stored. */
function restoreLast(state: DeviceState, index: number): void {
  const level = state.stored?.channels[index]?.level ?? 0
  if (level > 0) turnOnInTurn(state, index, level, 'power')
}

/**
 * The power-up policy of one channel. Pulsed and paired ones never act at power-up. How long the power was away is not
 * known: dead time and least time off run from its coming back.
 */
export function powerUpChannel(state: DeviceState, index: number): void {
  const channel = state.image.channels[index]!
  if (channel.kind === 'paired' && channel.gapMs > 0) state.timers.arm(state.slots.gap(index), state.now, channel.gapMs)
  if (!KINDS[channel.kind].lasting) return
  if (channel.minOffMs > 0) state.timers.arm(state.slots.offGap(index), state.now, channel.minOffMs)
  if (channel.powerUp === 'on') turnOnInTurn(state, index, state.channels[index]!.lastLevel, 'power')
  else if (channel.powerUp === 'last') restoreLast(state, index)
  else if (channel.powerUp === 'service' || channel.powerUp === 'timetable')
    state.timers.arm(state.slots.serviceWait(index), state.now, channel.waitMs)
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

/** What the timetable says for a channel that waits for the clock at power-up; null: it says nothing. */
export function timedAtPowerUp(state: DeviceState, index: number, level: number | null): void {
  state.timers.cancel(state.slots.serviceWait(index))
  state.channels[index]!.reportDue = true
  if (level === null) serviceWaitOver(state, index)
  else if (level > 0) turnOnInTurn(state, index, Math.min(level, topOf(state, index)), 'schedule')
}

/** The service, or the clock, stayed silent at power-up. */
export function serviceWaitOver(state: DeviceState, index: number): void {
  if (state.image.channels[index]!.otherwise === 'last') restoreLast(state, index)
}
