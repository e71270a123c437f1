import { useState } from 'react'
import { Link, Navigate, useSearchParams } from 'react-router'
import type { LogEntry } from '../../../core/api'
import { OnceRead } from '../../parts/OnceRead'
import { side, SideTabs, SideView, useSide } from '../../parts/Sides'
import { ViewHead } from '../../parts/ViewHead'
import { selectShown } from '../../store/selection'
import { useAppSelector } from '../../store/store'
import { isFound, LogFilter, type LogSearch } from './LogFilter'
import { Entry } from './Entry'
import { NoteForm } from './NoteForm'

/** What was built, flashed, tried, tested and found. */
export function LogbookView() {
  const [parameters] = useSearchParams()
  const run = parameters.get('run')
  // a phone may still have the address that test runs had
  if (run !== null) return <Navigate to={`../handover?run=${run}`} relative="path" replace />
  return <LogbookSides />
}

const SIDES = [
  side('log', 'Log', async () => Entries),
  side('upkeep', 'Upkeep', async () => (await import('./Upkeep')).Upkeep),
] as const

function LogbookSides() {
  const [shown, pick] = useSide(SIDES)
  return (
    <div className="px-5 py-4">
      <SideTabs label="Sides of Logbook" sides={SIDES} current={shown.id} onPick={pick} />
      <div className="mt-3">
        <ViewHead title="Logbook" note="Builds, flashes, trials and tests write themselves down; add what you saw.">
          <Link className="press" to="../whatif?side=fault">
            Find the fault
          </Link>
        </ViewHead>
      </div>
      <OnceRead>
        <SideView side={shown} />
      </OnceRead>
    </div>
  )
}

function Entries() {
  const narrowed = useAppSelector(selectShown)
  const entries = useAppSelector((state) => state.logbook.entries)
  const [search, setSearch] = useState<LogSearch>({ words: '', kind: '' })
  /** the entry that the next one corrects */
  const [correcting, setCorrecting] = useState<LogEntry | null>(null)
  const here = entries.filter(({ controller }) => narrowed === null || controller === null || controller === narrowed)
  const seen = here.filter((entry) => isFound(entry, search))
  return (
    <div className="mt-2 min-w-0">
      <NoteForm controller={narrowed} correcting={correcting} onCorrected={() => setCorrecting(null)} />
      {here.length > 0 && <LogFilter search={search} onSearch={setSearch} found={seen} />}
      {here.length > 0 && seen.length === 0 && <p className="py-3 text-soft">No entry has all of these words.</p>}
      {here.length === 0 && (
        <p className="py-3 text-soft">
          No entries yet. Builds, flashes, saved trials and tests come here by themselves; the first is made on Build.
        </p>
      )}
      <ol>
        {seen.map((entry) => (
          <Entry key={entry.id} entry={entry} entries={entries} onCorrect={setCorrecting} />
        ))}
      </ol>
    </div>
  )
}
