import { SOURCES } from '../device'
import { stringify } from 'yaml'
import {
  channelsOn,
  controllersOfGroup,
  hubOf,
  mainOf,
  reachesNetwork,
  sensorsOn,
  topLevel,
  waysTo,
  type Channel,
  type Controller,
  type Point,
  type Site,
  isFeed,
  kindOf,
  positionOf,
  setWords,
  type Kind,
  DOOR_STATES,
} from '../site'
import { wireOf } from '../services'
import { isInHouse } from '../image'
import { topics, watchTopic } from '../topics'

/**
 * The AsyncAPI 3.0.0 document of a site's topics, from the controllers' side: they receive commands and send states.
 */

interface Topic {
  readonly address: string
  readonly title: string
  readonly direction: 'receive' | 'send'
  readonly message: string
  readonly retained: boolean
}

const text = (description: string, values?: readonly string[]): object => ({
  type: 'string',
  description,
  ...(values ? { enum: [...values] } : {}),
})

const words = (...values: string[]): object => ({ type: 'string', enum: values })

/** What only some kinds report (docs/behaviour.md, Topics). */
const OWN_KEYS: Record<Kind<Channel>['report'], (states: readonly string[]) => Record<string, object>> = {
  on: () => ({ on: { type: 'boolean' } }),
  level: () => ({ on: { type: 'boolean' }, level: { type: 'integer', minimum: 0, maximum: 8 } }),
  words: (states) => ({ state: words(...states) }),
}

/** JSON of a channel's state, by its kind. */
function stateSchema(channel: Channel): object {
  const kind = kindOf(channel)
  const own = OWN_KEYS[kind.report]([...kind.states, ...(kind.position(channel) ? DOOR_STATES : [])])
  const common = {
    source: words(...SOURCES),
    seq: { type: 'integer', minimum: 0 },
    mode: words(...kind.modes),
    // only while a turn-on waits
    waiting: { type: 'boolean', enum: [true] },
  }
  return { type: 'object', properties: { ...own, ...common }, required: [...Object.keys(own), 'source', 'seq'] }
}

const MESSAGES: Record<string, object> = {
  status: { payload: text('whether the controller is connected; its last will says offline', ['online', 'offline']) },
  log: { payload: text('what was refused, or is odd') },
  gesture: {
    payload: text('what a hand did to the switch of a detached feed', [
      'press',
      'release',
      'hold',
      'flip',
      'open',
      'closed',
    ]),
  },
  value: { payload: text('a whole number as decimal digits') },
  reading: { payload: text('a reading as a decimal number') },
  heartbeat: { payload: text('the hub lives') },
  'set-mode': { payload: text('auto or manual; never retained', ['auto', 'manual', 'toggle']) },
  mode: { payload: text('whether its rules act', ['auto', 'manual']) },
  'set-group': {
    payload: text('what a group can be told; never retained', ['on', 'off', 'toggle', 'up', 'down', 'stop']),
  },
}

/** Channels that are told the same words share one message. */
const setMessageOf = (channel: Channel): string =>
  `set-${channel.kind}${kindOf(channel).report === 'level' ? topLevel(channel) : ''}${positionOf(channel) ? '-contact' : ''}`

/** A hub with a wire of its own hears nothing of the broker of the house. */
function isHouseHub(site: Site, id: string): boolean {
  const hub = hubOf(site, id)
  return hub !== undefined && !wireOf(site, hub)
}

function channelTopics(site: Site, controller: Controller, channel: Channel): Topic[] {
  const scheme = topics(site.id, controller.id)
  const hubWay = waysTo(site, channel.id).find((way) => way.kind === 'hub' && isHouseHub(site, way.hub))
  const entity =
    hubWay?.kind === 'hub'
      ? site.hubs.find((hub) => hub.id === hubWay.hub)?.entities.find((one) => one.id === hubWay.entity)
      : undefined
  const level = entity?.topic ?? channel.id
  return [
    ...(hubWay
      ? [
          {
            address: scheme.set(level),
            title: `${channel.name}: command`,
            direction: 'receive' as const,
            message: setMessageOf(channel),
            retained: false,
          },
        ]
      : []),
    {
      address: scheme.state(level),
      title: `${channel.name}: state`,
      direction: 'send',
      message: `state-${channel.kind}`,
      retained: true,
    },
    ...(isFeed(channel)
      ? [
          {
            address: scheme.gesture(level),
            title: `${channel.name}: gesture`,
            direction: 'send' as const,
            message: 'gesture',
            retained: false,
          },
        ]
      : []),
  ]
}

const sends = (address: string, title: string, message: string, retained: boolean): Topic => ({
  address,
  title,
  direction: 'send',
  message,
  retained,
})
const receives = (address: string, title: string, message: string, retained: boolean): Topic => ({
  address,
  title,
  direction: 'receive',
  message,
  retained,
})

