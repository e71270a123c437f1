import { reachedFrom, PLACES, wayPaths, type PartId, type Place } from '../parts'
import { holdersOf, messageBytes, serviceKindIn, wireOf } from '../services'
import { kindOf, waysTo, type Limits, type Site } from '../site'
import { valueAt, type Kept, type TracksKept } from '../trial'

/** What a run has cost and shown: contacts, messages, and the time in which nobody could have worked a channel. */

const DAY_MS = 86_400_000
const DAYS_OF_MONTH = 30
const DAYS_OF_YEAR = 365
/** Operations that a relay's contacts stand at their rated load (memory of usual data sheets: 100 000). */
export const CONTACT_LIFE = 100_000

export interface ChannelMeasure {
  readonly channel: string
  readonly name: string
  /** closings of its hardest worked contact */
  readonly operations: number
  readonly operationsAYear: number
  /** years until the contacts are worn at their rated load; null: nothing moved */
  readonly lifeYears: number | null
  readonly onMs: number
  /** ms in which nobody could have worked it, by where one stands; null: no way can be worked from there at all */
  readonly darkMs: Readonly<Record<Place, number | null>>
  /** ms in which a screen showed what was not so */
  readonly wrongMs: number
}

export interface TrafficMeasure {
  readonly service: string
  readonly name: string
  readonly messages: number
  readonly messagesAMonth: number
  readonly bytesAMonth: number
  /** what its plan allows in a month; null: no limit is known */
  readonly limit: number | null
}

export interface RunMeasures {
  readonly lastsMs: number
  readonly channels: readonly ChannelMeasure[]
  readonly traffic: readonly TrafficMeasure[]
}

/** Stretches in which a part was down. */
type Down = (part: PartId) => readonly (readonly [from: number, to: number])[]

function downOf(tracks: TracksKept, lastsMs: number): Down {
  const known = new Map<PartId, (readonly [number, number])[]>()
  return (part) => {
    const found = known.get(part)
    if (found) return found
    const events = tracks.of(`down:${part}`)
    const stretches = events.flatMap((event, i) =>
      'value' in event && event.value === 1 ? [[event.t, events[i + 1]?.t ?? lastsMs] as const] : [],
    )
    known.set(part, stretches)
    return stretches
  }
}

/** ms in which each of the ways lacked a part. */
function darkTime(needs: readonly (readonly PartId[])[], down: Down): number {
  const cuts = [...new Set(needs.flat().flatMap((part) => down(part).flat()))].sort((a, b) => a - b)
  let dark = 0
  for (let i = 0; i + 1 < cuts.length; i++) {
    const [from, to] = [cuts[i]!, cuts[i + 1]!]
    const isDown = (part: PartId): boolean => down(part).some(([start, end]) => start <= from && to <= end)
    if (needs.every((parts) => parts.some(isDown))) dark += to - from
  }
  return dark
}

/** ms between two instants in which a lane was not 0. */
function timeOn(events: readonly Kept[], lastsMs: number): number {
  let on = 0
  events.forEach((event, i) => {
    if ('value' in event && event.value !== 0) on += (events[i + 1]?.t ?? lastsMs) - event.t
  })
  return on
}

function wrongTime(site: Site, channel: string, tracks: TracksKept, lastsMs: number): number {
  const is = tracks.of(`load:${channel}`)
  const screens = waysTo(site, channel).flatMap((way) => {
    const events = tracks.of(`belief:${way.id}`)
    return events.length > 0 ? [events] : []
  })
  const cuts = [...new Set([is, ...screens].flatMap((events) => events.map(({ t }) => t)))].sort((a, b) => a - b)
  let wrong = 0
  cuts.forEach((from, i) => {
    const truth = valueAt(is, from)
    const lies = screens.some((events) => events[0]!.t <= from && valueAt(events, from) !== truth)
    if (lies) wrong += (cuts[i + 1] ?? lastsMs) - from
  })
  return wrong
}

export function runMeasures(site: Site, tracks: TracksKept, lastsMs: number): RunMeasures {
  const down = downOf(tracks, lastsMs)
  const days = lastsMs / DAY_MS
  const channels = site.channels.map((channel): ChannelMeasure => {
    const ways = waysTo(site, channel.id)
    const operations = Math.max(
      0,
      ...kindOf(channel)
        .outputs(channel)
        .map(
          (_, k) =>
            tracks.of(`contact:${channel.id}.${k}`).filter((event) => 'value' in event && event.value === 1).length,
        ),
    )
    const operationsAYear = days > 0 ? Math.round((operations / days) * DAYS_OF_YEAR) : 0
    const dark = (from: Place): number | null => {
      const near = ways.filter((way) => reachedFrom(site, way).includes(from))
      return near.length === 0
        ? null
        : darkTime(
            near.flatMap((way) => wayPaths(site, way)),
            down,
          )
    }
    return {
      ...{ channel: channel.id, name: channel.name, operations, operationsAYear },
      lifeYears: operationsAYear === 0 ? null : CONTACT_LIFE / operationsAYear,
      onMs: timeOn(tracks.of(`load:${channel.id}`), lastsMs),
      darkMs: Object.fromEntries(PLACES.map((from) => [from, dark(from)])) as ChannelMeasure['darkMs'],
      wrongMs: kindOf(channel).lasting ? wrongTime(site, channel.id, tracks, lastsMs) : 0,
    }
  })
  return { lastsMs, channels, traffic: trafficOf(site, tracks, days) }
}

const limitAMonth = (limits: Limits | undefined): number | null =>
  limits?.messagesMonth ?? (limits?.messagesDay ? limits.messagesDay * DAYS_OF_MONTH : null)

function trafficOf(site: Site, tracks: TracksKept, days: number): TrafficMeasure[] {
  const messages = tracks.of('message').flatMap((event) => (event.lane === 'message' ? [event] : []))
  return holdersOf(site).flatMap(({ service }): TrafficMeasure[] => {
    const points = new Set(service.points.map(({ controller, vp }) => `${controller}/vp/${vp}`))
    // by its points: a controller says the points of one service to that service alone
    const own = messages.filter(({ topic }) => {
      const [, , controller, ...rest] = topic.split('/')
      return points.has(`${controller}/${rest.slice(0, 2).join('/')}`) && rest[2] !== 'held'
    })
    if (own.length === 0 && !wireOf(site, service)) return []
    const bytes = own.reduce((sum, { topic, bytes: payload }) => sum + messageBytes(topic, payload), 0)
    const aMonth = (count: number): number => (days > 0 ? Math.round((count / days) * DAYS_OF_MONTH) : 0)
    const limits = serviceKindIn(site, service.kind)?.limits
    return [
      {
        ...{ service: service.id, name: service.name, messages: own.length },
        ...{ messagesAMonth: aMonth(own.length), bytesAMonth: aMonth(bytes) },
        limit: limitAMonth(limits),
      },
    ]
  })
}
