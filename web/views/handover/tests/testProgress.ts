import type { Outcome, TestRun } from '../../../../core/api'
import { openStage } from '../../../../core/outputs'
import type { Site } from '../../../../core/site'

export type Item = TestRun['items'][number]

/** May an item be answered? A stage waits until nothing of the one before it is open or has failed. */
export const mayAnswer = (run: TestRun, item: Item): boolean => openStage(run.items, item.stage) === undefined

/** The first test that is open and may be done; undefined: none is left, or what failed holds the next stage back. */
export const nextTest = (run: TestRun): Item | undefined =>
  run.items.find((item) => item.outcome === 'open' && mayAnswer(run, item))

/** Those that come after a test, as far as they are open. */
export const testsAfter = (run: TestRun, item: Item): readonly Item[] =>
  run.items.slice(run.items.indexOf(item) + 1).filter(({ outcome }) => outcome === 'open')

export const countOf = (items: readonly Item[], outcome: Outcome): number =>
  items.filter((item) => item.outcome === outcome).length

/** The tests of one stage by channel, in the order of the list; those of the controller as a whole last. */
export function byChannel(
  site: Site,
  items: readonly Item[],
  whole: string,
): readonly { readonly id: string; readonly name: string; readonly items: readonly Item[] }[] {
  const ids = [...new Set(items.map(({ channel }) => channel))]
  return ids.map((id) => ({
    id: id ?? '',
    name: id === null ? whole : (site.channels.find((channel) => channel.id === id)?.name ?? id),
    items: items.filter(({ channel }) => channel === id),
  }))
}

/** "6 of 8 done, 1 failed", or the one outcome that all have. */
export function progressWords(items: readonly Item[]): string {
  const [open, failed, skipped] = (['open', 'failed', 'skipped'] as const).map((outcome) => countOf(items, outcome))
  const more = [...(failed ? [`${failed} failed`] : []), ...(skipped ? [`${skipped} skipped`] : [])]
  if (open! > 0) return [`${items.length - open!} of ${items.length} done`, ...more].join(', ')
  return more.length > 0 ? [`${items.length} done`, ...more].join(', ') : `${items.length} passed`
}
