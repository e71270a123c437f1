import type { ReactNode } from 'react'
import type { Controller } from '../../../core/site'
import { screenActions } from '../../store/screenSlice'
import { selectShown } from '../../store/selection'
import { useAppDispatch, useAppSelector } from '../../store/store'

interface Props {
  /** what is about to be done, as the question says it: "Which board do you flash?" */
  readonly asks: string
  readonly children: (controller: Controller) => ReactNode
}

/** What is done to one board is done to the one that a hand has picked, and to no first of a list. */
export function OneController({ asks, children }: Props) {
  const dispatch = useAppDispatch()
  const controllers = useAppSelector((state) => state.site.site!.controllers)
  const shown = useAppSelector(selectShown)
  const picked = controllers.find(({ id }) => id === shown) ?? (controllers.length === 1 ? controllers[0] : undefined)
  if (picked) return children(picked)
  if (controllers.length === 0) return <p className="mt-3 text-soft">No controller yet: add one on the bench first.</p>
  return (
    <section aria-label={asks} className="mt-3">
      <h2 className="rule-head">{asks}</h2>
      <div className="mt-2 flex flex-wrap gap-1.5">
        {controllers.map(({ id, name }) => (
          <button key={id} type="button" className="press" onClick={() => dispatch(screenActions.controllerPicked(id))}>
            {name}
          </button>
        ))}
      </div>
    </section>
  )
}
