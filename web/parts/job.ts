import { proxy, wrap, type Remote } from 'comlink'
import { useCallback, useEffect, useRef, useState } from 'react'

/** How a long piece of work in a worker of its own stands. */
export type Job<Result> =
  | { readonly state: 'none' }
  | { readonly state: 'running'; readonly done: number }
  | { readonly state: 'done'; readonly result: Result }
  | { readonly state: 'failed'; readonly message: string }

type Work<Jobs, Result> = (remote: Remote<Jobs>, onProgress: (done: number) => void) => Promise<Result>

/** One piece of work at a time; it can be stopped, and ends with the page that asked for it. `open`: its worker. */
export function useJobIn<Jobs, Result>(open: () => Worker) {
  const [job, setJob] = useState<Job<Result>>({ state: 'none' })
  const worker = useRef<Worker | null>(null)
  useEffect(() => () => worker.current?.terminate(), [])
  const stop = useCallback((): void => {
    worker.current?.terminate()
    worker.current = null
    setJob({ state: 'none' })
  }, [])
  const start = useCallback(
    (work: Work<Jobs, Result>): void => {
      worker.current?.terminate()
      const own = open()
      worker.current = own
      setJob({ state: 'running', done: 0 })
      const isMine = (): boolean => worker.current === own
      const onProgress = proxy((done: number): void => {
        if (isMine()) setJob({ state: 'running', done })
      })
      const end = (job: Job<Result>): void => {
        if (!isMine()) return
        own.terminate()
        worker.current = null
        setJob(job)
      }
      work(wrap<Jobs>(own), onProgress).then(
        (result) => end({ state: 'done', result }),
        (error: unknown) => end({ state: 'failed', message: (error as Error).message }),
      )
    },
    [open],
  )
  return { job, start, stop }
}
