import { SOURCES } from '../device'
import { stringify } from 'yaml'
import {
  mainOf,
  reachesNetwork,
  topLevel,
  waysTo,
  type Channel,
  type Controller,
  type Site,
  isFeed,
  kindOf,
  positionOf,
  setWords,
  type Kind,
  DOOR_STATES,
} from '../site'
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
}

/** Channels that are told the same words share one message. */
const setMessageOf = (channel: Channel): string =>
  `set-${channel.kind}${kindOf(channel).report === 'level' ? topLevel(channel) : ''}${positionOf(channel) ? '-contact' : ''}`

function channelTopics(site: Site, controller: Controller, channel: Channel): Topic[] {
  const scheme = topics(site.id, controller.id)
  const hubWay = waysTo(site, channel.id).find((way) => way.kind === 'hub')
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

function topicsOf(site: Site): Topic[] {
  // a coprocessor speaks under its main board's topics
  const linked = site.controllers.filter(
    (controller) => reachesNetwork(site, controller) && !mainOf(site, controller.id),
  )
  const own = linked.flatMap((controller): Topic[] => {
    const scheme = topics(site.id, controller.id)
    const points = site.services.flatMap((service) =>
      service.points.filter((point) => point.controller === controller.id),
    )
    const vps = [...new Map(points.map((point) => [point.vp, point])).values()]
    return [
      {
        address: scheme.status,
        title: `${controller.name}: online or offline`,
        direction: 'send',
        message: 'status',
        retained: true,
      },
      { address: scheme.log, title: `${controller.name}: log`, direction: 'send', message: 'log', retained: false },
      ...site.channels
        .filter((channel) => channel.controller === controller.id)
        .flatMap((channel) => channelTopics(site, controller, channel)),
      ...site.sensors
        .filter((sensor) => sensor.controller === controller.id && controller.link !== 'none')
        .map((sensor): Topic => ({
          address: scheme.sensor(sensor.id),
          title: `${sensor.name}, ${sensor.unit}`,
          direction: 'send',
          message: 'reading',
          retained: false,
        })),
      ...vps.flatMap((point): Topic[] => [
        ...(point.carries.kind === 'sensor'
          ? []
          : [
              {
                address: scheme.pointSet(point.vp),
                title: `${point.name}: set by a person`,
                direction: 'receive' as const,
                message: 'value',
                retained: false,
              },
              {
                address: scheme.pointHeld(point.vp),
                title: `${point.name}: held by the service`,
                direction: 'receive' as const,
                message: 'value',
                retained: true,
              },
            ]),
        {
          address: scheme.pointState(point.vp),
          title: `${point.name}: reported`,
          direction: 'send',
          message: point.carries.kind === 'sensor' ? 'reading' : 'value',
          retained: true,
        },
      ]),
    ]
  })
  const watched = site.channels.some(isFeed)
  return [
    ...own,
    ...(watched
      ? [
          {
            address: watchTopic(site.id),
            title: 'heartbeat of the hub',
            direction: 'receive' as const,
            message: 'heartbeat',
            retained: false,
          },
        ]
      : []),
  ]
}

/** A key that AsyncAPI allows: letters, digits, dot, dash and underscore. */
const keyOf = (address: string): string => address.replace(/[^A-Za-z0-9._-]/g, '_')

export function asyncApiDocument(site: Site): object {
  const all = topicsOf(site)
  const setMessages = Object.fromEntries(
    site.channels.map((channel) => [
      setMessageOf(channel),
      { payload: text(`what a ${channel.kind} channel can be told; never retained`, setWords(channel)) },
    ]),
  )
  const stateMessages = Object.fromEntries(
    site.channels.map((channel) => [
      `state-${channel.kind}`,
      { contentType: 'application/json', payload: stateSchema(channel) },
    ]),
  )
  const messages: Record<string, object> = { ...MESSAGES, ...setMessages, ...stateMessages }
  const used = new Set(all.map((topic) => topic.message))
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
    channels: Object.fromEntries(
      all.map((topic) => [
        keyOf(topic.address),
        {
          address: topic.address,
          title: topic.title,
          messages: { [topic.message]: { $ref: `#/components/messages/${topic.message}` } },
        },
      ]),
    ),
    operations: Object.fromEntries(
      all.map((topic) => [
        `${topic.direction}.${keyOf(topic.address)}`,
        {
          action: topic.direction,
          channel: { $ref: `#/channels/${keyOf(topic.address)}` },
          title: topic.title,
          ...(topic.direction === 'send'
            ? { bindings: { mqtt: { qos: 1, retain: topic.retained, bindingVersion: '0.2.0' } } }
            : {}),
          messages: [{ $ref: `#/channels/${keyOf(topic.address)}/messages/${topic.message}` }],
        },
      ]),
    ),
    components: {
      messages: Object.fromEntries(
        Object.entries(messages)
          .filter(([name]) => used.has(name))
          .map(([name, message]) => [name, { name, title: name, ...message }]),
      ),
    },
  }
}

export const asyncApiText = (site: Site): string =>
  stringify(asyncApiDocument(site), { lineWidth: 0, aliasDuplicateObjects: false })
