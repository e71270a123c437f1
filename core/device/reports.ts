import { KINDS } from '../site'
import { isAuto, modeWord } from './auto'
import { doorIsClosed, hasContact, isOnOffPoint } from './channels'
import { log, publish, type DeviceState } from './state'

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

function reportChannel(state: DeviceState, index: number): void {
  const { image, timers, slots, scheme } = state
  const { topic, reports, patterns } = image.channels[index]!
  state.channels[index]!.reportDue = false
  if (image.minReportMs > 0) timers.arm(slots.reportGap(index), state.now, image.minReportMs)
  if (reports) publish(state, scheme.state(topic), statePayload(state, index), true)
  image.points.forEach((point, p) => {
    if (point.carries !== 'channel' || point.index !== index || !point.reports || state.heldBack[p]) return
    publish(
      state,
      scheme.pointState(point.vp),
      String(shownValue(state, p, shownLevel(state, index), patterns.length - 1)),
      true,
    )
  })
}

function reportSensor(state: DeviceState, index: number): void {
  const sensor = state.sensors[index]!
  sensor.due = false
  sensor.reported = sensor.value
  state.timers.arm(state.slots.sensorDue(index), state.now, state.image.sensorMs)
  const text = decimal(sensor.value!)
  publish(state, state.scheme.sensor(state.image.sensors[index]!.id), text, false)
  for (const point of state.image.points)
    if (point.carries === 'sensor' && point.index === index && point.reports)
      publish(state, state.scheme.pointState(point.vp), text, true)
}

function reportMode(state: DeviceState): void {
  state.modeDue = false
  if (state.mirrors) return
  state.image.points.forEach((point, p) => {
    if (point.carries === 'mode' && point.reports && !state.heldBack[p])
      publish(state, state.scheme.pointState(point.vp), String(isAuto(state) ? point.max : point.min), true)
  })
  if (state.image.modeTopic) publish(state, state.scheme.state('mode'), isAuto(state) ? 'auto' : 'manual', true)
}

/** The link is up: online, everything, then the subscriptions. */
function announce(state: DeviceState): void {
  state.announce = false
  const silent = state.mirrors && !state.heard
  publish(state, state.scheme.status, silent ? 'offline' : 'online', true)
  if (!silent) for (let index = 0; index < state.channels.length; index++) reportChannel(state, index)
  state.sensors.forEach((sensor, index) => {
    if (sensor.value !== null) reportSensor(state, index)
  })
  reportMode(state)
  for (const sub of state.subscriptions) state.out.push({ t: state.now, sub })
  // which tables run here: the logbook knows a build by them
  log(state, `tables ${state.image.hash}`)
  if (state.image.schedules.length > 0 && state.clock === null && !state.mirrors) log(state, 'schedule: no clock')
}

/** Reports of one instant: channels in order, then sensors, then the mode. */
export function sendReports(state: DeviceState): void {
  if (state.link !== 'up') return
  if (state.announce) return announce(state)
  if (state.mirrors && !state.heard) return
  for (let index = 0; index < state.channels.length; index++) {
    if (state.channels[index]!.reportDue && !state.timers.isArmed(state.slots.reportGap(index)))
      reportChannel(state, index)
  }
  state.sensors.forEach((sensor, index) => {
    if (sensor.due && sensor.value !== null) reportSensor(state, index)
  })
  if (state.modeDue) reportMode(state)
}

export function heartbeat(state: DeviceState): void {
  state.timers.arm(state.slots.heartbeat, state.now, state.image.heartbeatMs)
  for (const channel of state.channels) channel.reportDue = true
  state.channels.forEach((_, index) => state.timers.cancel(state.slots.reportGap(index)))
}

/** A sensor is reported at least this often, while its reading is fresh. */
export function sensorDue(state: DeviceState, index: number): void {
  state.sensors[index]!.due = state.sensors[index]!.value !== null
}
