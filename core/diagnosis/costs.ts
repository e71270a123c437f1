import type { PartId } from '../parts'
import type { Danger, Observation } from './observation'

/** What a step costs: minutes (common practice), and how near it comes to mains. */
export interface Cost {
  readonly minutes: number
  readonly danger: Danger
}

const OUTSIDE = 'outside'
const COVER = 'cover'

/** Taking a part by itself, by its kind: swapped, metered with the supply off, or looked at. */
const PARTS: Readonly<Record<string, Cost>> = {
  mains: { minutes: 1, danger: OUTSIDE },
  strip: { minutes: 3, danger: OUTSIDE },
  breaker: { minutes: 2, danger: OUTSIDE },
  router: { minutes: 3, danger: OUTSIDE },
  wifi: { minutes: 3, danger: OUTSIDE },
  internet: { minutes: 3, danger: OUTSIDE },
  'hub-machine': { minutes: 5, danger: OUTSIDE },
  broker: { minutes: 5, danger: OUTSIDE },
  hub: { minutes: 5, danger: OUTSIDE },
  phone: { minutes: 2, danger: OUTSIDE },
  voice: { minutes: 3, danger: OUTSIDE },
  service: { minutes: 5, danger: OUTSIDE },
  remote: { minutes: 3, danger: OUTSIDE },
  load: { minutes: 5, danger: OUTSIDE },
  power: { minutes: 15, danger: COVER },
  board: { minutes: 20, danger: COVER },
  modem: { minutes: 15, danger: COVER },
  module: { minutes: 20, danger: COVER },
  drive: { minutes: 10, danger: COVER },
  opto: { minutes: 15, danger: COVER },
  coil: { minutes: 10, danger: COVER },
  contact: { minutes: 10, danger: COVER },
  switch: { minutes: 10, danger: COVER },
  wire: { minutes: 15, danger: COVER },
  sensor: { minutes: 10, danger: COVER },
  receiver: { minutes: 10, danger: COVER },
  link: { minutes: 10, danger: COVER },
}
const ANY_PART: Cost = { minutes: 15, danger: COVER }

export const kindOfPart = (part: PartId): string => part.split(':')[0]!

export function costOf(observation: Observation): Cost {
  switch (observation.kind) {
    case 'rest':
    case 'online':
      return { minutes: 0.5, danger: OUTSIDE }
    case 'way':
    case 'screen':
    case 'click':
    case 'shows':
      return { minutes: 1, danger: OUTSIDE }
    case 'indicator':
      return { minutes: 10, danger: 'live' }
    case 'part':
      return PARTS[kindOfPart(observation.part)] ?? ANY_PART
  }
}

/** What is said before a step, by how near it comes to mains. Local codes and licensed people decide. */
export const CAUTIONS: Readonly<Record<Danger, readonly string[]>> = {
  outside: [],
  cover: [
    'Switch the breaker off, lock it, and test that the box is dead before you open it.',
    'If local rules reserve this for a licensed electrician, or you are not sure, call one.',
  ],
  live: [
    'The box is open and its mains is on: look only, touch nothing, keep others away.',
    'Leave this to a licensed electrician unless local rules allow you to do it.',
  ],
}

/** What must be said beside a part that is worked on outside the box. */
const PART_CAUTIONS: Readonly<Record<string, readonly string[]>> = {
  load: [
    'A lamp or a plug: switch its breaker off and let it cool before you change it.',
    'A load that is wired in is opened by a licensed electrician only, or by whom local rules allow.',
  ],
  breaker: ['A breaker that trips again stays off: call a licensed electrician.'],
  strip: ['Pull its plug before you look at it.'],
}

/** All that is said before a step. */
export function cautionsOf(observation: Observation): readonly string[] {
  const own = observation.kind === 'part' ? (PART_CAUTIONS[kindOfPart(observation.part)] ?? []) : []
  return [...CAUTIONS[costOf(observation).danger], ...own]
}
