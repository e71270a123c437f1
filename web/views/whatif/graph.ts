import { partsOf, type PartGraph } from '../../../core/parts'
import type { Site } from '../../../core/site'

const known = new WeakMap<Site, PartGraph>()

/** The parts of a site, worked out once for each state of it. */
export function graphOf(site: Site): PartGraph {
  const before = known.get(site)
  if (before) return before
  const made = partsOf(site)
  known.set(site, made)
  return made
}
