import { linksOf, type ControllerImage, type ImageLink } from '../image'
import { topics } from '../topics'
import { slotsOf, type Owner, type Slots } from './slots'
import { Timers } from './timers'
import type { DeviceOutput, Source } from './types'

/** How long the service's values count after the link is up, ms (docs/behaviour.md, Link). */
export const SERVICE_WINDOW_MS = 5_000

/**
 * A relay needs this long to let go, ms (docs/behaviour.md, Limits): a contact that was told open for less has not
 * been open.
 */
export const REST_MS = 100

/** An input whose contacts have not settled since power-up. */
export const UNKNOWN = -1

export interface InputState {
  /** closed contacts now, as bits */
  code: number
  /** the code that has settled, or UNKNOWN */
  settled: number
  /** closed since power-up: only then does its opening mean anything */
  pressed: boolean
  holdFired: boolean
  /** when its contact began to move, and moved last, ms */
  movedFrom: number
  movedAt: number
  /** longest bounce since power-up that was said, ms */
  bounced: number
}

export interface ChannelState {
  /** 0: off */
  level: number
  /** the last level that was not 0 */
  lastLevel: number
  /** contacts that are closed, as bits */
  closed: number
  /** contacts that were closed last, as bits: dead time stands between different directions only */
  lastClosed: number
  source: Source
  seq: number
  /** a turn-on that waits for minOffMs, or for the rest after a limit */
  waiting: { readonly level: number; readonly source: Source } | null
  /** a turn-on that waits for its turn at power-up; level 0: none */
  staggered: { readonly level: number; readonly source: Source }
  reportDue: boolean
  /** rules may act on it */
  auto: boolean
}

export interface SensorState {
  /** thousandths; null: none yet, or too old */
  value: number | null
  reported: number | null
  /** it has spoken since power-up */
  heard: boolean
  due: boolean
}

export interface LinkState {
  readonly table: ImageLink
  state: 'down' | 'joining' | 'up'
  /** it was up since power-up: the next time it comes up ends an outage */
  wasUp: boolean
  /** it has come up in this instant, and is owed the full state */
  announce: boolean
  attempts: number
}

/** What the flash holds. */
export interface StoredRecord {
  readonly channels: readonly { readonly level: number; readonly last: number; readonly auto: boolean }[]
}

export interface DeviceState {
  readonly image: ControllerImage
  readonly scheme: ReturnType<typeof topics>
  readonly timers: Timers
  readonly slots: Slots
  readonly owners: readonly Owner[]
  readonly inputs: InputState[]
  readonly channels: ChannelState[]
  readonly sensors: SensorState[]
  /** what each rule wants; null: it has not decided since power-up */
  readonly wishes: (boolean | null)[]
  /** points whose reports wait for the service's value, which may still act */
  readonly heldBack: boolean[]
  /** bindings of each input, in table order */
  readonly bindingsOf: readonly (readonly number[])[]
  /** channels that a rule or a schedule works */
  readonly ruled: readonly boolean[]
  /** the coprocessor of a pair (mirror.ts) */
  readonly mirrors: boolean
  /** Survives power; null: never written. */
  stored: StoredRecord | null
  now: number
  powered: boolean
  readonly links: readonly LinkState[]
  random: number
  staggerNext: number
  /** some channel waits for its turn */
  turnsDue: boolean
  /** the hub's heartbeat is heard; of a mirror, the main board's lines */
  heard: boolean
  /** the hub is taken for gone: feeds work by themselves */
  local: boolean
  modeDue: boolean
  statusDue: boolean
  unknownChars: number
  /** the status line as it was made last, and what of */
  readonly said: { readonly values: number[]; unknown: number; line: string }
  /** of a mirror: the main board's line as it came last */
  lastLine: string
  /** of a mirror: the last line counted for nothing, and that has been said */
  lineRefused: boolean
  lastFrame: { readonly key: string } | null
  /** ms since Monday 00:00 at an instant; null: the clock is not known */
  clock: { readonly at: number; readonly weekMs: number } | null
  out: DeviceOutput[]
}

