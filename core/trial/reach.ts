import { leadsInside, PLACE_WORDS, PLACES, type Place } from '../parts'
import type { HouseState } from './house'
import type { TrialAction } from './types'

/** The farthest place from which something can be done. */
function farthest(house: HouseState, action: TrialAction): Place {
  switch (action.kind) {
    case 'press':
    case 'rock':
    case 'turn':
    case 'key':
    case 'char':
    case 'pair':
      return 'here'
    case 'say':
    case 'hub':
    case 'mode':
    case 'group':
      return 'house'
    case 'widget':
      return leadsInside(house.site, action.service) ? 'house' : 'away'
    default:
      return 'away'
  }
}

/** Why a person cannot do something from where they are; null: they can. */
export function outOfReach(house: HouseState, action: TrialAction): string | null {
  const needed = farthest(house, action)
  if (PLACES.indexOf(house.place) <= PLACES.indexOf(needed)) return null
  return `not possible: you are ${PLACE_WORDS[house.place]}, and this works only ${PLACE_WORDS[needed]}`
}
