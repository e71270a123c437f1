import type { DoorRow, SiteRow } from '../../core/api'
import { boardIn } from '../../core/boards'
import { checkSite, uncheckedOf, type Severity } from '../../core/findings'
import { tablesOf } from '../../core/image'
import type { Controller, Site } from '../../core/site'
import { nameOf, storedSite, type Context } from '../context'
import { recordOf } from '../record'
import { serve, type Served } from './serve'

type Plate = DoorRow['controllers'][number]

/** What a controller's board runs, by the hash of its tables. */
function stateOf(context: Context, site: Site, { id, board }: Controller, flashed: ReadonlyMap<string, string>) {
  const hash = flashed.get(id)
  if (hash === undefined) return context.db.builds.number(site.id, id) > 0 ? 'built' : 'none'
  return boardIn(site, board) && tablesOf(site, id).image.hash === hash ? 'flashed' : 'behind'
}

function platesOf(context: Context, site: Site): Plate[] {
  const flashed = new Map(context.db.builds.flashed(site.id).map(({ controller, hash }) => [controller, hash]))
  return site.controllers.map((controller) => ({
    id: controller.id,
    name: controller.name,
    channels: site.channels.filter((channel) => channel.controller === controller.id).length,
    state: stateOf(context, site, controller, flashed),
  }))
}

function lastTest(context: Context, site: Site): DoorRow['lastTest'] {
  const run = context.db.logbook.runs(site.id)[0]
  if (!run) return null
  const count = (outcome: string) => run.items.filter((item) => item.outcome === outcome).length
  return {
    controller: nameOf(site, run.controller),
    items: run.items.length,
    done: run.items.length - count('open'),
    failed: count('failed'),
    at: run.at,
  }
}

function doorRow(context: Context, row: SiteRow): DoorRow {
  const { site } = storedSite(context, row.id)
  const record = recordOf(context, site)
  const open = checkSite(site, record).filter(({ accepted }) => accepted === undefined)
  const count = (severity: Severity) => open.filter((finding) => finding.severity === severity).length
  return {
    ...row,
    rooms: site.rooms.length,
    volts: site.mains.volts,
    controllers: platesOf(context, site),
    open: { danger: count('danger'), error: count('error'), warning: count('warning'), note: count('note') },
    unchecked: uncheckedOf(site, null).length,
    lastTest: lastTest(context, site),
  }
}

/** The entrance: each site with what stands in it, worked out as it is asked for. */
export const doorRoutes = (context: Context): Served[] => [
  serve('door', () => ({ sites: context.db.sites.list().map((row) => doorRow(context, row)) })),
]