/** Waits for no turn. */
export const NO_TURN = { level: 0, source: 'power' } as const

/** A channel as it is at power-up, before its policy has spoken. */
export const restedChannel = (lastLevel: number, auto: boolean): ChannelState => ({
  level: 0,
  lastLevel,
  closed: 0,
  lastClosed: 0,
  source: 'power',
  seq: 0,
  waiting: null,
  staggered: NO_TURN,
  reportDue: false,
  auto,
})

/** A binding's places by input, and whether a rule or a schedule asks for a channel: looked up at each event. */
const lookups = (image: ControllerImage): Pick<DeviceState, 'bindingsOf' | 'ruled'> => ({
  bindingsOf: image.inputs.map((_, input) =>
    image.bindings.flatMap((binding, i) => (binding.input === input ? [i] : [])),
  ),
  ruled: image.channels.map((_, index) => [...image.rules, ...image.schedules].some((row) => row.channel === index)),
})

/** A link as it is at power-up. */
export const UNLINKED = { state: 'down', wasUp: false, announce: false, attempts: 0 } as const

export function createState(image: ControllerImage, mirrors: boolean): DeviceState {
  const { slots, owners } = slotsOf(image)
  return {
    image,
    ...lookups(image),
    scheme: topics(image.site, image.controller),
    timers: new Timers(owners.length, slots.firstOfChannels),
    owners,
    slots,
    inputs: image.inputs.map(() => ({
      ...{ code: 0, settled: UNKNOWN, pressed: false, holdFired: false },
      ...{ movedFrom: 0, movedAt: 0, bounced: 0 },
    })),
    channels: image.channels.map((channel) => restedChannel(channel.onLevel, image.auto.start)),
    sensors: image.sensors.map(() => ({ value: null, reported: null, heard: false, due: false })),
    wishes: image.rules.map(() => null),
    heldBack: image.points.map(() => false),
    mirrors,
    stored: null,
    now: 0,
    powered: false,
    links: linksOf(image).map((table) => ({ table, ...UNLINKED })),
    random: image.seed,
    staggerNext: 0,
    turnsDue: false,
    heard: false,
    local: false,
    modeDue: false,
    statusDue: false,
    unknownChars: 0,
    said: { values: [], unknown: 0, line: '' },
    lastLine: '',
    lineRefused: false,
    lastFrame: null,
    clock: null,
    out: [],
  }
}

const each = <T extends object>(list: readonly T[]): T[] => list.map((one) => ({ ...one }))

/** The same controller once more, as it stands: what happens to one leaves the other alone. Tables are shared. */
export const copyState = (state: DeviceState): DeviceState => ({
  ...state,
  timers: state.timers.copy(),
  inputs: each(state.inputs),
  channels: each(state.channels),
  sensors: each(state.sensors),
  wishes: [...state.wishes],
  heldBack: [...state.heldBack],
  links: each(state.links),
  said: { ...state.said, values: [...state.said.values] },
  out: [...state.out],
})

/** Which link a line of a trace speaks of: the first one is not said. */
export const ofLink = (state: DeviceState, link: number): { readonly of?: string } =>
  link === 0 ? {} : { of: state.links[link]!.table.id }

export function publish(state: DeviceState, link: number, topic: string, payload: string, retain: boolean): void {
  state.out.push({ t: state.now, pub: { topic, payload, retain }, ...ofLink(state, link) })
}

export const isUp = (state: DeviceState, link: number): boolean => state.links[link]!.state === 'up'
export const anyUp = (state: DeviceState): boolean => state.links.some((link) => link.state === 'up')

/** The link on which the controller speaks of itself, if that is up; else -1. */
export const ownLink = (state: DeviceState): number =>
  state.links.findIndex((link) => link.table.own && link.state === 'up')

/** Says that something was refused or odd, when somebody can hear it. */
export function log(state: DeviceState, text: string): void {
  state.links.forEach((link, index) => {
    if (link.state === 'up' && link.table.logs) publish(state, index, state.scheme.log, text, false)
  })
}
