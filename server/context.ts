import type { SiteRefused, Site } from '../core/site'
import type { BuildFile } from '../core/outputs'
import type { Database } from './db'
import type { StoredSite } from './db/sites'
import type { Live } from './live'
import { notFound, Refusal } from './refusal'
import type { House } from './house'
import type { TestsInHand } from './boards/hands'

/** What the routes work with. */
export interface Context {
  readonly db: Database
  readonly live: Live
  readonly house: House
  readonly hands: TestsInHand
  readonly dataFolder: string
  /** the address at which boards find the broker */
  readonly boardsFind: string
  /** the fixed firmware, runtime and ports, that goes into each build */
  readonly firmware: readonly BuildFile[]
  /** folder of the sites that ship as examples */
  readonly examples: string
  /** now, as an ISO 8601 instant */
  readonly now: () => string
}

export function storedSite(context: Context, id: string): StoredSite {
  const stored = context.db.sites.get(id)
  if (!stored) throw notFound(`the site "${id}"`)
  return stored
}

export const refusedSite = (error: SiteRefused): Refusal => new Refusal(422, error.code, error.message)

export function controllerIn(site: Site, id: string) {
  const controller = site.controllers.find((candidate) => candidate.id === id)
  if (!controller) throw notFound(`the controller "${id}"`)
  return controller
}

/** A controller as a person calls it; one that is gone by its id. */
export const nameOf = (site: Site, id: string): string =>
  site.controllers.find((candidate) => candidate.id === id)?.name ?? id
