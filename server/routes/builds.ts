import { strToU8, zipSync } from 'fflate'
import { checkSite, isBlocking } from '../../core/findings'
import { tablesOf } from '../../core/image'
import { buildController, BuildRefused, imageChanges, type Build } from '../../core/outputs'
import type { Controller, Site } from '../../core/site'
import { controllerIn, nameOf, storedSite, type Context } from '../context'
import { buildMade, flashed } from '../logbookText'
import { compareBuilds } from '../compareBuilds'
import { programOf } from '../program'
import { notFound, Refusal } from '../refusal'
import { rowNumber, serve, type Served } from './serve'

/** Entries of a build's archive carry one fixed time, so that the same build gives the same bytes. */
const ZIP_TIME = new Date(1980, 0, 1)

/** What keeps a controller from being built: its open findings of danger or error. */
const blockingOf = (site: Site, controller: Controller) =>
  checkSite(site).filter((finding) => finding.where.controller === controller.id && isBlocking([finding]))

/** Refuses to build over open findings, unless that was asked for. */
function mayBuild(controller: Controller, ids: readonly string[], despite: boolean): void {
  if (ids.length === 0 || despite) return
  throw new Refusal(
    409,
    'findings-open',
    `${controller.name} has ${ids.length} open ${ids.length === 1 ? 'finding' : 'findings'} of danger or error ` +
      `(${ids.join(', ')}): settle, accept, or build despite them`,
  )
}

function made(context: Context, site: Site, controller: Controller): Build {
  try {
    return buildController(site, controller.id, context.firmware)
  } catch (error) {
    if (error instanceof BuildRefused) throw new Refusal(409, error.code, error.message)
    throw error
  }
}

/** What is on each board, and how the site differs from it; a board of a controller that is gone differs in nothing. */
const boardsOf = (context: Context, site: Site) =>
  context.db.builds.flashed(site.id).map(({ image, turn: _, ...board }) => {
    const here = site.controllers.some(({ id }) => id === board.controller)
    return { ...board, changes: here ? imageChanges(image, tablesOf(site, board.controller).image, site) : [] }
  })

export function buildRoutes(context: Context): Served[] {
  const { builds, logbook } = context.db
  const found = (text: string) => {
    const id = rowNumber('build', text)
    const build = builds.get(id)
    if (!build) throw notFound(`build ${id}`)
    return build
  }
  return [
    serve('builds', ({ params }) => {
      const { site } = storedSite(context, params.site)
      return { builds: builds.list(site.id), boards: boardsOf(context, site) }
    }),
    serve('newBuild', ({ params, body }) => {
      const { site, revision } = storedSite(context, params.site)
      const controller = controllerIn(site, body.controller)
      const despite = blockingOf(site, controller).map((finding) => finding.id)
      mayBuild(controller, despite, body.despiteFindings ?? false)
      const id = builds.add(site.id, revision, made(context, site, controller), context.now())
      const build = builds.get(id)!
      logbook.note(site.id, controller.id, 'build', buildMade(build, controller.name, despite), build.at)
      context.live.tell({ kind: 'logbook', site: site.id })
      return { build, files: builds.files(id) }
    }),
    serve('build', ({ params }) => {
      const build = found(params.build)
      return { build, files: builds.files(build.id) }
    }),
    serve('buildZip', ({ params, response }) => {
      const build = found(params.build)
      const entries = Object.fromEntries(builds.files(build.id).map((file) => [file.name, strToU8(file.text)]))
      response.attachment(`${build.siteId}-${build.controller}-build-${build.number}.zip`).type('application/zip')
      return Buffer.from(zipSync(entries, { mtime: ZIP_TIME, level: 9 })) as unknown as string
    }),
    serve('compareBuilds', ({ params }) => compareBuilds(context, found(params.build), found(params.other))),
    serve('program', ({ params }) => programOf(context, found(params.build))),
    serve('newFlash', ({ params, body }) => {
      const build = found(params.build)
      const at = context.now()
      const { site } = storedSite(context, build.siteId)
      const id = builds.addFlash(build.id, body, body.note, at)
      const words = flashed(build, nameOf(site, build.controller), body, body.note)
      logbook.note(build.siteId, build.controller, 'flash', words, at)
      context.live.tell({ kind: 'logbook', site: build.siteId })
      return { id }
    }),
  ]
}
