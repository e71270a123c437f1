import { format } from 'date-fns'
import { useState } from 'react'
import type { LogEntry } from '../../../core/api'
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
  const [shown, setShown] = useState<number | null>(null)
  const run = runs.find((candidate) => candidate.id === shown)
  return (
    <div className="px-5 py-4">
      <h1 className="text-view font-bold">Logbook</h1>
      {run ? (
        <TestRunSheet run={run} onClose={() => setShown(null)} />
      ) : (
        <div className="mt-2 grid grid-cols-[minmax(0,1fr)_19rem] gap-6">
          <Entries />
          <div className="space-y-5">
            <BuildsOnBoards />
            <TestRuns onShow={setShown} />
          </div>
        </div>
      )}
    </div>
  )
}

function Entries() {
  const narrowed = useAppSelector((state) => state.screen.controller)
  const entries = useAppSelector((state) => state.logbook.entries)
  const seen = entries.filter(({ controller }) => narrowed === null || controller === null || controller === narrowed)
  return (
    <div className="min-w-0">
      <NoteForm controller={narrowed} />
      {seen.length === 0 && (
        <p className="py-3 text-soft">
          Nothing written down yet. A build, a flash, a trial that you keep and each test come here by themselves.
        </p>
      )}
      <ol>
        {seen.map(({ id, at, kind, text }) => (
          <li
            key={id}
            className={`grid grid-cols-[6.5rem_5rem_1fr] gap-2 border-b border-hair py-1.5 ${kind === 'fault' ? 'text-error' : ''}`}
          >
            <time dateTime={at} className="font-mono text-note text-soft">
              {format(new Date(at), 'd MMM HH:mm')}
            </time>
            <span className="text-note font-semibold">
              <span aria-hidden="true">{SIGNS[kind]}</span> {kind}
            </span>
            <span className="break-words">{text}</span>
          </li>
        ))}
      </ol>
    </div>
  )
}
