import { lazy, memo, Suspense, useDeferredValue, useState } from 'react'
import { useLocation, useNavigate, useSearchParams } from 'react-router'
import { acceptEdit, fixEdit, whereKey, type Finding } from '../../core/findings'
import { applyOperations } from '../../core/site'
import { edit } from '../store/editing'
import { selectFindings, selectOpenFindings } from '../store/findings'
import { screenActions } from '../store/screenSlice'
import { useAppDispatch, useAppSelector, useAppStore } from '../store/store'
import { FindingTag } from '../parts/FindingTag'

// The panel of a cell comes with the view of the ways.
const CellPanel = lazy(async () => ({ default: (await import('../views/ways/CellPanel')).CellPanel }))

/** The gravest are shown at once; a site that is only just begun can have hundreds. */
const SHOWN = 25

/** What, why, what mends it: on every view. On the crossbar the picked cell's path stands above it. */
export function FindingsDrawer() {
  // The drawer may be a frame behind the hand: typing comes first.
  const openFindings = useDeferredValue(useAppSelector(selectOpenFindings))
  const cell = useAppSelector((state) => state.screen.cell)
  const role = useAppSelector((state) => state.screen.role)
  const all = useAppSelector(selectFindings)
  const accepted = all.filter((finding) => finding.accepted !== undefined)
  const { pathname } = useLocation()
  const [parameters] = useSearchParams()
  const onWays = pathname.endsWith('/ways')
  const side = parameters.get('side')
  // What is about the thing in hand comes first; within that, the gravest first, as the checks sort them.
  const inHand = ({ where }: Finding): boolean =>
    onWays && side
      ? where.side === side
      : onWays
        ? where.channel === cell?.channel && (where.column === undefined || where.column === cell?.column)
        : where.role !== undefined && where.role === role
  const open = [...openFindings.filter(inHand), ...openFindings.filter((finding) => !inHand(finding))]
  const [most, setMost] = useState(SHOWN)
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
      <h2 className="text-head font-bold">{open.length === 0 ? 'Nothing to settle' : `${open.length} to settle`}</h2>
      {open.length === 0 && (
        <p className="mt-1 text-note text-soft">
          Every check that can be made of this site passes. Build it, then try it.
        </p>
      )}
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
      {accepted.length > 0 && (
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
      )}
    </aside>
  )
}

const FindingItem = memo(function FindingItem({ finding }: { finding: Finding }) {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const store = useAppStore()
  const [accepting, setAccepting] = useState(false)
  const [reason, setReason] = useState('')
  const { where } = finding
  const siteNow = () => store.getState().site.site!
  const show = () => {
    if (where.step === 'ways' && where.channel && where.column)
      dispatch(screenActions.cellPicked({ channel: where.channel, column: where.column }))
    if (where.step === 'bench' && where.controller) dispatch(screenActions.controllerPicked(where.controller))
    if (where.role) dispatch(screenActions.rolePicked(where.role))
    void navigate(`/${siteNow().id}/${where.step}${where.side ? `?side=${where.side}` : ''}`)
  }
  const accept = () => {
    const site = siteNow()
    const made = acceptEdit(site, finding, reason)
    dispatch(
      edit(made.label, (draft) => {
        draft.accepted = applyOperations(site, made.patch).accepted
      }),
    )
    setAccepting(false)
  }
  return (
    <li className="border-b border-hair py-2.5" data-finding={finding.id}>
      <div className="flex items-baseline gap-1.5">
        <FindingTag id={finding.id} severity={finding.severity} />
        <button
          type="button"
          className="text-left text-note text-soft underline decoration-hair underline-offset-2 hover:decoration-ink"
          onClick={show}
        >
          {finding.title}
        </button>
      </div>
      <p className="mt-1">{finding.what}</p>
      <p className="mt-0.5 text-note text-soft">{finding.why}</p>
      <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
        {finding.fixes.map((fix) => (
          <button
            key={fix.label}
            type="button"
            className="press text-left text-note leading-tight"
            onClick={() => dispatch(edit(fixEdit(siteNow(), finding, fix).label, fix.change))}
          >
            {fix.label}
          </button>
        ))}
        {!accepting && (
          <button
            type="button"
            className={`press-quiet ${finding.fixes.length === 0 ? '-ml-1.5' : ''}`}
            onClick={() => setAccepting(true)}
          >
            accept
          </button>
        )}
      </div>
      {accepting && (
        <form
          className="mt-1.5 flex gap-1.5"
          onSubmit={(event) => {
            event.preventDefault()
            if (reason.trim()) accept()
          }}
        >
          <input
            autoFocus
            className="field"
            aria-label={`Why ${finding.id} is accepted`}
            placeholder="because …"
            value={reason}
            maxLength={300}
            onChange={(event) => setReason(event.target.value)}
          />
          <button type="submit" className="press" disabled={!reason.trim()}>
            Accept
          </button>
        </form>
      )}
    </li>
  )
})
