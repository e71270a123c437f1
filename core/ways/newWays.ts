import {
  freshId,
  newInput,
  type Channel,
  type Controller,
  type EntityId,
  type GestureBinding,
  type HubId,
  type HubWay,
  type Input,
  type Site,
  type WallWay,
  type WayId,
  kindOf,
} from '../site'
import { addAppWay, firstService } from './points'
import { addLinkWays } from './links'
import { addRemoteWay } from './remotes'
import { addRule } from './rules'
import { addVoiceWay } from './voiceWays'
import { waysIn, type Column } from './columns'

/**
 * Changes of a site that make ways. Each takes a draft (a site that may be written to) and changes it in place; the
 * caller wraps it in makeEdit.
 */

const wayId = (site: Site, name: string): WayId => freshId(site.ways, name, 'way') as WayId

/** What a switch usually does: a press or a flip toggles; a push pulses a door, and works a shutter by turns. */
export function usualBindings(kind: Input['kind'], channel?: Channel): GestureBinding[] {
  if (kind === 'selector') return [{ gesture: 'select', action: 'level' }]
  return [{ gesture: kind === 'rocker' ? 'flip' : 'press', action: channel ? kindOf(channel).usual.press : 'toggle' }]
}

/** What a further gesture of the same switch is to do, to begin with. */
export const furtherBinding = (kind: Input['kind'], channel: Channel): GestureBinding => {
  const { press, second } = kindOf(channel).usual
  return kind === 'momentary' ? { gesture: 'hold', action: second } : { gesture: 'flip', action: press }
}

export function firstHub(site: Site): HubId {
  const existing = site.hubs[0]
  if (existing) return existing.id
  const id = 'hub' as HubId
  site.hubs.push({ kind: 'broker', id, name: 'Local hub', host: '', entities: [], watch: null })
  return id
}

/** The heartbeat that a hub is watched by (docs/behaviour.md, feed), judged on the controllers themselves. */
export const usualWatch = (): NonNullable<Site['hubs'][number]['watch']> => ({
  watchMs: 10_000,
  graceMs: 5_000,
  steadyMs: 10_000,
  runsOn: 'controllers',
})

export function addWallWay(
  site: Site,
  channel: Channel,
  input: Input,
  bindings = usualBindings(input.kind, channel),
): WallWay {
  const way: WallWay = {
    kind: 'wall',
    id: wayId(site, `${channel.id}-wall`),
    channel: channel.id,
    input: input.id,
    bindings,
  }
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

/** An entity of the hub. A feed's hub gets a watch, since without one its switch would be dead with the hub. */
export function addHubWay(site: Site, channel: Channel, hubId = firstHub(site)): HubWay {
  const hub = site.hubs.find((candidate) => candidate.id === hubId)!
  const entity = freshId(hub.entities, channel.id, 'entity') as EntityId
  hub.entities.push({ id: entity, channel: channel.id, name: channel.name, topic: channel.id })
  if (channel.kind === 'feed') hub.watch ??= usualWatch()
  const way: HubWay = {
    kind: 'hub',
    id: wayId(site, `${channel.id}-hub`),
    channel: channel.id,
    hub: hubId,
    entity,
    feedback: 'reports',
  }
  site.ways.push(way)
  return way
}

/** Makes the usual way of a column where a channel has none: the one place that knows what "fill" means. */
export function makeUsualWay(
  site: Site,
  channel: Channel,
  column: Column,
  options: { inputKind?: Input['kind']; fromVp?: number } = {},
): void {
  const controller = site.controllers.find((candidate) => candidate.id === channel.controller)!
  switch (column) {
    case 'wall':
      return void addWallWay(site, channel, addSwitchFor(site, channel, options.inputKind ?? 'momentary', controller))
    case 'remote':
      return void addRemoteWay(site, channel)
    case 'app':
      return void addAppWay(site, channel, firstService(site), options.fromVp ?? 1)
    case 'hub':
      return void addHubWay(site, channel)
    case 'voice':
      return void addVoiceWay(site, channel)
    case 'nearby':
    case 'serial':
      return addLinkWays(site, channel, column)
    case 'rule':
      return void addRule(site, channel)
  }
}

/** Fills a column: every channel without such a way gets one. Returns how many were made. */
export function fillColumn(
  site: Site,
  column: Column,
  options: {
    controllers?: readonly string[]
    channels?: readonly string[]
    inputKind?: Input['kind']
    fromVp?: number
  } = {},
): number {
  let made = 0
  for (const channel of site.channels) {
    if (options.controllers && !options.controllers.includes(channel.controller)) continue
    if (options.channels && !options.channels.includes(channel.id)) continue
    if (
      column === 'rule'
        ? site.rules.some((rule) => rule.channel === channel.id)
        : waysIn(site, channel.id, column).length > 0
    )
      continue
    makeUsualWay(site, channel, column, options)
    made++
  }
  return made
}
