import type { ImageSchedule } from '../image'
import { command } from './channels'
import { timedAtPowerUp } from './powerUp'
import { log, type DeviceState } from './state'
import { difference } from './time'

const MINUTE_MS = 60_000
const DAY_MS = 86_400_000
export const WEEK_MS = 7 * DAY_MS

/**
 * The clock is told: ms since Monday 00:00, local time. What was missed while it was not known, or is jumped over, is
 * made up for.
 */
export function clockSet(state: DeviceState, weekMs: number): void {
  const missed = missedBy(state, weekMs)
  state.clock = { at: state.now, weekMs }
  for (const [index, { powerUp }] of state.image.channels.entries()) {
    if (powerUp === 'timetable' && state.timers.isArmed(state.slots.serviceWait(index))) {
      const last = lastPassed(state, index, WEEK_MS, true)
      timedAtPowerUp(state, index, last && levelOf(state, last))
    } else if (missed > 0) {
      const last = lastPassed(state, index, missed, false)
      if (last) act(state, last)
    }
  }
  armNext(state, true)
}

/** How far back schedules are made up for, ms: a day when the clock becomes known, else what it jumps ahead by. */
function missedBy(state: DeviceState, weekMs: number): number {
  if (state.clock === null) return DAY_MS
  const { at, weekMs: then } = state.clock
  const ahead = (weekMs - then - difference(state.now, at) + 2 * WEEK_MS) % WEEK_MS
  // more than half a week ahead is set back
  return ahead < WEEK_MS / 2 ? Math.min(ahead, DAY_MS) : 0
}

/**
 * The schedule of a channel that has passed last, less than `within` ago; of two at one time the later row. `any`: also
 * one that is now, and one that is not to be made up for.
 */
function lastPassed(state: DeviceState, index: number, within: number, any: boolean): ImageSchedule | null {
  let best: number = within
  let last: ImageSchedule | null = null
  for (const schedule of state.image.schedules) {
    if (schedule.channel !== index || !(any || schedule.catchUp)) continue
    for (let day = 0; day < 7; day++) {
      if ((schedule.days & (1 << day)) === 0) continue
      const ago = (state.clock!.weekMs - day * DAY_MS - schedule.minute * MINUTE_MS + WEEK_MS) % WEEK_MS
      if (ago > best || ago >= within || (ago === 0 && !any)) continue
      best = ago
      last = schedule
    }
  }
  return last
}

const levelOf = (state: DeviceState, { channel, action, level }: ImageSchedule): number =>
  action === 'on' ? state.channels[channel]!.lastLevel : action === 'off' ? 0 : level

/** ms from the week's instant to the next time of a schedule; 0 counts only where `inclusive`. */
function untilNext(state: DeviceState, weekMs: number, inclusive: boolean): number | null {
  let best: number | null = null
  for (const { days, minute } of state.image.schedules) {
    for (let day = 0; day < 7; day++) {
      if ((days & (1 << day)) === 0) continue
      const ahead = (day * DAY_MS + minute * MINUTE_MS - weekMs + WEEK_MS) % WEEK_MS
      const wait = ahead === 0 && !inclusive ? WEEK_MS : ahead
      if (best === null || wait < best) best = wait
    }
  }
  return best
}

function armNext(state: DeviceState, inclusive: boolean): void {
  const wait = untilNext(state, state.clock!.weekMs, inclusive)
  if (wait !== null) state.timers.arm(state.slots.schedule, state.now, wait)
}

/** It is time for a schedule. The clock's base moves along, so that the 32-bit millisecond count may wrap. */
export function scheduleDue(state: DeviceState): void {
  const { at, weekMs } = state.clock!
  const now = (weekMs + difference(state.now, at)) % WEEK_MS
  state.clock = { at: state.now, weekMs: now }
  const day = Math.floor(now / DAY_MS)
  const minute = Math.floor((now % DAY_MS) / MINUTE_MS)
  for (const schedule of state.image.schedules) {
    if ((schedule.days & (1 << day)) === 0 || schedule.minute !== minute) continue
    act(state, schedule)
  }
  armNext(state, false)
}

/** A hand keeps rules away for a while, not a timetable; in manual it is skipped, and that is said. */
function act(state: DeviceState, { channel, action, level }: ImageSchedule): void {
  if (state.channels[channel]!.auto) command(state, channel, { action, level }, 'schedule')
  else log(state, `${state.image.channels[channel]!.topic}: manual, schedule skipped`)
}
