import type { FaultKind, PartGraph, PartId } from '../parts'

/** One way in which a part has failed in service: "contact:bench-lights.0!stuck". A part has one at a time. */
export type Failure = `${string}!${FaultKind}`

export const failureOf = (part: PartId, how: FaultKind = 'gone'): Failure => `${part}!${how}`
export const partOf = (failure: Failure): PartId => failure.slice(0, failure.lastIndexOf('!')) as PartId
export const howOf = (failure: Failure): FaultKind => failure.slice(failure.lastIndexOf('!') + 1) as FaultKind

/** A sensor that lies or stands still makes its rule act wrongly; no question here asks for that. */
const isReckoned = (part: PartId, how: FaultKind): boolean =>
  how === 'gone' || ((how === 'stuck' || how === 'lying') && !part.startsWith('sensor:'))

/**
 * What can fail in a house that once worked. Mistakes of wiring (inverted, crossed, the jumper), and parts that only
 * grow slow, weak or lossy, leave a hand in control: they belong to finding the fault.
 */
export const failuresOf = (graph: PartGraph): Failure[] =>
  [...graph.values()].flatMap(({ id, faults }) =>
    faults.filter((how) => isReckoned(id, how)).map((how) => failureOf(id, how)),
  )
