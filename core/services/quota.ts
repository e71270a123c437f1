import { topics } from '../topics'
import {
  grouped,
  type AppWay,
  type Controller,
  type Hub,
  type HubWay,
  type Point,
  type Service,
  type Site,
} from '../site'
import { neverSent } from './neverSent'
import { serviceKindIn } from './serviceKinds'

/**
 * How much a service is used on an assumed day: worked out from the mapping, not measured. A month has 30 days. Bytes
 * are those of MQTT 3.1.1 (OASIS) over TCP/IPv4: PUBLISH is 2 bytes of fixed header (3.3.1; 3 above 127 bytes), 2 +
 * topic, 2 of packet id at QoS 1, payload; PUBACK 4 (3.4); each in a segment of its own with 40 bytes of headers (RFC
 * 791, RFC 9293).
 */
export const DAYS_OF_MONTH = 30
const SEGMENT_BYTES = 40
const DAY_MS = 86_400_000
/** Keep-alive over a modem, s: PINGREQ and PINGRESP, 2 bytes each (3.12, 3.13). */
export const MODEM_KEEP_ALIVE_S = 120

export interface QuotaRow {
  readonly controller: string
  /** what it is for: a point, an entity, a sensor, the heartbeat */
  readonly name: string
  readonly reason: 'changes' | 'commands' | 'heartbeat' | 'sensor' | 'keep-alive'
  readonly perDay: number
  readonly bytesPerMonth: number
  /** part of the whole service's messages, 0 to 1 */
  readonly share: number
}

export interface Quota {
  readonly service: string
  readonly name: string
  readonly rows: readonly QuotaRow[]
  readonly perDay: number
  readonly perMonth: number
  readonly bytesPerMonth: number
  /** least and most time between two values of a point, ms, that the mapping asks for; null: nothing periodic */
  readonly fastestMs: number | null
}

const payloadBytes = 3

/** Bytes of one QoS 1 message there and its acknowledgement back, with their segments. */
export function messageBytes(topic: string, payload: number): number {
  const rest = 2 + topic.length + 2 + payload
  return SEGMENT_BYTES + (rest > 127 ? 3 : 2) + rest + SEGMENT_BYTES + 4
}

/** Most values a day that an update policy lets through. */
const capOf = (point: Point): number =>
  point.update.policy === 'every' ? Math.floor(DAY_MS / point.update.everyMs) : Infinity

type Draft = Omit<QuotaRow, 'share' | 'bytesPerMonth'> & { readonly bytes: number }

/** Changes of a channel that one of its ways asks for: the assumed day's, spread evenly over its ways. */
function commandsOf(site: Site): (channel: string) => number {
  const ways = grouped(
    site.ways.filter((way) => way.kind !== 'voice'),
    (way) => way.channel,
  )
  return (channel) => site.day.changes / Math.max(1, ways.get(channel)?.length ?? 0)
}

function serviceRows(site: Site, service: Service): Draft[] {
  const commandsBy = commandsOf(site)
  const ways = grouped(
    site.ways.filter((way): way is AppWay => way.kind === 'app' && way.service === service.id),
    (way) => way.point,
  )
  return service.points.flatMap((point): Draft[] => {
    const controller = site.controllers.find((candidate) => candidate.id === point.controller)!
    const scheme = topics(site.id, controller.id)
    const state = messageBytes(scheme.pointState(point.vp), payloadBytes)
    const row = (reason: QuotaRow['reason'], perDay: number, bytes: number): Draft => ({
      controller: controller.id,
      name: `vp${point.vp} ${point.name}`,
      reason,
      perDay: Math.min(perDay, reason === 'commands' ? Infinity : capOf(point)),
      bytes,
    })
    const heartbeats = DAY_MS / 1000 / controller.heartbeatS
    const silent = neverSent(site, point) !== null
    if (silent && point.carries.kind !== 'channel') return []
    if (point.carries.kind === 'sensor') return [row('sensor', DAY_MS / 1000 / controller.sensorS, state)]
    if (point.carries.kind === 'group')
      return [row('commands', site.day.changes / 10, messageBytes(scheme.pointSet(point.vp), payloadBytes))]
    if (point.carries.kind === 'mode') return [row('changes', site.day.changes / 10, state)]
    return (ways.get(point.id) ?? []).flatMap((way): Draft[] => {
      const asked = commandsBy(way.channel)
      // a command is a `set` to the controller and the value that the service holds
      const commands = row('commands', asked, messageBytes(scheme.pointSet(point.vp), payloadBytes))
      return way.feedback === 'reports' && !silent
        ? [row('changes', site.day.changes, state), commands, row('heartbeat', heartbeats, state)]
        : [commands]
    })
  })
}

