import {
  idFromName, newInput, topLevel, type AppWay, type Channel, type Controller, type EntityId, type GestureBinding, type HubId, type HubWay, type Input, type PointId,
  type ServiceId, type Site, type WallWay, type WayId, type WidgetId,
} from '../site'

/**
 * Changes of a site that make and remove ways. Each takes a draft (a site that may be written to) and changes it in place;
 * the caller wraps it in makeEdit.
 */

const wayId = (site: Site, name: string): WayId => idFromName<string>(name, site.ways.map((way) => way.id), 'way') as WayId

/** What a switch usually does: a press or a flip toggles. */
export const usualBindings = (kind: Input['kind']): GestureBinding[] => [kind === 'momentary' ? { gesture: 'press', action: 'toggle' } : kind === 'rocker' ? { gesture: 'flip', action: 'toggle' } : { gesture: 'select', action: 'level' }]

/** Lowest virtual pin that this controller's device does not use yet in the service. */
export function freeVp(site: Site, service: string, controller: string, from = 1): number {
  const used = new Set(site.services.find((s) => s.id === service)?.points.filter((point) => point.controller === controller).map((point) => point.vp))
  for (let vp = from; ; vp++) if (!used.has(vp)) return vp
}

export function firstService(site: Site): ServiceId {
  const existing = site.services[0]
  if (existing) return existing.id
  const id = 'app' as ServiceId
  site.services.push({ kind: 'datapoint', id, name: 'App service', points: [], widgets: [] })
  return id
}

export function firstHub(site: Site): HubId {
  const existing = site.hubs[0]
  if (existing) return existing.id
  const id = 'hub' as HubId
  site.hubs.push({ kind: 'broker', id, name: 'Local hub', entities: [] })
  return id
}

export function addWallWay(site: Site, channel: Channel, input: Input, bindings = usualBindings(input.kind)): WallWay {
  const way: WallWay = { kind: 'wall', id: wayId(site, `${channel.id}-wall`), channel: channel.id, input: input.id, bindings }
  site.ways.push(way)
  return way
}

/** A new switch for a channel, named S1, S2 … after what is there. */
export function addSwitchFor(site: Site, channel: Channel, kind: Input['kind'], controller: Controller): Input {
  let number = site.inputs.length + 1
  while (site.inputs.some((input) => input.id === `s${number}`)) number++
  const input = newInput(site, `S${number}`, controller, kind, { room: channel.room })
  site.inputs.push(input)
  return input
}

/** A point on the channel's own device with a switch widget, reporting back. */
export function addAppWay(site: Site, channel: Channel, serviceId = firstService(site), from = 1): AppWay {
  const service = site.services.find((candidate) => candidate.id === serviceId)!
  const vp = freeVp(site, serviceId, channel.controller, from)
  const point = idFromName<string>(channel.id, service.points.map((p) => p.id), 'point') as PointId
  service.points.push({ id: point, controller: channel.controller, vp, name: channel.name, type: 'integer', min: 0, max: topLevel(channel), step: 1, default: 0, unit: '', access: 'read-write' })
  service.widgets.push({ id: idFromName<string>(channel.id, service.widgets.map((w) => w.id), 'widget') as WidgetId, name: channel.name, kind: channel.kind === 'stepped' ? 'slider' : 'switch', point, inverted: false })
  const way: AppWay = { kind: 'app', id: wayId(site, `${channel.id}-app`), channel: channel.id, service: serviceId, point, feedback: 'reports' }
  site.ways.push(way)
  return way
}

export function addHubWay(site: Site, channel: Channel, hubId = firstHub(site)): HubWay {
  const hub = site.hubs.find((candidate) => candidate.id === hubId)!
  const entity = idFromName<string>(channel.id, hub.entities.map((e) => e.id), 'entity') as EntityId
  hub.entities.push({ id: entity, channel: channel.id, name: channel.name, topic: channel.id })
  const way: HubWay = { kind: 'hub', id: wayId(site, `${channel.id}-hub`), channel: channel.id, hub: hubId, entity, feedback: 'reports' }
  site.ways.push(way)
  return way
}

/** Takes a way out, with the point, widgets or entity that only it used. A switch stays: it is in the wall. */
export function removeWay(site: Site, id: string): void {
  const at = site.ways.findIndex((way) => way.id === id)
  const way = site.ways[at]
  if (!way) return
  site.ways.splice(at, 1)
  if (way.kind === 'app' && !site.ways.some((other) => other.kind === 'app' && other.service === way.service && other.point === way.point)) {
    const service = site.services.find((candidate) => candidate.id === way.service)
    if (service) {
      service.points = service.points.filter((point) => point.id !== way.point)
      service.widgets = service.widgets.filter((widget) => widget.point !== way.point)
    }
  }
  if (way.kind === 'hub') {
    const hub = site.hubs.find((candidate) => candidate.id === way.hub)
    if (hub) hub.entities = hub.entities.filter((entity) => entity.id !== way.entity)
  }
}

/** Fills a column: every channel without such a way gets one. Wall switches take the kind asked for. Returns how many were made. */
export function fillColumn(site: Site, column: 'wall' | 'app' | 'hub', options: { controllers?: readonly string[]; inputKind?: Input['kind']; fromVp?: number } = {}): number {
  let made = 0
  for (const channel of site.channels) {
    if (options.controllers && !options.controllers.includes(channel.controller)) continue
    if (site.ways.some((way) => way.channel === channel.id && way.kind === column)) continue
    if (column === 'app') addAppWay(site, channel, firstService(site), options.fromVp ?? 1)
    else if (column === 'hub') addHubWay(site, channel)
    else {
      const controller = site.controllers.find((candidate) => candidate.id === channel.controller)!
      addWallWay(site, channel, addSwitchFor(site, channel, options.inputKind ?? 'momentary', controller))
    }
    made++
  }
  return made
}
