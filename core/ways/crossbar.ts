import type { Channel, Site } from '../site'
import { columnOf, type Column } from './columns'

/** A line of the crossbar: a room's head, or a channel. */
export type CrossbarLine =
  | { readonly kind: 'room'; readonly id: string; readonly name: string; readonly count: number }
  | { readonly kind: 'channel'; readonly channel: Channel }

/** The lines of the crossbar: each room's head, then its channels in the document's order; null: of all controllers. */
export function crossbarLines(site: Site, controller: string | null): CrossbarLine[] {
  const channels = site.channels.filter((channel) => controller === null || channel.controller === controller)
  const rooms = [...site.rooms.map(({ id, name }) => ({ id: id as string, name })), { id: '', name: 'No room' }]
  return rooms.flatMap((room): CrossbarLine[] => {
    const own = channels.filter((channel) => (channel.room ?? '') === room.id)
    if (own.length === 0) return []
    const head = { kind: 'room' as const, ...room, count: own.length }
    return [head, ...own.map((channel): CrossbarLine => ({ kind: 'channel', channel }))]
  })
}

/** Columns in which any of the channels has a way; the wall is always one of them. */
export function usedColumns(site: Site, channels: readonly Channel[]): Set<Column> {
  const ids = new Set<string>(channels.map((channel) => channel.id))
  const used = new Set<Column>(['wall'])
  for (const way of site.ways) if (ids.has(way.channel)) used.add(columnOf(site, way))
  if (site.rules.some((rule) => ids.has(rule.channel))) used.add('rule')
  return used
}

/** A channel changes places with the neighbour that stands before or after it in an order. Changes a draft. */
export function moveChannel(site: Site, id: string, neighbour: string | undefined): void {
  const from = site.channels.findIndex((candidate) => candidate.id === id)
  const to = site.channels.findIndex((candidate) => candidate.id === neighbour)
  if (from < 0 || to < 0) return
  const [moved] = site.channels.splice(from, 1)
  site.channels.splice(to, 0, moved!)
}
