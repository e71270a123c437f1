import { proxy, wrap, type Remote } from 'comlink'
import { useCallback, useEffect, useRef, useState } from 'react'
import type { Site } from '../../../core/site'
import type { TrialAction, TrialSnapshot } from '../../../core/trial'
import type { TrialWorker } from '../../workers/trial.worker'

/** A house in a worker. It begins anew when the site changes; `restart` begins it anew by hand. */
export function useTrial(site: Site): {
  snapshot: TrialSnapshot | null
  act: (action: TrialAction) => void
  restart: () => void
} {
  const [snapshot, setSnapshot] = useState<TrialSnapshot | null>(null)
  const [round, setRound] = useState(0)
  const remote = useRef<Remote<TrialWorker> | null>(null)
  useEffect(() => {
    const worker = new Worker(new URL('../../workers/trial.worker.ts', import.meta.url), { type: 'module' })
    const trial = wrap<TrialWorker>(worker)
    remote.current = trial
    void trial.begin(site, proxy(setSnapshot))
    return () => {
      remote.current = null
      worker.terminate()
    }
  }, [site, round])
  const act = useCallback((action: TrialAction) => void remote.current?.act(action), [])
  const restart = useCallback(() => setRound((before) => before + 1), [])
  return { snapshot, act, restart }
}
