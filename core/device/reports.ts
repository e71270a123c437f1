import { KINDS } from '../site'
import { subscriptionsOf } from '../topics'
import { isAuto, modeWord } from './auto'
import { doorIsClosed, hasContact, isOnOffPoint } from './channels'
import { linkOf } from './link'
import { anyUp, isUp, ofLink, publish, type DeviceState } from './state'

/** Thousandths as the shortest decimal: 23400 gives "23.4". */
export function decimal(thousandths: number): string {
  const whole = Math.floor(Math.abs(thousandths) / 1000)
  const rest = String(Math.abs(thousandths) % 1000)
    .padStart(3, '0')
    .replace(/0+$/, '')
  return `${thousandths < 0 ? '-' : ''}${whole}${rest ? `.${rest}` : ''}`
}

/** The word for the state of a channel that reports words: of its level, or of where its door stands. */
function stateWord(state: DeviceState, index: number): string {
  if (!hasContact(state, index)) return KINDS[state.image.channels[index]!.kind].states[state.channels[index]!.level]!
  const closed = doorIsClosed(state, index)
  return closed === undefined ? 'unknown' : closed ? 'closed' : 'open'
}

/** The JSON of a channel's state; behaviour.md gives the keys of each kind. */
function statePayload(state: DeviceState, index: number): string {
  const { kind } = state.image.channels[index]!
  const { report } = KINDS[kind]
  const { level, source, seq, waiting, staggered } = state.channels[index]!
  const what =
    report === 'words'
      ? `"state":"${stateWord(state, index)}"`
      : `"on":${level > 0}${report === 'level' ? `,"level":${level}` : ''}`
  // a status line says no modes
  const mode = state.mirrors
    ? ''
    : kind === 'feed'
      ? `,"mode":"${state.local ? 'local' : 'detached'}"`
      : state.ruled[index]
        ? `,"mode":"${modeWord(state, index)}"`
        : ''
  const waits = waiting !== null || staggered.level > 0 ? ',"waiting":true' : ''
  return `{${what}${waits}${mode},"source":"${source}","seq":${seq}}`
}

/** The value by which a point shows a level. */
function shownValue(state: DeviceState, p: number, level: number, top: number): number {
  const { min, max } = state.image.points[p]!
  if (isOnOffPoint(state, p)) return level > 0 ? max : min
  return min + Math.floor((level * (max - min)) / top)
}

/** The level that a point shows: of a door with a contact 1 is open. */
function shownLevel(state: DeviceState, index: number): number {
  if (!hasContact(state, index)) return state.channels[index]!.level
  return doorIsClosed(state, index) === false ? 1 : 0
}

/** Says a channel to the links of a list: its state where the controller speaks of itself, then its points. */
function sayChannel(state: DeviceState, index: number, links: readonly number[]): void {
  const { topic, reports, patterns } = state.image.channels[index]!
  if (reports)
    eachOwn(state, links, (link) => publish(state, link, state.scheme.state(topic), statePayload(state, index), true))
  state.image.points.forEach((point, p) => {
    if (point.carries !== 'channel' || point.index !== index || !point.reports || state.heldBack[p]) return
    const link = linkOf(point)
    if (!links.includes(link)) return
    const value = shownValue(state, p, shownLevel(state, index), patterns.length - 1)
    publish(state, link, state.scheme.pointState(point.vp), String(value), true)
  })
}

function eachOwn(state: DeviceState, links: readonly number[], say: (link: number) => void): void {
  for (const link of links) if (state.links[link]!.table.own) say(link)
}

function channelSaid(state: DeviceState, index: number): void {
  const { image, timers, slots } = state
  state.channels[index]!.reportDue = false
  if (image.minReportMs > 0) timers.arm(slots.reportGap(index), state.now, image.minReportMs)
}

function saySensor(state: DeviceState, index: number, links: readonly number[]): void {
  const text = decimal(state.sensors[index]!.value!)
  eachOwn(state, links, (link) =>
    publish(state, link, state.scheme.sensor(state.image.sensors[index]!.id), text, false),
  )
  for (const point of state.image.points)
    if (point.carries === 'sensor' && point.index === index && point.reports && links.includes(linkOf(point)))
      publish(state, linkOf(point), state.scheme.pointState(point.vp), text, true)
}

