import { outputName } from '../site'
import type { ControllerImage, PairRole } from '../image'
import { yieldOver } from './auto'
import { limitReached, restOver, waitingTurnsOn } from './channels'
import { commitChannel } from './contacts'
import { held, levelArrives, settled } from './inputs'
import { forgetLinks, join, joinAll, linkChanges, windowOver } from './link'
import { messageArrives } from './messages'
import { forgetMain, lineArrives, mainLost } from './mirror'
import { giveTurns, powerUpChannel, serviceWaitOver } from './powerUp'
import { edgesArrive, frameArrives } from './remote'
import { heartbeat, sendReports, sensorDue } from './reports'
import { dwellOver, sensorArrives, sensorStale } from './rules'
import { clockSet, scheduleDue } from './schedule'
import { charArrives, sendStatusLine, statusOver } from './serial'
import type { Indexed, Own } from './slots'
import { copyState, createState, restedChannel, UNKNOWN, type DeviceState } from './state'
import { storeDue } from './store'
import { difference, instant } from './time'
import type { DeviceEvent, DeviceOutput, Source } from './types'
import { graceOver, startWatch, steadyOver, watchLost } from './watch'

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
  /** The same device once more, as it stands: each goes its own way from here. */
  copy(): Device
}

export interface DeviceView {
  readonly powered: boolean
  /** the first link */
  readonly link: 'down' | 'joining' | 'up'
  readonly links: readonly { readonly id: string; readonly state: 'down' | 'joining' | 'up' }[]
  /** feeds work by themselves */
  readonly local: boolean
  readonly channels: readonly {
    readonly id: string
    readonly level: number
    /** contacts that are closed now, as bits */ readonly closed: number
    readonly source: Source
    readonly waiting: boolean
    readonly auto: boolean
  }[]
  readonly sensors: readonly { readonly id: string; /** thousandths */ readonly value: number | null }[]
}

export const createDevice = (image: ControllerImage, as: PairRole = 'main'): Device =>
  deviceOf(createState(image, as === 'mirror'))

function deviceOf(state: DeviceState): Device {
  const { image } = state
  return {
    copy: () => deviceOf(copyState(state)),
    advance: (t, events = []) => advance(state, instant(t), events),
    nextDeadline: () => {
      const slot = state.timers.next()
      return slot < 0 ? null : state.timers.deadline(slot)
    },
    inspect: () => ({
      powered: state.powered,
      link: state.links[0]!.state,
      links: state.links.map(({ table, state: now }) => ({ id: table.id, state: now })),
      local: state.local,
      channels: state.channels.map((channel, index) => ({
        id: image.channels[index]!.id,
        level: channel.level,
        closed: channel.closed,
        source: channel.source,
        waiting: channel.waiting !== null || channel.staggered.level > 0,
        auto: state.ruled[index]! && channel.auto,
      })),
      sensors: state.sensors.map(({ value }, index) => ({ id: image.sensors[index]!.id, value })),
    }),
  }
}

function advance(state: DeviceState, t: number, events: readonly DeviceEvent[]): DeviceOutput[] {
  for (
    let slot = state.timers.next();
    slot >= 0 && difference(state.timers.deadline(slot), t) < 0;
    slot = state.timers.next()
  ) {
    runInstant(state, state.timers.deadline(slot), [])
  }
  runInstant(state, t, events)
  const { out } = state
  state.out = []
  return out
}

/**
 * One instant, in the order of docs/behaviour.md: power, link and clock; levels and what they mean; frames; messages
 * and characters; sensors; deadlines; outputs; reports.
 */
function runInstant(state: DeviceState, now: number, events: readonly DeviceEvent[]): void {
  state.now = now
  for (const event of events) {
    if (event.kind === 'power') powerChanges(state, event.on)
    else if (event.kind === 'link' && state.powered) linkChanges(state, event.of ?? 0, event.up)
    else if (event.kind === 'clock' && state.powered && !state.mirrors) clockSet(state, event.weekMs)
  }
  if (state.mirrors) return mirrorInstant(state, events)
  for (const event of events) if (event.kind === 'level') levelArrives(state, event.input, event.bit, event.level)
  if (!state.powered) return
  workOffGestures(state)
  for (const event of events) {
    if (event.kind === 'frame') frameArrives(state, event.frame)
    else if (event.kind === 'edges') edgesArrive(state, event.durations)
  }
  for (const event of events) {
    if (event.kind === 'message') messageArrives(state, event)
    else if (event.kind === 'char') charArrives(state, event.char)
  }
  for (const event of events) if (event.kind === 'sensor') sensorArrives(state, event.sensor, event.value)
  workOffDeadlines(state)
  giveTurns(state)
  const tables = state.image.channels
  for (let index = 0; index < tables.length; index++) {
    const channel = state.channels[index]!
    if (channel.closed !== tables[index]!.patterns[channel.level]) commitChannel(state, index)
  }
  sendReports(state)
  sendStatusLine(state)
}

