import { stringify } from 'yaml'
import { channelOf, roomOf, topLevel, type Channel, type Hub, type Site } from '../site'
import { topics, watchTopic } from '../topics'
import { credentialsNeeded, setWords } from '../ways'

/**
 * A hub file of our own form (docs/formats.md): what each entity is, where to command it, where its state stands, and
 * the heartbeat that the hub must send. Secrets are only named; their values stand in a file apart.
 */

/** What a hub sees in a channel. */
const ENTITY_TYPES: Record<Channel['kind'], string> = {
  switched: 'switch',
  stepped: 'levels',
  pulsed: 'pulse',
  paired: 'two-way',
  feed: 'feed',
}

function stateOf(channel: Channel): Record<string, unknown> {
  switch (channel.kind) {
    case 'switched':
      return { key: 'on', values: [false, true] }
    case 'stepped':
      return { key: 'level', least: 0, most: topLevel(channel) }
    case 'pulsed':
      return { key: 'state', values: channel.contact ? ['closed', 'open', 'unknown'] : ['idle', 'pulsing'] }
    case 'paired':
      return { key: 'state', values: ['stop', 'a', 'b'], meaning: { a: channel.labels[0], b: channel.labels[1] } }
    case 'feed':
      return { key: 'on', values: [false, true], mode: ['detached', 'local'] }
  }
}

export function hubFile(site: Site, hub: Hub): string {
  const entities = hub.entities.map((entity) => {
    const channel = channelOf(site, entity.channel)!
    const scheme = topics(site.id, channel.controller)
    const way = site.ways.find(
      (candidate) => candidate.kind === 'hub' && candidate.hub === hub.id && candidate.entity === entity.id,
    )
    const reports = way?.kind === 'hub' && way.feedback === 'reports'
    return {
      id: entity.topic,
      name: entity.name,
      type: ENTITY_TYPES[channel.kind],
      room: roomOf(site, channel.room)?.name ?? null,
      available: scheme.status,
      command: { topic: scheme.set(entity.topic), retain: false, words: setWords(channel).split(', ') },
      ...(reports ? { state: { topic: scheme.state(entity.topic), retained: true, ...stateOf(channel) } } : {}),
      ...(channel.kind === 'feed'
        ? {
            gesture: {
              topic: scheme.gesture(entity.topic),
              words: ['press', 'hold', 'release', 'flip', 'open', 'closed'],
            },
          }
        : {}),
      ...(channel.essential ? { essential: true } : {}),
    }
  })
  const sensors = site.sensors
    .filter((sensor) => site.controllers.find((controller) => controller.id === sensor.controller)?.link !== 'none')
    .map((sensor) => ({
      id: sensor.id,
      name: sensor.name,
      quantity: sensor.quantity,
      unit: sensor.unit,
      topic: topics(site.id, sensor.controller).sensor(sensor.id),
      staleAfterMs: sensor.staleMs ?? 3 * sensor.everyMs,
    }))
  const secrets = credentialsNeeded(site).filter(
    (need) => need.key.startsWith(`${hub.id}/`) && !need.key.includes('/broker-'),
  )
  const file = {
    'vestibule-hub': 1,
    site: site.id,
    hub: { id: hub.id, name: hub.name },
    broker: {
      host: { secret: `${hub.id}/host` },
      user: { secret: `${hub.id}/user` },
      password: { secret: `${hub.id}/password` },
      protocol: 'MQTT 3.1.1',
    },
    ...(secrets.length ? { secrets: secrets.map((need) => need.key) } : {}),
    ...(hub.watch
      ? {
          heartbeat: {
            topic: watchTopic(site.id),
            retain: false,
            everyMs: Math.floor(hub.watch.watchMs / 3),
            payload: 'alive',
          },
        }
      : {}),
    entities,
    sensors,
  }
  return stringify(file, { lineWidth: 0 })
}

/** All hubs of a site, one document each. */
export const hubFiles = (site: Site): string => site.hubs.map((hub) => hubFile(site, hub)).join('---\n')

/** The secrets file that stands beside it, with nothing in it. */
export function hubSecretsExample(site: Site): string {
  const names = site.hubs.flatMap((hub) => [
    `${hub.id}/host`,
    `${hub.id}/user`,
    `${hub.id}/password`,
    ...credentialsNeeded(site)
      .filter(
        (need) => need.key.startsWith(`${hub.id}/`) && !need.key.includes('/broker-') && need.key !== `${hub.id}/host`,
      )
      .map((need) => need.key),
  ])
  return stringify(Object.fromEntries(names.map((name) => [name, ''])), { lineWidth: 0 })
}
