import { format } from 'date-fns'
import { useState } from 'react'
import { ask, sitePath } from '../../store/api'
import { attempt } from '../../store/editing'
import type { LogEntry } from '../../store/logbookSlice'
import { useAppSelector } from '../../store/store'
import { TestRunSheet } from './TestRunSheet'

const SIGNS: Record<LogEntry['kind'], string> = { build: '▤', flash: '⇥', trial: '▷', test: '☑', note: '✎', fault: '✕' }

/** Which build is on which board, what was tested with what outcome, what failed later. */
export function LogbookView() {
  const site = useAppSelector((state) => state.site.site)!
  const narrowed = useAppSelector((state) => state.screen.controller)
  const { entries, runs, boards, builds } = useAppSelector((state) => state.logbook)
  const [shown, setShown] = useState<number | null>(null)
  const nameOf = (id: string | null) => site.controllers.find((controller) => controller.id === id)?.name ?? id ?? ''
  const seen = entries.filter(
    (entry) => narrowed === null || entry.controller === null || entry.controller === narrowed,
  )
  const run = runs.find((candidate) => candidate.id === shown)
  const begin = async (controller: string) => {
    const answer = await attempt(ask<{ id: number }>('POST', `${sitePath(site.id)}/test-runs`, { controller }))
    if (answer) setShown(answer.id)
  }
  return (
    <div className="px-5 py-4">
      <h1 className="text-view font-bold">Logbook</h1>
      {run && <TestRunSheet run={run} onClose={() => setShown(null)} />}
      {!run && (
        <div className="mt-2 grid grid-cols-[minmax(0,1fr)_19rem] gap-6">
          <div className="min-w-0">
            <NoteForm controller={narrowed} />
            {seen.length === 0 && (
              <p className="py-3 text-soft">
                Nothing written down yet. A build, a flash, a trial that you keep and each test come here by themselves.
              </p>
            )}
            <ol>
              {seen.map((entry) => (
                <li
                  key={entry.id}
                  className={
                    'grid grid-cols-[6.5rem_5rem_1fr] gap-2 border-b border-hair py-1.5 ' +
                    `${entry.kind === 'fault' ? 'text-error' : ''}`
                  }
                >
                  <time dateTime={entry.at} className="font-mono text-note text-soft">
                    {format(new Date(entry.at), 'd MMM HH:mm')}
                  </time>
                  <span className="text-note font-semibold">
                    <span aria-hidden="true">{SIGNS[entry.kind]}</span> {entry.kind}
                  </span>
                  <span className="break-words">{entry.text}</span>
                </li>
              ))}
            </ol>
          </div>
          <div className="space-y-5">
            <section aria-label="Boards">
              <h2 className="rule-head">Which build is where</h2>
              <table className="sheet w-full">
                <tbody>
                  {site.controllers.map((controller) => {
                    const board = boards.find((candidate) => candidate.controller === controller.id)
                    return (
                      <tr key={controller.id}>
                        <td className="font-semibold">{controller.name}</td>
                        <td className="text-note">
                          {board
                            ? `build ${board.number}, ${board.changes.length ? 'behind the site' : 'as the site'}`
                            : builds.some((b) => b.controller === controller.id)
                              ? 'built, not flashed'
                              : 'nothing built'}
                        </td>
                      </tr>
                    )
                  })}
                </tbody>
              </table>
            </section>
            <section aria-label="Test runs">
              <h2 className="rule-head">Test runs</h2>
              <p className="mt-1.5 text-note text-soft">
                In the safe order: controller alone, relays with no load, load.
              </p>
              <div className="mt-1.5 flex flex-wrap gap-1.5">
                {site.controllers.map((controller) => (
                  <button key={controller.id} type="button" className="press" onClick={() => void begin(controller.id)}>
                    Test {controller.name}
                  </button>
                ))}
              </div>
              <ul className="mt-2">
                {runs.map((candidate) => {
                  const count = (outcome: string) => candidate.items.filter((item) => item.outcome === outcome).length
                  return (
                    <li key={candidate.id}>
                      <button
                        type="button"
                        aria-pressed={candidate.id === shown}
                        className="w-full border-b border-hair py-1 text-left text-note hover:bg-panel aria-pressed:bg-panel"
                        onClick={() => setShown(candidate.id)}
                      >
                        <span className="font-semibold">{nameOf(candidate.controller)}</span>,{' '}
                        {format(new Date(candidate.at), 'd MMM HH:mm')}
                        <span className="block text-small text-soft">
                          {count('passed')} passed, {count('failed')} failed, {count('open')} open
                        </span>
                      </button>
                    </li>
                  )
                })}
              </ul>
            </section>
          </div>
        </div>
      )}
    </div>
  )
}

function NoteForm({ controller }: { controller: string | null }) {
  const siteId = useAppSelector((state) => state.site.site!.id)
  const [text, setText] = useState('')
  const [fault, setFault] = useState(false)
  const write = async () => {
    const done = await attempt(
      ask('POST', `${sitePath(siteId)}/log`, { kind: fault ? 'fault' : 'note', controller, text }),
    )
    if (done) setText('')
  }
  return (
    <form
      className="flex items-end gap-2 border-b border-hair pb-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (text.trim()) void write()
      }}
    >
      <label className="flex-1">
        <span className="field-label">Write something down</span>
        <input className="field" value={text} maxLength={2000} onChange={(event) => setText(event.target.value)} />
      </label>
      <label className="flex min-h-7 items-center gap-1.5">
        <input
          type="checkbox"
          className="size-4 accent-(--ink)"
          checked={fault}
          onChange={(event) => setFault(event.target.checked)}
        />
        a fault
      </label>
      <button type="submit" className="press" disabled={!text.trim()}>
        Write
      </button>
    </form>
  )
}
