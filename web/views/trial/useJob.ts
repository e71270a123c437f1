import { useJobIn } from '../../parts/job'
import type { TrialJobs } from '../../workers/trialJobs.worker'

const open = (): Worker => new Worker(new URL('../../workers/trialJobs.worker.ts', import.meta.url), { type: 'module' })

/** Long work on the simulated house. */
export const useJob = <Result>() => useJobIn<TrialJobs, Result>(open)
