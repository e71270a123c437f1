import type { DueTest, TestRun } from '../core/api'
import { dueTests, type Due, type Passed, type TestAgain } from '../core/retest'
import { applyOperations, readSite, type Site } from '../core/site'
import type { Context } from './context'

/** A test with its reasons, as it travels. */
export const dueRow = ({ key, stage, channel, way, action, expected, why }: TestAgain): DueTest => ({
  ...{ key, stage, channel, way, action, expected },
  why: [...why],
})

/** The document that a build was made of, which it holds itself; undefined: none that this program reads. */
export function siteOfBuild({ db }: Context, build: number): Site | undefined {
  const text = db.builds.files(build).find(({ name }) => name.endsWith('site.json'))?.text
  const read = text === undefined ? undefined : readSite(text)
  return read?.ok ? read.value : undefined
}

/**
 * What of a controller must be tested again: each test held against what was on the board when it last passed, or,
 * where no flash was on record, against the site as it was then.
 */
export function testsDue(context: Context, site: Site, controller: string): Due {
  const { db } = context
  const passed = new Map<string, TestRun>()
  // in the order in which they were made: a test that failed later than it passed has not passed
  const runs = db.logbook.runs(site.id).filter((run) => run.controller === controller)
  for (const run of [...runs].sort((a, b) => a.id - b.id))
    for (const { key, outcome } of run.items) {
      if (outcome === 'passed') passed.set(key, run)
      else if (outcome === 'failed') passed.delete(key)
    }
  const known = new Map<string, Passed>()
  const stateOf = ({ buildId, revision }: TestRun): Passed => {
    const of = buildId === null ? `revision ${revision}` : `build ${buildId}`
    const before = known.get(of)
    if (before) return before
    const built = buildId === null ? undefined : siteOfBuild(context, buildId)
    const state = { of, site: built ?? db.sites.inversesAfter(site.id, revision).reduce(applyOperations, site) }
    known.set(of, state)
    return state
  }
  return dueTests(site, controller, new Map([...passed].map(([key, run]) => [key, stateOf(run)])))
}
