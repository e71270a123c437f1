import type { ControllerImage } from '../image'
import { subscriptionsOf, topics } from '../topics'
import { Timers } from './timers'
import type { DeviceOutput, Source } from './types'

/** How long the service's values count after the link is up, ms (docs/behaviour.md, Link). */
export const SERVICE_WINDOW_MS = 5_000

/** An input whose contacts have not settled since power-up. */
export const UNKNOWN = -1

export interface InputState {
  /** closed contacts now, as bits */
  code: number
  /** the code that has settled, or UNKNOWN */
  settled: number
  holdFired: boolean
}

export interface ChannelState {
  /** 0: off */
  level: number
  /** the last level that was not 0 */
  lastLevel: number
  /** contacts that are closed, as bits */
  closed: number
  source: Source
  seq: number
  /** a turn-on that waits for minOffMs */
  waiting: { readonly level: number; readonly source: Source } | null
  /** a turn-on that waits for its turn at power-up */
  staggered: { readonly level: number; readonly source: Source }
  reportDue: boolean
}

/** Timer slots: per input, per channel, then the controller's own. */
export interface Slots {
  settle(input: number): number
  hold(input: number): number
  limit(channel: number): number
  offGap(channel: number): number
  turnOn(channel: number): number
  serviceWait(channel: number): number
  reportGap(channel: number): number
  gap(channel: number): number
  store: number
  join: number
  heartbeat: number
  window: number
  count: number
}

export type Owner =
  | { kind: 'settle' | 'hold'; index: number }
  | { kind: 'limit' | 'offGap' | 'turnOn' | 'serviceWait' | 'reportGap' | 'gap'; index: number }
  | { kind: 'store' | 'join' | 'heartbeat' | 'window' }

const INPUT_KINDS = ['settle', 'hold'] as const
const CHANNEL_KINDS = ['limit', 'offGap', 'turnOn', 'serviceWait', 'reportGap', 'gap'] as const
const OWN_KINDS = ['store', 'join', 'heartbeat', 'window'] as const

export interface DeviceState {
  readonly image: ControllerImage
  readonly scheme: ReturnType<typeof topics>
  readonly subscriptions: readonly string[]
  readonly timers: Timers
  readonly slots: Slots
  readonly owners: readonly Owner[]
  readonly inputs: InputState[]
  readonly channels: ChannelState[]
  /** points whose reports wait for the service's value */
  readonly heldBack: boolean[]
  /** bindings of each input, in table order */
  readonly bindingsOf: readonly (readonly number[])[]
  /** stored levels; null: never written. Survives power. */
  stored: readonly { readonly level: number; readonly last: number }[] | null
  now: number
  powered: boolean
  link: 'down' | 'joining' | 'up'
  announce: boolean
  attempts: number
  random: number
  staggerNext: number
  out: DeviceOutput[]
}

/** A channel as it is at power-up, before its policy has spoken. */
export const restedChannel = (lastLevel: number): ChannelState => ({ level: 0, lastLevel, closed: 0, source: 'power', seq: 0, waiting: null, staggered: { level: 0, source: 'power' }, reportDue: false })

export function createState(image: ControllerImage): DeviceState {
  const owners: Owner[] = []
  image.inputs.forEach((_, index) => INPUT_KINDS.forEach((kind) => owners.push({ kind, index })))
  image.channels.forEach((_, index) => CHANNEL_KINDS.forEach((kind) => owners.push({ kind, index })))
  const own = owners.length
  OWN_KINDS.forEach((kind) => owners.push({ kind }))
  const firstChannel = image.inputs.length * INPUT_KINDS.length
  const channelSlot = (offset: number) => (channel: number) => firstChannel + channel * CHANNEL_KINDS.length + offset
  return {
    image,
    scheme: topics(image.site, image.controller),
    subscriptions: subscriptionsOf(image.site, image.controller),
    timers: new Timers(owners.length),
    owners,
    slots: {
      settle: (input) => input * INPUT_KINDS.length,
      hold: (input) => input * INPUT_KINDS.length + 1,
      limit: channelSlot(0),
      offGap: channelSlot(1),
      turnOn: channelSlot(2),
      serviceWait: channelSlot(3),
      reportGap: channelSlot(4),
      gap: channelSlot(5),
      store: own,
      join: own + 1,
      heartbeat: own + 2,
      window: own + 3,
      count: owners.length,
    },
    inputs: image.inputs.map(() => ({ code: 0, settled: UNKNOWN, holdFired: false })),
    channels: image.channels.map((channel) => restedChannel(channel.onLevel)),
    heldBack: image.points.map(() => false),
    bindingsOf: image.inputs.map((_, input) => image.bindings.flatMap((binding, i) => (binding.input === input ? [i] : []))),
    stored: null,
    now: 0,
    powered: false,
    link: 'down',
    announce: false,
    attempts: 0,
    random: image.seed,
    staggerNext: 0,
    out: [],
  }
}

export function publish(state: DeviceState, topic: string, payload: string, retain: boolean): void {
  state.out.push({ t: state.now, pub: { topic, payload, retain } })
}

/** Says that something was refused or odd, when somebody can hear it. */
export function log(state: DeviceState, text: string): void {
  if (state.link === 'up') publish(state, state.scheme.log, text, false)
}
