import { channelOf, kindOf, topLevel, waysTo, type Channel, type Site } from '../site'
import type { PartId } from '../parts'
import { truthOf } from './lanes'
import { valueAt, type Kept, type TracksKept } from './tracksKept'

/** One place on the way of a deed, from the finger to the screens. */
export interface PathStop {
  readonly what: 'hand' | 'switch' | 'relay' | 'load' | 'network' | 'phone' | 'hub'
  readonly name: string
  /** "on", "level 2", "closed": what is true there then; or why it was not reached */
  readonly text: string
  /** ms since the deed; null: it has not come so far */
  readonly afterMs: number | null
  /** when it has not: it shows another state than what is */
  readonly wrong: boolean
}

export interface DeedPath {
  readonly cause: number
  /** when it was done, ms since the start */
  readonly t: number
  readonly text: string
  /** a row for each channel that it was aimed at */
  readonly channels: readonly { readonly channel: string; readonly name: string; readonly stops: readonly PathStop[] }[]
}

const levelWords = (channel: Channel, level: number): string => kindOf(channel).seen(channel, level)

const firstOf = (events: readonly Kept[], cause: number): Kept | undefined =>
  events.find((event) => event.cause === cause)

/** The way of a deed as far as it came by now; undefined: there is no deed of that number. */
export function deedPath(
  site: Site,
  tracks: TracksKept,
  cause: number,
  now: number,
  down: readonly PartId[] = [],
): DeedPath | undefined {
  const hand = tracks.of('hand').find((event) => event.cause === cause)
  if (hand?.lane !== 'hand') return undefined
  const channels = hand.channels.flatMap((id) => {
    const channel = channelOf(site, id)
    return channel ? [{ channel: id, name: channel.name, stops: stopsOf(site, tracks, channel, hand, now, down) }] : []
  })
  return { cause, t: hand.t, text: hand.text, channels }
}

const lastOf = (events: readonly Kept[], cause: number): Kept | undefined =>
  events.findLast((event) => event.cause === cause)

type Hand = Extract<Kept, { lane: 'hand' }>

function stopOf(
  hand: Hand,
  what: PathStop['what'],
  name: string,
  text: string,
  event: Kept | undefined,
  wrong = false,
): PathStop {
  return { what, name, text, afterMs: event && !wrong ? event.t - hand.t : null, wrong }
}

/** The screens of a channel: what each shows now, and since when. */
const screenStops = (site: Site, tracks: TracksKept, channel: Channel, hand: Hand, now: number): PathStop[] =>
  waysTo(site, channel.id).flatMap((way): PathStop[] => {
    if (way.kind !== 'app' && way.kind !== 'hub') return []
    const events = tracks.of(`belief:${way.id}`)
    const shown = valueAt(events, now)
    const wrong = events.length > 0 && shown !== valueAt(truthOf(channel, tracks), now)
    const event = firstOf(events, hand.cause)
    const who = way.kind === 'hub' ? 'hub' : 'phone'
    const text = wrong ? 'still shows ' : event ? 'shows ' : ''
    return [stopOf(hand, who, who, text ? `${text}${levelWords(channel, shown)}` : 'nothing new', event, wrong)]
  })

function stopsOf(
  site: Site,
  tracks: TracksKept,
  channel: Channel,
  hand: Hand,
  now: number,
  down: readonly PartId[],
): PathStop[] {
  const { cause, t } = hand
  const atSwitch = tracks.kind('input').flatMap(([, events]) => firstOf(events, cause) ?? [])[0]
  const relays = tracks.kind('contact').filter(([key]) => key.startsWith(`${channel.id}.`))
  const relay = relays.flatMap(([, events]) => firstOf(events, cause) ?? []).sort((a, b) => a.t - b.t)[0]
  const one =
    topLevel(channel) > 1 ? 'contacts change' : relay && 'value' in relay && relay.value ? 'pulls in' : 'lets go'
  const load = tracks.of(`load:${channel.id}`)
  const loadMoved = firstOf(load, cause)
  const unmoved = down.includes(`load:${channel.id}`) ? 'gets no power' : 'does not change'
  const said = tracks.of('message').find((event) => event.cause === cause && event.t >= (relay?.t ?? t))
  const screens = screenStops(site, tracks, channel, hand, now)
  return [
    stopOf(hand, 'hand', 'hand', hand.text, hand),
    ...(atSwitch ? [stopOf(hand, 'switch', 'switch', 'contact moves', atSwitch)] : []),
    stopOf(hand, 'relay', 'relay', relay ? one : 'does not move', relay),
    stopOf(
      hand,
      'load',
      channel.name,
      loadMoved ? levelWords(channel, valueAt(load, lastOf(load, cause)!.t)) : unmoved,
      loadMoved,
    ),
    ...(screens.length > 0 ? [stopOf(hand, 'network', 'network', said ? 'told' : 'nothing told', said)] : []),
    ...screens,
  ]
}
