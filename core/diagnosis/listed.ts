import { partsOf, type PartId } from '../parts'
import {
  channelsOn,
  coprocessorOf,
  kindOf,
  mainOf,
  siteOf,
  topLevel,
  waysTo,
  type Channel,
  type Site,
  type Way,
} from '../site'
import { stepsOf } from '../acceptance'
import { asksFor } from '../broken'
import type { Observation } from './observation'

/** The controller of a channel, the boards that it cannot do without, and what they share with the house. */
export function around(site: Site, channel: Channel): Site {
  const others = [mainOf(site, channel.controller), coprocessorOf(site, channel.controller)]
  const ids = [channel.controller as string, ...others.flatMap((one) => (one ? [one.id as string] : []))]
  return siteOf(site, new Set(ids))
}

const asksOn = (site: Site, channel: Channel, way: Way): boolean =>
  stepsOf(site, channel, way).some((step) => asksFor(channel, step, true))

/** Ways of another channel that tell something: one at the wall, one by radio or line, one over the network. */
function fewWays(site: Site, channel: Channel): Way[] {
  const ways = waysTo(site, channel.id).filter((way) => asksOn(site, channel, way))
  const first = (kinds: readonly Way['kind'][]): Way[] => ways.filter(({ kind }) => kinds.includes(kind)).slice(0, 1)
  return [...first(['wall']), ...first(['remote', 'link']), ...first(['app']), ...first(['hub', 'voice'])]
}

/** Each level of a channel that has several, by the first way that sets them. */
function levelsOf(site: Site, channel: Channel): Observation[] {
  const top = topLevel(channel)
  const way = waysTo(site, channel.id).find((one) =>
    stepsOf(site, channel, one).some(({ asks }) => asks.kind === 'level'),
  )
  if (top < 2 || !way || channel.kind !== 'stepped') return []
  return Array.from({ length: top }, (_, i) => i + 1).map((level) => ({
    ...{ kind: 'way', id: `way ${way.id} ${level}`, channel: channel.id, way: way.id, level },
  }))
}

/** House parts that show by themselves whether they work. */
const SHOWS: readonly PartId[] = ['mains', 'router', 'wifi', 'internet', 'broker', 'hub']

/** Everything that can be looked at for a channel, in a site of its controller alone. */
export function observationsFor(site: Site, channel: Channel): Observation[] {
  const graph = partsOf(site)
  const own = waysTo(site, channel.id).filter((way) => asksOn(site, channel, way))
  const others = channelsOn(site, channel.controller).filter(({ id }) => id !== channel.id)
  const ways = [
    ...own.map((way) => [channel, way] as const),
    ...others.flatMap((other) => fewWays(site, other).map((way) => [other, way] as const)),
  ]
  const all = [channel, ...others]
  const shows = [...graph.keys()].filter(
    (part) =>
      SHOWS.includes(part) || part.startsWith('service:') || part.startsWith('breaker:') || part.startsWith('strip:'),
  )
  const clicking = all.flatMap((one) => {
    const way = waysTo(site, one.id).find((candidate) => asksOn(site, one, candidate))
    return way && one.kind !== 'feed' ? [{ channel: one.id as string, way: way.id as string }] : []
  })
  return [
    ...ways.map(([{ id }, way]): Observation => ({ kind: 'way', id: `way ${way.id}`, channel: id, way: way.id })),
    ...all.flatMap((one) => levelsOf(site, one)),
    ...own.flatMap((way): Observation[] =>
      (way.kind === 'app' || way.kind === 'hub') &&
      way.feedback === 'reports' &&
      kindOf(channel).lasting &&
      channel.kind !== 'feed'
        ? [{ kind: 'screen', id: `screen ${way.id}`, channel: channel.id, way: way.id }]
        : [],
    ),
    ...all
      .filter((one) => kindOf(one).lasting)
      .map(({ id }): Observation => ({ kind: 'rest', id: `rest ${id}`, channel: id })),
    ...clicking.map((one): Observation => ({ kind: 'click', id: `click ${one.channel}`, ...one })),
    ...clicking.map((one): Observation => ({ kind: 'indicator', id: `indicator ${one.channel}`, ...one })),
    ...site.controllers
      .filter(({ link }) => link !== 'none')
      .map(({ id }): Observation => ({ kind: 'online', id: `online ${id}`, controller: id })),
    ...shows.map((part): Observation => ({ kind: 'shows', id: `shows ${part}`, part })),
    ...[...graph.keys()].map((part): Observation => ({ kind: 'part', id: `part ${part}`, part })),
  ]
}
