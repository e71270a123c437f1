import { channelOf, kindOf, type Channel, type Site, type Way } from '../site'
import { levelsOf } from './levels'
import type { PartId } from './part'
import { wayNeeds } from './wayNeeds'

/** What lies between a board and its load, for one level: the contacts that must close for it. */
function loadNeeds(channel: Channel, level: number): PartId[] {
  const contacts = kindOf(channel).patterns(channel)[level] ?? []
  return [
    `board:${channel.controller}`,
    ...contacts.flatMap((k): PartId[] => [`coil:${channel.id}.${k}`, `contact:${channel.id}.${k}`]),
    `load:${channel.id}`,
  ]
}

/**
 * The paths by which a way turns its channel on: the parts that must all work, a row for each level that it can bring
 * the channel to. None: it only turns off.
 */
export function wayPaths(site: Site, way: Way): PartId[][] {
  const channel = channelOf(site, way.channel)
  if (!channel) return []
  const base = wayNeeds(site, way)
  return levelsOf(channel, way).map((level) => [...base, ...loadNeeds(channel, level)])
}
