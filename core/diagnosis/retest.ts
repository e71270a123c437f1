import { partsOf, wayPaths, type PartId } from '../parts'
import { waysTo, type Site } from '../site'

/** A way that goes over a part that was changed. */
export interface Retest {
  readonly channel: string
  readonly way: string
}

/** What must be tested again when parts were changed: each way that needs one of them, with all that these need. */
export function retestOf(site: Site, parts: readonly PartId[]): Retest[] {
  const graph = partsOf(site)
  const needs = (id: PartId, seen: Set<PartId>): Set<PartId> => {
    if (seen.has(id)) return seen
    seen.add(id)
    for (const need of graph.get(id)?.needs ?? []) needs(need, seen)
    return seen
  }
  return site.channels.flatMap(({ id }) =>
    waysTo(site, id).flatMap((way): Retest[] => {
      const over = new Set<PartId>()
      for (const path of wayPaths(site, way)) for (const part of path) needs(part, over)
      return parts.some((part) => over.has(part)) ? [{ channel: id, way: way.id }] : []
    }),
  )
}
