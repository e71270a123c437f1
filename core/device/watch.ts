import { goTo } from './channels'
import { log, type DeviceState } from './state'

/**
 * Is the hub alive? Heard means: a heartbeat within watchMs, over a link that is up. Unheard for graceMs more, the
 * feeds go local; heard again for steadyMs without a break, they are detached and closed, so that the lamps have power.
 */
export function startWatch(state: DeviceState): void {
  state.heard = false
  state.local = false
  const { watch } = state.image
  if (watch) state.timers.arm(state.slots.grace, state.now, watch.graceMs)
}

/** A heartbeat. A retained one says only that the hub lived once. */
export function heartbeatHeard(state: DeviceState, retain: boolean): void {
  const { watch } = state.image
  if (!watch || retain || state.mirrors) return
  const { timers, slots } = state
  timers.arm(slots.watch, state.now, watch.watchMs)
  if (state.heard) return
  state.heard = true
  timers.cancel(slots.grace)
  if (state.local) timers.arm(slots.steady, state.now, watch.steadyMs)
}

/** The heartbeat stays away, or the link is gone. */
export function watchLost(state: DeviceState): void {
  const { watch } = state.image
  const { timers, slots } = state
  if (!watch || !state.heard) return
  state.heard = false
  timers.cancel(slots.watch)
  timers.cancel(slots.steady)
  if (!state.local) timers.arm(slots.grace, state.now, watch.graceMs)
}

export function graceOver(state: DeviceState): void {
  state.local = true
  log(state, 'watch: hub not heard, feeds are local')
  eachFeed(state, (index) => {
    state.channels[index]!.reportDue = true
  })
}

export function steadyOver(state: DeviceState): void {
  state.local = false
  log(state, 'watch: hub is steady, feeds are detached')
  eachFeed(state, (index) => goTo(state, index, 1, 'watch'))
}

function eachFeed(state: DeviceState, act: (index: number) => void): void {
  state.image.channels.forEach((channel, index) => {
    if (channel.kind === 'feed') act(index)
  })
}
