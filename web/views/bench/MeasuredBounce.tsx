import { useCallback } from 'react'
import type { Input } from '../../../core/site'
import { settleFor } from '../../../core/witness'
import { useAsked } from '../../parts/useAsked'
import { call } from '../../store/api'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { withId } from '../../store/useChange'

const isBoards = ({ kind }: { kind: string }): boolean => kind === 'boards'

/** How long the real contact bounced, as its board has timed it, and the settle time that fits. */
export function MeasuredBounce({ input }: { input: Input }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site!.id)
  const ask = useCallback(() => call('boards', { site }), [site])
  const board = useAsked(ask, isBoards)?.boards.find(({ controller }) => controller === input.controller)
  const ms = board?.bounces[input.id]
  if (ms === undefined) return null
  const fits = settleFor(ms)
  const take = () =>
    void dispatch(
      edit(`${input.name} settles in ${fits} ms`, (draft) => {
        const target = withId(draft.inputs, input.id)
        if (!target) return
        target.bounceMs = ms
        target.settleMs = fits
      }),
    )
  return (
    <p className="col-span-full flex flex-wrap items-center gap-2 text-note" data-bounce={input.id}>
      The board timed a bounce of {ms === 255 ? '255 ms or more' : `${ms} ms`}.
      {fits === input.settleMs && input.bounceMs !== null ? (
        <span className="text-soft">The settle time fits it.</span>
      ) : (
        <button type="button" className="press" onClick={take}>
          Keep it, and settle in {fits} ms
        </button>
      )}
    </p>
  )
}
