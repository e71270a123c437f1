import type { ImagePoint } from '../image'
import { KINDS } from '../site'
import { anyUp, ofLink, SERVICE_WINDOW_MS, UNLINKED, type DeviceState } from './state'
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
function retryMs(state: DeviceState, index: number): number {
  const link = state.links[index]!
  const base = Math.min(LAST_RETRY_MS, FIRST_RETRY_MS * 2 ** Math.min(link.attempts, 6))
  link.attempts = Math.min(link.attempts + 1, 6)
  return Math.floor((base * (800 + (nextRandom(state) % 401))) / 1000)
}

export function join(state: DeviceState, index: number): void {
  state.links[index]!.state = 'joining'
  state.out.push({ t: state.now, link: 'joining', ...ofLink(state, index) })
}

/** All links start to join, in their order. */
export const joinAll = (state: DeviceState): void => state.links.forEach((_, index) => join(state, index))

/** As it is without power. */
export function forgetLinks(state: DeviceState): void {
  for (const link of state.links) Object.assign(link, UNLINKED)
  state.heldBack.fill(false)
}

/** The network says that a link is up, or that it is gone or could not be had. */
export function linkChanges(state: DeviceState, index: number, up: boolean): void {
  if (!state.image.link && !state.mirrors) return
  const link = state.links[index]
  if (!link) return
  if (up && link.state !== 'up') linkUp(state, index)
  else if (!up && link.state !== 'down') linkDown(state, index)
}

function linkUp(state: DeviceState, index: number): void {
  const { timers, slots } = state
  const link = state.links[index]!
  // full reports go to all links at once, so the first that comes up starts them
  if (!anyUp(state)) timers.arm(slots.heartbeat, state.now, state.image.heartbeatMs)
  link.state = 'up'
  link.attempts = 0
  link.announce = true
  timers.cancel(slots.join(index))
  const outage = link.wasUp
  link.wasUp = true
  // before the first time there was no outage: what happens then, the power-up policies say
  if (!outage || link.table.outage !== 'service') return
  timers.arm(slots.window(index), state.now, SERVICE_WINDOW_MS)
  // What a service remembers of a door or a reading never wins, so their reports need not wait for it.
  state.image.points.forEach((point, i) => {
    if (linkOf(point) === index) state.heldBack[i] = maySpeakFirst(state, point.carries, point.index)
  })
}

export const linkOf = (point: ImagePoint): number => point.link ?? 0

function maySpeakFirst(state: DeviceState, carries: ImagePoint['carries'], index: number): boolean {
  if (carries !== 'channel') return carries === 'mode'
  const { kind } = state.image.channels[index]!
  return KINDS[kind].lasting
}

function linkDown(state: DeviceState, index: number): void {
  const { timers, slots } = state
  const link = state.links[index]!
  link.state = 'down'
  link.announce = false
  timers.cancel(slots.window(index))
  state.image.points.forEach((point, i) => {
    if (linkOf(point) === index) state.heldBack[i] = false
  })
  if (!anyUp(state)) nobodyHears(state)
  if (link.table.own && !state.mirrors) watchLost(state)
  timers.arm(slots.join(index), state.now, retryMs(state, index))
}

/** What waits to be said waits for nobody: the next link that comes up gets everything. */
function nobodyHears(state: DeviceState): void {
  const { timers, slots } = state
  timers.cancel(slots.heartbeat)
  state.modeDue = false
  state.channels.forEach((channel, index) => {
    channel.reportDue = false
    timers.cancel(slots.reportGap(index))
  })
  state.sensors.forEach((sensor, index) => {
    sensor.due = false
    timers.cancel(slots.sensorDue(index))
  })
}

/** The service had its five seconds: what it did not say is reported to it. */
export function windowOver(state: DeviceState, link: number): void {
  state.image.points.forEach((point, index) => {
    if (linkOf(point) !== link || !state.heldBack[index]) return
    state.heldBack[index] = false
    if (point.carries === 'channel') state.channels[point.index]!.reportDue = true
    else state.modeDue = true
  })
}
