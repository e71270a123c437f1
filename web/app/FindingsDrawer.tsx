import { lazy, Suspense, useDeferredValue, useState } from 'react'
import { useLocation, useSearchParams } from 'react-router'
import { whereKey, type Finding, type Unchecked } from '../../core/findings'
import { comes } from '../parts/comes'
import { FindingTag } from '../parts/FindingTag'
import { selectFindings, selectOpenFindings, selectUnchecked } from '../store/findings'
import { useAppSelector } from '../store/store'
import { FindingItem } from './FindingItem'

// The panel of a cell comes with the view of the ways.
const CellPanel = lazy(() => comes(async () => ({ default: (await import('../views/ways/CellPanel')).CellPanel })))

/** The gravest are shown at once; a site that is only just begun can have hundreds. */
const SHOWN = 25

/** Where the eye is: on the crossbar, on a side of the ways, or elsewhere. */
function usePlace() {
  const { pathname } = useLocation()
  const [parameters] = useSearchParams()
  return { onWays: pathname.endsWith('/ways'), side: parameters.get('side') }
}

/** Is a finding about the thing in hand: the picked side, cell or role? */
function useInHand(): (finding: Finding) => boolean {
  const { onWays, side } = usePlace()
  const cell = useAppSelector((state) => state.screen.cell)
  const role = useAppSelector((state) => state.screen.role)
  return ({ where }) => {
    if (!onWays) return where.role !== undefined && where.role === role
    if (side) return where.side === side
    return where.channel === cell?.channel && (where.column === undefined || where.column === cell?.column)
  }
}

/** What, why, what mends it: on every view. On the crossbar the picked cell's path stands above it. */
export function FindingsDrawer() {
  const { onWays, side } = usePlace()
  // The drawer may be a frame behind the hand: typing comes first.
  const all = useDeferredValue(useAppSelector(selectOpenFindings))
  const inHand = useInHand()
  const unchecked = useDeferredValue(useAppSelector(selectUnchecked))
  // What is about the thing in hand comes first; within that, the gravest first, as the checks sort them.
  const open = [...all.filter(inHand), ...all.filter((finding) => !inHand(finding))]
  return (
    <aside
      aria-label="Findings"
      className="flex w-72 shrink-0 flex-col overflow-auto border-l border-hair bg-panel px-3.5 py-3"
    >
      {onWays && !side && (
        <Suspense fallback={null}>
          <CellPanel />
        </Suspense>
      )}
      <Verdict open={open.length} unchecked={unchecked.length} />
      <OpenFindings open={open} />
      <NotChecked rows={unchecked} />
      <Accepted />
    </aside>
  )
}

function Verdict({ open, unchecked }: { open: number; unchecked: number }) {
  if (open > 0) return <h2 className="text-head font-bold">{open} to settle</h2>
  return (
    <>
      <h2 className="text-head font-bold">{unchecked > 0 ? 'Nothing found yet' : 'Nothing to settle'}</h2>
      <p className="mt-1 text-note text-soft">
        {unchecked > 0
          ? 'What was checked passes. The rest has not been looked at:'
          : 'Every check of this site was made, and passes. Build it, then try it.'}
      </p>
    </>
  )
}

/** Silence about what nobody filled in would be taken for "all is well". */
function NotChecked({ rows }: { rows: readonly Unchecked[] }) {
  if (rows.length === 0) return null
  return (
    <section aria-label="Not checked yet" className="mt-3">
      <h3 className="rule-head">{rows.length} not checked yet</h3>
      <ul className="mt-1 space-y-1 text-note">
        {rows.map(({ what, why }) => (
          <li key={`${what}|${why}`}>
            <span className="font-semibold">{what}</span>: {why}
          </li>
        ))}
      </ul>
    </section>
  )
}

function OpenFindings({ open }: { open: readonly Finding[] }) {
  const [most, setMost] = useState(SHOWN)
  return (
    <>
      <ul>
        {open.slice(0, most).map((finding) => (
          <FindingItem key={`${finding.id}|${whereKey(finding.where)}|${finding.what}`} finding={finding} />
        ))}
      </ul>
      {open.length > most && (
        <button type="button" className="press mt-2 self-start" onClick={() => setMost(open.length)}>
          Show {open.length - most} more
        </button>
      )}
    </>
  )
}

function Accepted() {
  const accepted = useAppSelector(selectFindings).filter((finding) => finding.accepted !== undefined)
  if (accepted.length === 0) return null
  return (
    <details className="mt-3 text-note">
      <summary className="cursor-pointer font-semibold">{accepted.length} accepted</summary>
      <ul>
        {accepted.map((finding) => (
          <li key={`${finding.id}|${whereKey(finding.where)}`} className="mt-1.5">
            <FindingTag id={finding.id} severity={finding.severity} /> {finding.where.name}: {finding.accepted}
          </li>
        ))}
      </ul>
    </details>
  )
}
