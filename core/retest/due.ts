import { testList } from '../outputs'
import type { Site } from '../site'
import { differences, type TestAgain } from './retest'
import { sliceOf, wholeOf, type Whole } from './slices'

/** A test that has passed, and the site as it was then. */
export interface Passed {
  /** of which state of the site it passed, as a name: all that passed in one share it */
  readonly of: string
  readonly site: Site
}

export interface Due {
  readonly again: readonly TestAgain[]
  /** tests of the whole list */
  readonly of: number
}

export const NEVER_PASSED = 'never passed'

/**
 * The tests of a controller that are due: those that never passed, and those of which something has changed since they
 * last did. `passed`: by the key of each test, when it last passed.
 */
export function dueTests(now: Site, controller: string, passed: ReadonlyMap<string, Passed>): Due {
  const is = wholeOf(now, controller)
  const wholes = new Map<string, Whole>()
  const wasAt = ({ of, site }: Passed): Whole => {
    const known = wholes.get(of) ?? wholeOf(site, controller)
    wholes.set(of, known)
    return known
  }
  const list = testList(now, controller)
  const again = list.flatMap((item): TestAgain[] => {
    const then = passed.get(item.key)
    if (!then) return [{ ...item, why: [NEVER_PASSED] }]
    const had = then.site.controllers.some(({ id }) => id === controller)
    const why = had ? differences(sliceOf(wasAt(then), item), sliceOf(is, item)) : [NEVER_PASSED]
    return why.length === 0 ? [] : [{ ...item, why }]
  })
  return { again, of: list.length }
}
