import { lazy, Suspense, useDeferredValue, useState } from 'react'
import { whereKey, type Finding, type Unchecked } from '../../core/findings'
import { comes } from '../parts/comes'
import { FindingTag } from '../parts/FindingTag'
import { selectFindings, selectOpenFindings, selectUnchecked } from '../store/findings'
import { useAppSelector } from '../store/store'
import { FindingItem } from './FindingItem'
import { concerns, useHere, useInHand } from './here'

// The panel of a cell comes with the view of the ways.
const CellPanel = lazy(() => comes(async () => ({ default: (await import('../views/ways/CellPanel')).CellPanel })))

/** The gravest are shown at once; a site that is only just begun can have hundreds. */
const SHOWN = 25

/** What, why, what mends it: on every view. On the crossbar the picked cell's path stands above it. */
export function FindingsDrawer() {
  const here = useHere()
  // The drawer may be a frame behind the hand: typing comes first.
  const all = useDeferredValue(useAppSelector(selectOpenFindings))
  const inHand = useInHand()
  const unchecked = useDeferredValue(useAppSelector(selectUnchecked))
  // What is about the thing in hand comes first, then what this side shows; within that, the gravest first, as the
  // checks sort them.
  const first = all.filter(inHand)
  const near = all.filter((finding) => !inHand(finding) && concerns(here, finding))
  const far = all.filter((finding) => !inHand(finding) && !concerns(here, finding))
  return (
    <>
      {here.step === 'ways' && !here.side && (
        <Suspense fallback={null}>
          <CellPanel />
        </Suspense>
      )}
      <Verdict open={all.length} unchecked={unchecked.length} />
      <OpenFindings near={[...first, ...near]} far={far} />
      <NotChecked rows={unchecked} />
      <Accepted />
    </>
  )
}

function Verdict({ open, unchecked }: { open: number; unchecked: number }) {
  if (open > 0) return <h2 className="text-head font-bold">{open === 1 ? '1 finding' : `${open} findings`}</h2>
  return (
    <>
      <h2 className="text-head font-bold">{unchecked > 0 ? 'Nothing found yet' : 'No findings'}</h2>
      <p className="mt-1 text-note text-soft">
        {unchecked > 0
          ? 'All checks that were made pass. These were not made:'
          : 'Every check was made, and passes. Next: build it, then try it in the trial.'}
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

interface OpenProps {
  /** about what is looked at */
  readonly near: readonly Finding[]
  /** about other views */
  readonly far: readonly Finding[]
}

function OpenFindings({ near, far }: OpenProps) {
  const [most, setMost] = useState(SHOWN)
  const total = near.length + far.length
  return (
    <>
      <FindingList findings={near.slice(0, most)} />
      {far.length > 0 && near.length < most && (
        <>
          <h3 className="rule-head mt-4 text-soft">On other views</h3>
          <FindingList findings={far.slice(0, most - near.length)} />
        </>
      )}
      {total > most && (
        <button type="button" className="press mt-2 self-start" onClick={() => setMost(total)}>
          Show {total - most} more
        </button>
      )}
    </>
  )
}

const FindingList = ({ findings }: { findings: readonly Finding[] }) => (
  <ul>
    {findings.map((finding) => (
      <FindingItem key={`${finding.id}|${whereKey(finding.where)}|${finding.what}`} finding={finding} />
    ))}
  </ul>
)

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
