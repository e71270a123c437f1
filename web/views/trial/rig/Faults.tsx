import type { Faults, StandInPage } from '../../../../core/api'

const SLOW_MS = 2_000

interface FaultsPart {
  readonly faults: Faults
  /** whose they are: "this service" */
  readonly of: string
  readonly set: (faults: Faults) => void
}

/** What can be done to a stand-in, to see what becomes of the house. */
export function FaultSwitches({ faults, of, set }: FaultsPart) {
  const rows: readonly (readonly [label: string, on: boolean, change: Partial<Faults>])[] = [
    ['Stopped', faults.stopped, { stopped: !faults.stopped }],
    [`Slow (${SLOW_MS / 1000} s)`, faults.slowMs > 0, { slowMs: faults.slowMs > 0 ? 0 : SLOW_MS }],
    ['Loses every third message', faults.lose, { lose: !faults.lose }],
    ['Sends commands twice', faults.replay, { replay: !faults.replay }],
  ]
  return (
    <fieldset className="mt-2">
      <legend className="text-small text-soft">Faults of {of}</legend>
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {rows.map(([label, on, change]) => (
          <label key={label} className="flex min-h-6 items-center gap-1.5 text-small">
            <input type="checkbox" checked={on} onChange={() => set({ ...faults, ...change })} />
            {label}
          </label>
        ))}
      </div>
    </fieldset>
  )
}

const LAST_LINES = 6

/** Logins and messages that a stand-in refused, and why. */
export function Refusals({ lines }: { lines: StandInPage['refused'] }) {
  if (lines.length === 0) return null
  return (
    <section aria-label="Refused" className="mt-2">
      <h3 className="text-small font-semibold">Refused</h3>
      <ol className="text-note">
        {lines.slice(-LAST_LINES).map((line, i) => (
          <li key={`${line.at}-${i}`}>
            <time dateTime={line.at} className="text-soft">
              {new Date(line.at).toLocaleTimeString('en-GB')}
            </time>{' '}
            {line.text}
          </li>
        ))}
      </ol>
    </section>
  )
}
