import { useCallback, useEffect, useState } from 'react'
import type { HandRow } from '../../../../core/api'
import { call } from '../../../store/api'
import { attempt } from '../../../store/attempt'
import { onNews } from '../../../store/liveNews'

export interface Hand {
  readonly row: HandRow | null
  /** takes the test anew: what was heard so far counts for nothing */
  readonly again: () => void
  readonly sees: (what: 'eye' | 'screen', seen: boolean) => void
}

/** Takes a test in hand for as long as it is shown, and hears what its board says. */
export function useHand(run: number, key: string, may: boolean): Hand {
  const [row, setRow] = useState<HandRow | null>(null)
  const take = useCallback(
    async (again: boolean) => {
      const answer = await call('takeTest', { run: String(run), body: { key, again } }).catch(() => null)
      if (answer) setRow(answer.hand)
    },
    [run, key],
  )
  useEffect(() => {
    if (!may) return undefined
    const stop = onNews((news) => {
      if (news.kind === 'hand' && news.hand.run === run && news.hand.key === key) setRow(news.hand)
    })
    void take(false)
    return stop
  }, [take, may, run, key])
  return {
    row: may ? row : null,
    again: () => void take(true),
    sees: (what, seen) => void attempt(call('seeTest', { run: String(run), key, body: { what, seen } })),
  }
}

/** When a run is left, nothing of it is in hand any more. */
export function useLettingGo(run: number): void {
  useEffect(() => () => void call('takeTest', { run: String(run), body: { key: null } }).catch(() => undefined), [run])
}
