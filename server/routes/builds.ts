import { strToU8, zipSync } from 'fflate'
import { z } from 'zod'
import { buildController, BuildRefused, imageChanges } from '../../core/outputs'
import { tablesOf } from '../../core/image'
import { checkSite, isBlocking } from '../../core/findings'
import { controllerIn, storedSite, type Context } from '../context'
import { notFound, Refusal } from '../refusal'
import { numberParameter, parameter, route, type Route } from './define'

/** Entries of a build's archive carry one fixed time, so that the same build gives the same bytes. */
const ZIP_TIME = new Date(1980, 0, 1)

export function buildRoutes(context: Context): Route[] {
  const { builds, logbook } = context.db
  const found = (id: number) => {
    const build = builds.get(id)
    if (!build) throw notFound(`build ${id}`)
    return build
  }
  return [
    route({
      method: 'get',
      path: '/api/sites/:site/builds',
      summary: 'Builds and flashes of a site, newest first; what is on each board',
      handle: (request) => {
        const { site } = storedSite(context, parameter(request, 'site'))
        const flashed = builds.flashed(site.id)
        return {
          builds: builds.list(site.id),
          boards: flashed.map(({ image, ...board }) => ({
            ...board,
            changes: site.controllers.some((c) => c.id === board.controller)
              ? imageChanges(image, tablesOf(site, board.controller).image)
              : [],
          })),
        }
      },
    }),
    route({
      method: 'post',
      path: '/api/sites/:site/builds',
      summary: 'Build the firmware and sheets of a controller',
      body: z.strictObject({ controller: z.string(), despiteFindings: z.boolean().optional() }),
      handle: (request, response, body) => {
        const { site, revision } = storedSite(context, parameter(request, 'site'))
        const controller = controllerIn(site, body.controller)
        const blocking = checkSite(site).filter(
          (finding) => finding.where.controller === controller.id && isBlocking([finding]),
        )
        if (blocking.length && !body.despiteFindings)
          throw new Refusal(
            409,
            'findings-open',
            `${controller.name} has ${blocking.length} open ` +
              `${blocking.length === 1 ? 'finding' : 'findings'} of danger or error ` +
              `(${blocking.map((f) => f.id).join(', ')}): settle, accept, or build despite them`,
          )
        try {
          const id = builds.add(
            site.id,
            revision,
            buildController(site, controller.id, context.firmware),
            context.now(),
          )
          const build = found(id)
          logbook.note(
            site.id,
            controller.id,
            'build',
            `build ${build.number} of ${controller.name} from revision ${revision}, tables ` +
              `${build.hash}${blocking.length ? `, despite ${blocking.map((f) => f.id).join(', ')}` : ''}`,
            build.at,
          )
          context.live.tell({ kind: 'logbook', site: site.id })
          response.status(201)
          return { build, files: builds.files(id) }
        } catch (error) {
          if (error instanceof BuildRefused) throw new Refusal(409, error.code, error.message)
          throw error
        }
      },
    }),
    route({
      method: 'get',
      path: '/api/builds/:build',
      summary: 'A build with its files',
      handle: (request) => ({
        build: found(numberParameter(request, 'build')),
        files: builds.files(numberParameter(request, 'build')),
      }),
    }),
    route({
      method: 'get',
      path: '/api/builds/:build/zip',
      summary: 'A build as an archive',
      answers: 'application/zip',
      handle: (request, response) => {
        const build = found(numberParameter(request, 'build'))
        const entries = Object.fromEntries(builds.files(build.id).map((file) => [file.name, strToU8(file.text)]))
        response
          .attachment(`${build.siteId}-${build.controller}-build-${build.number}.zip`)
          .type('application/zip')
          .send(Buffer.from(zipSync(entries, { mtime: ZIP_TIME, level: 9 })))
      },
    }),
    route({
      method: 'post',
      path: '/api/builds/:build/flashes',
      summary: 'Record that a build is on its board',
      body: z.strictObject({ boardPackage: z.string().trim().max(120), note: z.string().trim().max(500) }),
      handle: (request, response, body) => {
        const build = found(numberParameter(request, 'build'))
        const at = context.now()
        const id = builds.addFlash(build.id, body.boardPackage, body.note, at)
        const { site } = storedSite(context, build.siteId)
        const name = site.controllers.find((c) => c.id === build.controller)?.name ?? build.controller
        logbook.note(
          build.siteId,
          build.controller,
          'flash',
          `build ${build.number} is on the board of ` +
            `${name}${body.boardPackage ? `, board package ${body.boardPackage}` : ', board package not stated'}${body.note ? `: ${body.note}` : ''}`,
          at,
        )
        context.live.tell({ kind: 'logbook', site: build.siteId })
        response.status(201)
        return { id }
      },
    }),
  ]
}
