import { useEffect, useRef, useState } from 'react'
import type { Remote } from 'comlink'
import { useJobIn } from '../../parts/job'
import type { WhatIfJobs } from '../../workers/whatIf.worker'

const open = (): Worker => new Worker(new URL('../../workers/whatIf.worker.ts', import.meta.url), { type: 'module' })

/** Long work on failures. */
export const useWhatIfJob = <Result>() => useJobIn<WhatIfJobs, Result>(open)

/** The hand goes on before anything is asked: a document of 200 channels takes a while to hand over. */
const REST_MS = 80

/**
 * What is worked out for the page as it stands, and once more when `key` changes. What was shown before stays until the
 * new answer is there, so that nothing jumps.
 */
export function useAnswer<Result>(key: readonly unknown[], work: (remote: Remote<WhatIfJobs>) => Promise<Result>) {
  const { job, start, stop } = useWhatIfJob<Result>()
  const [last, setLast] = useState<Result | null>(null)
  const ask = useRef(work)
  useEffect(() => {
    ask.current = work
  })
  // the work is that of the key: a new function of the same key asks nothing new
  useEffect(() => {
    const waiting = setTimeout(() => start((remote) => ask.current(remote)), REST_MS)
    return () => clearTimeout(waiting)
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [start, ...key])
  if (job.state === 'done' && job.result !== last) setLast(job.result)
  return { job, stop, answer: job.state === 'done' ? job.result : last }
}
