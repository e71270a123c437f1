import { channelOf, topLevel, waysTo, type Channel, type Site } from '../site'
import type { PartId } from '../parts'
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

const levelWords = (channel: Channel, level: number): string =>
  topLevel(channel) > 1 && level > 0 ? `level ${level}` : level > 0 ? 'on' : 'off'

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

function stopsOf(
  site: Site,
  tracks: TracksKept,
  channel: Channel,
  hand: Extract<Kept, { lane: 'hand' }>,
  now: number,
  down: readonly PartId[],
): PathStop[] {
  const { cause, t } = hand
  const stop = (
    what: PathStop['what'],
    name: string,
    text: string,
    event: Kept | undefined,
    wrong = false,
  ): PathStop => ({
    ...{ what, name, text, afterMs: event ? event.t - t : null, wrong: event ? false : wrong },
  })
  const atSwitch = tracks.kind('input').flatMap(([, events]) => firstOf(events, cause) ?? [])[0]
  const relays = tracks.kind('contact').filter(([key]) => key.startsWith(`${channel.id}.`))
  const relay = relays.flatMap(([, events]) => firstOf(events, cause) ?? []).sort((a, b) => a.t - b.t)[0]
  const load = tracks.of(`load:${channel.id}`)
  const loadMoved = firstOf(load, cause)
  const is = valueAt(load, now)
  const said = tracks.of('message').find((event) => event.cause === cause && event.t >= (relay?.t ?? t))
  const screens = waysTo(site, channel.id).flatMap((way): PathStop[] => {
    if (way.kind !== 'app' && way.kind !== 'hub') return []
    const events = tracks.of(`belief:${way.id}`)
    const event = firstOf(events, cause)
    const shown = valueAt(events, now)
    const wrong = events.length > 0 && shown !== is
    const who = way.kind === 'hub' ? 'hub' : 'phone'
    const text =
      event && !wrong
        ? `shows ${levelWords(channel, shown)}`
        : wrong
          ? `still shows ${levelWords(channel, shown)}`
          : 'nothing new'
    return [stop(who, who, text, wrong ? undefined : event, wrong)]
  })
  return [
    stop('hand', 'hand', hand.text, hand),
    ...(atSwitch ? [stop('switch', 'switch', 'contact moves', atSwitch)] : []),
    stop('relay', 'relay', relay && 'value' in relay ? (relay.value ? 'pulls in' : 'lets go') : 'does not move', relay),
    stop(
      'load',
      channel.name,
      loadMoved ? levelWords(channel, is) : down.includes(`load:${channel.id}`) ? 'gets no power' : 'does not change',
      loadMoved,
    ),
    ...(screens.length > 0 ? [stop('network', 'network', said ? 'told' : 'nothing told', said)] : []),
    ...screens,
  ]
}
