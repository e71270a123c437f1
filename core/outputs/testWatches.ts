import {
  channelOf,
  channelsOn,
  coprocessorOf,
  groupOf,
  isFeed,
  linkOf,
  positionOf,
  timeText,
  topLevel,
  waysTo,
  type Channel,
  type ChannelAction,
  type Control,
  type Controller,
  type Site,
  type Way,
} from '../site'
import { compileController, CompileRefused, linksOf } from '../image'
import type { Expect, Eye, To, Turn, Watch } from '../witness'

/** What a board must say when a test goes well, and what only an eye can see (docs/behaviour.md, Commands, Link). */
export type Heard = Pick<Watch, 'hears' | 'also' | 'eye'>

export const NOTHING: Heard = { hears: [], also: [], eye: null }
export const heard = (hears: readonly Expect[], eye: Eye | null = null, also: readonly string[] = []): Heard => ({
  hears: [...hears],
  also: [...also],
  eye,
})

/** The source that a report names for a way; spoken words arrive by the way that carries them. */
export function sourcesOf(site: Site, way: Way): string[] {
  const channel = channelOf(site, way.channel)
  // a radio says for its main board what a status line says, and that knows no causes
  if (channel && coprocessorOf(site, channel.controller)) return ['serial']
  switch (way.kind) {
    case 'link':
      return [linkOf(site, way.link)!.kind]
    case 'voice': {
      const carrier = site.ways.find(({ id }) => id === way.through)
      return carrier ? sourcesOf(site, carrier) : ['app', 'hub']
    }
    default:
      return [way.kind]
  }
}

const WITHOUT_NETWORK: readonly Way['kind'][] = ['wall', 'remote', 'link']

/** Sources of the ways that need no network. */
export const localSources = (site: Site, channel: Channel): string[] => [
  ...new Set(
    waysTo(site, channel.id)
      .filter(({ kind }) => WITHOUT_NETWORK.includes(kind))
      .flatMap((way) => sourcesOf(site, way)),
  ),
]

/** Where an action brings a channel; null: that is not known from the action alone. */
export function toOf(channel: Channel, action: ChannelAction, level: number | null): To {
  switch (action) {
    case 'on':
    case 'pulse':
    case 'open':
      return 'on'
    case 'off':
    case 'stop':
      return 'off'
    case 'up':
    case 'down':
      return action
    case 'level':
      return level ?? 1
    case 'a':
      return 1
    case 'b':
      return 2
    case 'close':
      return 'any'
    case 'toggle':
    case 'follow':
      return channel.kind === 'paired' ? 'any' : 'turned'
  }
}

export const turn = (channel: Channel | string, to: To, by: readonly string[] | null): Turn => ({
  channel: typeof channel === 'string' ? channel : channel.id,
  to,
  by: by === null ? null : [...by],
})
export const waits = (channel: Channel, to: To, by: readonly string[] | null): Extract<Expect, { kind: 'turn' }> => ({
  kind: 'turn',
  turn: turn(channel, to, by),
})

/** What a way's action must bring: over and back for what turns over, each time by its own source. */
export function turnsOfAction(channel: Channel, action: ChannelAction, level: number | null, by: string[]): Expect[] {
  const to = toOf(channel, action, level)
  const once = waits(channel, to, by)
  if (action === 'toggle') return [once, waits(channel, to, by)]
  return channel.kind === 'pulsed' ? pulseHeard(channel, by) : [once]
}

/** A pulse: closed and open again; of a door with a contact a report says where it stands, whatever the pulse does. */
const pulseHeard = (channel: Channel, by: string[]): Expect[] =>
  positionOf(channel) ? [waits(channel, 'any', by)] : [waits(channel, 'on', by), waits(channel, 'off', null)]

/** No second change may come for so long after a key that acts once, ms: a hold of two seconds, and some. */
const STILL_MS = 3_000

/** A key that is held: one change, or one after another. */
export function turnsOfHold(channel: Channel, to: To, by: string[], once: boolean): Expect[] {
  const first = waits(channel, to, by)
  return once ? [first, { kind: 'still', channel: channel.id, ms: STILL_MS }] : [first, { ...first, withinMs: 2_000 }]
}

/** After a press beside it the screen shows it; where no other way is, nobody presses. */
export const screenAgrees = (site: Site, channel: Channel, holder: string): Expect[] => {
  const by = localSources(site, channel)
  if (by.length === 0 || isFeed(channel)) return []
  return [
    waits(channel, channel.kind === 'switched' ? 'turned' : 'any', by),
    { kind: 'screen', channel: channel.id, holder },
  ]
}

/** A person moves a channel at a screen through all its states. */
export function turnsAtScreen(channel: Channel, by: string[]): Expect[] {
  switch (channel.kind) {
    case 'pulsed':
      return pulseHeard(channel, by)
    case 'paired':
      return [1, 0, 2, 1].map((level) => waits(channel, level, by))
    case 'stepped':
      return [{ kind: 'all', turns: levels(channel).map((level) => turn(channel, level, by)) }]
    case 'feed':
      return []
    default:
      return [waits(channel, 'on', by), waits(channel, 'off', by)]
  }
}

