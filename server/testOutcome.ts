import type { Database, Told } from './db'
import type { Live } from './live'
import { runDone, testFailed } from './logbookText'

/**
 * Writes the outcome of a test down, with what the logbook says of it. A run is done when none of its tests is open.
 */
export function tellOutcome(
  { db: { logbook }, live }: { readonly db: Database; readonly live: Live },
  runId: number,
  key: string,
  told: Told,
  at: string,
): void {
  const before = logbook.run(runId)!
  const item = before.items.find((one) => one.key === key)!
  logbook.setItem(runId, key, told, at)
  if (told.outcome === 'failed')
    logbook.note(before.siteId, before.controller, 'fault', testFailed(item, told.note), at)
  const wasOpen = before.items.some(({ outcome }) => outcome === 'open')
  const after = logbook.run(runId)!
  const isOpen = after.items.some(({ outcome }) => outcome === 'open')
  if (wasOpen && !isOpen) logbook.note(after.siteId, after.controller, 'test', runDone(runId, after.items), at)
  live.tell({ kind: 'logbook', site: before.siteId })
}
