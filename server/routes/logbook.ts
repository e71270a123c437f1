import { z } from 'zod'
import { testList } from '../../core/outputs'
import { controllerIn, storedSite, type Context } from '../context'
import { notFound } from '../refusal'
import { numberParameter, parameter, route, type Route } from './define'

const TimelineEntry = z.strictObject({
  t: z.number(),
  kind: z.enum(['hand', 'output', 'network', 'fault', 'verdict', 'refused']),
  text: z.string().max(400),
  channel: z.string().optional(),
})

export function logbookRoutes(context: Context): Route[] {
  const { logbook, builds } = context.db
  const changed = (site: string) => context.live.tell({ kind: 'logbook', site })
  return [
    route({
      method: 'get',
      path: '/api/sites/:site/log',
      summary: 'The logbook: entries, test runs, trials',
      handle: (request) => {
        const { site } = storedSite(context, parameter(request, 'site'))
        return { entries: logbook.entries(site.id), runs: logbook.runs(site.id), trials: logbook.trials(site.id) }
      },
    }),
    route({
      method: 'post',
      path: '/api/sites/:site/log',
      summary: 'Write a note or a fault into the logbook',
      body: z.strictObject({
        kind: z.enum(['note', 'fault']),
        controller: z.string().nullable(),
        text: z.string().trim().min(1).max(2000),
      }),
      handle: (request, response, body) => {
        const { site } = storedSite(context, parameter(request, 'site'))
        if (body.controller !== null) controllerIn(site, body.controller)
        logbook.note(site.id, body.controller, body.kind, body.text, context.now())
        changed(site.id)
        response.status(201)
      },
    }),
    route({
      method: 'post',
      path: '/api/sites/:site/test-runs',
      summary: 'Begin a test run: channels × ways in the safe order',
      body: z.strictObject({ controller: z.string() }),
      handle: (request, response, body) => {
        const { site, revision } = storedSite(context, parameter(request, 'site'))
        const controller = controllerIn(site, body.controller)
        const flashed = builds
          .list(site.id)
          .find((build) => build.controller === controller.id && build.flashes.length > 0)
        const at = context.now()
        const id = logbook.addRun(
          site.id,
          controller.id,
          flashed?.id ?? null,
          revision,
          testList(site, controller.id),
          at,
        )
        logbook.note(
          site.id,
          controller.id,
          'test',
          `test run ${id} of ${controller.name} ` +
            `begun${flashed ? ` on build ${flashed.number}` : ', no flash on record'}`,
          at,
        )
        changed(site.id)
        response.status(201)
        return { id }
      },
    }),
    route({
      method: 'put',
      path: '/api/test-runs/:run/items/:key',
      summary: 'Write down the outcome of one test',
      body: z.strictObject({
        outcome: z.enum(['open', 'passed', 'failed', 'skipped']),
        note: z.string().trim().max(500),
      }),
      handle: (request, _response, body) => {
        const run = logbook.run(numberParameter(request, 'run'))
        const key = parameter(request, 'key')
        const at = context.now()
        if (!run || !logbook.setItem(run.id, key, body.outcome, body.note, at)) throw notFound(`test ${key}`)
        const item = run.items.find((candidate) => candidate.key === key)!
        if (body.outcome === 'failed')
          logbook.note(
            run.siteId,
            run.controller,
            'fault',
            `test failed: ${item.action}; expected that ${item.expected}${body.note ? `. ${body.note}` : ''}`,
            at,
          )
        const items = logbook.run(run.id)!.items
        if (run.items.some((i) => i.outcome === 'open') && items.every((i) => i.outcome !== 'open')) {
          const count = (outcome: string) => items.filter((i) => i.outcome === outcome).length
          logbook.note(
            run.siteId,
            run.controller,
            'test',
            `test run ${run.id} done: ${count('passed')} passed, ${count('failed')} failed, ${count('skipped')} skipped`,
            at,
          )
        }
        changed(run.siteId)
      },
    }),
    route({
      method: 'post',
      path: '/api/sites/:site/trials',
      summary: 'Keep a trial run',
      body: z.strictObject({ durationMs: z.number().int().min(0), timeline: z.array(TimelineEntry).max(1000) }),
      handle: (request, response, body) => {
        const { site, revision } = storedSite(context, parameter(request, 'site'))
        const at = context.now()
        const timeline = body.timeline.map(({ channel, ...entry }) =>
          channel === undefined ? entry : { ...entry, channel },
        )
        const id = logbook.addTrial(site.id, revision, body.durationMs, timeline, at)
        const verdicts = body.timeline.filter((entry) => entry.kind === 'verdict')
        logbook.note(
          site.id,
          null,
          'trial',
          `trial ${id} at revision ${revision}: ${Math.round(body.durationMs / 1000)} s, ` +
            `${body.timeline.length} events${verdicts.length ? `; ${verdicts.map((v) => v.text).join('; ')}` : ''}`,
          at,
        )
        changed(site.id)
        response.status(201)
        return { id }
      },
    }),
  ]
}
