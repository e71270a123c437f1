import { isInHouse, wireOf } from '../services'
import type { HouseState } from './house'
import type { Place, TrialAction } from './types'

const PLACE_WORDS: Readonly<Record<Place, string>> = {
  here: 'at the controller',
  house: 'elsewhere in the house',
  away: 'away',
}

/** Where a person must stand for what they do: at the controller, in the house, or anywhere. */
function nearest(house: HouseState, action: TrialAction): Place {
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
    case 'widget': {
      const service = house.services.find(({ service: { id } }) => id === action.service)?.service
      const leadsInside = service && (!wireOf(house.site, service) || isInHouse(service.host))
      return leadsInside ? 'house' : 'away'
    }
    default:
      return 'away'
  }
}

const RANK: Readonly<Record<Place, number>> = { here: 0, house: 1, away: 2 }

/** Why a person cannot do something from where they are; null: they can. */
export function outOfReach(house: HouseState, action: TrialAction): string | null {
  const needed = nearest(house, action)
  if (RANK[house.place] <= RANK[needed]) return null
  return `you are ${PLACE_WORDS[house.place]}: that needs somebody ${PLACE_WORDS[needed === 'house' ? 'house' : needed].replace('elsewhere ', '')}`
}
