import { Check, Minus, X } from 'lucide-react'
import { useState } from 'react'
import type { Outcome, TestRun } from '../../../core/api'
import { openStage, stageCautions, STAGE_NAMES, STAGES, type Stage } from '../../../core/outputs'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { useAppSelector } from '../../store/store'

type Item = TestRun['items'][number]

const CHOICES: readonly (readonly [Outcome, typeof Check, looks: string])[] = [
  ['passed', Check, 'bg-rest font-semibold text-panel'],
  ['failed', X, 'bg-error font-semibold text-panel'],
  ['skipped', Minus, 'bg-ink font-semibold text-wall'],
]

/** A test run on the real thing. A stage opens when nothing of the one before it is left open or failed. */
export function TestRunSheet({ run, onClose }: { run: TestRun; onClose: () => void }) {
  const site = useAppSelector((state) => state.site.site)!
  const controller = site.controllers.find((candidate) => candidate.id === run.controller)
  return (
    <section aria-label="Test run" className="mt-2">
      <div className="rule-head flex items-baseline">
        <h2>
          Test run {run.id} of {controller?.name ?? run.controller}, site at revision {run.revision}
        </h2>
        <button type="button" className="press-quiet ml-auto" onClick={onClose}>
          back to the entries
        </button>
      </div>
      {STAGES.map((stage, i) => (
        <StageSheet key={stage} run={run} stage={stage} number={i + 1} />
      ))}
    </section>
  )
}

function StageSheet({ run, stage, number }: { run: TestRun; stage: Stage; number: number }) {
  const site = useAppSelector((state) => state.site.site)!
  const items = run.items.filter((item) => item.stage === stage)
  const waiting = openStage(run.items, stage)
  if (items.length === 0) return null
  return (
    <div className="mt-4">
      <h3 className="font-semibold">
        {number}. {STAGE_NAMES[stage]}
      </h3>
      <ul className="mt-0.5 text-note text-soft">
        {stageCautions(site, run.controller, stage).map((line) => (
          <li key={line} className="border-l-2 border-error pl-2">
            {line}
          </li>
        ))}
      </ul>
      {waiting && (
        <p className="mt-1 text-note font-semibold text-warning">Wait: “{STAGE_NAMES[waiting]}” is not clear yet.</p>
      )}
      <ol>
        {items.map((item) => (
          <ItemRow key={item.key} run={run} item={item} waits={waiting !== undefined} />
        ))}
      </ol>
    </div>
  )
}

function ItemRow({ run, item, waits }: { run: TestRun; item: Item; waits: boolean }) {
  const [note, setNote] = useState(item.note)
  const write = (outcome: Outcome) =>
    void attempt(call('setTestItem', { run: String(run.id), key: item.key, body: { outcome, note } }))
  return (
    <li
      className="grid grid-cols-[1fr_14rem_auto] items-center gap-3 border-b border-hair py-1.5"
      data-outcome={item.outcome}
    >
      <span>
        {item.action}
        <span className="block text-small text-soft">{item.expected}</span>
      </span>
      <input
        className="field"
        aria-label={`Note on: ${item.action}`}
        placeholder="note"
        value={note}
        maxLength={500}
        onChange={(event) => setNote(event.target.value)}
        onBlur={() => note !== item.note && write(item.outcome)}
      />
      <Outcomes item={item} waits={waits} onWrite={write} />
    </li>
  )
}

/** A stage that waits takes no outcome but “open”: what was written down too early can be taken back. */
function Outcomes({ item, waits, onWrite }: { item: Item; waits: boolean; onWrite: (outcome: Outcome) => void }) {
  return (
    <span role="group" aria-label={`Outcome of: ${item.action}`} className="flex">
      {CHOICES.map(([outcome, Sign, looks]) => {
        const pressed = item.outcome === outcome
        return (
          <button
            key={outcome}
            type="button"
            aria-pressed={pressed}
            disabled={waits && !pressed}
            className={
              'flex items-center gap-1 border border-l-0 border-bus px-1.5 py-0.5 text-note first:border-l disabled:opacity-40 ' +
              (pressed ? looks : '')
            }
            onClick={() => onWrite(pressed ? 'open' : outcome)}
          >
            <Sign size={12} aria-hidden="true" />
            {outcome}
          </button>
        )
      })}
    </span>
  )
}
