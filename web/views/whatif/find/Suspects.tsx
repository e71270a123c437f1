import type { Suspicion } from '../../../../core/diagnosis'

const FIRST = 10
/** What is less likely is not a suspect any more. */
const LEAST = 0.002

/** The parts still suspected, with how likely each is. */
export function Suspects({ suspicion, hasBegun }: { suspicion: Suspicion; hasBegun: boolean }) {
  const parts = suspicion.parts()
  const suspected = parts.filter(({ chance }) => chance >= LEAST)
  return (
    <section aria-label="Still suspected">
      <h2 className="rule-head">Still suspected</h2>
      {!hasBegun && <p className="mt-1 text-small text-soft">Before anything is said: how often each part fails.</p>}
      <ol className="mt-1">
        {suspected.slice(0, FIRST).map(({ part, name, chance }) => (
          <li key={part} className="py-0.5">
            <span className="flex justify-between gap-2">
              <span>{name}</span>
              <span className="font-mono">
                {chance >= 0.995 ? '> 99' : (chance * 100).toFixed(chance < 0.1 ? 1 : 0)} %
              </span>
            </span>
            <span aria-hidden="true" className="block h-1 bg-hair">
              <span
                className="block h-1 bg-brass-fill"
                style={{ width: `${Math.max(1, Math.min(100, chance * 100))}%` }}
              />
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-1 text-small text-soft">
        {suspected.length > FIRST && `${suspected.length - FIRST} more. `}
        {suspicion.table.suspects.length} faults were played, alone and in pairs.
      </p>
    </section>
  )
}
