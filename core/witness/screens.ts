import { channelOf, isFeed, topLevel, type Site } from '../site'

/** Levels that a service's points show, by channel: as its phone shows them (docs/behaviour.md, Points). */
export function pointLevels(
  site: Site,
  service: string,
  values: Readonly<Record<string, number>>,
): Record<string, number> {
  const holder = site.services.find(({ id }) => id === service)
  const shown: Record<string, number> = {}
  for (const way of site.ways) {
    if (way.kind !== 'app' || way.service !== service) continue
    const [channel, point] = [channelOf(site, way.channel), holder?.points.find(({ id }) => id === way.point)]
    const value = point && values[point.id]
    if (!channel || !point || value === undefined || isFeed(channel)) continue
    const [top, { min, max }] = [topLevel(channel), point]
    shown[channel.id] = top === 1 || max === min ? Number(value > min) : Math.ceil(((value - min) * top) / (max - min))
  }
  return shown
}

/** Levels that a hub shows, by channel. `beliefs`: by "hub/entity". */
export function hubLevels(
  site: Site,
  beliefs: Readonly<Record<string, number | null>>,
): Record<string, Record<string, number>> {
  const shown: Record<string, Record<string, number>> = {}
  for (const hub of site.hubs)
    for (const entity of hub.entities) {
      const level = beliefs[`${hub.id}/${entity.id}`]
      if (level !== undefined && level !== null) (shown[hub.id] ??= {})[entity.channel] = level
    }
  return shown
}
