import { useCallback } from 'react'
import type { DueTest } from '../../../../core/api'
import { counted, type Controller } from '../../../../core/site'
import { useAsked } from '../../../parts/useAsked'
import { attempt } from '../../../store/attempt'
import { call } from '../../../store/api'
import { useAppSelector } from '../../../store/store'

/** Reasons that are named; the rest are counted. */
const MOST_WHY = 3

const concerns = ({ kind }: { kind: string }): boolean => kind === 'logbook' || kind === 'edit'

interface Props {
  readonly controllers: readonly Controller[]
  readonly onShow: (run: number) => void
}

/** What must be tested again since it last passed, and why: of each controller the smallest list. */
export const TestAgain = ({ controllers, onShow }: Props) => (
  <section aria-label="Test again">
    <h2 className="rule-head">Test again</h2>
    <ul className="mt-1">
      {controllers.map((controller) => (
        <Due key={controller.id} controller={controller} onShow={onShow} />
      ))}
    </ul>
  </section>
)

function Due({ controller: { id, name }, onShow }: { controller: Controller; onShow: (run: number) => void }) {
  const site = useAppSelector((state) => state.site.site)!.id
  const ask = useCallback(() => call('dueTests', { site, controller: id }), [site, id])
  const due = useAsked(ask, concerns)
  if (!due) return null
  const { again, of } = due
  const never = again.length === of && again.every(({ why }) => why[0] === 'never passed')
  const begin = async () => {
    const body = { controller: id, only: again.map(({ key }) => key) }
    const answer = await attempt(call('newTestRun', { site, body }))
    if (answer) onShow(answer.id)
  }
  return (
    <li className="border-b border-hair py-1.5 text-note">
      <span className="flex items-start justify-between gap-2">
        <span>
          <span className="font-semibold">{name}</span>: {wordsOf(again.length, of, never)}
        </span>
        {again.length > 0 && !never && (
          <button type="button" className="press shrink-0" onClick={() => void begin()}>
            Start run of {counted(again.length, 'test')}
          </button>
        )}
      </span>
      {again.length > 0 && !never && <Why again={again} />}
    </li>
  )
}

function wordsOf(again: number, of: number, never: boolean): string {
  if (of === 0) return 'nothing to test yet'
  if (never) return 'not tested yet'
  return again === 0 ? `all ${of} tests hold` : `${again} of ${counted(of, 'test')}`
}

/** What has changed, with how many tests each touches. */
function Why({ again }: { again: readonly DueTest[] }) {
  const counts = new Map<string, number>()
  for (const { why } of again) for (const one of why) counts.set(one, (counts.get(one) ?? 0) + 1)
  const sorted = [...counts].sort((a, b) => b[1] - a[1])
  return (
    <details className="text-small">
      <summary className="min-h-6 cursor-pointer text-soft">
        {sorted
          .slice(0, MOST_WHY)
          .map(([why, count]) => `${why} (${count})`)
          .join(', ')}
        {sorted.length > MOST_WHY && ` and ${sorted.length - MOST_WHY} more`}
      </summary>
      <ul>
        {again.map(({ key, action, why }) => (
          <li key={key} className="py-0.5">
            {action} <span className="text-soft">({why.join(', ')})</span>
          </li>
        ))}
      </ul>
    </details>
  )
}
