import type { DeviceView } from '../device'
import { wireOf } from '../services'
import { type Channel, kindOf } from '../site'
import { widgetShows } from './appService'
import { closedContacts, seenLevel } from './contacts'
import { homeOf, type HouseState } from './house'
import { hubBeliefs } from './hub'
import type { TrialSnapshot } from './types'

/** What is behind a contact: smart lamps need power and the hub's word; a door stands where its contact says. */
function shines(house: HouseState, channel: Channel): boolean | null {
  if (channel.kind === 'feed') return seenLevel(house, channel) > 0 && (house.hub.lamps[channel.id] ?? false)
  const position = kindOf(channel).position(channel)
  return position?.input ? (house.closed[position.input] !== 0) !== (position.closedMeans === 'closed') : null
}

type Views = ReadonlyMap<string, DeviceView>

function channelNow(house: HouseState, views: Views, channel: Channel): TrialSnapshot['channels'][number] {
  const controller = house.controllers.find((candidate) => candidate.id === channel.controller)!
  const view = views.get(controller.id)!
  const own = view.channels.find((c) => c.id === channel.id)
  const level = controller.powered ? (own?.level ?? 0) : 0
  const ruled = house.site.rules.some((rule) => rule.channel === channel.id)
  return {
    id: channel.id,
    controller: controller.id,
    level,
    contacts: closedContacts(house, channel),
    seen: seenLevel(house, channel),
    source: own?.source ?? 'power',
    powered: controller.powered,
    waiting: controller.powered && (own?.waiting ?? false),
    auto: ruled ? (own?.auto ?? null) : null,
    shines: shines(house, channel),
    local: channel.kind === 'feed' && view.local,
  }
}

const widgetsNow = (house: HouseState, channels: TrialSnapshot['channels']): TrialSnapshot['widgets'] => {
  const { site, services, down, asked } = house
  const waiting = new Set(channels.filter((channel) => channel.waiting).map(({ id }) => id))
  const waitingPoints = new Set(
    site.ways.flatMap((way) => (way.kind === 'app' && waiting.has(way.channel) ? [way.point] : [])),
  )
  return Object.fromEntries(
    services.flatMap(({ service, state }) =>
      service.widgets.map((widget) => {
        const { on, value, point } = widgetShows(service, widget.id, state)!
        const isReached = !down.has(homeOf(house, service)) && !down.has('phone')
        const reachable = isReached && state.online[point.controller] === true
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
const wiredBeliefs = ({ site, services }: HouseState): TrialSnapshot['hub'] => {
  const hubs = new Set<string>(site.hubs.filter((hub) => wireOf(site, hub)).map(({ id }) => id))
  return Object.fromEntries(
    services.flatMap(({ service, state }) =>
      hubs.has(service.id)
        ? service.points.map((point) => [`${service.id}/${point.id}`, state.values[point.id] ?? null])
        : [],
    ),
  )
}

const readingsNow = ({ controllers }: HouseState, views: Views): TrialSnapshot['readings'] =>
  Object.fromEntries(
    controllers
      .filter(({ part }) => part === 'main')
      .flatMap(({ id }) => views.get(id)!.sensors.map(({ id, value }) => [id, value === null ? null : value / 1000])),
  )

/** What the screens show of the house, as plain data. */
export function snapshotOf(house: HouseState): TrialSnapshot {
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
    hubAway: [...house.hub.away],
    readings: readingsNow(house, views),
    lines: { ...house.lines },
    links: Object.fromEntries(
      house.controllers.map(({ id, powered }) => [id, powered ? views.get(id)!.link : ('off' as const)]),
    ),
    eachLink: Object.fromEntries(house.controllers.map(({ id }) => [id, views.get(id)!.links])),
    broken: [...house.down],
    faults: [...house.faults].map(([part, how]) => ({ part, how })),
    place: house.place,
    timeline: [...house.timeline],
    pairing: house.pairings.truth(house.now),
  }
}
