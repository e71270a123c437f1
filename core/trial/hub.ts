import { stateSaid, topics, watchTopic } from '../topics'
import { channelOf, controllersOfGroup, topLevel, type Channel, type Point, type Site } from '../site'
import type { Message } from './broker'
import type { TrialAction } from './types'

/**
 * The stand-in of a local hub: it believes what the controllers report, works smart lamps when a feed's switch speaks
 * to it, and sends its heartbeat. Plain data in and out; the trial gives it messages from its broker in memory.
 */
export interface HubState {
  /** level, or 1 for any state that is not rest, by state topic */
  readonly beliefs: Readonly<Record<string, number>>
  /** state topics whose controller waits to turn on */
  readonly waits: readonly string[]
  /** controllers whose board is offline, as their last will says */
  readonly away: readonly string[]
  /** smart lamps behind a feed, by channel: on or off as the hub has told them */
  readonly lamps: Readonly<Record<string, boolean>>
}

export const startHub = (site: Site): HubState => ({
  beliefs: {},
  waits: [],
  away: [],
  lamps: Object.fromEntries(site.channels.flatMap((channel) => (channel.kind === 'feed' ? [[channel.id, true]] : []))),
})

export const hubFilters = (site: string): string[] => [
  `vestibule/${site}/+/status`,
  `vestibule/${site}/+/+/state`,
  `vestibule/${site}/+/+/gesture`,
]

/**
 * A message reaches the hub. A press or a flip on a feed's switch turns its lamps over; `open` and `closed` follow a
 * rocker.
 */
export function hubHears(site: Site, state: HubState, message: Message): HubState {
  const [, , controller, topic, kind] = message.topic.split('/')
  if (topic === 'status' && kind === undefined && controller !== undefined) {
    const others = state.away.filter((id) => id !== controller)
    return { ...state, away: message.payload === 'offline' ? [...others, controller] : others }
  }
  if (kind === 'state') {
    const said = stateSaid(message.payload)
    if (!said) return state
    const others = state.waits.filter((waiting) => waiting !== message.topic)
    return {
      ...state,
      beliefs: { ...state.beliefs, [message.topic]: said.level },
      waits: said.waiting ? [...others, message.topic] : others,
    }
  }
  if (kind !== 'gesture') return state
  const channel = site.channels.find(
    (candidate) =>
      candidate.controller === controller && candidate.kind === 'feed' && topicOf(site, candidate.id) === topic,
  )
  if (!channel) return state
  const before = state.lamps[channel.id] ?? false
  const after =
    message.payload === 'press' || message.payload === 'flip'
      ? !before
      : message.payload === 'closed'
        ? true
        : message.payload === 'open'
          ? false
          : before
  return { ...state, lamps: { ...state.lamps, [channel.id]: after } }
}

const topicOf = (site: Site, channel: string): string =>
  site.hubs.flatMap((hub) => hub.entities).find((entity) => entity.channel === channel)?.topic ?? channel

/** How often the hub says that it lives: three times within the shortest watch; null: nobody listens. */
export function heartbeatMs(site: Site): number | null {
  const watches = site.hubs.flatMap((hub) => (hub.watch ? [hub.watch.watchMs] : []))
  return watches.length && site.channels.some((channel) => channel.kind === 'feed')
    ? Math.floor(Math.min(...watches) / 3)
    : null
}

export const heartbeat = (site: string): Message => ({ topic: watchTopic(site), payload: 'alive', retain: false })

/** What a person has a hub say: to a channel, to a group, or to a controller's auto mode. */
export type HubWish = Extract<TrialAction, { kind: 'hub' | 'group' | 'mode' }>

/** What a wish is about, in its own words, and what goes out for it; null: this site has no such thing. */
export function hubSays(site: Site, wish: HubWish): { readonly name: string; readonly says: Message[] } | null {
  const message = (controller: string, level: string): Message => ({
    topic: topics(site.id, controller).set(level),
    payload: wish.command,
    retain: false,
  })
  switch (wish.kind) {
    case 'hub': {
      const hub = site.hubs.find(({ id }) => id === wish.hub)
      const entity = hub?.entities.find(({ id }) => id === wish.entity)
      const controller = entity && channelOf(site, entity.channel)?.controller
      return entity && controller ? { name: entity.name, says: [message(controller, entity.topic)] } : null
    }
    case 'group': {
      const group = site.groups.find(({ id }) => id === wish.group)
      const way = group?.ways?.find((one) => one.kind === 'hub' && one.hub === wish.hub)
      if (!group || way?.kind !== 'hub') return null
      return { name: way.name, says: controllersOfGroup(site, group).map(({ id }) => message(id, group.id)) }
    }
    case 'mode': {
      const entity = site.controllers.find(({ id }) => id === wish.controller)?.modeEntity
      return entity ? { name: entity.name, says: [message(wish.controller, 'mode')] } : null
    }
  }
}

/** Is it this point of a hub with a wire of its own that a wish is about? */
export const isMeant = ({ id, controller, carries }: Point, wish: HubWish): boolean =>
  wish.kind === 'hub'
    ? id === wish.entity
    : wish.kind === 'group'
      ? carries.kind === 'group' && carries.group === wish.group
      : carries.kind === 'mode' && controller === wish.controller

/** Which hub a wish is for. */
export const hubOfWish = (site: Site, wish: HubWish): string | undefined =>
  wish.kind === 'mode' ? site.controllers.find(({ id }) => id === wish.controller)?.modeEntity?.hub : wish.hub

/**
 * A hub's word as the value of a point, for a hub with a wire of its own. `now`: the value that it holds; up and down
 * go one step from it.
 */
export function hubValue(channel: Channel | undefined, { min, max }: Point, command: string, now: number): number {
  const within = (value: number): number => Math.min(max, Math.max(min, value))
  if (/^\d+$/.test(command)) return within(Number(command))
  if (command === 'toggle') return now === min ? max : min
  if (command === 'up' || command === 'down')
    return channel && topLevel(channel) > 1 ? within(now + (command === 'up' ? 1 : -1)) : command === 'up' ? max : min
  if (command === 'a') return within(min + 1)
  return ['off', 'close', 'stop', 'manual'].includes(command) ? min : max
}

/** Level that a hub believes of each entity, by "hub/entity"; null: nothing heard yet. Beside it, which wait. */
export function hubBeliefs(site: Site, state: HubState): { beliefs: Record<string, number | null>; waits: string[] } {
  const entities = site.hubs.flatMap((hub) =>
    hub.entities.flatMap((entity) => {
      const controller = channelOf(site, entity.channel)?.controller
      return controller
        ? [{ key: `${hub.id}/${entity.id}`, topic: topics(site.id, controller).state(entity.topic) }]
        : []
    }),
  )
  return {
    beliefs: Object.fromEntries(entities.map(({ key, topic }) => [key, state.beliefs[topic] ?? null])),
    waits: entities.flatMap(({ key, topic }) => (state.waits.includes(topic) ? [key] : [])),
  }
}
