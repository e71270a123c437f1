import { givenWords, type FaultTable, type Given } from '../../../../core/diagnosis'
import type { Searching } from './useSearch'

interface Props {
  readonly table: FaultTable
  readonly given: readonly Given[]
  readonly live: readonly Given[]
  readonly searching: Searching
}

/** What was seen, in order; what a board said of itself is marked. Practice begins here, too. */
export function SeenSoFar({ table, given, live, searching }: Props) {
  const { search, set, begin } = searching
  return (
    <section aria-label="Seen so far" className="mt-4">
      <h2 className="rule-head">Seen so far</h2>
      {given.length === 0 && <p className="mt-1 text-small text-soft">Nothing yet.</p>}
      <ol className="mt-1 text-small">
        {given.map((one, i) => {
          const observation = table.observations.find(({ id }) => id === one.observation)
          if (!observation) return null
          return (
            <li key={`${one.observation} ${i}`} className="border-b border-hair py-0.5">
              {givenWords(table.site, observation, one.answer)}
              {live.includes(one) && <span className="text-soft"> (heard from the live rig)</span>}
            </li>
          )
        })}
      </ol>
      <div className="mt-2 flex flex-wrap gap-3">
        {given.length > 0 && (
          <button type="button" className="press-quiet" onClick={() => begin(table.channel)}>
            Start again
          </button>
        )}
        {search.hidden === null ? (
          <button type="button" className="press-quiet" onClick={() => set(practice(table))}>
            Practise: hide a fault
          </button>
        ) : (
          <span className="text-small text-soft">Practice: a fault is hidden in the simulated house.</span>
        )}
      </div>
    </section>
  )
}

/** A fault that can be seen at this channel, drawn by chance, and what is seen first of it. */
function practice(table: FaultTable): { hidden: number; given: Given[]; skipped: string[] } {
  const shows = table.suspects.flatMap((_, suspect) => {
    const first = firstSeen(table, suspect)
    return first ? [{ hidden: suspect, given: [first], skipped: [] }] : []
  })
  return shows[Math.floor(Math.random() * shows.length)]!
}

function firstSeen(table: FaultTable, suspect: number): Given | null {
  for (const [i, observation] of table.observations.entries()) {
    const own = 'channel' in observation && observation.channel === table.channel
    if (!own || (observation.kind !== 'way' && observation.kind !== 'rest')) continue
    const chances = table.chances[suspect]![i]!
    const answer = (['yes', 'no', 'late', 'other'] as const)[chances.indexOf(1)]
    if (answer !== undefined && answer !== table.whole[i]) return { observation: observation.id, answer }
  }
  return null
}
