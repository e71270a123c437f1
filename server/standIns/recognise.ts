import { compileController, CompileRefused } from '../../core/image'
import { controllerOf, type Site } from '../../core/site'
import type { Database } from '../db'

const WORDS = /^tables ([0-9a-f]{12})$/

/** The hash in what a controller says on `log` when its link comes up; undefined: it says something else. */
export const tablesSaid = (payload: string): string | undefined => WORDS.exec(payload)?.[1]

/** Which tables the site would give this controller now; undefined where it cannot be compiled. */
function tablesNow(site: Site, controller: string): string | undefined {
  try {
    return compileController(site, controller).hash
  } catch (error) {
    if (error instanceof CompileRefused) return undefined
    throw error
  }
}

/** "Corner runs build 7, as the site is now" and the like: which build a board runs, by the hash that it says. */
export function runsWhich(
  site: Site,
  builds: readonly { readonly controller: string; readonly number: number; readonly hash: string }[],
  controller: string,
  hash: string,
): string | undefined {
  const name = controllerOf(site, controller)?.name
  if (name === undefined) return undefined
  const own = builds.filter((build) => build.controller === controller)
  const newest = Math.max(0, ...own.map((build) => build.number))
  const build = own.filter((candidate) => candidate.hash === hash).sort((a, b) => b.number - a.number)[0]
  if (!build) return `${name} runs tables ${hash}, which no build here has`
  if (tablesNow(site, controller) === hash) return `${name} runs build ${build.number}, as the site is now`
  return (
    `${name} runs build ${build.number}; ` +
    `${newest > build.number ? `the newest is ${newest}` : 'the site has changed since'}`
  )
}

/** Enters into the logbook what a controller runs, unless the last such entry says the same. */
export function recognise(db: Database, site: Site, controller: string, hash: string, at: string): void {
  const text = runsWhich(site, db.builds.list(site.id), controller, hash)
  if (text === undefined) return
  const last = db.logbook
    .entries(site.id)
    .find((entry) => entry.controller === controller && / runs (build|tables) /.test(entry.text))
  if (last?.text !== text) db.logbook.note(site.id, controller, 'note', text, at)
}
