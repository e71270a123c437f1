import { stepsOf, type Asked, type TimedAction } from '../acceptance'
import type { TestItem } from '../outputs'
import { cutSeconds } from '../outputs/testWatches'
import {
  channelOf,
  channelsOn,
  groupOf,
  hubOf,
  inputOf,
  kindOf,
  powerUpOf,
  sensorOf,
  topLevel,
  waysTo,
  type Channel,
  type Control,
  type Site,
  type Way,
} from '../site'
import { widgetSends } from '../trial'

/** A relay, and whether its coil has pulled in. */
export interface Relay {
  readonly channel: string
  readonly contact: number
  readonly on: boolean
}

/** What hands do at a board and around it. */
export type Deed =
  /** `rocks`: a rocker goes over to its other side */
  | { readonly kind: 'contacts'; readonly input: string; readonly code: number; readonly rocks: boolean }
  | { readonly kind: 'key'; readonly remote: string; readonly key: string; readonly repeat: boolean }
  | { readonly kind: 'char'; readonly char: string }
  | { readonly kind: 'point'; readonly service: string; readonly point: string; readonly value: number }
  | { readonly kind: 'hub'; readonly topic: string; readonly word: string }
  | { readonly kind: 'clock'; readonly weekMs: number }
  | { readonly kind: 'sensor'; readonly sensor: string; readonly value: number }
  | { readonly kind: 'power'; readonly on: boolean }
  | { readonly kind: 'network'; readonly up: boolean }
  | { readonly kind: 'broker'; readonly up: boolean }
  /** the serial line between a board and its radio */
  | { readonly kind: 'line'; readonly up: boolean }
  /** the hub runs, and its heart beats */
  | { readonly kind: 'hubRuns'; readonly up: boolean }

/** A line of what a person does for a test, sees of it, and waits for. */
export type Line =
  | Deed
  | { readonly kind: 'wait'; readonly ms: number }
  /** the eye looks whether a channel's relays are as they must be at a level */
  | { readonly kind: 'stands'; readonly channel: string; readonly level: number }
  /** clicks are counted from here */
  | { readonly kind: 'listen' }
  /** the test is taken in hand: what comes before is none of it */
  | { readonly kind: 'begin' }
  | { readonly kind: 'clicks'; readonly channel: string; readonly closings: number }
  /** a screen is looked at, where nobody hears it */
  | { readonly kind: 'look'; readonly channel: string }
  /** by any way but one, as far as its reports say that it is not there yet */
  | {
      readonly kind: 'bring'
      readonly channel: string
      readonly on: boolean
      readonly not: string | null
      /** to this very level, where a way can ask for it */
      readonly level?: number
    }

const wait = (ms: number): Line => ({ kind: 'wait', ms })
const stands = (channel: Channel, level: number): Line => ({ kind: 'stands', channel: channel.id, level })

/** A hand's action as deeds at pins, points and words; spoken words go where they are carried. */
export function deedsOf(site: Site, action: TimedAction): Line[] {
  const after = action.afterMs ? [wait(action.afterMs)] : []
  switch (action.kind) {
    case 'press':
      return [...after, { kind: 'contacts', input: action.input, code: 1, rocks: false }]
    case 'release':
      return [...after, { kind: 'contacts', input: action.input, code: 0, rocks: false }]
    case 'rock':
      return [...after, { kind: 'contacts', input: action.input, code: 0, rocks: true }]
    case 'turn':
      return [...after, { kind: 'contacts', input: action.input, code: action.code, rocks: false }]
    case 'key':
      return [...after, { kind: 'key', remote: action.remote, key: action.key, repeat: false }]
    case 'char':
      return [...after, { kind: 'char', char: action.char }]
    case 'widget': {
      const service = site.services.find(({ id }) => id === action.service)!
      const widget = service.widgets.find(({ id }) => id === action.widget)!
      const point = service.points.find(({ id }) => id === widget.point)!
      const value = action.value ?? widgetSends(point, widget.inverted, action.on)
      return [...after, { kind: 'point', service: service.id, point: point.id, value }]
    }
    case 'hub': {
      const entity = hubOf(site, action.hub)!.entities.find(({ id }) => id === action.entity)!
      return [...after, { kind: 'hub', topic: entity.topic, word: action.command }]
    }
    default:
      return after
  }
}

export const askedLevel = (channel: Channel, asks: Asked, was: number): number => {
  if (asks.kind === 'level') return asks.level
  if (asks.kind === 'lamps') return was
  const { action } = asks
  if (action === 'toggle' || action === 'follow') return was > 0 ? 0 : channel.kind === 'stepped' ? 1 : 1
  if (action === 'up') return Math.min(topLevel(channel), was + 1)
  if (action === 'down') return Math.max(0, was - 1)
  if (action === 'a') return 1
  if (action === 'b') return 2
  return action === 'off' || action === 'stop' ? 0 : 1
}

