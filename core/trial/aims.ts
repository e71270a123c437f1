import { holdersOf } from '../services'
import type { ControlSource, Site } from '../site'

/** What a hand can touch, by what it leads to; "input:s1", "key:remote/up", "char:link/a", "point:app/v1". */
export type AimKey =
  | `input:${string}`
  | `key:${string}/${string}`
  | `char:${string}/${string}`
  | `point:${string}/${string}`
  | `entity:${string}/${string}`
  | `group:${string}`

/** The channels that each of a house's hands leads to, in the site's order. */
export function aimsOf(site: Site): ReadonlyMap<AimKey, readonly string[]> {
  const aims = new Map<AimKey, Set<string>>()
  const add = (key: AimKey, channels: readonly string[]): void => {
    const known = aims.get(key) ?? new Set()
    for (const channel of channels) known.add(channel)
    aims.set(key, known)
  }
  for (const way of site.ways) {
    if (way.kind === 'wall') add(`input:${way.input}`, [way.channel])
    if (way.kind === 'remote') add(`key:${way.remote}/${way.key}`, [way.channel])
    if (way.kind === 'link') add(`char:${way.link}/${way.char}`, [way.channel])
    if (way.kind === 'app') add(`point:${way.service}/${way.point}`, [way.channel])
    if (way.kind === 'hub') add(`entity:${way.hub}/${way.entity}`, [way.channel])
  }
  for (const { service, pointOf } of holdersOf(site))
    for (const [way, point] of pointOf) {
      const channel = site.ways.find(({ id }) => id === way)?.channel
      if (channel) add(`point:${service.id}/${point}`, [channel])
    }
  for (const group of site.groups) {
    add(`group:${group.id}`, group.members)
    for (const way of group.ways ?? []) if (way.kind === 'app') add(`point:${way.service}/${way.point}`, group.members)
  }
  for (const control of site.controls)
    if (control.kind === 'group')
      add(sourceKey(control.source), site.groups.find(({ id }) => id === control.group)?.members ?? [])
  // a contact tells where a door stands: what moves it is aimed at the door
  for (const channel of site.channels)
    if ('contact' in channel && channel.contact) add(`input:${channel.contact}`, [channel.id])
  return new Map([...aims].map(([key, channels]) => [key, [...channels]]))
}

function sourceKey(source: ControlSource): AimKey {
  if (source.kind === 'wall') return `input:${source.input}`
  return source.kind === 'remote' ? `key:${source.remote}/${source.key}` : `char:${source.link}/${source.char}`
}
