import { format } from 'date-fns'
import { useState } from 'react'
import { Link, Navigate, useSearchParams } from 'react-router'
import type { LogEntry } from '../../../core/api'
import { ViewHead } from '../../parts/ViewHead'
import { selectShown } from '../../store/selection'
import { useAppSelector } from '../../store/store'
import { isFound, LogFilter, type LogSearch } from './LogFilter'
import { NoteForm } from './NoteForm'

const SIGNS: Record<LogEntry['kind'], string> = {
  build: '▤',
  flash: '⇥',
  trial: '▷',
  test: '☑',
  note: '✎',
  fault: '✕',
}

/** What was built, flashed, tried, tested and found. */
export function LogbookView() {
  const [parameters] = useSearchParams()
  const run = parameters.get('run')
  // a phone may still have the address that test runs had
  if (run !== null) return <Navigate to={`../handover?run=${run}`} relative="path" replace />
  return (
    <div className="px-5 py-4">
      <ViewHead title="Logbook" note="Builds, flashes, trials and tests write themselves down; add what you saw.">
        <Link className="press" to="../whatif?side=fault">
          Find the fault
        </Link>
      </ViewHead>
      <Entries />
    </div>
  )
}

function Entries() {
  const narrowed = useAppSelector(selectShown)
  const entries = useAppSelector((state) => state.logbook.entries)
  const [search, setSearch] = useState<LogSearch>({ words: '', kind: '' })
  const here = entries.filter(({ controller }) => narrowed === null || controller === null || controller === narrowed)
  const seen = here.filter((entry) => isFound(entry, search))
  return (
    <div className="min-w-0">
      <NoteForm controller={narrowed} />
      {here.length > 0 && <LogFilter search={search} onSearch={setSearch} found={seen} />}
      {here.length > 0 && seen.length === 0 && <p className="py-3 text-soft">No entry has all of these words.</p>}
      {here.length === 0 && (
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
