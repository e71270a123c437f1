import { command } from './channels'
import { rulesMayAct } from './rules'
import type { DeviceState } from './state'
import { difference } from './time'

const MINUTE_MS = 60_000
const DAY_MS = 86_400_000
export const WEEK_MS = 7 * DAY_MS

/** The clock is told: ms since Monday 00:00, local time. */
export function clockSet(state: DeviceState, weekMs: number): void {
  state.clock = { at: state.now, weekMs }
  armNext(state, true)
}

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
    if ((schedule.days & (1 << day)) === 0 || schedule.minute !== minute || !rulesMayAct(state, schedule.channel))
      continue
    command(state, schedule.channel, { action: schedule.action, level: schedule.level }, 'schedule')
  }
  armNext(state, false)
}
