import { differenceInCalendarDays, format } from 'date-fns'
import { CalendarDays, Download } from 'lucide-react'
import { useCallback, useState } from 'react'
import { addressOf, type UpkeepRow } from '../../../core/api'
import type { PartId } from '../../../core/parts'
import { graphOf } from '../whatif/graph'
import { counted } from '../../../core/site'
import { saveBytes } from '../../parts/save'
import { useAsked } from '../../parts/useAsked'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { selectShown } from '../../store/selection'
import { useAppSelector } from '../../store/store'

const concerns = ({ kind }: { kind: string }): boolean => ['logbook', 'edit', 'credentials', 'boards'].includes(kind)

/** What wears, ages or is to be looked at, what is due first on top. */
export function Upkeep() {
  const site = useAppSelector((state) => state.site.site)!
  const shown = useAppSelector(selectShown)
  const ask = useCallback(() => call('upkeep', { site: site.id }), [site.id])
  const page = useAsked(ask, concerns)
  if (!page) return <p className="mt-3 text-soft">Loading …</p>
  const rows = page.items.filter(({ controller }) => shown === null || controller === null || controller === shown)
  return (
    <div className="mt-3">
      <div className="flex flex-wrap items-center gap-2">
        <a className="press" href={addressOf('calendar', { site: site.id })} download>
          <CalendarDays size={14} aria-hidden="true" />
          Save as calendar (ICS)
        </a>
        <Backup />
      </div>
      <div className="mt-3 overflow-x-auto">
        <table className="sheet w-full">
          <caption className="sr-only">Upkeep that is due</caption>
          <thead>
            <tr>
              {['Due', 'What', 'Worked out from', ''].map((name) => (
                <th key={name} scope="col">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <Line key={row.id} row={row} site={site.id} />
            ))}
          </tbody>
        </table>
      </div>
      <FaultsByPart />
    </div>
  )
}

/** "in 12 days", and what is past its day by a sign too. */
function DueWords({ due }: { due: string | null }) {
  if (due === null) return <span className="text-soft">–</span>
  const days = differenceInCalendarDays(new Date(due), new Date())
  const words = days < 0 ? `${-days} days ago` : days === 0 ? 'today' : `in ${counted(days, 'day')}`
  return (
    <span className={days <= 0 ? 'font-semibold text-error' : days < 31 ? 'font-semibold text-warning' : ''}>
      {days <= 0 && <span aria-hidden="true">✕ </span>}
      {format(new Date(due), 'd MMM yyyy')}
      <span className="block text-small font-normal text-soft">{words}</span>
    </span>
  )
}

function Line({ row, site }: { row: UpkeepRow; site: string }) {
  const done = () => void attempt(call('upkeepDone', { site, item: row.id }), 'Written to the logbook')
  return (
    <tr data-upkeep={row.id}>
      <td className="text-note whitespace-nowrap">
        <DueWords due={row.due} />
      </td>
      <td>{row.what}</td>
      <td className="text-note text-soft">{row.detail}</td>
      <td>
        {row.byHand && row.kind !== 'backup' && (
          <button
            type="button"
            className="press whitespace-nowrap"
            aria-label={`Done today: ${row.what}`}
            onClick={done}
          >
            Done today
          </button>
        )}
      </td>
    </tr>
  )
}

/** Everything in one file, after the server has restored it to try it. */
function Backup() {
  const [said, setSaid] = useState<string | null>(null)
  const save = async () => {
    setSaid('Backing up, and trying it by restoring …')
    const answer = await fetch(addressOf('backup', {}), { method: 'POST' }).catch(() => null)
    if (!answer?.ok) return setSaid('The backup could not be made: see the server’s log.')
    const { sites, builds, entries } = JSON.parse(answer.headers.get('X-Tried') ?? '{}') as Record<string, number>
    const name = /filename="([^"]+)"/.exec(answer.headers.get('Content-Disposition') ?? '')?.[1] ?? 'vestibule.backup'
    saveBytes(name, await answer.blob())
    setSaid(
      `Tried by restoring: ${sites} sites, ${builds} builds, ${entries} log entries. It opens every credential: keep it as you keep keys.`,
    )
  }
  return (
    <>
      <button type="button" className="press" onClick={() => void save()}>
        <Download size={14} aria-hidden="true" />
        Save a backup of everything
      </button>
      <span role="status" className="text-note text-soft">
        {said}
      </span>
    </>
  )
}

/** Faults that named their part, by part: what fails again and again. */
function FaultsByPart() {
  const site = useAppSelector((state) => state.site.site)!
  const entries = useAppSelector((state) => state.logbook.entries)
  const corrected = new Set(entries.map(({ corrects }) => corrects))
  const counts = new Map<string, number>()
  for (const { id, kind, part } of entries)
    if (kind === 'fault' && part !== null && !corrected.has(id)) counts.set(part, (counts.get(part) ?? 0) + 1)
  if (counts.size === 0) return null
  const graph = graphOf(site)
  return (
    <section aria-label="Faults by part" className="mt-5">
      <h2 className="rule-head">Faults by part</h2>
      <ul>
        {[...counts]
          .sort((a, b) => b[1] - a[1])
          .map(([part, count]) => (
            <li key={part} className="flex border-b border-hair py-1 text-note">
              {graph.get(part as PartId)?.name ?? part}
              <span className="ml-auto font-mono">{count}</span>
            </li>
          ))}
      </ul>
    </section>
  )
}
