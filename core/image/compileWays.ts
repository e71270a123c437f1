import { holdersOf } from '../services'
import {
  isTooNear,
  opensAtASpike,
  waysTo,
  type Channel,
  type Controller,
  type Input,
  type Point,
  type Sensor,
  type Site,
} from '../site'
import {
  NO_LEVEL,
  type ControllerImage,
  type ImageBinding,
  type ImageDeed,
  type ImageGroup,
  type ImageLink,
  type ImagePoint,
} from './types'

const onChannel = (index: number): Pick<ImageDeed, 'on' | 'index'> => ({ on: 'channel', index })

/**
 * What a control works on this controller; undefined: a group of which no member is here, another controller, or what
 * no controller may be told.
 */
export function targetOf(
  site: Site,
  control: Site['controls'][number],
  controller: Controller,
  channels: readonly Channel[],
): Pick<ImageDeed, 'on' | 'index'> | undefined {
  if (isTooNear(site, control)) return undefined
  if (control.kind === 'controller')
    return control.controller === controller.id ? { on: 'controller', index: 0 } : undefined
  const index = groupsOf(site, channels).findIndex((group) => group.id === control.group)
  return index < 0 ? undefined : { on: 'group', index }
}

/**
 * Bindings in the order of channels, their wall ways and the gestures within, then those of groups and the controller:
 * the order in which they act.
 */
export function bindingsOf(
  site: Site,
  controller: Controller,
  channels: readonly Channel[],
  inputs: readonly Input[],
): ImageBinding[] {
  const at = (id: string): number => inputs.findIndex((candidate) => candidate.id === id)
  const own = channels.flatMap((channel, channelIndex) =>
    waysTo(site, channel.id).flatMap((way) => {
      const input = way.kind === 'wall' ? at(way.input) : -1
      return way.kind !== 'wall' || input < 0 || opensAtASpike(site, way)
        ? []
        : way.bindings.map((b): ImageBinding => ({
            input,
            gesture: b.gesture,
            action: b.action,
            level: 0,
            ...onChannel(channelIndex),
          }))
    }),
  )
  const more = site.controls.flatMap((control): ImageBinding[] => {
    const input = control.source.kind === 'wall' ? at(control.source.input) : -1
    const target = targetOf(site, control, controller, channels)
    return control.source.kind !== 'wall' || input < 0 || !target
      ? []
      : [{ input, gesture: control.source.gesture, action: control.action, level: 0, ...target }]
  })
  return [...own, ...more]
}

/** Groups with a member here, their members in channel order. */
export const groupsOf = (site: Site, channels: readonly Channel[]): ImageGroup[] =>
  site.groups
    .map((group): ImageGroup => {
      const members = channels.flatMap((channel, index) => (group.members.includes(channel.id) ? [index] : []))
      return {
        id: group.id as string,
        members,
        ...(group.levels ? { levels: members.map((index) => group.levels![channels[index]!.id] ?? NO_LEVEL) } : {}),
        ...(group.ways?.some(({ kind }) => kind === 'hub') ? { takesSet: true } : {}),
      }
    })
    .filter((group) => group.members.length > 0)

interface Held {
  readonly service: string
  readonly point: Point
}

/** Points of this controller, and which of them each way leads over. */
function pointsHere(site: Site, controller: Controller): { mine: Held[]; ofWay: ReadonlyMap<string, Held> } {
  const holders = holdersOf(site)
  const mine = holders.flatMap(({ service }) =>
    service.points
      .filter((point) => point.controller === controller.id)
      .map((point): Held => ({ service: service.id, point })),
  )
  const byPlace = new Map(mine.map((held) => [`${held.service}/${held.point.id}`, held]))
  const ofWay = new Map<string, Held>()
  for (const { service, pointOf } of holders)
    for (const [way, id] of pointOf) {
      const held = byPlace.get(`${service.id}/${id}`)
      if (held) ofWay.set(way, held)
    }
  return { mine, ofWay }
}

/**
 * Points on this controller's own device, in the order of channels; then those of sensors and of the mode. A point of
 * another device cannot reach this board.
 */
export function pointsOf(
  site: Site,
  controller: Controller,
  channels: readonly Channel[],
  sensors: readonly Sensor[],
  links: readonly ImageLink[],
): ImagePoint[] {
  const over = (service: string): { link?: number } => linkOver(links, service)
  const { mine, ofWay } = pointsHere(site, controller)
  const ofChannels = channels.flatMap((channel, index) =>
    waysTo(site, channel.id).flatMap((way): ImagePoint[] => {
      const found = ofWay.get(way.id)
      if (!found || found.point.carries.kind !== 'channel') return []
      const { vp, min, max, access } = found.point
      const reports = (!('feedback' in way) || way.feedback === 'reports') && access !== 'write'
      return [{ vp, carries: 'channel', index, min, max, reports, ...over(found.service) }]
    }),
  )
  const others = mine.flatMap(({ service, point: { carries, vp, min, max, access } }): ImagePoint[] => {
    const link = over(service)
    if (carries.kind === 'mode')
      return [{ vp, carries: 'mode', index: 0, min, max, reports: access !== 'write', ...link }]
    if (carries.kind === 'group') {
      const group = groupsOf(site, channels).findIndex(({ id }) => id === carries.group)
      return group < 0 ? [] : [{ vp, carries: 'group', index: group, min, max, reports: false, ...link }]
    }
    const index = carries.kind === 'sensor' ? sensors.findIndex((sensor) => sensor.id === carries.sensor) : -1
    return index < 0 ? [] : [{ vp, carries: 'sensor', index, min, max, reports: access !== 'write', ...link }]
  })
  return [...ofChannels, ...others]
}

/** A service's own link, else the first, which is not said. */
function linkOver(links: readonly ImageLink[], service: string): { link?: number } {
  const link = links.findIndex(({ id }) => id === service)
  return link > 0 ? { link } : {}
}

/** The watch of the hub that a feed here belongs to; null: no feed, or no hub with a heartbeat. */
export function watchOf(site: Site, channels: readonly Channel[]): ControllerImage['watch'] {
  for (const channel of channels) {
    if (channel.kind !== 'feed') continue
    for (const way of waysTo(site, channel.id)) {
      const watch = way.kind === 'hub' ? site.hubs.find((hub) => hub.id === way.hub)?.watch : null
      if (watch) return { watchMs: watch.watchMs, graceMs: watch.graceMs, steadyMs: watch.steadyMs }
    }
  }
  return null
}
