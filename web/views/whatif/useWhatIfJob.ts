import { useEffect, useRef, useState } from 'react'
import type { Remote } from 'comlink'
import { useJobIn } from '../../parts/job'
import type { WhatIfJobs } from '../../workers/whatIf.worker'

const open = (): Worker => new Worker(new URL('../../workers/whatIf.worker.ts', import.meta.url), { type: 'module' })

/** Long work on failures. */
export const useWhatIfJob = <Result>() => useJobIn<WhatIfJobs, Result>(open)

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
  // eslint-disable-next-line react-hooks/exhaustive-deps
  useEffect(() => start((remote) => ask.current(remote)), [start, ...key])
  if (job.state === 'done' && job.result !== last) setLast(job.result)
  return { job, stop, answer: job.state === 'done' ? job.result : last }
}