/** Steps of a way; what is said is done where its words are carried. */
export function stepsBy(site: Site, channel: Channel, way: Way): ReturnType<typeof stepsOf> {
  if (way.kind !== 'voice') return stepsOf(site, channel, way)
  const carrier = site.ways.find(({ id }) => id === way.through)
  const own = stepsOf(site, channel, way)
  if (!carrier) return []
  return own.map((step) => {
    const wanted = askedLevel(channel, step.asks, 0)
    const level =
      channel.kind === 'stepped' && step.asks.kind === 'action' && step.asks.action !== 'off'
        ? topLevel(channel)
        : wanted
    const by = stepsOf(site, channel, carrier).find((one) =>
      one.asks.kind === 'level' ? one.asks.level === level : askedLevel(channel, one.asks, level > 0 ? 0 : 1) === level,
    )
    return { ...step, deeds: by?.deeds ?? [], asks: { kind: 'level', level } as const }
  })
}

/** One way's steps as lines: the hand, a moment, and what the relay must be then. */
function play(
  site: Site,
  channel: Channel,
  steps: ReturnType<typeof stepsOf>,
  from: number,
): { lines: Line[]; level: number } {
  let level = from
  const lines: Line[] = []
  for (const step of steps) {
    const to = askedLevel(channel, step.asks, level)
    const rest = 'minOffMs' in channel ? (channel.minOffMs ?? 0) : 0
    if (level === 0 && to > 0 && rest > 0) lines.push(wait(rest + 500))
    lines.push(
      ...(step.first ?? []).flatMap((action) => [...deedsOf(site, action), wait(400)]),
      ...step.deeds.flatMap((action) => deedsOf(site, action)),
    )
    level = to
    lines.push(
      wait(channel.kind === 'paired' ? channel.deadMs + 700 : channel.kind === 'pulsed' ? 250 : 700),
      stands(channel, level),
    )
    if (channel.kind === 'pulsed') {
      lines.push(wait(channel.pulseMs), stands(channel, 0), wait(channel.lockoutMs + 200))
      level = 0
    }
  }
  return { lines, level }
}

/** A press, a key or a character beside a screen, which then has to show it. */
function beside(site: Site, channel: Channel, level: number): Line[] {
  for (const way of waysTo(site, channel.id)) {
    if (way.kind !== 'wall' && way.kind !== 'remote' && way.kind !== 'link') continue
    const step = stepsOf(site, channel, way).find((one) => askedLevel(channel, one.asks, level) !== level)
    if (step)
      return [
        ...(step.first ?? []).flatMap((action) => deedsOf(site, action)),
        wait(300 + (level === 0 && 'minOffMs' in channel ? (channel.minOffMs ?? 0) : 0)),
        ...step.deeds.flatMap((action) => deedsOf(site, action)),
        wait(1_500),
        { kind: 'look', channel: channel.id },
      ]
  }
  return []
}

function wayLines(site: Site, item: TestItem): Line[] {
  const [, channelId, wayId, key] = item.key.split(':')
  const channel = channelOf(site, channelId as never)!
  const way = site.ways.find(({ id }) => id === wayId)!
  if (key === 'hold' && way.kind === 'remote') return holdLines(channel, way, item)
  const steps = stepsBy(site, channel, way).filter((step) => step.key === key || way.kind === 'wall')
  const own = way.kind === 'wall' ? steps.filter((step) => step.key === key) : steps
  const first = own[0]?.asks
  const startsOn = first?.kind === 'action' && (first.action === 'off' || first.action === 'down')
  const over = first?.kind === 'action' && (first.action === 'toggle' || first.action === 'follow')
  const twice = over && channel.kind !== 'paired'
  const { lines, level } = play(
    site,
    channel,
    twice ? [...own, SECOND_TIME(own[0]!)] : own,
    startsOn ? topLevel(channel) : channel.kind === 'feed' ? 1 : 0,
  )
  const screen = item.watch.hears.some(({ kind }) => kind === 'screen') ? beside(site, channel, level) : []
  const start: Line[] =
    channel.kind === 'pulsed' ||
    channel.kind === 'feed' ||
    (way.kind === 'wall' && inputOf(site, way.input)?.kind === 'selector')
      ? []
      : [{ kind: 'bring', channel: channel.id, on: startsOn, not: way.id, level: startsOn ? topLevel(channel) : 0 }]
  return [...start, { kind: 'begin' }, ...lines, ...screen]
}
const SECOND_TIME = <T>(step: T): T => step

