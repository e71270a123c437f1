import { expose } from 'comlink'
import type { Site } from '../../core/site'
import type { Deed, TrialAction } from '../../core/trial'
import { TrialRun, type Look, type Machine, type TrialFrame } from './trialRun'

/** The simulated house in a worker, in time. */

const machine: Machine = {
  now: () => performance.now(),
  wake: (run, ms) => {
    const timer = setTimeout(run, ms)
    return () => clearTimeout(timer)
  },
}
let run: TrialRun | null = null

const trial = {
  begin(site: Site, listener: (frame: TrialFrame) => void, seed: number, deeds: readonly Deed[]): void {
    run?.end()
    run = new TrialRun(site, machine, listener, seed, deeds)
  },
  act: (action: TrialAction): void => run?.act(action),
  play: (pace: number): void => run?.play(pace),
  goTo: (t: number): void => run?.goTo(t),
  step: (by: 1 | -1): void => run?.step(by),
  lookAt: (look: Look): void => run?.lookAt(look),
  takeOut: (index: number): void => run?.takeOut(index),
  move: (index: number, t: number): void => run?.move(index, t),
  compare: (on: boolean): void => run?.compare(on),
  asScenario: (title: string): string => run?.asScenario(title) ?? '',
  asWave: (): string => run?.asWave() ?? '',
  asTable: (): string => run?.asTable() ?? '',
}
export type TrialWorker = typeof trial

expose(trial)
