import { compileSite } from '../image'
import type { Site } from '../site'
import { triesGroups, triesLimits, triesNevers, triesOutages, triesPowerCycles, triesWinners } from './house'
import { Tryout } from './tryout'
import type { AcceptanceReport } from './types'
import { triesWays } from './ways'

/** When everything has come up, and least times off since power-up are over, ms. */
const SETTLED_MS = 600_000

const PARTS = [triesWays, triesGroups, triesLimits, triesWinners, triesOutages, triesPowerCycles, triesNevers]

export interface AcceptanceOptions {
  readonly seed?: number
  /** hears how far it is, 0 to 1 */
  readonly onProgress?: (done: number) => void
}

/** The tables of every controller, as their hashes: a report holds for these. */
export const tablesOf = (site: Site): Record<string, string> =>
  Object.fromEntries(compileSite(site).map(({ board, image }) => [board, image.hash]))

/**
 * Works every way of every channel in a simulated house, then outages, power, who wins, groups, limits and what must
 * never be. The same site and seed give the same report.
 */
export function acceptanceRun(
  site: Site,
  options: AcceptanceOptions = {},
): AcceptanceReport & { readonly tryout: Tryout } {
  const { seed = 1, onProgress } = options
  const tryout = new Tryout(site, seed)
  tryout.waits(SETTLED_MS)
  for (const [i, tries] of PARTS.entries()) {
    onProgress?.(i / PARTS.length)
    tries(tryout)
  }
  onProgress?.(1)
  return { site: site.id, tables: tablesOf(site), seed, items: tryout.items, lastsMs: tryout.now, tryout }
}
