import type { Site } from '../site'
import { howOf, partOf, type Failure } from './failure'

/** How often a part fails, how long it is out then, and who says so. */
export interface Rate {
  /** hours between two failures, in the mean */
  readonly betweenHours: number
  /** hours until it works again, in the mean */
  readonly repairHours: number
  readonly source: string
}

export const HOURS_OF_YEAR = 8_760
const YEAR = HOURS_OF_YEAR
export const COMMON_PRACTICE = 'common practice'

/**
 * What ships: years between failures and hours of repair; all common practice of a household, none of it measured here:
 * a cheap relay, a house's router, a line to the internet. A part without a person's knowledge waits for a spare.
 */
const SHIPPED: Readonly<Record<string, readonly [years: number, repairHours: number]>> = {
  mains: [1 / 2, 1],
  strip: [20, 24],
  router: [1 / 4, 1],
  wifi: [1 / 6, 0.5],
  internet: [1 / 6, 2],
  'hub-machine': [1, 24],
  broker: [1, 2],
  hub: [1 / 4, 1],
  'hub!lying': [2, 24],
  phone: [1 / 6, 4],
  voice: [1 / 4, 2],
  service: [1 / 4, 4],
  'service!lying': [2, 24],
  breaker: [5, 1],
  power: [8, 72],
  board: [10, 72],
  modem: [1 / 4, 2],
  module: [15, 72],
  drive: [30, 24],
  opto: [50, 72],
  'opto!stuck': [100, 72],
  coil: [50, 72],
  contact: [20, 72],
  'contact!stuck': [40, 72],
  load: [3, 24],
  switch: [30, 48],
  'switch!stuck': [60, 48],
  wire: [50, 48],
  'wire!stuck': [100, 48],
  sensor: [8, 72],
  receiver: [15, 72],
  remote: [1, 24],
  link: [20, 24],
}

/** Under which word a rate stands: the kind of part, with how it fails where that is not “gone”. */
export function rateKey(failure: Failure): string {
  const kind = partOf(failure).split(':')[0]!
  const how = howOf(failure)
  return how === 'gone' ? kind : `${kind}!${how}`
}

/** Every rate that ships, by its word. */
export const RATE_KEYS: readonly string[] = Object.keys(SHIPPED)

/** What no table names, years and hours. */
const OTHER = [10, 72] as const

/** The rate by its word: the maker's own, or what ships. */
export function rateBy(site: Pick<Site, 'failures'>, key: string): Rate {
  const own = site.failures?.rates[key]
  if (own) return own
  const [years, repairHours] = SHIPPED[key] ?? OTHER
  return { betweenHours: years * YEAR, repairHours, source: COMMON_PRACTICE }
}
export const rateOf = (site: Pick<Site, 'failures'>, failure: Failure): Rate => rateBy(site, rateKey(failure))

/**
 * The share of time in which a failure is there: repair / (between + repair) (steady state; any handbook, from memory).
 */
export function unavailability({ betweenHours, repairHours }: Rate): number {
  return repairHours / (betweenHours + repairHours)
}

/** The same of each failure of a site. */
export const shares =
  (site: Pick<Site, 'failures'>) =>
  (failure: Failure): number =>
    unavailability(rateOf(site, failure))
