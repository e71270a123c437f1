import { givenWords, practiceOn, type FaultTable, type Given } from '../../../../core/diagnosis'
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
  const hide = (): void => {
    const practice = practiceOn(table, Math.random())
    if (practice) set({ hidden: practice.hidden, given: [practice.first], skipped: [] })
  }
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
          <button type="button" className="press-quiet" onClick={hide}>
            Practise: hide a fault
          </button>
        ) : (
          <span className="text-small text-soft">Practice: a fault is hidden in the simulated house.</span>
        )}
      </div>
    </section>
  )
}
