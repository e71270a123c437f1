import { ANSWERS, type Answer, type Given } from './observation'
import type { FaultTable } from './table'

/** A fault that is hidden in the simulated house, to practise on. */
export interface Practice {
  /** of the table's suspects */
  readonly hidden: number
  /** what is seen of it first */
  readonly first: Given
}

/** Hides a fault that shows at the table's channel. `draw`: 0…1; null: there is none. */
export function practiceOn(table: FaultTable, draw: number): Practice | null {
  const shows = table.suspects.flatMap((_, hidden): Practice[] => {
    const first = firstSeen(table, hidden)
    return first ? [{ hidden, first }] : []
  })
  return shows[Math.min(shows.length - 1, Math.floor(draw * shows.length))] ?? null
}

/** What somebody who only wants light sees first; null: nothing that is sure to be seen. */
function firstSeen(table: FaultTable, suspect: number): Given | null {
  for (const [i, observation] of table.observations.entries()) {
    const isOwn = 'channel' in observation && observation.channel === table.channel
    if (!isOwn || (observation.kind !== 'way' && observation.kind !== 'rest')) continue
    const answer = ANSWERS[table.chances[suspect]![i]!.indexOf(1)]
    if (answer !== undefined && answer !== table.whole[i]) return { observation: observation.id, answer }
  }
  return null
}

/** What the house with the hidden fault shows: the likeliest of what was played. */
export function houseSays(table: FaultTable, hidden: number, observation: string): Answer {
  const index = table.observations.findIndex(({ id }) => id === observation)
  const chances = table.chances[hidden]![index]!
  return ANSWERS[chances.indexOf(Math.max(...chances))]!
}
