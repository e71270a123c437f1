import type { ImagePoint } from '../image'
import { KINDS } from '../site'
import { SERVICE_WINDOW_MS, type DeviceState } from './state'
import { watchLost } from './watch'

const FIRST_RETRY_MS = 1_000
const LAST_RETRY_MS = 60_000

/** xorshift32 (Marsaglia 2003): a full-period generator in three shifts that the firmware can afford. */
function nextRandom(state: DeviceState): number {
  let x = state.random
  x = (x ^ (x << 13)) >>> 0
  x = (x ^ (x >>> 17)) >>> 0
  x = (x ^ (x << 5)) >>> 0
  state.random = x
  return x
}

/** 1, 2, 4 … 60 s, each ±20 % in whole ms. */
function retryMs(state: DeviceState): number {
  const base = Math.min(LAST_RETRY_MS, FIRST_RETRY_MS * 2 ** Math.min(state.attempts, 6))
  state.attempts = Math.min(state.attempts + 1, 6)
  return Math.floor((base * (800 + (nextRandom(state) % 401))) / 1000)
}

export function join(state: DeviceState): void {
  state.link = 'joining'
  state.out.push({ t: state.now, link: 'joining' })
}

/** The network says that the link is up, or that it is gone or could not be had. */
export function linkChanges(state: DeviceState, up: boolean): void {
  if (!state.image.link && !state.mirrors) return
  if (up && state.link !== 'up') linkUp(state)
  else if (!up && state.link !== 'down') linkDown(state)
}

function linkUp(state: DeviceState): void {
  const { timers, slots } = state
  state.link = 'up'
  state.attempts = 0
  state.announce = true
  timers.cancel(slots.join)
  timers.arm(slots.heartbeat, state.now, state.image.heartbeatMs)
  const outage = state.wasUp
  state.wasUp = true
  // before the first time there was no outage: what happens then, the power-up policies say
  if (!outage || state.image.outage !== 'service') return
  timers.arm(slots.window, state.now, SERVICE_WINDOW_MS)
  // What a service remembers of a door or a reading never wins, so their reports need not wait for it.
  state.image.points.forEach((point, i) => {
    state.heldBack[i] = maySpeakFirst(state, point.carries, point.index)
  })
}

function maySpeakFirst(state: DeviceState, carries: ImagePoint['carries'], index: number): boolean {
  if (carries !== 'channel') return carries === 'mode'
  const { kind } = state.image.channels[index]!
  return KINDS[kind].lasting
}

function linkDown(state: DeviceState): void {
  const { timers, slots } = state
  state.link = 'down'
  state.announce = false
  timers.cancel(slots.heartbeat)
  timers.cancel(slots.window)
  state.heldBack.fill(false)
  state.modeDue = false
  state.channels.forEach((channel, index) => {
    channel.reportDue = false
    timers.cancel(slots.reportGap(index))
  })
  state.sensors.forEach((sensor, index) => {
    sensor.due = false
    timers.cancel(slots.sensorDue(index))
  })
  if (!state.mirrors) watchLost(state)
  timers.arm(slots.join, state.now, retryMs(state))
}

/** The service had its five seconds: what it did not say is reported to it. */
export function windowOver(state: DeviceState): void {
  state.image.points.forEach((point, index) => {
    if (!state.heldBack[index]) return
    state.heldBack[index] = false
    if (point.carries === 'channel') state.channels[point.index]!.reportDue = true
    else state.modeDue = true
  })
}
