import { linksOf, type ControllerImage, type ImageLink } from '../image'
import { controllersOf, holderOf, MODEM_KEEP_ALIVE_S, pinKeyOf, serviceKindIn, wireOf, type Holder } from '../services'
import {
  controllerOf,
  kindOf,
  channelOf,
  type Controller,
  type HookWire,
  type HttpWire,
  type MqttWire,
  type Point,
  type Service,
  type Site,
  type WireValue,
} from '../site'
import { topicPrefix } from '../topics'
import { aroundValue, textOf, type Places } from './template'
import type {
  Coding,
  ControllerWires,
  HearRow,
  HookLink,
  HttpLink,
  LinkWire,
  MqttLink,
  OwnLink,
  Place,
  SayRow,
  SignTable,
  Text,
} from './types'

/** The broker of the house, by the macros of the secrets file. */
export const HOUSE_SECRETS = {
  address: 'broker/address',
  port: 'broker/port',
  user: 'broker/user',
  password: 'broker/password',
} as const
const KEEP_ALIVE_S = 15
const BROKER_PORT = 1_883

/**
 * The wires of a controller, one for each of its image's links. `speaks`: the board that runs them has a network, as a
 * coprocessor has for a main board without one. Throws WireRefused where a text of a wire has a place
 * that nobody knows.
 */
export function compileWires(site: Site, image: ControllerImage, speaks = image.link): ControllerWires {
  const controller = controllerOf(site, image.controller)!
  const pin = speaks ? pinKeyOf(site, controller) : undefined
  return {
    site: image.site,
    controller: image.controller,
    prefix: topicPrefix(image.site, image.controller),
    links: linksOf(image).map((link, index) =>
      speaks ? wireOfLink(site, controller, image, link, index) : noLink(link.id),
    ),
    ...(pin === undefined ? {} : { pin: [{ secret: pin }] }),
  }
}

/** Wires of a controller whose one link is the house's. */
export function ownLink(image: Pick<ControllerImage, 'site' | 'controller'>, id = 'house'): OwnLink {
  return {
    transport: 'own',
    id,
    place: {
      address: [{ secret: HOUSE_SECRETS.address }],
      port: BROKER_PORT,
      portSecret: HOUSE_SECRETS.port,
      tls: false,
    },
    client: [`${image.site}.${image.controller}`],
    user: [{ secret: HOUSE_SECRETS.user }],
    password: [{ secret: HOUSE_SECRETS.password }],
    keepAliveS: KEEP_ALIVE_S,
  }
}

/** A board without a network never joins; its tables have a link all the same. */
const noLink = (id: string): OwnLink => ({
  transport: 'own',
  id,
  place: { address: [''], port: BROKER_PORT, portSecret: null, tls: false },
  client: [''],
  user: [''],
  password: [''],
  keepAliveS: KEEP_ALIVE_S,
})

function wireOfLink(
  site: Site,
  controller: Controller,
  image: ControllerImage,
  link: ImageLink,
  index: number,
): LinkWire {
  const holder = link.own ? undefined : holderOf(site, link.id)
  const service = holder?.service
  const wire = service && wireOf(site, service)
  if (!holder || !service || !wire) return slower(controller, ownLink(image, link.id))
  const context: Context = { site, holder, service, controller, image, index }
  switch (wire.transport) {
    case 'mqtt':
      return slower(controller, mqttLink(context, wire))
    case 'http':
      return httpLink(context, wire)
    case 'hook':
      return hookLink(context, wire)
  }
}

/** Over a modem each sign of life costs data: fewer of them. */
const slower = <L extends { readonly keepAliveS: number }>({ link }: Controller, wire: L): L =>
  link === 'modem' ? { ...wire, keepAliveS: Math.max(wire.keepAliveS, MODEM_KEEP_ALIVE_S) } : wire

interface Context {
  readonly site: Site
  readonly holder: Holder
  readonly service: Service
  readonly controller: Controller
  readonly image: ControllerImage
  readonly index: number
}

/** A credential of the service's kind, by the key under which it is stored. */
function credentialKey({ site, service, controller }: Context): (id: string) => string | undefined {
  const secrets = serviceKindIn(site, service.kind)?.secrets ?? []
  return (id) => {
    const secret = secrets.find((candidate) => candidate.id === id)
    if (!secret) return undefined
    if (secret.per === 'service') return `${service.id}/${id}`
    return controllersOf(site, service.id).includes(controller.id) ? `${service.id}/${id}/${controller.id}` : undefined
  }
}

const text = (context: Context, template: string, point?: Point): Text => {
  const places: Places = { ...context, ...(point ? { point } : {}) }
  return textOf(template, places, credentialKey(context))
}

/** Points of this link that the image carries, with their places in the document. */
function pointsHere({ service, controller, image, index }: Context) {
  return image.points.flatMap((row) => {
    if ((row.link ?? 0) !== index) return []
    const point = service.points.find((candidate) => candidate.controller === controller.id && candidate.vp === row.vp)
    return point ? [{ row, point }] : []
  })
}

function codingOf(value: WireValue, point: Point): Coding {
  // a reading goes as it was read
  if (value.form === 'number' || point.carries.kind === 'sensor') return { form: 'number' }
  return { ...value, min: point.min, max: point.max }
}

