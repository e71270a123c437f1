import { useState } from 'react'
import { useNavigate } from 'react-router'
import { screenActions } from '../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../store/store'
import { WALK } from './walkSteps'

/** The example on which a newcomer is offered the walk. */
const OFFERED_ON = 'fernhollow'
const KEY = 'vestibule-walk'

/** Whether the walk was walked or hidden in this browser before. */
const isKnown = (): boolean => typeof localStorage !== 'undefined' && localStorage.getItem(KEY) !== null
const remember = (): void => localStorage.setItem(KEY, 'seen')

/**
 * A line under the head that leads through the steps of the job. It covers nothing, waits for nobody, and is left at
 * any time.
 */
export function Walk() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site?.id)
  const at = useAppSelector((state) => state.screen.walk)
  const [known, setKnown] = useState(isKnown)
  const leave = () => {
    remember()
    setKnown(true)
    dispatch(screenActions.walked(null))
  }
  if (at !== null) return <WalkLine at={at} onLeave={leave} />
  if (known || site !== OFFERED_ON) return null
  return (
    <section aria-label="Walk" className={BAR}>
      <span className="min-w-0 flex-1">New here? A walk through this example takes two minutes.</span>
      <Go to={0}>Start walk</Go>
      <button type="button" className="press-quiet" onClick={leave}>
        Hide
      </button>
    </section>
  )
}

const BAR =
  'flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-bus bg-panel px-4 py-1.5 text-note print:hidden'

function WalkLine({ at, onLeave }: { at: number; onLeave: () => void }) {
  const step = WALK[at]!
  return (
    <section aria-label="Walk" className={BAR}>
      <p className="min-w-60 flex-1" role="status">
        <span className="font-mono text-soft">
          {at + 1} of {WALK.length}
        </span>{' '}
        <span className="font-semibold">{step.title}.</span> {step.text}
      </p>
      {at > 0 && <Go to={at - 1}>Back</Go>}
      {at + 1 < WALK.length ? <Go to={at + 1}>Next step</Go> : null}
      <button type="button" className="press-quiet" onClick={onLeave}>
        {at + 1 < WALK.length ? 'Leave walk' : 'End walk'}
      </button>
    </section>
  )
}

/** Leads to a step of the walk. */
function Go({ to, children }: { to: number; children: string }) {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const site = useAppSelector((state) => state.site.site?.id) ?? ''
  const go = () => {
    dispatch(screenActions.walked(to))
    void navigate(`/${site}/${WALK[to]!.path}`)
  }
  return (
    <button type="button" className="press" onClick={go}>
      {children}
    </button>
  )
}