function holdLines(channel: Channel, way: Extract<Way, { kind: 'remote' }>, item: TestItem): Line[] {
  const once = item.watch.hears.some(({ kind }) => kind === 'still')
  const down = way.action === 'down' || way.action === 'off'
  const frames = Array.from({ length: 18 }, (): Line[] => [
    wait(110),
    { kind: 'key', remote: way.remote, key: way.key, repeat: true },
  ])
  const level = down ? topLevel(channel) : 0
  const start: Line = { kind: 'bring', channel: channel.id, on: down, not: way.id, level }
  return [
    start,
    { kind: 'begin' },
    { kind: 'key', remote: way.remote, key: way.key, repeat: false },
    ...frames.flat(),
    wait(once ? 3_500 : 1_000),
    stands(channel, down ? 0 : once ? 1 : topLevel(channel)),
  ]
}

// ---- controls, rules, limits ----

const sourceLines = (site: Site, source: Control['source'], held: number): Line[] => {
  if (source.kind === 'remote') return [{ kind: 'key', remote: source.remote, key: source.key, repeat: false }]
  if (source.kind === 'link') return [{ kind: 'char', char: source.char }]
  const input = inputOf(site, source.input)!
  if (input.kind === 'rocker') return [{ kind: 'contacts', input: input.id, code: 0, rocks: true }]
  return [
    { kind: 'contacts', input: input.id, code: 1, rocks: false },
    wait(held),
    { kind: 'contacts', input: input.id, code: 0, rocks: false },
  ]
}

function controlLines(site: Site, item: TestItem): Line[] {
  const control = site.controls.find(({ id }) => item.key.endsWith(`control:${id}`))
  if (!control) return []
  if (control.kind === 'controller')
    return [
      { kind: 'begin' },
      ...sourceLines(site, control.source, 5_600),
      wait(500),
      ...sourceLines(site, control.source, 5_600),
      wait(500),
    ]
  const here = channelsOn(site, item.watch.controller)
  const members = here.filter(({ id }) => groupOf(site, control.group)!.members.includes(id))
  return [
    ...members
      .filter(({ kind }) => kind !== 'pulsed' && kind !== 'feed')
      .map(({ id }): Line => ({ kind: 'bring', channel: id, on: true, not: null })),
    { kind: 'begin' },
    ...sourceLines(site, control.source, 300),
    wait(1_500),
  ]
}

const WEEK_MS = 604_800_000

function ruleLines(site: Site, item: TestItem): Line[] {
  const rule = site.rules.find(({ id }) => id === item.key.replace('alone:rule:', ''))!
  const channel = channelOf(site, rule.channel)!
  if (rule.kind === 'schedule') {
    const off = rule.action === 'off' || (rule.action === 'level' && rule.level === 0)
    const day = [...Array(7).keys()].find((one) => rule.days.includes(one as never)) ?? 0
    return [
      { kind: 'bring', channel: channel.id, on: off, not: null },
      { kind: 'begin' },
      { kind: 'clock', weekMs: (day * 86_400_000 + rule.minute * 60_000 - 2_000 + WEEK_MS) % WEEK_MS },
      wait(4_000),
      stands(channel, off ? 0 : 1),
    ]
  }
  const sensor = sensorOf(site, rule.sensor)!
  const far = rule.direction === 'above' ? 5 : -5
  const stale = sensor.staleMs ?? 3 * sensor.everyMs
  const dwell = rule.dwellMs + 2_000
  const says = (value: number, ms: number): Line[] =>
    Array.from({ length: Math.ceil(ms / sensor.everyMs) + 1 }, (): Line[] => [
      { kind: 'sensor', sensor: sensor.id, value },
      wait(sensor.everyMs),
    ]).flat()
  return [
    ...(rule.kind === 'threshold'
      ? ([{ kind: 'power', on: false }, wait(1_000), { kind: 'power', on: true }, wait(3_000)] as Line[])
      : []),
    ...says(rule.off - far, dwell),
    { kind: 'begin' },
    ...says(rule.on + far, dwell),
    ...says(rule.off - far, dwell),
    ...says(rule.on + far, dwell),
    wait(2 * stale + dwell + 2_000),
  ]
}

function limitLines(site: Site, item: TestItem): Line[] {
  const channel = channelOf(site, item.channel as never)!
  const limit = 'maxOnMs' in channel ? (channel.maxOnMs ?? 0) : 0
  return [
    { kind: 'bring', channel: channel.id, on: false, not: null },
    { kind: 'begin' },
    { kind: 'bring', channel: channel.id, on: true, not: null },
    wait(limit + 12_000),
    stands(channel, 0),
  ]
}