export const levels = (channel: Channel): number[] => Array.from({ length: topLevel(channel) + 1 }, (_, level) => level)

// ---- other channels that the same hand works ----

type Source = Control['source']

function sameSource(way: Way, source: Source): boolean {
  if (way.kind === 'wall') return source.kind === 'wall' && source.input === way.input
  if (way.kind === 'remote') return source.kind === 'remote' && source.remote === way.remote && source.key === way.key
  return way.kind === 'link' && source.kind === 'link' && source.link === way.link && source.char === way.char
}

function sameHand(a: Way, b: Way): boolean {
  if (a.kind === 'wall') return b.kind === 'wall' && a.input === b.input
  if (a.kind === 'remote') return b.kind === 'remote' && a.remote === b.remote && a.key === b.key
  if (a.kind === 'link') return b.kind === 'link' && a.link === b.link && a.char === b.char
  if (a.kind === 'app') return b.kind === 'app' && a.service === b.service && a.point === b.point
  return false
}

/** Channels that a way's switch, key, character or point works beside its own: they may move too. */
export const alsoMoved = (site: Site, way: Way): string[] => [
  ...new Set([
    ...site.ways
      .filter((one) => one.channel !== way.channel && sameHand(way, one))
      .map(({ channel }) => channel as string),
    ...site.controls
      .filter((control) => control.kind === 'group' && sameSource(way, control.source))
      .flatMap(
        (control) => (control.kind === 'group' ? (groupOf(site, control.group)?.members ?? []) : []) as string[],
      ),
  ]),
]

// ---- what only an eye can see ----

/** The relay of a channel, once: the way from its state to its contact is the same for all its ways. */
export function relayEye(channel: Channel, whole = true): Eye {
  return { asks: RELAY_ASKS[channel.kind](channel), about: `relay:${channel.id}`, shows: whole }
}

const RELAY_ASKS: Readonly<Record<Channel['kind'], (channel: Channel) => string>> = {
  switched: ({ name }) => `Did the relay of ${name} click, its indicator light while on, and no other?`,
  feed: ({ name }) => `Did the relay of ${name} stay closed, and do the lamps of the hub turn over?`,
  stepped: ({ name }) => `Were only the right contacts of ${name} closed, never two levels at once?`,
  pulsed: (channel) =>
    `Did the relay of ${channel.name} close once${channel.kind === 'pulsed' ? `, for ${timeText(channel.pulseMs)}` : ''}, and no other?`,
  paired: ({ name }) => `Was only one output of ${name} closed at a time, the right one?`,
}

export const eye = (asks: string): Eye => ({ asks, about: null, shows: false })

// ---- power and outages ----

export const away = (controller: string): Expect => ({ kind: 'away', controller })
export const here = (controller: string, restarted = false): Expect => ({ kind: 'here', controller, restarted })

/**
 * How long the power must be gone so that it is heard of, s: five, or of a board behind a radio longer than the status
 * lines that may be missing (docs/behaviour.md, Serial and nearby link: three periods).
 */
export function cutSeconds(site: Site, controller: string): number {
  const radio = coprocessorOf(site, controller)
  const line = radio && site.links.find(({ other }) => other === radio.id)
  return line ? Math.ceil((3 * line.statusMs) / 1000) + 4 : 5
}

/** The source that a report names, where a radio does not say for another what it does not know. */
export const causes = (site: Site, channel: Channel, cause: string): string[] =>
  coprocessorOf(site, channel.controller) ? ['serial'] : [cause]

/** After the link is up, a turn-on may still wait for its place in the row, and a click shows late, ms. */
const COMES_UP_MS = 5_000
export const leastOffMs = (channel: Channel): number => ('minOffMs' in channel ? (channel.minOffMs ?? 0) : 0)

export const comesUp = (channel: Channel, to: 'on' | 'off' | 'before'): Expect => ({
  kind: 'comesUp',
  channel: channel.id,
  to,
  // its least time off runs from the power-up
  afterMs: COMES_UP_MS + (to === 'off' ? 0 : leastOffMs(channel)),
})

/** Each channel of a controller that has a way without network, moved by it. */
export function movedByHand(site: Site, controller: Controller): Turn[] {
  const counts = speaksItself(site, controller.id)
  return channelsOn(site, controller.id).flatMap((channel) => {
    const by = localSources(site, channel)
    // a pulse is over before it can be said: only a count of changes shows that it was
    if (by.length === 0 || isFeed(channel) || (channel.kind === 'pulsed' && !counts)) return []
    return [turn(channel, 'any', channel.kind === 'pulsed' ? [...by, 'limit'] : by)]
  })
}

/** Does a controller say its states on the topics of the house, by its tables? */
export function speaksItself(site: Site, controller: string): boolean {
  try {
    return linksOf(compileController(site, controller)).some(({ own }) => own)
  } catch (error) {
    if (error instanceof CompileRefused) return false
    throw error
  }
}

export const oneByHand = (site: Site, controller: Controller): Expect[] => {
  const turns = movedByHand(site, controller)
  return turns.length === 0 ? [] : [{ kind: 'any', turns }]
}
