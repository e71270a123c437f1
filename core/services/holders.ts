import {
  channelOf,
  controllersOfGroup,
  isFeed,
  sensorsOn,
  topLevel,
  type Channel,
  type Controller,
  type Hub,
  type Point,
  type PointId,
  type Service,
  type ServiceId,
  type Site,
  type VoiceWay,
  type WayId,
  type Widget,
  type WidgetId,
} from '../site'
import { serviceKindIn } from './serviceKinds'

/**
 * What a controller speaks to, seen in one form: an app service as the document has it; a hub that is reached by a wire
 * of its own, with a point for each entity, group, mode and sensor; a voice bridge, with a point for each lamp that it
 * speaks to directly. Wires and stand-ins know no other form.
 */
export interface Holder {
  readonly service: Service
  /** by way: the point over which it leads to its channel */
  readonly pointOf: ReadonlyMap<WayId, PointId>
}

/** How a build reaches a kind by its own wire; undefined: over the broker of the house, or not at all. */
export function wireOf(site: Site, { kind }: Pick<Service, 'kind'>) {
  const wire = serviceKindIn(site, kind)?.wire
  return wire?.transport === 'own' ? undefined : wire
}

/** Everything that holds points, in the site's order: services, then hubs with a wire of their own. */
export function holdersOf(site: Site): Holder[] {
  const ofApps = new Map<string, Map<WayId, PointId>>()
  for (const way of site.ways) {
    if (way.kind !== 'app') continue
    const known = ofApps.get(way.service)
    if (known) known.set(way.id, way.point)
    else ofApps.set(way.service, new Map([[way.id, way.point]]))
  }
  return [
    ...site.services.map((service) =>
      isDirectVoice(site, service)
        ? voiceHolder(site, service)
        : { service, pointOf: ofApps.get(service.id) ?? new Map<WayId, PointId>() },
    ),
    ...site.hubs.flatMap((hub) => (wireOf(site, hub) ? [hubHolder(site, hub)] : [])),
  ]
}

export const holderOf = (site: Site, id: string): Holder | undefined =>
  holdersOf(site).find(({ service }) => service.id === id)

/** Those that are reached by a wire of their own. */
export const wiredHolders = (site: Site): Service[] => [
  ...site.services.flatMap((service) =>
    wireOf(site, service) ? [isDirectVoice(site, service) ? voiceHolder(site, service).service : service] : [],
  ),
  ...site.hubs.flatMap((hub) => (wireOf(site, hub) ? [hubHolder(site, hub).service] : [])),
]

/** A voice service that speaks to controllers itself: not through an account elsewhere. */
export const isDirectVoice = (site: Site, service: Service): boolean =>
  serviceKindIn(site, service.kind)?.family === 'voice' &&
  service.linkedThrough === undefined &&
  wireOf(site, service) !== undefined

/**
 * A spoken name that reaches its channel by the bridge's own wire: it leads through no other way, and the bridge has an
 * id for the lamp.
 */
export function reachesDirectly(site: Site, way: Pick<VoiceWay, 'through' | 'service' | 'key'>): boolean {
  const service = site.services.find(({ id }) => id === way.service)
  return way.through === null && way.key !== undefined && service !== undefined && isDirectVoice(site, service)
}

/** A point as it has no place in the document: numbered by its controller, from 1. */
interface Draft extends Pick<Point, 'controller' | 'name' | 'carries' | 'access'> {
  readonly id: string
  readonly key: string
  readonly min?: number
  readonly max: number
  readonly decimal?: boolean
}

function numbered(drafts: readonly Draft[]): Point[] {
  const last = new Map<string, number>()
  return drafts.map(({ id, key, min = 0, max, decimal = false, ...rest }) => {
    const vp = (last.get(rest.controller) ?? 0) + 1
    last.set(rest.controller, vp)
    return {
      ...{ id: id as PointId, vp, key, min, max, step: 1, default: Math.max(0, min), unit: '' },
      ...{ type: decimal ? ('decimal' as const) : ('integer' as const), update: { policy: 'change' as const } },
      ...rest,
    }
  })
}

