import { Printer } from 'lucide-react'
import { useState } from 'react'
import { Link } from 'react-router'
import type { Outcome, TestRun } from '../../../../core/api'
import { counted } from '../../../../core/site'
import { call } from '../../../store/api'
import { attempt } from '../../../store/attempt'
import { useAppSelector } from '../../../store/store'
import { NextTest } from './NextTest'
import { TestGroups } from './TestGroups'
import { countOf, nextTest, testsAfter, type Item } from './testProgress'
import { useLettingGo } from './useHand'

const write = (run: TestRun, item: Item, outcome: Outcome, note: string): void =>
  void attempt(call('setTestItem', { run: String(run.id), key: item.key, body: { outcome, note } }))

/** A test run on the real thing: the next test large, what is done folded away. */
export function TestRunSheet({ run, onClose }: { run: TestRun; onClose: () => void }) {
  const site = useAppSelector((state) => state.site.site)!
  const name = site.controllers.find((candidate) => candidate.id === run.controller)?.name ?? run.controller
  /** a test that a hand has picked from the list; null: the next one */
  const [picked, pick] = useState<string | null>(null)
  const current = run.items.find(({ key }) => key === picked) ?? nextTest(run)
  useLettingGo(run.id)
  const answer = (item: Item, outcome: Outcome, note: string) => {
    write(run, item, outcome, note)
    pick(null)
  }
  return (
    <section aria-label="Test run" className="mt-2">
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <h2 className="font-place text-room font-bold">{name}, test run</h2>
        <Progress run={run} />
        <span className="ml-auto flex items-center gap-2">
          <Link className="press" to={`/${site.id}/paper?side=test&run=${run.id}`}>
            <Printer size={13} aria-hidden="true" />
            Print (A4)
          </Link>
          <button type="button" className="press" onClick={onClose}>
            Close test run
          </button>
        </span>
      </div>
      <ProgressBar items={run.items} />
      <div className="mt-3 grid gap-x-8 gap-y-4 @3xl:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
        <div className="min-w-0 @3xl:sticky @3xl:top-3 @3xl:self-start">
          {current ? (
            <NextTest key={current.key} run={run} item={current} onAnswer={answer} />
          ) : (
            <NoneLeft items={run.items} onPick={pick} />
          )}
          {current && <ComingTests items={testsAfter(run, current).slice(0, 3)} />}
        </div>
        <TestGroups run={run} name={name} current={current?.key ?? null} onPick={pick} />
      </div>
    </section>
  )
}

function Progress({ run }: { run: TestRun }) {
  const open = countOf(run.items, 'open')
  const failed = countOf(run.items, 'failed')
  return (
    <span className="text-note text-soft">
      <span className="font-mono text-base text-ink" data-testid="tested">
        {run.items.length - open} of {run.items.length}
      </span>{' '}
      done{failed > 0 && <span className="font-semibold text-error">, {failed} failed</span>}. Site at revision{' '}
      {run.revision}.
    </span>
  )
}

/** Passed, failed and skipped as parts of a bar; the words beside it say the same. */
function ProgressBar({ items }: { items: readonly Item[] }) {
  const part = (outcome: Outcome) => ({ width: `${(countOf(items, outcome) / items.length) * 100}%` })
  return (
    <div aria-hidden="true" className="mt-1.5 flex h-1.5 border border-bus">
      <span className="bg-rest" style={part('passed')} />
      <span className="bg-error" style={part('failed')} />
      <span className="bg-bus" style={part('skipped')} />
    </div>
  )
}

/** Nothing can be done next: all is done, or what failed holds the rest back. */
function NoneLeft({ items, onPick }: { items: readonly Item[]; onPick: (key: string) => void }) {
  const failed = items.filter(({ outcome }) => outcome === 'failed')
  return (
    <div className="border-2 border-ink bg-panel p-4 text-head">
      {failed.length === 0 ? (
        <p>Every test of this run is done. Print it, and store it with the box.</p>
      ) : (
        <>
          <p>{counted(failed.length, 'test')} failed. Find the fault, repair it with the supply off, and test again:</p>
          <ul className="mt-2 space-y-1.5">
            {failed.map(({ key, action, note }) => (
              <li key={key}>
                <button type="button" className="press text-left" onClick={() => onPick(key)}>
                  {action}
                </button>
                {note && <span className="ml-2 text-note text-soft">{note}</span>}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  )
}

const ComingTests = ({ items }: { items: readonly Item[] }) =>
  items.length > 0 && (
    <div className="mt-3 text-note">
      <h3 className="text-small text-soft">Next</h3>
      <ul>
        {items.map(({ key, action }) => (
          <li key={key} className="truncate border-b border-hair py-1">
            {action}
          </li>
        ))}
      </ul>
    </div>
  )
