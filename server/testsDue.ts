import type { DueTest } from '../core/api'
import { dueTests, type Due, type Passed, type TestAgain } from '../core/retest'
import { applyOperations, type Site } from '../core/site'
import type { Context } from './context'

/** A test with its reasons, as it travels. */
export const dueRow = ({ key, stage, channel, way, action, expected, why }: TestAgain): DueTest => ({
  ...{ key, stage, channel, way, action, expected },
  why: [...why],
})

/** What of a controller must be tested again: each test held against the site as it was when it last passed. */
export function testsDue({ db }: Context, site: Site, controller: string): Due {
  const passed = new Map<string, number>()
  // in the order in which they were made: a test that failed later than it passed has not passed
  const runs = db.logbook.runs(site.id).filter((run) => run.controller === controller)
  for (const run of [...runs].sort((a, b) => a.id - b.id))
    for (const { key, outcome } of run.items) {
      if (outcome === 'passed') passed.set(key, run.revision)
      else if (outcome === 'failed') passed.delete(key)
    }
  const sites = new Map<number, Site>()
  const siteAt = (revision: number): Site => {
    const known = sites.get(revision) ?? db.sites.inversesAfter(site.id, revision).reduce(applyOperations, site)
    sites.set(revision, known)
    return known
  }
  const then = new Map(
    [...passed].map(([key, revision]): [string, Passed] => [key, { revision, site: siteAt(revision) }]),
  )
  return dueTests(site, controller, then)
}
