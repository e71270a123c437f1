import { stringify } from 'yaml'
import {
  channelOf,
  controllerOf,
  controllersOfGroup,
  roomOf,
  topLevel,
  type Channel,
  type Controller,
  type Hub,
  type Site,
  DOOR_STATES,
  isFeed,
  kindOf,
  outputsOf,
  positionOf,
  setWords,
} from '../site'
import { isInHouse } from '../image'
import { topics, watchTopic } from '../topics'
import { credentialsNeeded, holderOf, wireOf } from '../services'
import { wireWords } from './wireSheet'
import type { BrokerPlace } from './secretsFile'

/**
 * A hub file of our own form (docs/formats.md): what each entity is, where to command it, where its state stands, and
 * the heartbeat that the hub must send. Secrets are only named; their values stand in a file apart.
 */

/** Words that YAML 1.1 takes for yes and no stand in quotes, so that every reader takes them for words. */
const QUOTED = { lineWidth: 0, aliasDuplicateObjects: false, compat: 'yaml-1.1' } as const

/** How a channel's state reads, by its kind. */
function stateOf(channel: Channel): Record<string, unknown> {
  const kind = kindOf(channel)
  switch (kind.report) {
    case 'level':
      return { key: 'level', values: Array.from({ length: topLevel(channel) + 1 }, (_, level) => level) }
    case 'words': {
      const values = positionOf(channel) ? DOOR_STATES : kind.states
      const named = kind.numbered ? outputsOf(channel).map((output, at) => [values[at + 1], output.words]) : []
      return { key: 'state', values: [...values], ...(named.length ? { meaning: Object.fromEntries(named) } : {}) }
    }
    case 'on':
      return { key: 'on', values: [false, true], ...(isFeed(channel) ? { mode: [...kind.modes] } : {}) }
  }
}

/** What a feed says of its switch, so that the hub works its lamps. */
const GESTURES = ['press', 'hold', 'release', 'flip', 'open', 'closed']

function entityRow(site: Site, hub: Hub, entity: Hub['entities'][number]): object {
  const channel = channelOf(site, entity.channel)!
  const scheme = topics(site.id, channel.controller)
  const way = site.ways.find((one) => one.kind === 'hub' && one.hub === hub.id && one.entity === entity.id)
  const reports = way?.kind === 'hub' && way.feedback === 'reports'
  const state = { topic: scheme.state(entity.topic), retained: true, ...stateOf(channel) }
  return {
    id: entity.topic,
    name: entity.name,
    type: kindOf(channel).entity,
    room: roomOf(site, channel.room)?.name ?? null,
    available: scheme.status,
    command: { topic: scheme.set(entity.topic), retain: false, words: [...setWords(channel)] },
    ...(reports ? { state } : {}),
    ...(isFeed(channel) ? { gesture: { topic: scheme.gesture(entity.topic), words: GESTURES } } : {}),
    ...(channel.essential ? { essential: true } : {}),
  }
}

/** A group is told on each controller that has members; it has no state of its own. */
const groupRows = (site: Site, hub: Hub): object[] =>
  site.groups.flatMap((group) => {
    const way = group.ways?.find((one) => one.kind === 'hub' && one.hub === hub.id)
    if (way?.kind !== 'hub') return []
    return [
      {
        id: group.id,
        name: way.name,
        type: 'group',
        members: site.channels.filter(({ id }) => group.members.includes(id)).map(({ id }) => id as string),
        command: {
          topics: controllersOfGroup(site, group).map(({ id }) => topics(site.id, id).set(group.id)),
          retain: false,
          words: ['on', 'off', 'toggle', 'up', 'down', 'stop'],
        },
      },
    ]
  })

/** Auto and manual of a controller, where this hub is to work them. */
const modeRows = (site: Site, hub: Hub): object[] =>
  site.controllers.flatMap(({ id, modeEntity }) => {
    if (modeEntity?.hub !== hub.id) return []
    const scheme = topics(site.id, id)
    return [
      {
        id: `${id}-mode`,
        name: modeEntity.name,
        type: 'mode',
        available: scheme.status,
        command: { topic: scheme.set('mode'), retain: false, words: ['auto', 'manual', 'toggle'] },
        state: { topic: scheme.state('mode'), retained: true, values: ['auto', 'manual'] },
      },
    ]
  })

const sensorRows = (site: Site): object[] =>
  site.sensors
    .filter((sensor) => {
      const controller = controllerOf(site, sensor.controller)
      return controller && controller.link !== 'none' && isInHouse(site, controller)
    })
    .map(({ id, name, quantity, unit, controller, staleMs, everyMs }) => ({
      id,
      name,
      quantity,
      unit,
      topic: topics(site.id, controller).sensor(id),
      staleAfterMs: staleMs ?? 3 * everyMs,
    }))

