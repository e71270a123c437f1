import { KINDS } from '../site'
import { beginRest } from './contacts'
import { sayToChannel } from './sayToMain'
import { log, NO_TURN, REST_MS, UNKNOWN, type DeviceState } from './state'
import { isStored, storeSoon } from './store'
import { difference } from './time'
import type { Command, Source } from './types'

export const topOf = (state: DeviceState, index: number): number => state.image.channels[index]!.patterns.length - 1

function change(state: DeviceState, index: number, level: number, source: Source): void {
  const { image, timers, slots } = state
  const channel = state.channels[index]!
  const { kind, maxOnMs, minOffMs } = image.channels[index]!
  channel.level = level
  if (level > 0) channel.lastLevel = level
  channel.source = source
  channel.seq = (channel.seq + 1) >>> 0
  channel.reportDue = true
  state.statusDue = true
  // A pulse is as long as it is told; every other limit follows the contact (contacts.ts).
  if (KINDS[kind].limitRunsFrom === 'command') {
    if (level === 0) timers.cancel(slots.limit(index))
    else timers.arm(slots.limit(index), state.now, maxOnMs)
  } else if (kind === 'stepped' && channel.closed === 0) {
    // within the gap between two levels, when nothing opens or closes
    if (level === 0) beginRest(state, index)
    else timers.cancel(slots.rest(index))
  }
  if (level === 0 && minOffMs > 0) timers.arm(slots.offGap(index), state.now, minOffMs)
  if (isStored(state, index)) storeSoon(state)
}

/** Goes to a level, now or, from off, as soon as minOffMs or the rest after a limit has passed. */
export function goTo(state: DeviceState, index: number, level: number, source: Source): void {
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

/**
 * A point with fewer values than its stepped channel has levels says on and off: the least is off, anything else the
 * last level, and it shows its least or its greatest.
 */
export function isOnOffPoint(state: DeviceState, index: number): boolean {
  const { carries, index: carried, min, max } = state.image.points[index]!
  return carries === 'channel' && state.image.channels[carried]!.kind === 'stepped' && max - min < topOf(state, carried)
}

/**
 * Does a command on a channel, as its kind understands it. The last one wins: it ends whatever the power-up still meant
 * to do.
 */
export function command(state: DeviceState, index: number, told: Command, source: Source): void {
  if (state.mirrors) return sayToChannel(state, index, told)
  const { kind } = state.image.channels[index]!
  if (kind === 'pulsed') return pulseCommand(state, index, told, source)
  const level = targetOf(state, index, told)
  if (level === undefined) return
  state.timers.cancel(state.slots.serviceWait(index))
  state.channels[index]!.staggered = NO_TURN
  goTo(state, index, level, source)
}

/** The level that a command asks of a channel that is not pulsed; undefined: its kind does not know the word. */
export function targetOf(state: DeviceState, index: number, told: Command): number | undefined {
  const { level, waiting, staggered } = state.channels[index]!
  if (state.image.channels[index]!.kind === 'paired') return pairedTarget(state, index, told)
  return lastingTarget(state, index, told, level || waiting?.level || staggered.level)
}

/** The level that a switched, stepped or feeding channel is to have; undefined: it does not know the word. */
function lastingTarget(state: DeviceState, index: number, told: Command, meant: number): number | undefined {
  const { wrap } = state.image.channels[index]!
  const { lastLevel } = state.channels[index]!
  const top = topOf(state, index)
  switch (told.action) {
    case 'on':
      return meant || lastLevel
    case 'off':
      return 0
    case 'toggle':
      return meant ? 0 : lastLevel
    case 'up':
      return meant < top ? meant + 1 : wrap ? 0 : top
    case 'down':
      return meant > 0 ? meant - 1 : wrap ? top : 0
    case 'level':
      return Math.min(told.level, top)
    default:
      return undefined
  }
}

/**
 * 0 stop, 1 a, 2 b. A toggle stops what runs, and starts the other way from where it ran last: one button works a
 * shutter.
 */
function pairedTarget(state: DeviceState, index: number, told: Command): number | undefined {
  const { level, lastLevel } = state.channels[index]!
  switch (told.action) {
    case 'a':
    case 'up':
      return 1
    case 'b':
    case 'down':
      return 2
    case 'stop':
    case 'off':
      return 0
    case 'toggle':
      return level > 0 ? 0 : lastLevel === 1 ? 2 : 1
    case 'level':
      return Math.min(told.level, 2)
    default:
      return undefined
  }
}

/** Where a door stands by its position contact; undefined: it has none, or it has not settled yet. */
export function doorIsClosed(state: DeviceState, index: number): boolean | undefined {
  const table = state.image.channels[index]!
  const settled = state.inputs[table.contact]?.settled ?? UNKNOWN
  return settled === UNKNOWN ? undefined : (settled !== 0) === table.contactMeansClosed
}

export const hasContact = (state: DeviceState, index: number): boolean =>
  state.image.channels[index]!.contact < state.inputs.length

function pulseCommand(state: DeviceState, index: number, told: Command, source: Source): void {
  switch (told.action) {
    case 'pulse':
      return pulse(state, index, source)
    case 'level':
      return told.level > 0 ? pulse(state, index, source) : undefined
    case 'open':
    case 'close': {
      const closed = doorIsClosed(state, index)
      if (closed === undefined) return refuse(state, index, 'position not known')
      // Only a door that stands the other way is pulsed: a repeated `open` must not close it.
      if (closed === (told.action === 'open')) return pulse(state, index, source)
      state.channels[index]!.reportDue = true
      return
    }
    default:
      return
  }
}

function pulse(state: DeviceState, index: number, source: Source): void {
  if (state.channels[index]!.level > 0) return refuse(state, index, 'pulse running')
  if (lockedOut(state, index)) return refuse(state, index, 'locked out')
  change(state, index, 1, source)
}

/** The lockout ends at its last millisecond: what comes with its end is accepted. */
function lockedOut({ timers, slots, now }: DeviceState, index: number): boolean {
  const slot = slots.offGap(index)
  return timers.isArmed(slot) && difference(timers.deadline(slot), now) > 0
}

/** A pulse that is not made is said, so that nobody waits at a door. */
function refuse(state: DeviceState, index: number, why: string): void {
  state.channels[index]!.reportDue = true
  log(state, `${state.image.channels[index]!.topic}: ${why}`)
}

/** The limit opens the contact, and keeps it open until it has rested. */
export function limitReached(state: DeviceState, index: number): void {
  const { timers, slots, now } = state
  if (KINDS[state.image.channels[index]!.kind].limitRunsFrom === 'command') return goTo(state, index, 0, 'limit')
  const left = (slot: number) => difference(timers.deadline(slot), now)
  const [rest, gap] = [slots.rest(index), slots.offGap(index)]
  // one that has been told open a moment ago rests already
  const wait = timers.isArmed(rest) ? left(rest) : REST_MS
  if (state.channels[index]!.level > 0) goTo(state, index, 0, 'limit')
  if (!timers.isArmed(gap) || left(gap) < wait) timers.arm(gap, now, wait)
}

/** The contact has really been open: the limit is over, and counts anew from the next closing. */
export const restOver = (state: DeviceState, index: number): void => state.timers.cancel(state.slots.limit(index))

/** A turn-on that waited acts. */
export function waitingTurnsOn(state: DeviceState, index: number): void {
  const { waiting } = state.channels[index]!
  if (waiting === null) return
  state.channels[index]!.waiting = null
  goTo(state, index, waiting.level, waiting.source)
}
