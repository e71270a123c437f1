import {
  freshId,
  idFromName,
  topLevel,
  type AppWay,
  type Channel,
  type Controller,
  type Point,
  type PointId,
  type Sensor,
  type ServiceId,
  type Site,
  type Widget,
  type WidgetId,
  type WidgetKind,
  kindOf,
  channelOf,
  groupOf,
  sensorOf,
  type Service,
} from '../site'
import { familyOf } from '../services'

/** Points and widgets of services. Each change takes a draft of the site and changes it in place. */

/** Lowest virtual pin that this controller's device does not use yet in the service. */
export function freeVp(site: Site, service: string, controller: string, from = 1): number {
  const used = new Set(
    site.services
      .find((s) => s.id === service)
      ?.points.filter((point) => point.controller === controller)
      .map((point) => point.vp),
  )
  for (let vp = from; ; vp++) if (!used.has(vp)) return vp
}

/** The widget that suits a channel: a latching one where it stays as told, a push where it does not. */
export const usualWidget = (channel: Channel): WidgetKind => kindOf(channel).usual.widget

export function firstService(site: Site): ServiceId {
  const existing = site.services.find((service) => familyOf(site, service.kind) === 'service')
  if (existing) return existing.id
  const id = freshId(site.services, 'app', 'app') as ServiceId
  site.services.push({ kind: 'datapoint', id, name: 'App service', host: '', rulesOpen: null, points: [], widgets: [] })
  return id
}

export function newPoint(
  site: Site,
  serviceId: string,
  controller: Controller['id'],
  name: string,
  changes: Partial<Point> & { vp?: number },
): Point {
  const service = site.services.find((candidate) => candidate.id === serviceId)!
  return {
    id: freshId(service.points, name, 'point') as PointId,
    controller,
    vp: freeVp(site, serviceId, controller),
    name,
    carries: { kind: 'channel' },
    type: 'integer',
    min: 0,
    max: 1,
    step: 1,
    default: 0,
    unit: '',
    access: 'read-write',
    update: { policy: 'change' },
    ...changes,
  }
}

export const newWidget = (
  site: Site,
  serviceId: string,
  point: Point,
  kind: WidgetKind,
  labels: Widget['labels'] = null,
): Widget => ({
  id: idFromName<string>(
    point.id,
    site.services.find((s) => s.id === serviceId)!.widgets.map((w) => w.id),
    'widget',
  ) as WidgetId,
  name: point.name,
  kind,
  point: point.id,
  inverted: false,
  labels,
  width: kind === 'slider' || kind === 'mode' ? 'full' : 'half',
})

/** A point on the channel's own device with the widget that suits it, reporting back. */
export function addAppWay(site: Site, channel: Channel, serviceId = firstService(site), from = 1): AppWay {
  const service = site.services.find((candidate) => candidate.id === serviceId)!
  const point = newPoint(site, serviceId, channel.controller, channel.name, {
    vp: freeVp(site, serviceId, channel.controller, from),
    max: topLevel(channel),
  })
  service.points.push(point)
  service.widgets.push(newWidget(site, serviceId, point, usualWidget(channel)))
  const way: AppWay = {
    kind: 'app',
    id: freshId(site.ways, `${channel.id}-app`, 'way') as AppWay['id'],
    channel: channel.id,
    service: serviceId,
    point: point.id,
    feedback: 'reports',
  }
  site.ways.push(way)
  return way
}

/** Ranges in which readings are shown (common practice: temperature 0–50 °C, humidity 0–100 %). */
export const SENSOR_RANGES: Record<Sensor['quantity'], readonly [number, number]> = {
  temperature: [0, 50],
  humidity: [0, 100],
  light: [0, 100],
  other: [0, 100],
}

/** A read-only point with a gauge for a sensor. */
export function addSensorPoint(site: Site, sensor: Sensor, serviceId = firstService(site)): Point {
  const [min, max] = SENSOR_RANGES[sensor.quantity]
  const point = newPoint(site, serviceId, sensor.controller, sensor.name, {
    carries: { kind: 'sensor', sensor: sensor.id },
    type: 'decimal',
    min,
    max,
    unit: sensor.unit,
    access: 'read',
    update: { policy: 'every', everyMs: 60_000 },
  })
  const service = site.services.find((candidate) => candidate.id === serviceId)!
  service.points.push(point)
  service.widgets.push(newWidget(site, serviceId, point, 'gauge'))
  return point
}

/** A point that carries a controller's auto mode, with a two-label button. */
export function addModePoint(site: Site, controller: Controller, serviceId = firstService(site)): Point {
  const point = newPoint(site, serviceId, controller.id, `${controller.name} mode`, {
    carries: { kind: 'mode' },
    default: 1,
  })
  const service = site.services.find((candidate) => candidate.id === serviceId)!
  service.points.push(point)
  service.widgets.push(newWidget(site, serviceId, point, 'mode', ['manual', 'auto']))
  return point
}

/** Numbers a device's points anew in their order, from `from` on, without a hole. */
export function renumberPoints(site: Site, serviceId: string, controller: string, from = 1): void {
  let vp = from
  for (const point of site.services.find((s) => s.id === serviceId)?.points ?? [])
    if (point.controller === controller) point.vp = vp++
}

/** Two points change numbers. */
export function swapPoints(site: Site, serviceId: string, a: string, b: string): void {
  const points = site.services.find((s) => s.id === serviceId)?.points ?? []
  const first = points.find((point) => point.id === a)
  const second = points.find((point) => point.id === b)
  if (first && second) [first.vp, second.vp] = [second.vp, first.vp]
}

/** Moves a widget before another on the phone's screen, or to its end. */
export function moveWidget(site: Site, serviceId: string, id: string, before: string | null): void {
  const service = site.services.find((candidate) => candidate.id === serviceId)
  const from = service?.widgets.findIndex((widget) => widget.id === id) ?? -1
  if (!service || from < 0 || id === before) return
  const [moved] = service.widgets.splice(from, 1)
  const to = before === null ? service.widgets.length : service.widgets.findIndex((widget) => widget.id === before)
  service.widgets.splice(to < 0 ? service.widgets.length : to, 0, moved!)
}

/** What a point stands for, as a person says it. */
export function carriedBy(site: Site, service: Service, { id, carries }: Point): string {
  if (carries.kind === 'sensor') return `sensor ${sensorOf(site, carries.sensor)?.name ?? ''}`
  if (carries.kind === 'mode') return 'auto mode'
  if (carries.kind === 'group') return `group ${groupOf(site, carries.group)?.name ?? ''}`
  const way = site.ways.find((one) => one.kind === 'app' && one.service === service.id && one.point === id)
  return (way && channelOf(site, way.channel)?.name) ?? 'nothing yet'
}

/** Sensors whose reading no point of a service carries. */
export const unshownSensors = (site: Site, service: Service): Sensor[] =>
  site.sensors.filter(
    ({ id }) => !service.points.some(({ carries }) => carries.kind === 'sensor' && carries.sensor === id),
  )

/** Controllers with rules, whose mode no point of a service carries. */
export const unshownModes = (site: Site, service: Service): Controller[] =>
  site.controllers.filter(({ id }) => {
    const ruled = site.rules.some((rule) => channelOf(site, rule.channel)?.controller === id)
    return ruled && !service.points.some(({ carries, controller }) => carries.kind === 'mode' && controller === id)
  })
