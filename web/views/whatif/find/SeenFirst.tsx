import { ANSWERS, wordsOf, type FaultTable, type Observation } from '../../../../core/diagnosis'
import type { Searching } from './useSearch'

/** What a household says first: each way of the channel, whether it is off by itself, and its screens. */
export function SeenFirst({ table, searching }: { table: FaultTable; searching: Searching }) {
  const { search } = searching
  const first = table.observations.filter(
    (one) =>
      (one.kind === 'way' || one.kind === 'rest' || one.kind === 'screen') &&
      one.channel === table.channel &&
      !('level' in one && one.level !== undefined),
  )
  return (
    <section aria-label="Symptoms">
      <h2 className="rule-head">Symptoms</h2>
      {search.given.length === 0 && (
        <p className="mt-1 text-small text-soft">Answer at least one; leave what you have not tried.</p>
      )}
      <ul>
        {first.map((observation) => (
          <Row key={observation.id} table={table} observation={observation} searching={searching} />
        ))}
      </ul>
    </section>
  )
}

interface RowProps {
  readonly table: FaultTable
  readonly observation: Observation
  readonly searching: Searching
}

function Row({ table, observation, searching: { search, say } }: RowProps) {
  const { ask, answers } = wordsOf(table.site, observation)
  const said = search.given.find((one) => one.observation === observation.id)?.answer
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-b border-hair py-1">
      <span className="min-w-48 flex-1">{ask}</span>
      <span role="group" aria-label={ask} className="flex flex-wrap gap-1">
        {ANSWERS.filter((answer) => answers[answer] !== undefined).map((answer) => (
          <button
            key={answer}
            type="button"
            aria-pressed={said === answer}
            className="rounded-plate min-h-7 border border-bus px-2 text-small aria-pressed:border-ink aria-pressed:bg-ink aria-pressed:text-wall"
            onClick={() => say(observation.id, answer)}
          >
            {answers[answer]}
          </button>
        ))}
      </span>
    </li>
  )
}
