import { memo, useState, type FormEvent } from 'react'
import { useNavigate } from 'react-router'
import { acceptEdit, fixEdit, type Finding, type Fix, type Where } from '../../core/findings'
import { FindingTag } from '../parts/FindingTag'
import { keep } from '../store/editing'
import { screenActions } from '../store/screenSlice'
import { useAppDispatch, type Thunk } from '../store/store'

/** Picks the thing that a finding is about, so that it stands in hand where one is led. */
const pick =
  (where: Where): Thunk =>
  (dispatch) => {
    if (where.step === 'ways' && where.channel && where.column)
      dispatch(screenActions.cellPicked({ channel: where.channel, column: where.column }))
    if (where.step === 'bench' && where.controller) dispatch(screenActions.controllerPicked(where.controller))
    if (where.role) dispatch(screenActions.rolePicked(where.role))
  }

/** A fix and an acceptance are made on the document as it is when they are pressed. */
const settle =
  (finding: Finding, fix: Fix): Thunk =>
  (dispatch, getState) =>
    dispatch(keep(fixEdit(getState().site.site!, finding, fix)))
const accept =
  (finding: Finding, reason: string): Thunk =>
  (dispatch, getState) =>
    dispatch(keep(acceptEdit(getState().site.site!, finding, reason)))

/** One finding: what, why, and what mends it or lets it stand. */
export const FindingItem = memo(function FindingItem({ finding }: { finding: Finding }) {
  return (
    <li className="border-b border-hair py-2.5" data-finding={finding.id}>
      <FindingHead finding={finding} />
      <p className="mt-1">{finding.what}</p>
      <p className="mt-0.5 text-note text-soft">{finding.why}</p>
      <Settling finding={finding} />
    </li>
  )
})

function FindingHead({ finding: { id, severity, title, where } }: { finding: Finding }) {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const show = () =>
    dispatch((run, getState) => {
      run(pick(where))
      const side = where.side ? `?side=${where.side}&at=${encodeURIComponent(where.id)}` : ''
      void navigate(`/${getState().site.site!.id}/${where.step}${side}`)
    })
  return (
    <div className="flex items-baseline gap-1.5">
      <FindingTag id={id} severity={severity} />
      <button
        type="button"
        className={'text-left text-note text-soft underline decoration-hair underline-offset-2 hover:decoration-ink'}
        onClick={show}
      >
        {title}
      </button>
    </div>
  )
}

function Settling({ finding }: { finding: Finding }) {
  const dispatch = useAppDispatch()
  const [accepting, setAccepting] = useState(false)
  const take = (reason: string) => {
    dispatch(accept(finding, reason))
    setAccepting(false)
  }
  return (
    <>
      <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
        {finding.fixes.map((fix) => (
          <button
            key={fix.label}
            type="button"
            className="press text-left text-note leading-tight"
            onClick={() => dispatch(settle(finding, fix))}
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
            Accept
          </button>
        )}
      </div>
      {accepting && <AcceptForm id={finding.id} onAccept={take} />}
    </>
  )
}

function AcceptForm({ id, onAccept }: { id: string; onAccept: (reason: string) => void }) {
  const [reason, setReason] = useState('')
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (reason.trim()) onAccept(reason)
  }
  return (
    <form className="mt-1.5 flex gap-1.5" onSubmit={submit}>
      <input
        autoFocus
        className="field"
        aria-label={`Reason to accept ${id}`}
        placeholder="reason"
        value={reason}
        maxLength={300}
        onChange={(event) => setReason(event.target.value)}
      />
      <button type="submit" className="press" disabled={!reason.trim()}>
        Accept finding
      </button>
    </form>
  )
}