function hubRows(site: Site, hub: Hub): Draft[] {
  const commandsBy = commandsOf(site)
  const ways = grouped(
    site.ways.filter((way): way is HubWay => way.kind === 'hub' && way.hub === hub.id),
    (way) => way.entity,
  )
  return hub.entities.flatMap((entity): Draft[] => {
    const channel = site.channels.find((candidate) => candidate.id === entity.channel)!
    const controller = site.controllers.find((candidate) => candidate.id === channel.controller)!
    const scheme = topics(site.id, controller.id)
    const state = messageBytes(scheme.state(entity.topic), 44)
    const row = (reason: QuotaRow['reason'], perDay: number, bytes: number): Draft => ({
      controller: controller.id,
      name: entity.name,
      reason,
      perDay,
      bytes,
    })
    return (ways.get(entity.id) ?? []).flatMap((way) => {
      const commands = row('commands', commandsBy(channel.id), messageBytes(scheme.set(entity.topic), payloadBytes))
      return way.feedback === 'reports'
        ? [
            row('changes', site.day.changes, state),
            commands,
            row('heartbeat', DAY_MS / 1000 / controller.heartbeatS, state),
          ]
        : [commands]
    })
  })
}

function sumUp(service: string, name: string, drafts: readonly Draft[], fastestMs: number | null): Quota {
  const perDay = drafts.reduce((sum, row) => sum + row.perDay, 0)
  const rows = drafts.map(({ bytes, ...row }): QuotaRow => ({
    ...row,
    perDay: Math.round(row.perDay),
    bytesPerMonth: Math.round(row.perDay * DAYS_OF_MONTH * bytes),
    share: perDay === 0 ? 0 : row.perDay / perDay,
  }))
  return {
    service,
    name,
    rows,
    perDay: Math.round(perDay),
    perMonth: Math.round(perDay * DAYS_OF_MONTH),
    bytesPerMonth: rows.reduce((sum, row) => sum + row.bytesPerMonth, 0),
    fastestMs,
  }
}

/** The fastest period at which a service's points are written, ms. */
function fastest(site: Site, service: Service): number | null {
  const periods = service.points.flatMap((point) => {
    const controller = site.controllers.find((candidate) => candidate.id === point.controller)!
    const own = point.update.policy === 'every' ? [point.update.everyMs] : [controller.minReportMs]
    return point.carries.kind === 'sensor' ? [Math.max(controller.sensorS * 1000, ...own)] : own
  })
  return periods.length ? Math.min(...periods) : null
}

/** What each service and hub is used for, on an assumed day. */
export const quotasOf = (site: Site): Quota[] => [
  ...site.services
    .filter((service) => serviceKindIn(site, service.kind)?.family !== 'voice')
    .map((service) => sumUp(service.id, service.name, serviceRows(site, service), fastest(site, service))),
  ...site.hubs.map((hub) => sumUp(hub.id, hub.name, hubRows(site, hub), null)),
]

/** What goes through a controller's modem in a month, with what keeps the connection open; null: it has none. */
export function modemQuota(site: Site, controller: Controller): Quota | null {
  if (controller.link !== 'modem') return null
  const own = [
    ...site.services.flatMap((service) => serviceRows(site, service)),
    ...site.hubs.flatMap((hub) => hubRows(site, hub)),
  ].filter((row) => row.controller === controller.id)
  const pings: Draft = {
    controller: controller.id,
    name: 'connection',
    reason: 'keep-alive',
    perDay: DAY_MS / 1000 / MODEM_KEEP_ALIVE_S,
    bytes: 2 * (SEGMENT_BYTES + 2),
  }
  return sumUp(`modem:${controller.id}`, `${controller.name} modem`, [...own, pings], null)
}
