import { acceptanceRun } from '../acceptance'
import { choices } from '../seeded'
import type { Site } from '../site'
import { edited } from './randomEdits.testkit'
import { testAgain } from '.'

/** Every test played before and after: what the list leaves out must come out as before. */
export interface BruteForce {
  readonly edits: number
  /** tests that were left out and came out otherwise */
  readonly missed: readonly string[]
  /** share of the list that is to be made again, in the mean */
  readonly share: number
  /** tests that came out otherwise, and were on the list */
  readonly caught: number
}

/** Results of each test by its key; what was skipped says nothing. */
function outcomes(site: Site): Map<string, string> | null {
  try {
    const found = new Map<string, string>()
    for (const { key, result, note } of acceptanceRun(site, { seed: 1 }).items) {
      // a test of the list looks at the relay; what a screen shows is looked at in the test of that screen's own way
      const isSeen = result === 'passed' || note.includes('still shows another state')
      found.set(key, `${found.get(key) ?? ''}${result === 'skipped' ? '?' : isSeen ? '+' : '-'}`)
    }
    return found
  } catch {
    return null
  }
}

const differ = (a: string, b: string): boolean => !a.includes('?') && !b.includes('?') && a !== b

export function bruteForce(site: Site, edits: number, seed: number): BruteForce {
  const random = choices(seed)
  const before = outcomes(site)!
  const controller = site.controllers[0]!.id
  const missed: string[] = []
  let [done, share, caught] = [0, 0, 0]
  while (done < edits) {
    const after = edited(site, random)
    const now = after && outcomes(after)
    if (!after || !now) continue
    done++
    const { again, of } = testAgain(site, after, controller)
    const keys = new Set(again.map(({ key }) => key))
    share += of === 0 ? 0 : again.length / of
    for (const [key, was] of before) {
      const is = now.get(key)
      if (is === undefined || !differ(was, is)) continue
      if (keys.has(key)) caught++
      else if (/^(alone|no-load|load):/.test(key)) missed.push(`${key}: ${was} became ${is}, edit ${done}`)
    }
  }
  return { edits: done, missed, share: share / done, caught }
}
