import { linksOf } from '../image'
import type { PartId } from '../parts'
import { holdersOf } from '../services'
import {
  channelOf,
  grouped,
  kindOf,
  topLevel,
  type AppWay,
  type Channel,
  type Point,
  type Site,
  type Widget,
} from '../site'
import { topics } from '../topics'
import { aimsOf, type AimKey } from './aims'
import type { Message } from './broker'
import type { ControllerInWorld } from './controllerInWorld'
import type { Happening } from './eventQueue'

/** A screen that shows a channel: the way that brings it there, and where from. */
export interface Screen {
  readonly way: string
  readonly channel: Channel
  readonly who: 'hub' | 'phone'
  /** what stands behind a phone's widget; null: the hub has the state's own topic */
  readonly point: Point | null
  readonly widget: Widget | null
}

/** What is looked up at each event; made once for a site. */
export interface HouseIndex {
  /** by "service/point", and for a hub by state topic */
  readonly screens: ReadonlyMap<string, readonly Screen[]>
  /** the channel that a topic speaks of */
  readonly channelOfTopic: ReadonlyMap<string, string>
  /** "channel.contact" of each controller, in the order of its outputs */
  readonly outputsOf: ReadonlyMap<string, readonly string[]>
  readonly channels: ReadonlyMap<string, Channel>
  readonly channelsOf: ReadonlyMap<string, readonly Channel[]>
  /** ways by app to the channels of a controller */
  readonly appWaysOf: ReadonlyMap<string, readonly AppWay[]>
  /** the channels that a hand's deed is aimed at */
  readonly aims: ReadonlyMap<AimKey, readonly string[]>
  /** the parts over which a client's messages come, filled as they are asked for */
  readonly paths: Map<string, readonly PartId[]>
  /** of a pair: the place of the coprocessor of each main board, and the link between them */
  readonly mirrors: ReadonlyMap<string, { readonly place: number; readonly link: string | null }>
  /** what arrives at a client, as something that happens; undefined: it is nobody of this house */
  readonly happens: (client: string, message: Message, house: Boards) => Happening | undefined
}

interface Boards {
  readonly controllers: readonly { readonly boots: number }[]
}

export function indexOf(site: Site, boards: readonly ControllerInWorld[]): HouseIndex {
  const screens = new Map<string, Screen[]>()
  const channelOfTopic = new Map<string, string>()
  const shows = (key: string, screen: Screen): void => void screens.set(key, [...(screens.get(key) ?? []), screen])
  const holders = holdersOf(site)
  for (const way of site.ways) {
    const channel = channelOf(site, way.channel)
    if (!channel || (way.kind !== 'app' && way.kind !== 'hub')) continue
    const at = topics(site.id, channel.controller)
    const held = holders.find(({ pointOf }) => pointOf.has(way.id))
    const point = held?.service.points.find(({ id }) => id === held.pointOf.get(way.id))
    if (point) channelOfTopic.set(at.pointState(point.vp), channel.id)
    if (way.kind === 'app') {
      const widget = held?.service.widgets.find((one) => one.point === way.point)
      if (held && point && widget)
        shows(`${held.service.id}/${point.id}`, { way: way.id, channel, who: 'phone', point, widget })
      continue
    }
    const entity = site.hubs.find(({ id }) => id === way.hub)?.entities.find(({ id }) => id === way.entity)
    if (held && point)
      shows(`${held.service.id}/${point.id}`, { way: way.id, channel, who: 'hub', point, widget: null })
    else if (entity) shows(at.state(entity.topic), { way: way.id, channel, who: 'hub', point: null, widget: null })
    if (entity) channelOfTopic.set(at.state(entity.topic), channel.id)
  }
  return {
    ...{ screens, channelOfTopic, outputsOf: outputsOf(site), aims: aimsOf(site), paths: new Map() },
    channels: new Map(site.channels.map((channel) => [channel.id as string, channel])),
    channelsOf: grouped(site.channels, ({ controller }) => controller as string),
    appWaysOf: grouped(
      site.ways.filter((way) => way.kind === 'app'),
      ({ channel }) => channelOf(site, channel)?.controller ?? '',
    ),
    ...{ mirrors: mirrorsOf(site, boards), happens: addressees(site, boards) },
  }
}

const mirrorsOf = (site: Site, boards: readonly ControllerInWorld[]): HouseIndex['mirrors'] =>
  new Map(
    boards.flatMap(({ part, image }, place) => {
      const link = site.links.find(({ controller, other }) => controller === image.controller && other !== null)
      return part === 'mirror' ? [[image.controller, { place, link: link?.id ?? null }]] : []
    }),
  )

const outputsOf = (site: Site): ReadonlyMap<string, readonly string[]> =>
  new Map(
    site.controllers.map(({ id }) => [
      id as string,
      site.channels
        .filter(({ controller }) => controller === id)
        .flatMap((channel) =>
          kindOf(channel)
            .outputs(channel)
            .map((_, k) => `${channel.id}.${k}`),
        ),
    ]),
  )

function addressees(site: Site, boards: readonly ControllerInWorld[]): HouseIndex['happens'] {
  const serviceOf = new Map(holdersOf(site).map(({ service }, index) => [`service:${service.id}`, index]))
  const boardOf = new Map(
    boards.flatMap((board, controller) =>
      linksOf(board.image).map((_, link) => [link === 0 ? board.id : `${board.id}#${link}`, { controller, link }]),
    ),
  )
  return (client, message, house) => {
    if (client === 'hub') return { kind: 'hubHears', message }
    const service = serviceOf.get(client)
    if (service !== undefined) return { kind: 'serviceHears', service, message }
    const found = boardOf.get(client)
    if (!found) return undefined
    const { controller, link } = found
    const { boots } = house.controllers[controller]!
    return { kind: 'told', controller, boots, event: { kind: 'message', ...message, of: link } }
  }
}

/** The level that a value of a point stands for: the one whose value it is, or above. */
export function levelShown({ channel, point, widget }: Screen, value: number): number {
  if (!point) return value
  const top = topLevel(channel)
  if (top === 1) return Number((value !== point.min) !== (widget?.inverted ?? false))
  return Math.ceil(((value - point.min) * top) / (point.max - point.min))
}