function sensorSaid(state: DeviceState, index: number): void {
  const sensor = state.sensors[index]!
  sensor.due = false
  sensor.reported = sensor.value
  state.timers.arm(state.slots.sensorDue(index), state.now, state.image.sensorMs)
}

function sayMode(state: DeviceState, links: readonly number[]): void {
  if (state.mirrors) return
  state.image.points.forEach((point, p) => {
    if (point.carries !== 'mode' || !point.reports || state.heldBack[p] || !links.includes(linkOf(point))) return
    publish(
      state,
      linkOf(point),
      state.scheme.pointState(point.vp),
      String(isAuto(state) ? point.max : point.min),
      true,
    )
  })
  if (!state.image.modeTopic) return
  eachOwn(state, links, (link) =>
    publish(state, link, state.scheme.state('mode'), isAuto(state) ? 'auto' : 'manual', true),
  )
}

/**
 * A link is up: online, everything, then its subscriptions. `all`: every link that is up gets everything in this
 * instant; where another was up before, what waits to be said to that one goes on waiting.
 */
function announce(state: DeviceState, link: number, all: boolean): void {
  const { image, links } = state
  const { own, logs } = links[link]!.table
  links[link]!.announce = false
  const silent = state.mirrors && !state.heard
  publish(state, link, state.scheme.status, silent ? 'offline' : 'online', true)
  for (let index = 0; !silent && index < state.channels.length; index++) {
    if (all) channelSaid(state, index)
    sayChannel(state, index, [link])
  }
  state.sensors.forEach((sensor, index) => {
    if (sensor.value === null) return
    if (all) sensorSaid(state, index)
    saySensor(state, index, [link])
  })
  if (all) state.modeDue = false
  sayMode(state, [link])
  for (const sub of subscriptionsOf(image.site, image.controller, own, own && image.watch !== null))
    state.out.push({ t: state.now, sub, ...ofLink(state, link) })
  if (!logs) return
  // which tables run here: the logbook knows a build by them
  publish(state, link, state.scheme.log, `tables ${image.hash}`, false)
  if (image.schedules.length > 0 && state.clock === null && !state.mirrors)
    publish(state, link, state.scheme.log, 'schedule: no clock', false)
}

/** Reports of one instant: links that have come up, then for the others channels in order, sensors, the mode. */
function isAnythingDue({ links, channels, sensors, modeDue }: DeviceState): boolean {
  if (modeDue) return true
  for (const link of links) if (link.announce) return true
  for (const channel of channels) if (channel.reportDue) return true
  for (const sensor of sensors) if (sensor.due) return true
  return false
}

export function sendReports(state: DeviceState): void {
  if (!anyUp(state) || !isAnythingDue(state)) return
  const others = state.links.flatMap((link, index) => (link.state === 'up' && !link.announce ? [index] : []))
  state.links.forEach((link, index) => {
    if (link.announce && isUp(state, index)) announce(state, index, others.length === 0)
  })
  if (others.length === 0 || (state.mirrors && !state.heard)) return
  for (let index = 0; index < state.channels.length; index++) {
    if (!state.channels[index]!.reportDue || state.timers.isArmed(state.slots.reportGap(index))) continue
    channelSaid(state, index)
    sayChannel(state, index, others)
  }
  state.sensors.forEach((sensor, index) => {
    if (!sensor.due || sensor.value === null) return
    sensorSaid(state, index)
    saySensor(state, index, others)
  })
  if (!state.modeDue) return
  state.modeDue = false
  sayMode(state, others)
}

/** All links get everything, as often as the controller is told to. */
export function heartbeat(state: DeviceState): void {
  state.timers.arm(state.slots.heartbeat, state.now, state.image.heartbeatMs)
  for (const channel of state.channels) channel.reportDue = true
  state.channels.forEach((_, index) => state.timers.cancel(state.slots.reportGap(index)))
}

/** A sensor is reported at least this often, while its reading is fresh. */
export function sensorDue(state: DeviceState, index: number): void {
  state.sensors[index]!.due = state.sensors[index]!.value !== null
}