/**
 * A coprocessor has no contacts and no sensors of its own: lines and messages, in order of arrival, then what is due.
 */
function mirrorInstant(state: DeviceState, events: readonly DeviceEvent[]): void {
  if (!state.powered) return
  for (const event of events) {
    if (event.kind === 'message') messageArrives(state, event)
    else if (event.kind === 'line') lineArrives(state, event.line)
  }
  workOffDeadlines(state)
  sendReports(state)
}

/** What has settled and been held by now belongs to the levels: it acts before the messages of its instant. */
function workOffGestures(state: DeviceState): void {
  for (let slot = state.timers.dueGesture(state.now); slot >= 0; slot = state.timers.dueGesture(state.now))
    fireDeadline(state, slot)
}

function workOffDeadlines(state: DeviceState): void {
  for (
    let slot = state.timers.next();
    slot >= 0 && difference(state.timers.deadline(slot), state.now) <= 0;
    slot = state.timers.next()
  )
    fireDeadline(state, slot)
}

function fireDeadline(state: DeviceState, slot: number): void {
  // Unlinked before it acts, so that what it does may arm the same slot again.
  state.timers.cancel(slot)
  const owner = state.owners[slot]!
  if ('index' in owner) INDEXED[owner.kind](state, owner.index)
  else OWN[owner.kind](state)
}

/** What a deadline of an input, a channel, a sensor or a rule does. */
const INDEXED: Record<Indexed, (state: DeviceState, index: number) => void> = {
  settle: settled,
  hold: held,
  limit: limitReached,
  rest: restOver,
  offGap: waitingTurnsOn,
  serviceWait: serviceWaitOver,
  yield: yieldOver,
  stale: sensorStale,
  sensorDue,
  dwell: dwellOver,
  join,
  window: windowOver,
  reportGap: onlyHadToPass,
  gap: onlyHadToPass,
}

/** What one of the controller's own does. */
const OWN: Record<Own, (state: DeviceState) => void> = {
  turn: onlyHadToPass,
  store: storeDue,
  heartbeat,
  watch: (state) => (state.mirrors ? mainLost(state) : watchLost(state)),
  grace: graceOver,
  steady: steadyOver,
  status: statusOver,
  schedule: scheduleDue,
  pressWindow: onlyHadToPass,
  keyRepeat: onlyHadToPass,
}

/** What these deadlines kept back looks itself whether they are armed. */
function onlyHadToPass(): void {}

function powerChanges(state: DeviceState, on: boolean): void {
  if (on === state.powered) return
  state.timers.cancelAll()
  state.powered = on
  forgetLinks(state)
  if (!on) return
  state.random = state.image.seed
  state.staggerNext = state.now
  state.turnsDue = false
  state.modeDue = false
  if (state.mirrors) {
    forgetMain(state)
    return joinAll(state)
  }
  state.statusDue = true
  state.unknownChars = 0
  state.lastFrame = null
  state.clock = null
  state.wishes.fill(null)
  state.image.channels.forEach((table, index) => {
    const stored = state.stored?.channels[index]
    state.channels[index] = restedChannel(stored?.last ?? table.onLevel, stored?.auto ?? state.image.auto.start)
    table.gpios.forEach((_, contact) => state.out.push({ t: state.now, out: outputName(table, contact), level: 0 }))
  })
  restInputs(state)
  state.channels.forEach((_, index) => powerUpChannel(state, index))
  startWatch(state)
  if (state.image.link) joinAll(state)
}

/** Nothing has settled, no button was pressed, and no sensor has spoken. */
function restInputs(state: DeviceState): void {
  state.inputs.forEach((input, index) => {
    input.settled = UNKNOWN
    input.pressed = false
    input.movedFrom = state.now
    input.movedAt = state.now
    input.bounced = 0
    input.holdFired = false
    state.timers.arm(state.slots.settle(index), state.now, state.image.inputs[index]!.settleMs)
  })
  state.image.sensors.forEach((sensor, index) => {
    state.sensors[index] = { value: null, reported: null, heard: false, due: false }
    // A sensor that never speaks is as good as one that fell silent.
    state.timers.arm(state.slots.stale(index), state.now, sensor.staleMs)
  })
}
