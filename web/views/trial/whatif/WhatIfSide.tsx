import { useEffect, useState } from 'react'
import type { ChannelFaults, LeftRow, WhoIsLeft } from '../../../../core/faults'
import { partsOf, type PartId, type Place } from '../../../../core/parts'
import type { Site } from '../../../../core/site'
import { ViewHead } from '../../../parts/ViewHead'
import { useAppSelector } from '../../../store/store'
import type { WhatIf } from '../../../workers/trialJobs.worker'
import { JobState } from '../JobState'
import { Standing } from '../Standing'
import { useJob } from '../useJob'

/** So many pairs are listed of a channel. */
const MOST_PAIRS = 8
/** More ways than that are as good as many. */
const MOST_DOTS = 4

/** Who is still in control of each channel when one part fails, and which parts together leave nobody. */
export function WhatIfSide() {
  const site = useAppSelector((state) => state.site.site)!
  const [from, setFrom] = useState<Place>('here')
  const { job, start, stop } = useJob<WhatIf>()
  useEffect(() => start((remote) => remote.whatIf(site, from)), [start, site, from])
  return (
    <div className="px-5 py-2" data-testid="whatif">
      <ViewHead title="What if" note="Who can still turn a channel on when one part of the house fails.">
        <Standing place={from} onPick={setFrom} />
      </ViewHead>
      <JobState job={job} name="The calculation" onStop={stop} />
      {job.state === 'done' && <Found site={site} found={job.result} />}
    </div>
  )
}

function Found({ site, found: { left, faults, houseHours } }: { site: Site; found: WhatIf }) {
  const [picked, setPicked] = useState<string | null>(null)
  const channel = picked ?? left.rows[0]?.channel ?? null
  if (channel === null)
    return <p className="mt-3 text-soft">No channel to look at yet: add one on the bench, and a way in to it.</p>
  return (
    <>
      <Left left={left} faults={faults} picked={channel} onPick={setPicked} />
      <Reasons site={site} faults={faults.find((one) => one.channel === channel)} />
      <p className="mt-3 text-small text-soft">
        At least one channel without control: {houseHours.toFixed(0)} h per year. Failure rates are common practice, not
        measured. Feeds of smart lamps are not included.
      </p>
    </>
  )
}

interface LeftProps {
  readonly left: WhoIsLeft
  readonly faults: readonly ChannelFaults[]
  readonly picked: string | null
  readonly onPick: (channel: string) => void
}

/** Channels by parts: a dot for each way that is left, a dark plate where nobody is. */
const Left = ({ left: { columns, rows }, faults, picked, onPick }: LeftProps) => (
  <div className="mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label="Ways left by failed part">
    <table className="sheet">
      <thead>
        <tr>
          <th className="min-w-40">Channel</th>
          <th className="text-right">Ways</th>
          <th className="max-w-20 text-right">No control, h per year</th>
          {columns.map(({ name }) => (
            <th key={name} className="max-w-20 align-bottom">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <Row
            key={row.channel}
            row={row}
            names={columns.map(({ name }) => name)}
            hours={faults.find(({ channel }) => channel === row.channel)?.darkHours ?? null}
            isPicked={picked === row.channel}
            onPick={() => onPick(row.channel)}
          />
        ))}
      </tbody>
    </table>
  </div>
)

interface RowProps {
  readonly row: LeftRow
  readonly names: readonly string[]
  readonly hours: number | null
  readonly isPicked: boolean
  readonly onPick: () => void
}

const Row = ({ row, names, hours, isPicked, onPick }: RowProps) => (
  <tr className={isPicked ? 'bg-panel' : ''}>
    <td>
      <button
        type="button"
        aria-pressed={isPicked}
        className="min-h-6 text-left font-semibold hover:underline"
        onClick={onPick}
      >
        {row.name}
      </button>
    </td>
    <td className="text-right font-mono">{row.ways}</td>
    <td className="text-right font-mono">{hours === null ? 'always' : hours.toFixed(0)}</td>
    {row.left.map((count, i) => (
      <td key={names[i]}>
        <Cell count={count} ways={row.ways} />
      </td>
    ))}
  </tr>
)

function Cell({ count, ways }: { count: number; ways: number }) {
  if (ways === 0) return <span className="text-soft">–</span>
  if (count === 0)
    return (
      <span className="rounded-plate inline-block bg-plate px-1.5 text-small font-semibold text-plate-ink">nobody</span>
    )
  const words = `${count} of ${ways} left`
  return (
    <span
      title={words}
      className={count === ways ? 'text-soft' : count === 1 ? 'font-semibold text-warning' : 'text-brass'}
    >
      <span aria-hidden="true">
        {count === 1 ? '◐' : count > MOST_DOTS ? `${'●'.repeat(MOST_DOTS)}+` : '●'.repeat(count)}
      </span>
      <span className="sr-only">{words}</span>
    </span>
  )
}

/** For one channel: what alone and what in pairs leaves nobody, the likeliest first. */
function Reasons({ site, faults }: { site: Site; faults: ChannelFaults | undefined }) {
  if (!faults) return null
  const graph = partsOf(site)
  const named = (part: PartId): string => graph.get(part)?.name ?? part
  if (faults.cuts === null)
    return <p className="mt-4 border-l-4 border-warning pl-2">{faults.name}: no way in reaches it from there.</p>
  const alone = faults.cuts.filter((set) => set.length === 1).map((set) => named(set[0]!))
  const pairs = faults.cuts.filter((set) => set.length === 2)
  return (
    <section aria-label={`No control of ${faults.name}`} className="mt-4 grid gap-5 @3xl:grid-cols-3">
      <div>
        <h2 className="rule-head">{faults.name}: one failure is enough</h2>
        <p className="mt-1">{alone.length === 0 ? 'None.' : alone.join(' · ')}</p>
      </div>
      <div>
        <h2 className="rule-head">Two failures together</h2>
        {pairs.length === 0 && <p className="mt-1">None beyond those.</p>}
        <ul className="mt-1">
          {pairs.slice(0, MOST_PAIRS).map((set) => (
            <li key={set.join()}>{set.map(named).join(' and ')}</li>
          ))}
          {pairs.length > MOST_PAIRS && <li className="text-soft">and {pairs.length - MOST_PAIRS} more pairs</li>}
        </ul>
      </div>
      <div>
        <h2 className="rule-head">Most hours without control</h2>
        <ul className="mt-1">
          {faults.worst.map(({ part, hours }) => (
            <li key={part} className="flex justify-between gap-3">
              {named(part)} <span className="font-mono">{hours.toFixed(1)} h per year</span>
            </li>
          ))}
        </ul>
      </div>
    </section>
  )
}
