import { difference, later } from './time'
import type { DeviceState } from './state'
import type { Source } from './types'

export type SwitchedCommand = 'on' | 'off' | 'toggle'

/** A channel's on/off is part of what is stored when it, or the second choice of its power-up, restores it. */
export function isStored(state: DeviceState, index: number): boolean {
  const channel = state.image.channels[index]!
  return channel.powerUp === 'last' || (channel.powerUp === 'service' && channel.otherwise === 'last')
}

function change(state: DeviceState, index: number, on: boolean, source: Source): void {
  const { image, timers, slots } = state
  const channel = state.channels[index]!
  channel.on = on
  channel.source = source
  channel.seq = (channel.seq + 1) >>> 0
  channel.reportDue = true
  const { maxOnMs, minOffMs } = image.channels[index]!
  if (on && maxOnMs > 0) timers.arm(slots.limit(index), state.now, maxOnMs)
  if (!on) {
    timers.cancel(slots.limit(index))
    if (minOffMs > 0) timers.arm(slots.offGap(index), state.now, minOffMs)
  }
  if (isStored(state, index)) timers.arm(slots.store, state.now, image.storeMs)
}

/** Turns on, now or as soon as minOffMs has passed. A limit runs from the turning on: asking again does not stretch it. */
function turnOn(state: DeviceState, index: number, source: Source): void {
  const channel = state.channels[index]!
  channel.reportDue = true
  if (channel.on) return
  if (state.timers.isArmed(state.slots.offGap(index))) channel.waitingOn = source
  else change(state, index, true, source)
}

function turnOff(state: DeviceState, index: number, source: Source): void {
  const channel = state.channels[index]!
  channel.waitingOn = null
  channel.reportDue = true
  if (channel.on) change(state, index, false, source)
}

/** Does a command. The last one wins: it ends whatever the power-up still meant to do. */
export function command(state: DeviceState, index: number, action: SwitchedCommand, source: Source): void {
  const { timers, slots } = state
  const channel = state.channels[index]!
  const meansOn = channel.on || channel.waitingOn !== null || timers.isArmed(slots.turnOn(index))
  timers.cancel(slots.serviceWait(index))
  timers.cancel(slots.turnOn(index))
  if (action === 'on' || (action === 'toggle' && !meansOn)) turnOn(state, index, source)
  else turnOff(state, index, source)
}

/** Turns on as part of a power-up: channels follow each other by staggerMs, so that the coils do not pull in together. */
export function turnOnInTurn(state: DeviceState, index: number, source: Source): void {
  const at = difference(state.staggerNext, state.now) > 0 ? state.staggerNext : state.now
  state.staggerNext = later(at, state.image.staggerMs)
  if (at === state.now) turnOn(state, index, source)
  else {
    state.channels[index]!.staggeredBy = source
    state.timers.arm(state.slots.turnOn(index), state.now, difference(at, state.now))
  }
}

/** Restores the stored state, or off when nothing was ever stored. */
export function restoreLast(state: DeviceState, index: number): void {
  if (state.stored?.[index]) turnOnInTurn(state, index, 'power')
}

/** The power-up policy of one channel. */
export function powerUpChannel(state: DeviceState, index: number): void {
  const channel = state.image.channels[index]!
  if (channel.minOffMs > 0) state.timers.arm(state.slots.offGap(index), state.now, channel.minOffMs)
  if (channel.powerUp === 'on') turnOnInTurn(state, index, 'power')
  else if (channel.powerUp === 'last') restoreLast(state, index)
  else if (channel.powerUp === 'service') state.timers.arm(state.slots.serviceWait(index), state.now, channel.waitMs)
}

/** A rocker learned at power-up: applied where the channel's policy is `wall`. */
export function learnedFromWall(state: DeviceState, index: number, closed: boolean): void {
  if (state.image.channels[index]!.powerUp === 'wall' && closed) turnOnInTurn(state, index, 'wall')
}

/** The service's value for a channel that waits for it at power-up. */
export function servedAtPowerUp(state: DeviceState, index: number, on: boolean): void {
  state.timers.cancel(state.slots.serviceWait(index))
  state.channels[index]!.reportDue = true
  if (on) turnOnInTurn(state, index, 'service')
}

export function limitReached(state: DeviceState, index: number): void {
  turnOff(state, index, 'limit')
}

export function offGapOver(state: DeviceState, index: number): void {
  const source = state.channels[index]!.waitingOn
  if (source === null) return
  state.channels[index]!.waitingOn = null
  turnOn(state, index, source)
}

export function staggerTurn(state: DeviceState, index: number): void {
  turnOn(state, index, state.channels[index]!.staggeredBy)
}

/** The service stayed silent at power-up. */
export function serviceWaitOver(state: DeviceState, index: number): void {
  if (state.image.channels[index]!.otherwise === 'last') restoreLast(state, index)
}

/** Writes the stored channels, if they differ from what is stored. */
export function storeDue(state: DeviceState): void {
  const bits = state.channels.map((channel, index) => isStored(state, index) && channel.on)
  if (state.stored && bits.every((bit, index) => bit === state.stored![index])) return
  state.stored = bits
  const words = state.image.channels.flatMap((channel, index) => (isStored(state, index) ? [`${channel.id}=${bits[index] ? 1 : 0}`] : []))
  state.out.push({ t: state.now, store: words.join(' ') })
}
