import { proxy, wrap, type Remote } from 'comlink'
import { useEffect, useMemo, useSyncExternalStore } from 'react'
import { toast } from 'sonner'
import type { Site } from '../../../core/site'
import type { Deed, TrialAction } from '../../../core/trial'
import type { TrialWorker } from '../../workers/trial.worker'
import type { Look, TrialFrame } from '../../workers/trialRun'

/** What a house is put up for: a document, the controller that is picked, and the part of the site that it needs. */
export interface Plot {
  readonly whole: Site
  readonly controller: string | null
  readonly part: Site
}

/** A house in a worker, with what it looks like now. */
interface House extends Plot {
  readonly worker: Worker
  readonly remote: Remote<TrialWorker>
  frame: TrialFrame | null
}

/** One house at a time. It stands while the page does: looking elsewhere ends nothing. */
let standing: House | null = null
/** what the next house begins with: a run that was made elsewhere, and the instant to go to */
let brought: { readonly deeds: readonly Deed[]; readonly to: number } | null = null
const listeners = new Set<() => void>()
const listen = (listener: () => void): (() => void) => {
  listeners.add(listener)
  return () => listeners.delete(listener)
}
const tell = (): void => listeners.forEach((listener) => listener())

const newTrialWorker = (): Worker =>
  new Worker(new URL('../../workers/trial.worker.ts', import.meta.url), { type: 'module' })

function putUp(plot: Plot): void {
  standing?.worker.terminate()
  const worker = newTrialWorker()
  const house: House = { ...plot, worker, remote: wrap<TrialWorker>(worker), frame: null }
  standing = house
  const show = (frame: TrialFrame) => {
    if (standing !== house) return
    house.frame = frame
    tell()
  }
  void house.remote.begin(plot.part, proxy(show), 1, brought?.deeds ?? [])
  if (brought) void house.remote.goTo(brought.to)
  brought = null
  tell()
}

const standsFor = (house: House | null, { whole, controller }: Plot): boolean =>
  house?.whole === whole && house.controller === controller

/** Puts a house up where none stands for this plot; one whose document has changed since is said to be gone. */
function settle(plot: Plot): void {
  if (standsFor(standing, plot) && !brought) return
  const sameSite = standing !== null && standing.whole !== plot.whole && standing.whole.id === plot.whole.id
  if (sameSite && (standing?.frame?.deeds.length ?? 0) > 0)
    toast('The site has changed: the simulation was restarted with the new tables.')
  putUp(plot)
}

/** The house plays a run that was made elsewhere, up to an instant, the next time that it is looked at. */
export function bringRun(deeds: readonly Deed[], to: number): void {
  brought = { deeds, to }
}

/** What can be done with a run, besides what is done in the house. */
export interface Hold {
  readonly play: (pace: number) => void
  readonly goTo: (t: number) => void
  readonly step: (by: 1 | -1) => void
  readonly lookAt: (look: Look) => void
  readonly takeOut: (index: number) => void
  readonly compare: (on: boolean) => void
  readonly asScenario: (title: string) => Promise<string>
  readonly asWave: () => Promise<string>
  readonly asTable: () => Promise<string>
  readonly restart: () => void
}

const act = (action: TrialAction): void => void standing?.remote.act(action)
const text = async (ask: (remote: Remote<TrialWorker>) => Promise<string>): Promise<string> =>
  standing ? ask(standing.remote) : ''

const holdOf = (plot: Plot): Hold => ({
  play: (pace) => void standing?.remote.play(pace),
  goTo: (t) => void standing?.remote.goTo(t),
  step: (by) => void standing?.remote.step(by),
  lookAt: (look) => void standing?.remote.lookAt(look),
  takeOut: (index) => void standing?.remote.takeOut(index),
  compare: (on) => void standing?.remote.compare(on),
  asScenario: (title) => text((remote) => remote.asScenario(title)),
  asWave: () => text((remote) => remote.asWave()),
  asTable: () => text((remote) => remote.asTable()),
  restart: () => putUp(plot),
})

interface Trial {
  readonly frame: TrialFrame | null
  readonly act: (action: TrialAction) => void
  readonly hold: Hold
}

/**
 * The trial of a site as it stands. It goes on when one looks elsewhere and comes back; it begins anew when the site
 * has changed, and by `restart`.
 */
export function useTrial(plot: Plot): Trial {
  useEffect(() => settle(plot), [plot])
  const frame = useSyncExternalStore(listen, () => (standsFor(standing, plot) ? standing!.frame : null))
  const hold = useMemo(() => holdOf(plot), [plot])
  return { frame, act, hold }
}

/** The scenario that the run of the standing house makes; empty: no house stands. */
export const recordedScenario = (title: string): Promise<string> => text((remote) => remote.asScenario(title))

/** The run of the standing house as a wave file; empty: no house stands. */
export const recordedWave = (): Promise<string> => text((remote) => remote.asWave())
