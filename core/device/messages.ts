import { log, type DeviceState } from './state'
import { command, servedAtPowerUp, topOf } from './channels'

const WHOLE_NUMBER = /^-?[0-9]{1,5}$/

/** A message from the broker. Anything that is not understood is refused on the log topic and never acts. */
export function messageArrives(state: DeviceState, topic: string, payload: string, retain: boolean): void {
  if (!topic.startsWith(state.scheme.prefix)) return
  const levels = topic.slice(state.scheme.prefix.length).split('/')
  if (levels.length === 2 && levels[1] === 'set') channelSet(state, levels[0]!, payload, retain)
  else if (levels.length === 3 && levels[0] === 'vp' && levels[2] === 'set') pointSet(state, levels[1]!, payload, retain)
  else if (levels.length === 3 && levels[0] === 'vp' && levels[2] === 'held') pointHeld(state, levels[1]!, payload)
}

function channelSet(state: DeviceState, level: string, payload: string, retain: boolean): void {
  const index = state.image.channels.findIndex((channel) => channel.takesSet && channel.topic === level)
  if (index < 0) return log(state, 'set: unknown channel')
  // MQTT 3.1.1, 3.3.1.3: a retained message reaches every later subscriber, so a retained command would act again at each reconnection.
  if (retain) return log(state, `set ${level}: retained, ignored`)
  const stepped = state.image.channels[index]!.kind === 'stepped'
  if (payload === 'on' || payload === 'off' || payload === 'toggle') command(state, index, { kind: payload }, 'hub')
  else if (stepped && (payload === 'up' || payload === 'down')) command(state, index, { kind: payload }, 'hub')
  else if (stepped && /^[0-9]$/.test(payload) && Number(payload) <= topOf(state, index)) command(state, index, { kind: 'level', level: Number(payload) }, 'hub')
  else log(state, `set ${level}: not understood`)
}

const pointIndex = (state: DeviceState, number: string): number => (/^(0|[1-9][0-9]{0,2})$/.test(number) ? state.image.points.findIndex((point) => point.vp === Number(number)) : -1)

/** The level that a value stands for, or undefined when the payload is no number of the point's range. */
function levelOf(state: DeviceState, index: number, payload: string): number | undefined {
  if (!WHOLE_NUMBER.test(payload)) return undefined
  const { min, max, channel } = state.image.points[index]!
  const value = Number(payload)
  if (value < min || value > max) return undefined
  const span = max - min
  return Math.floor(((value - min) * topOf(state, channel) + span - 1) / span)
}

function pointSet(state: DeviceState, number: string, payload: string, retain: boolean): void {
  const index = pointIndex(state, number)
  if (index < 0) return log(state, 'vp: unknown point')
  const { vp, channel } = state.image.points[index]!
  if (retain) return log(state, `vp${vp}: retained, ignored`)
  const level = levelOf(state, index, payload)
  if (level === undefined) return log(state, `vp${vp}: not understood`)
  command(state, channel, { kind: 'level', level }, 'app')
}

/** The value that the service holds. It counts at power-up while a channel waits for it, and after an outage that the service wins. */
function pointHeld(state: DeviceState, number: string, payload: string): void {
  const index = pointIndex(state, number)
  if (index < 0) return log(state, 'vp: unknown point')
  const { vp, channel } = state.image.points[index]!
  const level = levelOf(state, index, payload)
  if (level === undefined) return log(state, `vp${vp}: not understood`)
  const wins = state.timers.isArmed(state.slots.window)
  state.heldBack[index] = false
  if (state.timers.isArmed(state.slots.serviceWait(channel))) servedAtPowerUp(state, channel, level)
  else if (wins) command(state, channel, { kind: 'level', level }, 'service')
}