/** A point speaks by its number; one that carries a sensor is only read. */
function pointTopics(site: Site, controller: Controller, { vp, name, carries }: Point): Topic[] {
  const scheme = topics(site.id, controller.id)
  const isSensor = carries.kind === 'sensor'
  if (carries.kind === 'group') return [receives(scheme.pointSet(vp), `${name}: set by a person`, 'value', false)]
  return [
    ...(isSensor
      ? []
      : [
          receives(scheme.pointSet(vp), `${name}: set by a person`, 'value', false),
          receives(scheme.pointHeld(vp), `${name}: held by the service`, 'value', true),
        ]),
    sends(scheme.pointState(vp), `${name}: reported`, isSensor ? 'reading' : 'value', true),
  ]
}

/** A group that a hub works has a topic on each controller with members. */
const groupTopics = (site: Site, controller: Controller): Topic[] =>
  site.groups
    .filter((group) => group.ways?.some((way) => way.kind === 'hub' && isHouseHub(site, way.hub)))
    .filter((group) => controllersOfGroup(site, group).some(({ id }) => id === controller.id))
    .map(({ id, name }) => receives(topics(site.id, controller.id).set(id), `${name}: command`, 'set-group', false))

function controllerTopics(site: Site, controller: Controller): Topic[] {
  if (!isInHouse(site, controller)) return []
  const scheme = topics(site.id, controller.id)
  const { id, name } = controller
  // a service with a wire of its own is spoken to over that, and not on the broker of the house
  const points = site.services.flatMap((service) =>
    wireOf(site, service) ? [] : service.points.filter((point) => point.controller === id),
  )
  const byNumber = [...new Map(points.map((point) => [point.vp, point])).values()]
  const sensors = controller.link === 'none' ? [] : sensorsOn(site, id)
  return [
    sends(scheme.status, `${name}: online or offline`, 'status', true),
    sends(scheme.log, `${name}: log`, 'log', false),
    ...channelsOn(site, id).flatMap((channel) => channelTopics(site, controller, channel)),
    ...groupTopics(site, controller),
    ...(controller.modeEntity
      ? [
          receives(scheme.set('mode'), `${name}: auto or manual`, 'set-mode', false),
          sends(scheme.state('mode'), `${name}: mode`, 'mode', true),
        ]
      : []),
    ...sensors.map((sensor) => sends(scheme.sensor(sensor.id), `${sensor.name}, ${sensor.unit}`, 'reading', false)),
    ...byNumber.flatMap((point) => pointTopics(site, controller, point)),
  ]
}

function topicsOf(site: Site): Topic[] {
  // a coprocessor speaks under its main board's topics
  const linked = site.controllers.filter(
    (controller) => reachesNetwork(site, controller) && !mainOf(site, controller.id),
  )
  return [
    ...linked.flatMap((controller) => controllerTopics(site, controller)),
    ...(site.channels.some(isFeed) ? [receives(watchTopic(site.id), 'heartbeat of the hub', 'heartbeat', false)] : []),
  ]
}

/** A key that AsyncAPI allows: letters, digits, dot, dash and underscore. */
const keyOf = (address: string): string => address.replace(/[^A-Za-z0-9._-]/g, '_')

const channelEntry = ({ address, title, message }: Topic) => [
  keyOf(address),
  { address, title, messages: { [message]: { $ref: `#/components/messages/${message}` } } },
]

function operationEntry({ address, title, direction, message, retained }: Topic) {
  const key = keyOf(address)
  // a board core's client is told topic, payload and retain, and sends at most once (network.h of that port)
  const bindings = { mqtt: { qos: 0, retain: retained, bindingVersion: '0.2.0' } }
  return [
    `${direction}.${key}`,
    {
      action: direction,
      channel: { $ref: `#/channels/${key}` },
      title,
      ...(direction === 'send' ? { bindings } : {}),
      messages: [{ $ref: `#/channels/${key}/messages/${message}` }],
    },
  ]
}

/** The messages that these topics carry, each once. */
function messagesOf(site: Site, all: readonly Topic[]): object {
  const messages: Record<string, object> = { ...MESSAGES }
  for (const channel of site.channels) {
    const told = `what a ${channel.kind} channel can be told; never retained`
    messages[setMessageOf(channel)] = { payload: text(told, setWords(channel)) }
  }
  for (const channel of site.channels)
    messages[`state-${channel.kind}`] = { contentType: 'application/json', payload: stateSchema(channel) }
  const used = new Set(all.map((topic) => topic.message))
  return Object.fromEntries(
    Object.entries(messages)
      .filter(([name]) => used.has(name))
      .map(([name, message]) => [name, { name, title: name, ...message }]),
  )
}

export function asyncApiDocument(site: Site): object {
  const all = topicsOf(site)
  return {
    asyncapi: '3.0.0',
    info: {
      title: `${site.name}: topics`,
      version: '1',
      description: 'Written by Vestibule from the site document. Commands are never retained; states are.',
    },
    defaultContentType: 'text/plain',
    servers: {
      broker: {
        host: site.hubs.find((hub) => hub.host !== '')?.host ?? 'broker.invalid:1883',
        protocol: 'mqtt',
        protocolVersion: '3.1.1',
        description: 'the broker of the site',
      },
    },
    channels: Object.fromEntries(all.map(channelEntry)),
    operations: Object.fromEntries(all.map(operationEntry)),
    components: { messages: messagesOf(site, all) },
  }
}

export const asyncApiText = (site: Site): string =>
  stringify(asyncApiDocument(site), { lineWidth: 0, aliasDuplicateObjects: false })