const widgetOf = ({ id, name, max, access }: Point): Widget => ({
  ...{ id: id as string as WidgetId, name, point: id, inverted: false, labels: null, width: 'full' },
  kind: access === 'read' ? 'value' : max > 1 ? 'slider' : 'switch',
})

const asService = (of: Pick<Service, 'id' | 'kind' | 'name' | 'host'>, points: Point[]): Service => ({
  ...{ id: of.id, kind: of.kind, name: of.name, host: of.host, rulesOpen: null },
  points,
  widgets: points.map(widgetOf),
})

const onChannel = (channel: Channel, more: Pick<Draft, 'id' | 'key' | 'name' | 'access'>): Draft => ({
  ...{ controller: channel.controller, carries: { kind: 'channel' }, max: topLevel(channel) },
  ...more,
})

/** A name that leads through another way needs no point of its own. */
function voiceHolder(site: Site, service: Service): Holder {
  const ways = site.ways.flatMap((way) =>
    way.kind === 'voice' && way.service === service.id && reachesDirectly(site, way) ? [way] : [],
  )
  const drafts = ways.map(({ id, channel, key, name }) =>
    onChannel(channelOf(site, channel)!, { id, key: key ?? id, name, access: 'read-write' }),
  )
  return {
    service: asService(service, numbered(drafts)),
    pointOf: new Map(ways.map(({ id }) => [id, id as string as PointId])),
  }
}

/** Hubs hear a feed's switch by their own topics only: a feed stays on the broker of the house. */
function hubHolder(site: Site, hub: Hub): Holder {
  const pointOf = new Map<WayId, PointId>()
  const entities = hub.entities.flatMap((entity): Draft[] => {
    const channel = channelOf(site, entity.channel)
    const way = site.ways.find((one) => one.kind === 'hub' && one.hub === hub.id && one.entity === entity.id)
    if (!channel || isFeed(channel) || way?.kind !== 'hub') return []
    pointOf.set(way.id, entity.id as string as PointId)
    const access = way.feedback === 'reports' ? 'read-write' : 'write'
    return [onChannel(channel, { id: entity.id, key: entity.topic, name: entity.name, access })]
  })
  const points = numbered([
    ...entities,
    ...groupDrafts(site, hub),
    ...modeDrafts(site, hub),
    ...sensorDrafts(site, hub),
  ])
  const service = asService({ ...hub, id: hub.id as string as ServiceId }, points)
  return { service, pointOf }
}

const groupDrafts = (site: Site, hub: Hub): Draft[] =>
  site.groups.flatMap((group) => {
    const way = group.ways?.find((one) => one.kind === 'hub' && one.hub === hub.id)
    if (way?.kind !== 'hub') return []
    return controllersOfGroup(site, group).map(({ id }): Draft => ({
      ...{ id: `${group.id}@${id}`, key: group.id, name: way.name, controller: id, max: 1, access: 'write' },
      carries: { kind: 'group', group: group.id },
    }))
  })

const modeDrafts = (site: Site, hub: Hub): Draft[] =>
  site.controllers.flatMap(({ id, modeEntity }): Draft[] =>
    modeEntity?.hub === hub.id
      ? [
          {
            ...{ id: `${id}@mode`, key: 'mode', name: modeEntity.name, controller: id, max: 1, access: 'read-write' },
            carries: { kind: 'mode' },
          },
        ]
      : [],
  )

/** A hub is told the readings of every controller that it has something of. */
const sensorDrafts = (site: Site, hub: Hub): Draft[] =>
  controllersOfHub(site, hub).flatMap(({ id: controller }) =>
    sensorsOn(site, controller).map((sensor): Draft => ({
      ...{ id: `${sensor.id}@sensor`, key: sensor.id, name: sensor.name, controller, min: -9_999, max: 9_999 },
      ...{ decimal: true, access: 'read', carries: { kind: 'sensor', sensor: sensor.id } },
    })),
  )

const controllersOfHub = (site: Site, hub: Hub): Controller[] =>
  site.controllers.filter(({ id }) => hub.entities.some(({ channel }) => channelOf(site, channel)?.controller === id))
