import { testList, type TestItem } from '../outputs'
import type { Site } from '../site'
import { sliceOf, wholeOf, type Slice } from './slices'

/** A test that must be made again, and why. */
export interface TestAgain extends TestItem {
  /** it was not on the list before, or these things of it have changed */
  readonly why: readonly string[]
}

export interface Retest {
  readonly again: readonly TestAgain[]
  /** tests of the whole list */
  readonly of: number
  /** tests that were on the list before and are not now */
  readonly gone: number
}

export const NEW_TEST = 'new on the list'

/** What differs between two slices, by the names that things have now. */
export const differences = (before: Slice, after: Slice): string[] =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .filter((id) => before[id]?.value !== after[id]?.value)
    .map((id) => (after[id] ?? before[id])!.name)

/**
 * The tests of a controller that a change touches: those whose switch, relay, point, key, rule, board … is another than
 * before. A test that hangs on nothing that has changed is not made again.
 */
export function testAgain(before: Site, after: Site, controller: string): Retest {
  const [was, is] = [wholeOf(before, controller), wholeOf(after, controller)]
  const had = new Map(
    before.controllers.some(({ id }) => id === controller)
      ? testList(before, controller).map((item) => [item.key, item])
      : [],
  )
  const list = testList(after, controller)
  const again = list.flatMap((item): TestAgain[] => {
    const old = had.get(item.key)
    const why = old ? differences(sliceOf(was, old), sliceOf(is, item)) : [NEW_TEST]
    return why.length === 0 ? [] : [{ ...item, why }]
  })
  const keys = new Set(list.map(({ key }) => key))
  return { again, of: list.length, gone: [...had.keys()].filter((key) => !keys.has(key)).length }
}
