import type { DeviceView } from '../device'
import { wireOf } from '../services'
import { type Channel, type Service, type Site, kindOf } from '../site'
import { widgetShows, type AppServiceState } from './appService'
import type { ControllerInWorld } from './controllerInWorld'
import { hubBeliefs, type HubState } from './hub'
import type { PairingTruth } from './pairings'
import type { Breakable, TimelineEntry, TrialSnapshot } from './types'

/** All that is true in the house at an instant. */
export interface HouseNow {
  readonly now: number
  readonly site: Site
  readonly controllers: readonly ControllerInWorld[]
  readonly services: readonly { readonly service: Service; readonly state: AppServiceState }[]
  readonly hub: HubState
  /** what was last asked for by hand, by point */
  readonly asked: ReadonlyMap<string, number>
  /** closed contacts of each input as bits */
  readonly closed: Readonly<Record<string, number>>
  readonly broken: ReadonlySet<Breakable>
  readonly lines: Readonly<Record<string, string>>
  readonly timeline: readonly TimelineEntry[]
  readonly pairing: readonly PairingTruth[]
}

/** What is behind a contact: smart lamps need power and the hub's word; a door stands where its contact says. */
function shines(house: HouseNow, channel: Channel, level: number): boolean | null {
  if (channel.kind === 'feed') return level > 0 && (house.hub.lamps[channel.id] ?? false)
  const position = kindOf(channel).position(channel)
  return position?.input ? (house.closed[position.input] !== 0) !== (position.closedMeans === 'closed') : null
}

type Views = ReadonlyMap<string, DeviceView>

function channelNow(house: HouseNow, views: Views, channel: Channel): TrialSnapshot['channels'][number] {
  const controller = house.controllers.find((candidate) => candidate.id === channel.controller)!
  const view = views.get(controller.id)!
  const own = view.channels.find((c) => c.id === channel.id)
  const level = controller.powered ? (own?.level ?? 0) : 0
  const ruled = house.site.rules.some((rule) => rule.channel === channel.id)
  return {
    id: channel.id,
    controller: controller.id,
    level,
    contacts: controller.powered ? (own?.closed ?? 0) : 0,
    source: own?.source ?? 'power',
    powered: controller.powered,
    waiting: controller.powered && (own?.waiting ?? false),
    auto: ruled ? (own?.auto ?? null) : null,
    shines: shines(house, channel, level),
    local: channel.kind === 'feed' && view.local,
  }
}

const widgetsNow = (house: HouseNow, channels: TrialSnapshot['channels']): TrialSnapshot['widgets'] => {
  const { site, services, broken, asked } = house
  const waiting = new Set(channels.filter((channel) => channel.waiting).map(({ id }) => id))
  const waitingPoints = new Set(
    site.ways.flatMap((way) => (way.kind === 'app' && waiting.has(way.channel) ? [way.point] : [])),
  )
  return Object.fromEntries(
    services.flatMap(({ service, state }) =>
      service.widgets.map((widget) => {
        const { on, value, point } = widgetShows(service, widget.id, state)!
        const home: Breakable = wireOf(site, service) ? `service:${service.id}` : 'broker'
        const reachable = !broken.has(home) && state.online[point.controller] === true
        const waits = reachable && waitingPoints.has(point.id)
        return [
          `${service.id}/${widget.id}`,
          { on, value, reachable, asked: waits ? (asked.get(point.id) ?? null) : null },
        ]
      }),
    ),
  )
}

/** A hub with a wire of its own believes what its points say. */
const wiredBeliefs = ({ site, services }: HouseNow): TrialSnapshot['hub'] => {
  const hubs = new Set<string>(site.hubs.filter((hub) => wireOf(site, hub)).map(({ id }) => id))
  return Object.fromEntries(
    services.flatMap(({ service, state }) =>
      hubs.has(service.id)
        ? service.points.map((point) => [`${service.id}/${point.id}`, state.values[point.id] ?? null])
        : [],
    ),
  )
}

const readingsNow = ({ controllers }: HouseNow, views: Views): TrialSnapshot['readings'] =>
  Object.fromEntries(
    controllers
      .filter(({ part }) => part === 'main')
      .flatMap(({ id }) => views.get(id)!.sensors.map(({ id, value }) => [id, value === null ? null : value / 1000])),
  )

/** What the screens show of the house, as plain data. */
export function snapshotOf(house: HouseNow): TrialSnapshot {
  const views: Views = new Map(house.controllers.map((controller) => [controller.id, controller.device.inspect()]))
  const channels = house.site.channels.map((channel) => channelNow(house, views, channel))
  const hub = hubBeliefs(house.site, house.hub)
  return {
    now: house.now,
    channels,
    closed: { ...house.closed },
    widgets: widgetsNow(house, channels),
    hub: { ...hub.beliefs, ...wiredBeliefs(house) },
    hubWaits: hub.waits,
    readings: readingsNow(house, views),
    lines: { ...house.lines },
    links: Object.fromEntries(
      house.controllers.map(({ id, powered }) => [id, powered ? views.get(id)!.link : ('off' as const)]),
    ),
    broken: [...house.broken],
    timeline: [...house.timeline],
    pairing: [...house.pairing],
  }
}
