import type { Job } from './job'

/** How long work stands, where it is shown. */
export function JobState({ job, name, onStop }: { job: Job<unknown>; name: string; onStop: () => void }) {
  if (job.state === 'failed')
    return (
      <p role="alert" className="text-error">
        {name} ended: {job.message}
      </p>
    )
  if (job.state !== 'running') return null
  return (
    <p role="status" className="flex items-center gap-2">
      {name} is running
      <progress className="w-40 accent-(--brass-fill)" value={job.done} aria-label={name} />
      <button type="button" className="press-quiet" onClick={onStop}>
        Stop
      </button>
    </p>
  )
}
