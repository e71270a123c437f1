import { proxy, wrap, type Remote } from 'comlink'
import { useEffect, useSyncExternalStore } from 'react'
import { toast } from 'sonner'
import type { Site } from '../../../core/site'
import type { TrialAction, TrialSnapshot } from '../../../core/trial'
import type { TrialWorker } from '../../workers/trial.worker'

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
  snapshot: TrialSnapshot | null
}

/** One house at a time. It stands while the page does: looking elsewhere ends nothing. */
let standing: House | null = null
const listeners = new Set<() => void>()
const listen = (listener: () => void): (() => void) => {
  listeners.add(listener)
  return () => listeners.delete(listener)
}
const tell = (): void => listeners.forEach((listener) => listener())

function putUp(plot: Plot): void {
  standing?.worker.terminate()
  const worker = new Worker(new URL('../../workers/trial.worker.ts', import.meta.url), { type: 'module' })
  const house: House = { ...plot, worker, remote: wrap<TrialWorker>(worker), snapshot: null }
  standing = house
  const show = (snapshot: TrialSnapshot) => {
    if (standing !== house) return
    house.snapshot = snapshot
    tell()
  }
  void house.remote.begin(plot.part, proxy(show))
  tell()
}

const standsFor = (house: House | null, { whole, controller }: Plot): boolean =>
  house?.whole === whole && house.controller === controller

/** Puts a house up where none stands for this plot; one whose document has changed since is said to be gone. */
function settle(plot: Plot): void {
  if (standsFor(standing, plot)) return
  const sameSite = standing !== null && standing.whole !== plot.whole && standing.whole.id === plot.whole.id
  if (sameSite && (standing?.snapshot?.timeline.length ?? 0) > 0)
    toast('The site has changed: the simulation was restarted with the new tables.')
  putUp(plot)
}

const act = (action: TrialAction): void => void standing?.remote.act(action)

interface Trial {
  readonly snapshot: TrialSnapshot | null
  readonly act: (action: TrialAction) => void
  readonly restart: () => void
}

/**
 * The trial of a site as it stands. It goes on when one looks elsewhere and comes back; it begins anew when the site
 * has changed, and by `restart`.
 */
export function useTrial(plot: Plot): Trial {
  useEffect(() => settle(plot), [plot])
  const snapshot = useSyncExternalStore(listen, () => (standsFor(standing, plot) ? standing!.snapshot : null))
  return { snapshot, act, restart: () => putUp(plot) }
}
