import type { PartGraph, PartId } from './part'

/** What does not work while the given parts are out: they, and all that needs one of them. */
export function downWith(graph: PartGraph, out: ReadonlySet<PartId>): ReadonlySet<PartId> {
  if (out.size === 0) return out
  const known = new Map<PartId, boolean>()
  const isDown = (id: PartId): boolean => {
    const found = known.get(id)
    if (found !== undefined) return found
    // needs go one way; a part that is asked for while it is being asked about cannot be its own reason
    known.set(id, false)
    const down = out.has(id) || (graph.get(id)?.needs.some(isDown) ?? false)
    known.set(id, down)
    return down
  }
  return new Set([...graph.keys()].filter(isDown))
}
