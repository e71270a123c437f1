import { partsOf, type PartId, type Place } from '../parts'
import type { Site } from '../site'
import { isAnalysed, structureOf } from './structure'

/** What a column of the table stands for: a part of the house, or one that each channel's controller has of its own. */
export type LeftColumn =
  | { readonly kind: 'house'; readonly part: PartId; readonly name: string }
  | { readonly kind: 'own'; readonly part: 'power'; readonly name: string }

export interface LeftRow {
  readonly channel: string
  readonly name: string
  /** ways that reach from there, with nothing broken */
  readonly ways: number
  /** how many of them are left when that column fails, in the order of the columns */
  readonly left: readonly number[]
}

export interface WhoIsLeft {
  readonly columns: readonly LeftColumn[]
  readonly rows: readonly LeftRow[]
}

/** Without its breaker, its supply or its board a controller does nothing: for who is left they are one column. */
const OWN: readonly LeftColumn[] = [{ kind: 'own', part: 'power', name: 'Own supply or board' }]
const HOUSE: readonly PartId[] = ['router', 'wifi', 'internet', 'hub-machine', 'broker', 'hub', 'phone', 'voice']

/** Who is still in control of each channel when one part fails, from where one stands. */
export function whoIsLeft(site: Site, from: Place): WhoIsLeft {
  const graph = partsOf(site)
  const services = [...graph.keys()].filter((id) => id.startsWith('service:'))
  const shared = (ids: readonly PartId[]): LeftColumn[] =>
    ids.flatMap((part): LeftColumn[] => {
      const found = graph.get(part)
      return found ? [{ kind: 'house', part, name: found.name }] : []
    })
  const columns = [...shared(['mains']), ...OWN, ...shared([...HOUSE, ...services])]
  const rows = site.channels.filter(isAnalysed).map((channel): LeftRow => {
    const { paths } = structureOf(site, graph, channel, from)
    const count = (out: PartId | null): number =>
      new Set(paths.flatMap(({ way, parts }) => (out !== null && parts.includes(out) ? [] : [way]))).size
    return {
      ...{ channel: channel.id, name: channel.name, ways: count(null) },
      left: columns.map((column) =>
        count(column.kind === 'house' ? column.part : `${column.part}:${channel.controller}`),
      ),
    }
  })
  // a column in which nothing is ever lost says nothing
  const matters = columns.map((_, i) => rows.some(({ ways, left }) => left[i]! < ways))
  const kept = <T>(list: readonly T[]): T[] => list.filter((_, i) => matters[i])
  return { columns: kept(columns), rows: rows.map((row) => ({ ...row, left: kept(row.left) })) }
}