// ---- power and outages ----

const cutOf = (seconds: number, rest: number): Line[] => [
  { kind: 'power', on: false },
  wait(seconds * 1_000),
  { kind: 'listen' },
  { kind: 'power', on: true },
  wait(12_000 + rest),
]

function startLines(site: Site, item: TestItem, storeMs: number): Line[] {
  const channel = channelOf(site, item.channel as never)!
  const { policy } = powerUpOf(channel)
  const [, , , state] = item.key.split(':')
  const first = item.watch.hears[0]
  const needs = first?.kind === 'turn' ? first.turn.to : null
  const on = needs === 'on' || typeof needs === 'number'
  const turns: Line[] =
    needs === null
      ? [{ kind: 'begin' }]
      : [
          { kind: 'bring', channel: channel.id, on: !on, not: null },
          { kind: 'begin' },
          ...(typeof needs === 'number'
            ? topBySelector(site, channel)
            : [{ kind: 'bring', channel: channel.id, on, not: null } as Line]),
        ]
  const stored: Line[] = state === undefined ? [] : [wait(storeMs + 1_000)]
  const comes = policy === 'on' || (policy === 'last' && state === 'on')
  const rocker = waysTo(site, channel.id).flatMap((way) => (way.kind === 'wall' ? [inputOf(site, way.input)!] : []))[0]
  if (policy === 'wall' && rocker?.kind === 'rocker')
    turns.push({ kind: 'contacts', input: rocker.id, code: 1, rocks: false }, wait(800))
  const clicks: Line[] =
    policy === 'wall'
      ? [stands(channel, topLevel(channel))]
      : [{ kind: 'clicks', channel: channel.id, closings: comes ? 1 : 0 }]
  const cut = cutOf(cutSeconds(site, channel.controller), 'minOffMs' in channel ? (channel.minOffMs ?? 0) : 0)
  // where a rule decides too, its sensor asks for on
  const rule = site.rules.find((one) => one.kind === 'threshold' && one.channel === channel.id)
  const last = cut.at(-1)
  if (comes && rule?.kind === 'threshold' && last?.kind === 'wait') {
    const value = rule.on + (rule.direction === 'above' ? 5 : -5)
    const every = 5_000
    const says = Array.from({ length: Math.ceil(last.ms / every) }, (): Line[] => [
      { kind: 'sensor', sensor: rule.sensor, value },
      wait(every),
    ]).flat()
    return [...turns, ...stored, ...cut.slice(0, -1), ...says, ...clicks]
  }
  return [...turns, ...stored, ...cut, ...clicks]
}

/** A selector at its highest level, which it was not at before. */
function topBySelector(site: Site, channel: Channel): Line[] {
  const way = waysTo(site, channel.id).find((one) => one.kind === 'wall')
  const step =
    way && stepsOf(site, channel, way).find(({ asks }) => asks.kind === 'level' && asks.level === topLevel(channel))
  return [...(step?.first ?? []), ...(step?.deeds ?? [])].flatMap((action) => [...deedsOf(site, action), wait(400)])
}

/** Every channel of a controller is worked by a way that needs no network. */
function allByHand(site: Site, controller: string, only = Infinity): Line[] {
  return channelsOn(site, controller)
    .filter(({ kind }) => kind !== 'feed')
    .flatMap((channel): Line[] => {
      for (const way of waysTo(site, channel.id)) {
        if (way.kind !== 'wall' && way.kind !== 'remote' && way.kind !== 'link') continue
        const steps = stepsOf(site, channel, way)
        const step = steps.find(({ asks }) => asks.kind !== 'action' || asks.action !== 'off') ?? steps[0]
        if (!step) continue
        return [
          ...(step.first ?? []).flatMap((action) => deedsOf(site, action)),
          wait(300),
          ...step.deeds.flatMap((action) => deedsOf(site, action)),
          wait(
            channel.kind === 'pulsed'
              ? channel.pulseMs + channel.lockoutMs + 500
              : 600 + ('minOffMs' in channel ? (channel.minOffMs ?? 0) : 0),
          ),
        ]
      }
      return []
    })
    .slice(0, only)
}

const network = (up: boolean): Line => ({ kind: 'network', up })
/** A link is tried again after a minute at most, with its jitter (docs/behaviour.md, Link). */
const BACK: Line = wait(80_000)

