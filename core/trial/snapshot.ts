import { topics } from '../topics'
import { type Channel, type Service, type Site, kindOf } from '../site'
import { widgetShows, type AppServiceState } from './appService'
import type { ControllerInWorld } from './controllerInWorld'
import type { HubState } from './hub'
import type { Breakable, TimelineEntry, TrialSnapshot } from './types'

/** All that is true in the house at an instant. */
export interface HouseNow {
  readonly now: number
  readonly site: Site
  readonly controllers: readonly ControllerInWorld[]
  readonly services: readonly { readonly service: Service; readonly state: AppServiceState }[]
  readonly hub: HubState
  /** closed contacts of each input as bits */
  readonly closed: Readonly<Record<string, number>>
  readonly broken: ReadonlySet<Breakable>
  readonly lines: Readonly<Record<string, string>>
  readonly timeline: readonly TimelineEntry[]
}

const stateTopic = (site: Site, channel: string, level: string): string =>
  topics(site.id, site.channels.find((candidate) => candidate.id === channel)!.controller).state(level)

/** What is behind a contact: smart lamps need power and the hub's word; a door stands where its contact says. */
function shines(house: HouseNow, channel: Channel, level: number): boolean | null {
  if (channel.kind === 'feed') return level > 0 && (house.hub.lamps[channel.id] ?? false)
  const position = kindOf(channel).position(channel)
  return position?.input ? (house.closed[position.input] !== 0) !== (position.closedMeans === 'closed') : null
}

/** What the screens show of the house, as plain data. */
export function snapshotOf(house: HouseNow): TrialSnapshot {
  const views = new Map(house.controllers.map((controller) => [controller.id, controller.device.inspect()]))
  return {
    now: house.now,
    channels: house.site.channels.map((channel) => {
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
        auto: ruled ? (own?.auto ?? null) : null,
        shines: shines(house, channel, level),
        local: channel.kind === 'feed' && view.local,
      }
    }),
    closed: { ...house.closed },
    widgets: Object.fromEntries(
      house.services.flatMap(({ service, state }) =>
        service.widgets.map((widget) => {
          const shown = widgetShows(house.site, service.id, widget.id, state)!
          return [
            `${service.id}/${widget.id}`,
            {
              on: shown.on,
              value: shown.value,
              reachable: !house.broken.has('broker') && state.online[shown.point.controller] === true,
            },
          ]
        }),
      ),
    ),
    hub: Object.fromEntries(
      house.site.hubs.flatMap((hub) =>
        hub.entities.map((entity) => [
          `${hub.id}/${entity.id}`,
          house.hub.beliefs[stateTopic(house.site, entity.channel, entity.topic)] ?? null,
        ]),
      ),
    ),
    readings: Object.fromEntries(
      house.controllers
        .filter(({ part }) => part === 'main')
        .flatMap(({ id }) =>
          views.get(id)!.sensors.map((sensor) => [sensor.id, sensor.value === null ? null : sensor.value / 1000]),
        ),
    ),
    lines: { ...house.lines },
    links: Object.fromEntries(
      house.controllers.map((controller) => [
        controller.id,
        controller.powered ? views.get(controller.id)!.link : ('off' as const),
      ]),
    ),
    broken: [...house.broken],
    timeline: [...house.timeline],
  }
}
