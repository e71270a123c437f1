import { format } from 'date-fns'
import { Link, useSearchParams } from 'react-router'
import type { LogEntry } from '../../../core/api'
import { ViewHead } from '../../parts/ViewHead'
import { selectShown } from '../../store/selection'
import { useAppSelector } from '../../store/store'
import { NoteForm } from './NoteForm'
import { BuildsOnBoards, TestRuns } from './LogbookSide'
import { TestRunSheet } from './TestRunSheet'

const SIGNS: Record<LogEntry['kind'], string> = {
  build: '▤',
  flash: '⇥',
  trial: '▷',
  test: '☑',
  note: '✎',
  fault: '✕',
}

/** Which build is on which board, what was tested with what outcome, what failed later. */
export function LogbookView() {
  const runs = useAppSelector((state) => state.logbook.runs)
  // in the address, so that a phone at the box can be given it, and a reload stays in it
  const [parameters, setParameters] = useSearchParams()
  const run = runs.find((candidate) => String(candidate.id) === parameters.get('run'))
  const show = (id: number | null) => setParameters(id === null ? {} : { run: String(id) })
  return (
    <div className="px-5 py-4">
      {run ? (
        <>
          <h1 className="sr-only">Logbook</h1>
          <TestRunSheet run={run} onClose={() => show(null)} />
        </>
      ) : (
        <>
          <ViewHead title="Logbook" note="Builds, flashes, trials and tests write themselves down; add what you saw.">
            <Link className="press" to="../whatif?side=fault">
              Find the fault
            </Link>
          </ViewHead>
          <div className="mt-2 grid gap-6 @3xl:grid-cols-[minmax(0,1fr)_19rem]">
            <Entries />
            <div className="order-first space-y-5 @3xl:order-none">
              <TestRuns onShow={show} />
              <BuildsOnBoards />
            </div>
          </div>
        </>
      )}
    </div>
  )
}

function Entries() {
  const narrowed = useAppSelector(selectShown)
  const entries = useAppSelector((state) => state.logbook.entries)
  const seen = entries.filter(({ controller }) => narrowed === null || controller === null || controller === narrowed)
  return (
    <div className="min-w-0">
      <NoteForm controller={narrowed} />
      {seen.length === 0 && (
        <p className="py-3 text-soft">
          No entries yet. Builds, flashes, saved trials and tests come here by themselves; the first is made on Build.
        </p>
      )}
      <ol>
        {seen.map(({ id, at, kind, text }) => (
          <li
            key={id}
            className={`grid grid-cols-[6.5rem_1fr] gap-x-2 @xl:grid-cols-[6.5rem_5rem_1fr] border-b border-hair py-1.5 ${kind === 'fault' ? 'text-error' : ''}`}
          >
            <time dateTime={at} className="font-mono text-note text-soft">
              {format(new Date(at), 'd MMM HH:mm')}
            </time>
            <span className="text-note font-semibold">
              <span aria-hidden="true">{SIGNS[kind]}</span> {kind}
            </span>
            <span className="col-span-2 break-words @xl:col-span-1">{text}</span>
          </li>
        ))}
      </ol>
    </div>
  )
}