/** What carries a lasting state; a group's wish is one for its members, of which none pulses. */
function isLasting({ site, holder }: Context, point: Point): boolean {
  if (point.carries.kind !== 'channel') return true
  const channelId = site.ways.find(({ id }) => holder.pointOf.get(id) === point.id)?.channel
  const channel = channelId && channelOf(site, channelId)
  return channel ? kindOf(channel).lasting : true
}

/** Least time between two values: what the point's policy asks for, and what the plan allows. */
function everyMsOf({ site, service }: Context, { update }: Point): number {
  const allowed = serviceKindIn(site, service.kind)?.limits.updateMs ?? 0
  return Math.max(allowed, update.policy === 'every' ? update.everyMs : 0)
}

/** The topic goes before the payload, or not at all. */
function signTable(context: Context, { key, over }: NonNullable<MqttWire['sign']>): SignTable {
  const [before, rest] = over.includes('{topic}') ? split(over, '{topic}') : [null, over]
  const [between, after] = split(rest, '{payload}')
  return {
    key: text(context, key),
    before: text(context, before ?? between),
    between: before === null ? null : text(context, between),
    after: text(context, after),
  }
}

function split(whole: string, place: string): [string, string] {
  const at = whole.indexOf(place)
  return at < 0 ? [whole, ''] : [whole.slice(0, at), whole.slice(at + place.length)]
}

const placeOf = (context: Context, wire: { host: string; port: number; tls: boolean }): Place => ({
  address: text(context, wire.host),
  port: wire.port,
  // who types the address of a service types no port: the secrets file says it
  portSecret: ['{host}', '{credential:host}'].includes(wire.host) ? `${context.service.id}/port` : null,
  tls: wire.tls,
})

const sayRows = (
  context: Context,
  wire: { readonly value: WireValue },
  to: string,
  payload: string,
  more: Pick<SayRow, 'qos' | 'retain'>,
): SayRow[] =>
  pointsHere(context).flatMap(({ row, point }): SayRow[] => {
    if (!row.reports) return []
    const [before, after] = aroundValue(payload)
    return [
      {
        from: `vp/${row.vp}/state`,
        to: text(context, to, point),
        before: text(context, before, point),
        coding: codingOf(wire.value, point),
        after: text(context, after, point),
        ...more,
        everyMs: everyMsOf(context, point),
      },
    ]
  })

/** Points that can be set; readings cannot. */
const hearRows = (
  context: Context,
  wire: { readonly value: WireValue },
  from: string,
  pointer: string | null,
  meaning: HearRow['meaning'],
): HearRow[] =>
  pointsHere(context).flatMap(({ row, point }): HearRow[] => {
    if (row.carries === 'sensor' || point.access === 'read') return []
    return [
      {
        from: text(context, from, point),
        pointer: pointer === null ? null : plainText(text(context, pointer, point)),
        to: `vp/${row.vp}`,
        coding: codingOf(wire.value, point),
        min: row.min,
        max: row.max,
        meaning,
        lasting: isLasting(context, point),
      },
    ]
  })

/** A pointer holds no secret. */
const plainText = (parts: Text): string => parts.map((part) => (typeof part === 'string' ? part : '')).join('')

function mqttLink(context: Context, wire: MqttWire): MqttLink {
  const { status, log, count, say, ask, held } = wire
  return {
    transport: 'mqtt',
    id: context.service.id,
    place: placeOf(context, wire),
    client: text(context, wire.client),
    user: text(context, wire.user),
    password: text(context, wire.password),
    keepAliveS: wire.keepAliveS,
    status: status && { ...status, topic: text(context, status.topic) },
    log: log === null ? null : text(context, log),
    says: sayRows(context, wire, say.topic, say.payload, { qos: say.qos, retain: say.retain }),
    hears: [
      ...hearRows(context, wire, ask.topic, ask.value, 'wish'),
      ...(held ? hearRows(context, wire, held.topic, held.value, 'held') : []),
    ],
    count: count && { topic: text(context, count.topic), pointer: count.value },
    sign: wire.sign ? signTable(context, wire.sign) : null,
  }
}

function httpLink(context: Context, wire: HttpWire): HttpLink {
  const { write, read } = wire
  return {
    transport: 'http',
    id: context.service.id,
    place: placeOf(context, wire),
    headers: wire.headers.map((line) => text(context, line)),
    method: write?.method ?? 'GET',
    says: write ? sayRows(context, wire, write.path, write.body, { qos: 0, retain: false }) : [],
    hears: read ? hearRows(context, wire, read.path, read.value, 'held') : [],
    read: read && { all: read.of === 'all', everyMs: read.everyMs },
  }
}

function hookLink(context: Context, wire: HookWire): HookLink {
  const { call } = wire
  const [before] = aroundValue(wire.path)
  return {
    transport: 'hook',
    id: context.service.id,
    port: wire.port,
    key: text(context, wire.key),
    keyInPath: wire.keyIn === 'path',
    hears: hearRows(context, wire, before, null, 'wish'),
    call: call && {
      place: placeOf(context, call),
      headers: call.headers.map((line) => text(context, line)),
      method: call.request.method,
    },
    says: call ? sayRows(context, wire, call.request.path, call.request.body, { qos: 0, retain: false }) : [],
  }
}
