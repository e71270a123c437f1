import { KINDS } from '../site'
import { isAuto, setMode } from './auto'
import { command, hasContact, isOnOffPoint, topOf } from './channels'
import { byHand, groupCommand, modeByHand } from './deeds'
import { linkOf } from './link'
import { servedAtPowerUp } from './powerUp'
import { log, type DeviceState } from './state'
import type { Command, DeviceEvent } from './types'
import { heartbeatHeard } from './watch'

type Message = Omit<Extract<DeviceEvent, { kind: 'message' }>, 'kind'>

const WHOLE_NUMBER = /^-?[0-9]{1,5}$/

/**
 * A message from the broker. A link that is not up carries none; anything that is not understood is refused on the log
 * topic and never acts.
 */
export function messageArrives(state: DeviceState, { topic, payload, retain, of = 0 }: Message): void {
  if (state.links[of]?.state !== 'up') return
  const { own } = state.links[of].table
  if (own && topic === state.scheme.watch) return heartbeatHeard(state, retain)
  if (!topic.startsWith(state.scheme.prefix)) return
  const levels = topic.slice(state.scheme.prefix.length).split('/')
  if (levels.length === 2 && own && levels[1] === 'set') channelSet(state, levels[0]!, payload, retain)
  else if (levels.length === 3 && levels[0] === 'vp' && levels[2] === 'set')
    pointSet(state, of, levels[1]!, payload, retain)
  else if (levels.length === 3 && levels[0] === 'vp' && levels[2] === 'held') pointHeld(state, of, levels[1]!, payload)
}

/**
 * What a payload tells a channel, or undefined where it is none of the words that its kind takes on its `set` topic.
 */
function wordOf(state: DeviceState, index: number, payload: string): Command | undefined {
  const { actions } = KINDS[state.image.channels[index]!.kind]
  const words = actions.filter((word) => word.set && (!word.needsPosition || hasContact(state, index)))
  const known = words.find(({ action }) => action === payload && action !== 'level')
  if (known) return { action: known.action as Command['action'], level: 0 }
  const takesLevels = words.some(({ action }) => action === 'level')
  if (takesLevels && /^[0-9]$/.test(payload) && Number(payload) <= topOf(state, index))
    return { action: 'level', level: Number(payload) }
  return undefined
}

function channelSet(state: DeviceState, level: string, payload: string, retain: boolean): void {
  const index = state.image.channels.findIndex((channel) => channel.takesSet && channel.topic === level)
  if (index < 0 && state.image.modeTopic && level === 'mode') return modeSet(state, payload, retain)
  if (index < 0) return groupSet(state, level, payload, retain)
  // MQTT 3.1.1, 3.3.1.3: a retained message reaches every later subscriber, so a retained command would act again at
  // each reconnection.
  if (retain) return log(state, `set ${level}: retained, ignored`)
  const told = wordOf(state, index, payload)
  if (told) byHand(state, index, told, 'hub')
  else log(state, `set ${level}: not understood`)
}

/** Auto and manual, as a hub says them. */
function modeSet(state: DeviceState, payload: string, retain: boolean): void {
  if (retain) return log(state, 'set mode: retained, ignored')
  if (payload === 'auto' || payload === 'manual') modeByHand(state, payload === 'auto')
  else if (payload === 'toggle') modeByHand(state, !isAuto(state))
  else log(state, 'set mode: not understood')
}

/** What a group takes on its `set` topic. */
const GROUP_WORDS = ['on', 'off', 'toggle', 'up', 'down', 'stop'] as const

/** A group's topic level is its id; a channel of that name goes before it. */
function groupSet(state: DeviceState, level: string, payload: string, retain: boolean): void {
  const index = state.image.groups.findIndex((group) => group.takesSet && group.id === level)
  if (index < 0) return log(state, 'set: unknown channel')
  if (retain) return log(state, `set ${level}: retained, ignored`)
  const action = GROUP_WORDS.find((word) => word === payload)
  if (action) groupCommand(state, index, { action, level: 0 }, 'hub')
  else log(state, `set ${level}: not understood`)
}

/** A point of that number that the link carries. */
const pointIndex = (state: DeviceState, link: number, number: string): number =>
  /^(0|[1-9][0-9]{0,2})$/.test(number)
    ? state.image.points.findIndex((point) => linkOf(point) === link && point.vp === Number(number))
    : -1

/** The level that a value stands for, or undefined when the payload is no number of the point's range. */
function levelOf(state: DeviceState, index: number, payload: string): number | undefined {
  if (!WHOLE_NUMBER.test(payload)) return undefined
  const { carries, min, max, index: carried } = state.image.points[index]!
  const value = Number(payload)
  if (value < min || value > max || carries === 'sensor') return undefined
  const span = max - min
  return Math.floor(((value - min) * (carries === 'channel' ? topOf(state, carried) : 1) + span - 1) / span)
}

/** What a value of a channel's point tells it: of an on/off point on a stepped channel only whether it is on. */
const pointCommand = (state: DeviceState, index: number, level: number): Command =>
  level > 0 && isOnOffPoint(state, index) ? { action: 'on', level: 0 } : { action: 'level', level }

function pointSet(state: DeviceState, link: number, number: string, payload: string, retain: boolean): void {
  const index = pointIndex(state, link, number)
  if (index < 0) return log(state, 'vp: unknown point')
  const { vp, carries, index: carried } = state.image.points[index]!
  if (retain) return log(state, `vp${vp}: retained, ignored`)
  const level = levelOf(state, index, payload)
  if (level === undefined) return log(state, `vp${vp}: not understood`)
  if (carries === 'mode') modeByHand(state, level > 0)
  else if (carries === 'group') groupCommand(state, carried, { action: level > 0 ? 'on' : 'off', level: 0 }, 'app')
  else byHand(state, carried, pointCommand(state, index, level), 'app')
}

/**
 * The value that the service holds. It counts at power-up while a channel waits for it, and after an outage that the
 * service wins: once, and not after a hand.
 */
function pointHeld(state: DeviceState, link: number, number: string, payload: string): void {
  const index = pointIndex(state, link, number)
  if (index < 0) return log(state, 'vp: unknown point')
  const { vp, carries, index: carried } = state.image.points[index]!
  const level = levelOf(state, index, payload)
  if (level === undefined) return log(state, `vp${vp}: not understood`)
  const wins = state.heldBack[index]!
  state.heldBack[index] = false
  if (carries === 'mode') {
    if (wins) setMode(state, level > 0)
    return
  }
  // a group has no state that a service could hold
  if (carries === 'group') return
  const { kind } = state.image.channels[carried]!
  // A door or a shutter never moves because of what a service remembers.
  if (!KINDS[kind].lasting) return
  const { powerUp } = state.image.channels[carried]!
  if (powerUp === 'service' && state.timers.isArmed(state.slots.serviceWait(carried))) {
    const { lastLevel } = state.channels[carried]!
    servedAtPowerUp(state, carried, level > 0 && isOnOffPoint(state, index) ? lastLevel : level)
  } else if (wins) command(state, carried, pointCommand(state, index, level), 'service')
}
