import { tablesOf } from '../../core/acceptance'
import { openStage, STAGE_NAMES, testList } from '../../core/outputs'
import type { TimelineEntry } from '../../core/trial'
import { connectionsOf, wireKey } from '../../core/wiring'
import { controllerIn, storedSite, type Context } from '../context'
import { acceptanceKept, runBegun, solderSaid, trialKept } from '../logbookText'
import { notFound, Refusal } from '../refusal'
import { tellOutcome } from '../testOutcome'
import { dueRow, testsDue } from '../testsDue'
import { DONE, rowNumber, serve, type Served } from './serve'

/** The log of a site, and notes into it by hand. */
function entryRoutes(context: Context): Served[] {
  const { logbook } = context.db
  return [
    serve('log', ({ params }) => {
      const { site } = storedSite(context, params.site)
      return {
        entries: logbook.entries(site.id),
        runs: logbook.runs(site.id),
        trials: logbook.trials(site.id),
        acceptance: context.db.acceptance.newest(site.id),
        wires: context.db.wires.list(site.id),
      }
    }),
    serve('writeLog', ({ params, body }) => {
      const { site } = storedSite(context, params.site)
      if (body.controller !== null) controllerIn(site, body.controller)
      const { corrects, part } = body
      if (corrects !== undefined && !logbook.entries(site.id).some(({ id }) => id === corrects))
        throw notFound('the entry that is to be corrected')
      logbook.note(site.id, body.controller, body.kind, body.text, context.now(), {
        corrects: corrects ?? null,
        part: part ?? null,
      })
      context.live.tell({ kind: 'logbook', site: site.id })
      return DONE
    }),
  ]
}

/** A saved logbook comes back: controllers by their names, as the file has them. */
const importRoute = (context: Context): Served =>
  serve('importLog', ({ params, body: { entries } }) => {
    const { site } = storedSite(context, params.site)
    const idOf = (name: string | null): string | null =>
      site.controllers.find((one) => one.name === name || one.id === name)?.id ?? null
    const lines = entries.map((line, at) => ({
      ...{ id: line.id ?? -1 - at, at: line.at, kind: line.kind, text: line.text },
      ...{ controller: idOf(line.controller), corrects: line.corrects ?? null, part: line.part ?? null },
    }))
    const came = context.db.logbook.bringIn(site.id, lines)
    context.live.tell({ kind: 'logbook', site: site.id })
    return { came, known: lines.length - came }
  })

/** Ticks of the connection list; the log says when the soldering of a controller begins, and when all of it is done. */
const solderRoute = (context: Context): Served =>
  serve('solder', ({ params, body: { wire, done } }) => {
    const { site } = storedSite(context, params.site)
    const controller = controllerIn(site, params.controller)
    const all = new Set(connectionsOf(site, controller.id).map(wireKey))
    if (done && !all.has(wire)) throw notFound(`a wire "${wire}"`)
    const { wires, logbook } = context.db
    const at = context.now()
    const ticked = () =>
      wires.list(site.id).filter((row) => row.controller === controller.id && all.has(row.wire)).length
    if (wires.turn(site.id, controller.id, wire, done, at) && done) {
      const words = solderSaid(controller.name, ticked(), all.size)
      if (words !== null) logbook.note(site.id, controller.id, 'note', words, at)
    }
    context.live.tell({ kind: 'logbook', site: site.id })
    return DONE
  })

function testRoutes(context: Context): Served[] {
  const { logbook, builds } = context.db
  return [
    serve('newTestRun', ({ params, body }) => {
      const { site, revision } = storedSite(context, params.site)
      const controller = controllerIn(site, body.controller)
      const onBoard = builds
        .list(site.id)
        .find((build) => build.controller === controller.id && build.flashes.length > 0)
      const at = context.now()
      const list = testList(site, controller.id)
      const items = body.only ? list.filter(({ key }) => body.only!.includes(key)) : list
      if (items.length === 0) throw new Refusal(409, 'no-such-tests', 'none of these tests is on the list any more')
      const id = logbook.addRun(site.id, controller.id, onBoard?.id ?? null, revision, items, at)
      logbook.note(site.id, controller.id, 'test', runBegun(id, controller.name, onBoard), at)
      context.live.tell({ kind: 'logbook', site: site.id })
      return { id }
    }),
    serve('setTestItem', ({ params, body: { outcome, note } }) => {
      const run = logbook.run(rowNumber('run', params.run))
      const item = run?.items.find((candidate) => candidate.key === params.key)
      if (!run || !item) throw notFound(`test ${params.key}`)
      const waits = openStage(run.items, item.stage)
      if (waits && outcome !== 'open')
        throw new Refusal(409, 'stage-waits', `“${STAGE_NAMES[waits]}” is not clear yet: finish that stage first`)
      const heard = outcome === 'open' ? [] : context.hands.heardLines(run.id, item.key)
      context.hands.told(run.id, item.key)
      const by = outcome === 'open' ? null : 'hand'
      tellOutcome(context, run.id, item.key, { outcome, note, heard, by }, context.now())
      return DONE
    }),
  ]
}

/** What must be tested again, and why. */
const dueRoute = (context: Context): Served =>
  serve('dueTests', ({ params }) => {
    const { site } = storedSite(context, params.site)
    const { again, of } = testsDue(context, site, controllerIn(site, params.controller).id)
    return { again: again.map(dueRow), of }
  })

function trialRoutes(context: Context): Served[] {
  const { logbook } = context.db
  return [
    serve('newTrial', ({ params, body: { durationMs, timeline } }) => {
      const { site, revision } = storedSite(context, params.site)
      const at = context.now()
      const entries = timeline.map(({ channel, ...entry }): TimelineEntry =>
        channel === undefined ? entry : { ...entry, channel },
      )
      const id = logbook.addTrial(site.id, revision, durationMs, entries, at)
      logbook.note(site.id, null, 'trial', trialKept(id, revision, durationMs, entries), at)
      context.live.tell({ kind: 'logbook', site: site.id })
      return { id }
    }),
  ]
}

/** A report holds for the tables that it was made with: for others it is not kept. */
function acceptanceRoute(context: Context): Served {
  return serve('newAcceptance', ({ params, body: { report } }) => {
    const { site, revision } = storedSite(context, params.site)
    const tables = tablesOf(site)
    const stray = Object.keys({ ...tables, ...report.tables }).find((id) => tables[id] !== report.tables[id])
    if (report.site !== site.id || stray !== undefined)
      throw new Refusal(
        409,
        'other-tables',
        `this run was made with other tables${stray === undefined ? '' : ` of ${stray}`}: run it again`,
      )
    const at = context.now()
    const id = context.db.acceptance.add(site.id, revision, report, at)
    context.db.logbook.note(site.id, null, 'trial', acceptanceKept(id, revision, report.items), at)
    context.live.tell({ kind: 'logbook', site: site.id })
    return { id }
  })
}

export const logbookRoutes = (context: Context): Served[] => [
  ...entryRoutes(context),
  importRoute(context),
  acceptanceRoute(context),
  solderRoute(context),
  ...testRoutes(context),
  dueRoute(context),
  ...trialRoutes(context),
]