function outageLines(site: Site, item: TestItem): Line[] {
  const [, , what] = item.key.split(':')
  const { controller } = item.watch
  const hands = allByHand(site, controller)
  switch (what) {
    case 'network':
    case 'return':
      return [{ kind: 'begin' }, network(false), wait(2_000), ...hands, network(true), BACK]
    case 'start':
      return [
        { kind: 'begin' },
        network(false),
        { kind: 'power', on: false },
        wait(5_000),
        { kind: 'power', on: true },
        wait(3_000),
        ...hands,
        network(true),
        BACK,
      ]
    case 'broker':
      return [
        { kind: 'begin' },
        { kind: 'broker', up: false },
        wait(2_000),
        ...hands,
        { kind: 'broker', up: true },
        BACK,
      ]
    case 'feed':
    case 'program':
      return [
        { kind: 'begin' },
        { kind: 'hubRuns', up: false },
        wait(20_000),
        ...feedHands(site, controller),
        { kind: 'hubRuns', up: true },
        wait(30_000),
      ]
    case 'line':
      return [
        { kind: 'begin' },
        { kind: 'line', up: false },
        wait(15_000),
        ...hands,
        { kind: 'line', up: true },
        wait(5_000),
      ]
    default:
      return [{ kind: 'begin' }, ...hands, wait(1_000)]
  }
}

function feedHands(site: Site, controller: string): Line[] {
  return channelsOn(site, controller)
    .filter(({ kind }) => kind === 'feed')
    .flatMap((feed) =>
      waysTo(site, feed.id)
        .filter(({ kind }) => kind === 'wall')
        .flatMap((way) => stepsOf(site, feed, way).slice(0, 1)),
    )
    .flatMap((step) => [...step.deeds.flatMap((action) => deedsOf(site, action)), wait(1_000)])
}

function neverLines(site: Site, item: TestItem): Line[] {
  const channel = channelOf(site, item.channel as never)!
  const way = waysTo(site, channel.id).find(({ kind }) => kind === 'app' || kind === 'hub')!
  const { lines } = play(site, channel, stepsOf(site, channel, way).slice(0, 1), 0)
  return [{ kind: 'begin' }, ...lines, network(false), wait(3_000), network(true), BACK, wait(20_000)]
}

function loadLines(site: Site, item: TestItem): Line[] | null {
  const channel = channelOf(site, item.channel as never)!
  const ways = waysTo(site, channel.id)
  const wide = ways.find((one) => one.kind === 'app' || one.kind === 'hub') ?? ways[0]
  if (!wide || channel.kind === 'feed') return null
  const steps = stepsOf(site, channel, wide)
  const first = steps[0]!.asks
  const steppedBy = (action: 'up' | 'down') =>
    ways
      .flatMap((way) => stepsOf(site, channel, way))
      .find(({ asks }) => asks.kind === 'action' && asks.action === action)
  const [up, down] = [steppedBy('up'), steppedBy('down')]
  const byStep = first.kind === 'action' && first.action === 'up' && up && down
  const each = Array.from({ length: topLevel(channel) })
  const twice = byStep
    ? [...each.map(() => up), ...each.map(() => down)]
    : first.kind === 'action' && first.action === 'toggle'
      ? [...steps, steps[0]!]
      : steps
  return [
    ...(channel.kind === 'pulsed' ? [] : [{ kind: 'bring', channel: channel.id, on: false, not: null } as Line]),
    { kind: 'begin' },
    ...play(site, channel, twice, 0).lines,
  ]
}

/** A door is moved by hand, from where it stands and back. */
function positionLines(site: Site, item: TestItem): Line[] {
  const channel = channelOf(site, item.channel as never)!
  const { input, closedMeans } = kindOf(channel).position(channel)!
  const over: Line[] = [{ kind: 'contacts', input: input!, code: 0, rocks: true }, wait(1_000)]
  // first to where the door is closed
  return [...(closedMeans === 'closed' ? over : []), { kind: 'begin' }, ...over, ...over]
}

/** What a person does for a test of the list, line by line; null: nobody can play it here. */
export function scriptOf(site: Site, item: TestItem, storeMs: number): Line[] | null {
  const [stage, kind] = item.key.split(':')
  if (stage === 'load') return loadLines(site, item)
  if (item.way !== null) return wayLines(site, item)
  switch (kind) {
    case 'control':
      return controlLines(site, item)
    case 'rule':
      return ruleLines(site, item)
    case 'limit':
      return limitLines(site, item)
    case 'start':
      return startLines(site, item, storeMs)
    case 'outage':
      return outageLines(site, item)
    case 'never':
      return neverLines(site, item)
    case 'position':
      return positionLines(site, item)
    default:
      return null
  }
}
