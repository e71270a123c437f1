import { useEffect, useState } from 'react'
import { onNews } from '../store/liveNews'

/**
 * What the server answers, asked once and again whenever it says that it is another; `about` tells whether a piece of
 * news concerns it. One question at a time: what comes meanwhile is asked for once more.
 */
export function useAsked<T>(
  ask: () => Promise<T>,
  about: (news: { kind: string; service?: string }) => boolean,
): T | null {
  const [answer, setAnswer] = useState<T | null>(null)
  useEffect(() => {
    let asking = false
    let again = false
    let stopped = false
    const run = async (): Promise<void> => {
      if (asking) return void (again = true)
      asking = true
      const next = await ask().catch(() => null)
      asking = false
      if (stopped) return
      setAnswer(next)
      if (!again) return
      again = false
      void run()
    }
    void run()
    const stop = onNews((news) => about(news) && void run())
    return () => {
      stopped = true
      stop()
    }
  }, [ask, about])
  return answer
}
