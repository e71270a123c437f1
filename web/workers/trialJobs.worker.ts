import { expose } from 'comlink'
import { acceptanceRun, type AcceptanceReport } from '../../core/acceptance'
import { runMeasures, wayLatencies, type RunMeasures, type WayLatency } from '../../core/measures'
import { readScenario, runScenario, type ScenarioRun } from '../../core/scenario'
import type { Site } from '../../core/site'
import { TracksKept, World, type Deed } from '../../core/trial'

/** Long work on the simulated house, as fast as it goes, in a worker of its own: scenarios, acceptance, measures. */
const jobs = {
  /** Plays a scenario as fast as it goes; a text that is none says so. */
  playScenario(site: Site, text: string, seed: number): { readonly run: ScenarioRun } | { readonly message: string } {
    const answer = readScenario(text, site)
    return answer.ok ? { run: runScenario(site, answer.scenario, { seed }) } : { message: answer.message }
  },
  accept(site: Site, seed: number, onProgress: (done: number) => void): AcceptedRun {
    const { tryout, ...report } = acceptanceRun(site, { seed, onProgress })
    return { report, deeds: tryout.run.deeds }
  },
  measure(site: Site, samples: number, onProgress: (done: number) => void): Measured {
    const tracks = new TracksKept()
    World.begin(site, 1, { onTrack: (event) => tracks.add(event) }).advance(DAY_MS)
    return { day: runMeasures(site, tracks, DAY_MS), latencies: wayLatencies(site, { samples, onProgress }) }
  },
}
const DAY_MS = 86_400_000

export interface AcceptedRun {
  readonly report: AcceptanceReport
  /** what was done in it, so that one can go there */
  readonly deeds: readonly Deed[]
}
export interface Measured {
  readonly day: RunMeasures
  readonly latencies: readonly WayLatency[]
}
export type TrialJobs = typeof jobs

expose(jobs)