/** Three heartbeats within each watch, so that one may be lost. */
const heartbeatOf = (site: Site, { watch }: Hub): object =>
  watch
    ? {
        heartbeat: {
          topic: watchTopic(site.id),
          retain: false,
          everyMs: Math.floor(watch.watchMs / 3),
          payload: 'alive',
          // what must answer too, or the heartbeat is not sent
          ...(watch.programs?.length ? { onlyWhileAlive: [...watch.programs] } : {}),
        },
      }
    : {}

/** How a controller is reached by a hub with a wire of its own, and each of its entities there. */
function wiredController(site: Site, hub: Hub, controller: Controller): object[] {
  const words = wireWords(site, controller, hub.id, (secret) => secret)
  const points = holderOf(site, hub.id)!.service.points.filter((point) => point.controller === controller.id)
  if (!words || points.length === 0) return []
  const rows = points.flatMap(({ vp, name, key, min, max, carries }) => {
    const row = words.rows.find((one) => one.vp === vp)
    if (!row) return []
    const { says, asks, holds } = row
    const text = Object.fromEntries(Object.entries({ says, asks, holds }).filter(([, value]) => value !== ''))
    return [{ point: vp, id: key ?? name, name, carries: carries.kind, values: { least: min, most: max }, ...text }]
  })
  return [{ id: controller.id, name: controller.name, notes: [...words.notes], entities: rows }]
}

/** The file of a hub that hears nothing of the broker of the house. */
function wiredHubFile(site: Site, hub: Hub): string {
  const keys = hubKeys(site, hub)
  const file = {
    'vestibule-hub': 1,
    site: site.id,
    hub: { id: hub.id, name: hub.name },
    wire: wireOf(site, hub)!.transport,
    ...(keys.length ? { secrets: keys } : {}),
    controllers: site.controllers.flatMap((controller) => wiredController(site, hub, controller)),
  }
  return stringify(file, QUOTED)
}

export function hubFile(site: Site, hub: Hub): string {
  if (wireOf(site, hub)) return wiredHubFile(site, hub)
  const keys = hubKeys(site, hub)
  const secret = (name: string) =>
    keys.includes(`${hub.id}/${name}`) ? { [name]: { secret: `${hub.id}/${name}` } } : {}
  const file = {
    'vestibule-hub': 1,
    site: site.id,
    hub: { id: hub.id, name: hub.name },
    broker: { ...secret('host'), ...secret('user'), ...secret('password'), protocol: 'MQTT 3.1.1' },
    ...(keys.length ? { secrets: keys } : {}),
    ...heartbeatOf(site, hub),
    entities: hub.entities.map((entity) => entityRow(site, hub, entity)),
    ...(groupRows(site, hub).length ? { groups: groupRows(site, hub) } : {}),
    ...(modeRows(site, hub).length ? { modes: modeRows(site, hub) } : {}),
    sensors: sensorRows(site),
  }
  return stringify(file, QUOTED)
}

/** All hubs of a site, one document each. */
export const hubFiles = (site: Site): string => site.hubs.map((hub) => hubFile(site, hub)).join('---\n')

/** The secrets file that stands beside it, with nothing in it. */
export const hubSecretsExample = (site: Site): string =>
  stringify(Object.fromEntries(site.hubs.flatMap((hub) => hubKeys(site, hub)).map((key) => [key, ''])), {
    lineWidth: 0,
  })

/** The secrets file of one hub, filled in: where the broker is, and the hub's own user and password there. */
export function hubSecrets(site: Site, hub: Hub, broker: BrokerPlace, reveal: (key: string) => string): string {
  const made: Readonly<Record<string, string>> = {
    [`${hub.id}/host`]: broker.port === 1883 ? broker.address : `${broker.address}:${broker.port}`,
    [`${hub.id}/user`]: broker.user,
    [`${hub.id}/password`]: broker.password,
  }
  const own = hub.kind === 'broker' ? made : {}
  const lines = hubKeys(site, hub).map((key) => [key, own[key] ?? reveal(key)])
  const text = stringify(Object.fromEntries(lines), { lineWidth: 0 })
  return `# Secrets of ${hub.name}: keep this file out of whatever you share.\n${text}`
}

/** The credentials that a hub's own file names: all of that hub but those of single controllers. */
const hubKeys = (site: Site, hub: Hub): string[] =>
  credentialsNeeded(site)
    .filter(({ key, made }) => key.startsWith(`${hub.id}/`) && !(made && key.split('/').length > 2))
    .map(({ key }) => key)
