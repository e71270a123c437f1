import type { PartId } from '../parts'

/** How often a part fails, and how long it is out then. */
export interface Rate {
  /** hours between two failures, in the mean */
  readonly betweenHours: number
  /** hours until it works again */
  readonly repairHours: number
}

/**
 * What ships: all common practice of a household, none of it measured here; a cheap relay, a house's router, a line to
 * the internet. A part without a person's knowledge waits for a spare.
 */
const YEAR = 8_760
const RATES: Readonly<Record<string, Rate>> = {
  mains: { betweenHours: YEAR / 2, repairHours: 1 },
  router: { betweenHours: YEAR / 4, repairHours: 1 },
  wifi: { betweenHours: YEAR / 6, repairHours: 0.5 },
  internet: { betweenHours: YEAR / 6, repairHours: 2 },
  'hub-machine': { betweenHours: YEAR, repairHours: 24 },
  broker: { betweenHours: YEAR, repairHours: 2 },
  hub: { betweenHours: YEAR / 4, repairHours: 1 },
  phone: { betweenHours: YEAR / 6, repairHours: 4 },
  voice: { betweenHours: YEAR / 4, repairHours: 2 },
  service: { betweenHours: YEAR / 4, repairHours: 4 },
  breaker: { betweenHours: 5 * YEAR, repairHours: 1 },
  power: { betweenHours: 8 * YEAR, repairHours: 72 },
  board: { betweenHours: 10 * YEAR, repairHours: 72 },
  modem: { betweenHours: YEAR / 4, repairHours: 2 },
  module: { betweenHours: 15 * YEAR, repairHours: 72 },
  drive: { betweenHours: 30 * YEAR, repairHours: 24 },
  opto: { betweenHours: 50 * YEAR, repairHours: 72 },
  coil: { betweenHours: 50 * YEAR, repairHours: 72 },
  contact: { betweenHours: 20 * YEAR, repairHours: 72 },
  load: { betweenHours: 3 * YEAR, repairHours: 24 },
  switch: { betweenHours: 30 * YEAR, repairHours: 48 },
  wire: { betweenHours: 50 * YEAR, repairHours: 48 },
  sensor: { betweenHours: 8 * YEAR, repairHours: 72 },
  receiver: { betweenHours: 15 * YEAR, repairHours: 72 },
  remote: { betweenHours: YEAR, repairHours: 24 },
  link: { betweenHours: 20 * YEAR, repairHours: 24 },
}
export const RATES_SOURCE = 'common practice'
export const HOURS_OF_YEAR = YEAR

export const rateOf = (part: PartId): Rate => RATES[part.split(':')[0]!] ?? { betweenHours: 10 * YEAR, repairHours: 72 }

/** The share of time in which a part is out: repair / (between + repair) (steady state; any handbook, from memory). */
export function unavailability(part: PartId): number {
  const { betweenHours, repairHours } = rateOf(part)
  return repairHours / (betweenHours + repairHours)
}
