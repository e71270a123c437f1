import type { ControllerImage } from '../image'
import { held, levelArrives, settled } from './inputs'
import { heartbeat, join, linkChanges, sendReports, windowOver } from './link'
import { messageArrives } from './messages'
import { commitChannel, limitReached, offGapOver, outputName, powerUpChannel, serviceWaitOver, staggerTurn, storeDue } from './channels'
import { createState, restedChannel, UNKNOWN, type DeviceState } from './state'
import { difference, instant } from './time'
import type { DeviceEvent, DeviceOutput } from './types'

/**
 * The reference interpreter of a controller image. It is advanced to instants; between them it jumps from deadline to
 * deadline, so the result does not depend on how often it is called (property test in device.property.test.ts).
 */
export interface Device {
  /** Works off every deadline before t, then the events at t, then what is due at t. Returns what the device did. */
  advance(t: number, events?: readonly DeviceEvent[]): DeviceOutput[]
  /** The next instant at which it would do something by itself; null: none. */
  nextDeadline(): number | null
  /** For screens: what is true now. */
  inspect(): DeviceView
}

export interface DeviceView {
  readonly powered: boolean
  readonly link: 'down' | 'joining' | 'up'
  readonly channels: readonly { readonly id: string; readonly level: number; readonly source: string; readonly waiting: boolean }[]
}

export function createDevice(image: ControllerImage): Device {
  const state = createState(image)
  return {
    advance: (t, events = []) => advance(state, instant(t), events),
    nextDeadline: () => {
      const slot = state.timers.next()
      return slot < 0 ? null : state.timers.deadline(slot)
    },
    inspect: () => ({
      powered: state.powered,
      link: state.link,
      channels: state.channels.map((channel, index) => ({ id: image.channels[index]!.id, level: channel.level, source: channel.source, waiting: channel.waiting !== null })),
    }),
  }
}

function advance(state: DeviceState, t: number, events: readonly DeviceEvent[]): DeviceOutput[] {
  for (let slot = state.timers.next(); slot >= 0 && difference(state.timers.deadline(slot), t) < 0; slot = state.timers.next()) {
    runInstant(state, state.timers.deadline(slot), [])
  }
  runInstant(state, t, events)
  const { out } = state
  state.out = []
  return out
}

/** One instant, in the order of docs/behaviour.md: power and link, levels, messages, deadlines, outputs, reports. */
function runInstant(state: DeviceState, now: number, events: readonly DeviceEvent[]): void {
  state.now = now
  for (const event of events) {
    if (event.kind === 'power') powerChanges(state, event.on)
    else if (event.kind === 'link' && state.powered) linkChanges(state, event.up)
  }
  for (const event of events) if (event.kind === 'level') levelArrives(state, event.input, event.bit, event.level)
  if (!state.powered) return
  for (const event of events) if (event.kind === 'message') messageArrives(state, event.topic, event.payload, event.retain)
  for (let slot = state.timers.next(); slot >= 0 && difference(state.timers.deadline(slot), now) <= 0; slot = state.timers.next()) {
    // Unlinked before it acts, so that what it does may arm the same slot again.
    state.timers.cancel(slot)
    deadline(state, slot)
  }
  state.channels.forEach((_, index) => commitChannel(state, index))
  sendReports(state)
}

function deadline(state: DeviceState, slot: number): void {
  const owner = state.owners[slot]!
  switch (owner.kind) {
    case 'settle': return settled(state, owner.index)
    case 'hold': return held(state, owner.index)
    case 'limit': return limitReached(state, owner.index)
    case 'offGap': return offGapOver(state, owner.index)
    case 'turnOn': return staggerTurn(state, owner.index)
    case 'serviceWait': return serviceWaitOver(state, owner.index)
    case 'reportGap': return
    case 'gap': return
    case 'store': return storeDue(state)
    case 'join': return join(state)
    case 'heartbeat': return heartbeat(state)
    case 'window': return windowOver(state)
  }
}

function powerChanges(state: DeviceState, on: boolean): void {
  if (on === state.powered) return
  state.timers.cancelAll()
  state.powered = on
  state.link = 'down'
  state.announce = false
  state.heldBack.fill(false)
  if (!on) return
  state.attempts = 0
  state.random = state.image.seed
  state.staggerNext = state.now
  state.image.channels.forEach((table, index) => {
    state.channels[index] = restedChannel(state.stored?.[index]?.last ?? table.onLevel)
    table.gpios.forEach((_, contact) => state.out.push({ t: state.now, out: outputName(table, contact), level: 0 }))
  })
  state.inputs.forEach((input, index) => {
    input.settled = UNKNOWN
    input.holdFired = false
    state.timers.arm(state.slots.settle(index), state.now, state.image.inputs[index]!.settleMs)
  })
  state.channels.forEach((_, index) => powerUpChannel(state, index))
  if (state.image.link) join(state)
}
