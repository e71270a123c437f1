import { difference, later } from './time'
import type { DeviceState } from './state'
import type { Source } from './types'

/** What a channel can be told. A switched channel is one with a single level. */
export type Command = { readonly kind: 'on' | 'off' | 'toggle' | 'up' | 'down' } | { readonly kind: 'level'; readonly level: number }

export const topOf = (state: DeviceState, index: number): number => state.image.channels[index]!.patterns.length - 1

/** The level is restored after a power cut: by the policy, or by its second choice. */
export function levelIsStored(state: DeviceState, index: number): boolean {
  const channel = state.image.channels[index]!
  return channel.powerUp === 'last' || (channel.powerUp === 'service' && channel.otherwise === 'last')
}

/** Part of the stored record: a level that is restored, or the last level of a stepped channel. */
export const isStored = (state: DeviceState, index: number): boolean => levelIsStored(state, index) || state.image.channels[index]!.kind === 'stepped'

function change(state: DeviceState, index: number, level: number, source: Source): void {
  const { image, timers, slots } = state
  const channel = state.channels[index]!
  const wasOff = channel.level === 0
  channel.level = level
  if (level > 0) channel.lastLevel = level
  channel.source = source
  channel.seq = (channel.seq + 1) >>> 0
  channel.reportDue = true
  const { maxOnMs, minOffMs } = image.channels[index]!
  if (level > 0 && wasOff && maxOnMs > 0) timers.arm(slots.limit(index), state.now, maxOnMs)
  if (level === 0) {
    timers.cancel(slots.limit(index))
    if (minOffMs > 0) timers.arm(slots.offGap(index), state.now, minOffMs)
  }
  if (isStored(state, index)) timers.arm(slots.store, state.now, image.storeMs)
}

/** Goes to a level, now or, from off, as soon as minOffMs has passed. A limit runs from the turning on: asking again does not stretch it. */
function goTo(state: DeviceState, index: number, level: number, source: Source): void {
  const channel = state.channels[index]!
  channel.reportDue = true
  if (level === 0) {
    channel.waiting = null
    if (channel.level !== 0) change(state, index, 0, source)
  } else if (channel.level !== 0) {
    if (channel.level !== level) change(state, index, level, source)
  } else if (state.timers.isArmed(state.slots.offGap(index))) {
    channel.waiting = { level, source }
  } else {
    change(state, index, level, source)
  }
}

/** Does a command. The last one wins: it ends whatever the power-up still meant to do. */
export function command(state: DeviceState, index: number, action: Command, source: Source): void {
  const { timers, slots } = state
  const channel = state.channels[index]!
  const meant = channel.level || channel.waiting?.level || (timers.isArmed(slots.turnOn(index)) ? channel.staggered.level : 0)
  timers.cancel(slots.serviceWait(index))
  timers.cancel(slots.turnOn(index))
  goTo(state, index, targetOf(state, index, action, meant), source)
}

function targetOf(state: DeviceState, index: number, action: Command, meant: number): number {
  const { wrap } = state.image.channels[index]!
  const top = topOf(state, index)
  switch (action.kind) {
    case 'on': return meant || state.channels[index]!.lastLevel
    case 'off': return 0
    case 'toggle': return meant ? 0 : state.channels[index]!.lastLevel
    case 'up': return meant < top ? meant + 1 : wrap ? 0 : top
    case 'down': return meant > 0 ? meant - 1 : wrap ? top : 0
    case 'level': return Math.min(action.level, top)
  }
}

/** Turns on as part of a power-up: channels follow each other by staggerMs, so that the coils do not pull in together. */
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
  const level = state.stored?.[index]?.level ?? 0
  if (level > 0) turnOnInTurn(state, index, level, 'power')
}

/** The power-up policy of one channel. */
export function powerUpChannel(state: DeviceState, index: number): void {
  const channel = state.image.channels[index]!
  if (channel.minOffMs > 0) state.timers.arm(state.slots.offGap(index), state.now, channel.minOffMs)
  if (channel.powerUp === 'on') turnOnInTurn(state, index, state.channels[index]!.lastLevel, 'power')
  else if (channel.powerUp === 'last') restoreLast(state, index)
  else if (channel.powerUp === 'service') state.timers.arm(state.slots.serviceWait(index), state.now, channel.waitMs)
}

/** A rocker or selector learned at power-up: applied where the channel's policy is `wall`. `level` null: on, at the last level. */
export function learnedFromWall(state: DeviceState, index: number, level: number | null): void {
  if (state.image.channels[index]!.powerUp !== 'wall' || level === 0) return
  turnOnInTurn(state, index, level === null ? state.channels[index]!.lastLevel : Math.min(level, topOf(state, index)), 'wall')
}

/** The service's value for a channel that waits for it at power-up. */
export function servedAtPowerUp(state: DeviceState, index: number, level: number): void {
  state.timers.cancel(state.slots.serviceWait(index))
  state.channels[index]!.reportDue = true
  if (level > 0) turnOnInTurn(state, index, level, 'service')
}

export const limitReached = (state: DeviceState, index: number): void => goTo(state, index, 0, 'limit')

export function offGapOver(state: DeviceState, index: number): void {
  const { waiting } = state.channels[index]!
  if (waiting === null) return
  state.channels[index]!.waiting = null
  goTo(state, index, waiting.level, waiting.source)
}

export function staggerTurn(state: DeviceState, index: number): void {
  const { level, source } = state.channels[index]!.staggered
  goTo(state, index, level, source)
}

/** The service stayed silent at power-up. */
export function serviceWaitOver(state: DeviceState, index: number): void {
  if (state.image.channels[index]!.otherwise === 'last') restoreLast(state, index)
}

/** Writes the stored channels, if they differ from what is stored. */
export function storeDue(state: DeviceState): void {
  const record = state.channels.map((channel, index) => ({ level: levelIsStored(state, index) ? channel.level : 0, last: channel.lastLevel }))
  const same = (index: number): boolean => {
    const old = state.stored?.[index]
    return old !== undefined && old.level === record[index]!.level && (state.image.channels[index]!.kind === 'switched' || old.last === record[index]!.last)
  }
  if (state.stored && record.every((_, index) => same(index))) return
  state.stored = record
  const words = state.image.channels.flatMap((channel, index) => {
    if (!isStored(state, index)) return []
    const { level, last } = record[index]!
    return [`${channel.id}=${level}${channel.kind === 'stepped' ? `,${last}` : ''}`]
  })
  state.out.push({ t: state.now, store: words.join(' ') })
}

/**
 * Brings the contacts to the pattern of the channel's level: opens first what must open; closes what must close once gapMs has
 * passed since the last opening. A change of mind during the gap only changes what is closed at its end.
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
  if (channel.closed !== wanted && !timers.isArmed(slots.gap(index))) writeContacts(state, index, wanted)
}

function writeContacts(state: DeviceState, index: number, mask: number): void {
  const table = state.image.channels[index]!
  const channel = state.channels[index]!
  const changed = channel.closed ^ mask
  channel.closed = mask
  table.gpios.forEach((_, contact) => {
    if (changed & (1 << contact)) state.out.push({ t: state.now, out: outputName(table, contact), level: mask & (1 << contact) ? 1 : 0 })
  })
}

/** "lamp", or "fan.1", "fan.2" … for the contacts of a stepped channel. */
export const outputName = (table: { readonly id: string; readonly kind: string }, contact: number): string => (table.kind === 'stepped' ? `${table.id}.${contact + 1}` : table.id)
