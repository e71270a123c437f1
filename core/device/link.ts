import { publish, SERVICE_WINDOW_MS, type DeviceState } from './state'

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
  const { timers, slots } = state
  if (!state.image.link) return
  if (up && state.link !== 'up') {
    state.link = 'up'
    state.attempts = 0
    state.announce = true
    timers.cancel(slots.join)
    timers.arm(slots.heartbeat, state.now, state.image.heartbeatMs)
    if (state.image.outage === 'service') {
      timers.arm(slots.window, state.now, SERVICE_WINDOW_MS)
      state.heldBack.fill(true)
    }
  } else if (!up && state.link !== 'down') {
    state.link = 'down'
    state.announce = false
    timers.cancel(slots.heartbeat)
    timers.cancel(slots.window)
    state.heldBack.fill(false)
    state.channels.forEach((channel, index) => {
      channel.reportDue = false
      timers.cancel(slots.reportGap(index))
    })
    timers.arm(slots.join, state.now, retryMs(state))
  }
}

/** The service had its five seconds: what it did not say is reported to it. */
export function windowOver(state: DeviceState): void {
  state.image.points.forEach((point, index) => {
    if (state.heldBack[index]) state.channels[point.channel]!.reportDue = true
    state.heldBack[index] = false
  })
}

function reportChannel(state: DeviceState, index: number): void {
  const { image, timers, slots, scheme } = state
  const channel = state.channels[index]!
  const { topic, reports, kind, patterns } = image.channels[index]!
  channel.reportDue = false
  if (image.minReportMs > 0) timers.arm(slots.reportGap(index), state.now, image.minReportMs)
  if (reports) publish(state, scheme.state(topic), `{"on":${channel.level > 0},${kind === 'stepped' ? `"level":${channel.level},` : ''}"source":"${channel.source}","seq":${channel.seq}}`, true)
  image.points.forEach((point, p) => {
    if (point.channel === index && point.reports && !state.heldBack[p]) publish(state, scheme.pointState(point.vp), String(point.min + Math.floor((channel.level * (point.max - point.min)) / (patterns.length - 1))), true)
  })
}

export function fullReport(state: DeviceState): void {
  for (let index = 0; index < state.channels.length; index++) reportChannel(state, index)
}

export function heartbeat(state: DeviceState): void {
  state.timers.arm(state.slots.heartbeat, state.now, state.image.heartbeatMs)
  for (const channel of state.channels) channel.reportDue = true
  state.channels.forEach((_, index) => state.timers.cancel(state.slots.reportGap(index)))
}

/** Reports in channel order; first of all, once the link is up: online, everything, then the subscriptions. */
export function sendReports(state: DeviceState): void {
  if (state.link !== 'up') return
  if (state.announce) {
    state.announce = false
    publish(state, state.scheme.status, 'online', true)
    fullReport(state)
    for (const sub of state.subscriptions) state.out.push({ t: state.now, sub })
    return
  }
  for (let index = 0; index < state.channels.length; index++) {
    if (state.channels[index]!.reportDue && !state.timers.isArmed(state.slots.reportGap(index))) reportChannel(state, index)
  }
}
