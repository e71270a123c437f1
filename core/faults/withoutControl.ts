import type { Channel, Site } from '../site'
import { chanceOf } from './chances'
import { cutSets } from './cuts'
import { partOf, type Failure } from './failure'
import { ALWAYS, isSo } from './formula'
import { HouseFormulas } from './houseFormulas'
import { nobodyTurnsOn } from './onAndOff'
import { HOURS_OF_YEAR, shares } from './rates'

/** What no way in can help against: the channel's own chain from mains to load. */
const OWN_CHAIN = new Set([
  'mains',
  'strip',
  'breaker',
  'power',
  'board',
  'module',
  'drive',
  'opto',
  'coil',
  'contact',
  'load',
])

export interface WithoutControl {
  /** hours a year in which nobody who stands there can turn it on; null: nobody ever can */
  readonly hours: number | null
  /** single failures that leave nobody and that another way in would help against, the longest first */
  readonly alone: readonly Failure[]
}

/** How well a channel is in control, asked at the controller itself: for the checks, without its tables. */
export function withoutControl(site: Site, channel: Channel, formulas = new HouseFormulas(site)): WithoutControl {
  const formula = nobodyTurnsOn(formulas, channel, 'here', [{ when: ALWAYS, level: 0 }])
  if (isSo(formula, new Set())) return { hours: null, alone: [] }
  const share = shares(site)
  const alone = cutSets(formula, 1)
    .map(([failure]) => failure!)
    .filter((failure) => !OWN_CHAIN.has(partOf(failure).split(':')[0]!))
  return {
    hours: chanceOf(formula, share)(() => null) * HOURS_OF_YEAR,
    alone: alone.sort((a, b) => share(b) - share(a)),
  }
}
