import { credentialsNeeded } from '../../core/services'
import type { Site } from '../../core/site'
import { upkeepCalendar, upkeepOf, type UpkeepItem } from '../../core/upkeep'
import { storedSite, type Context } from '../context'
import { triedBackup } from '../db'
import { keptUp } from '../logbookText'
import { notFound } from '../refusal'
import { DONE, serve, type Served } from './serve'

/** What is to be kept up of a site, by what its boards have said and what was done. */
function itemsOf({ db, now }: Context, site: Site): UpkeepItem[] {
  const stored = new Map(db.credentials.list(site.id).map((row) => [`${row.owner}/${row.name}`, row.updatedAt]))
  return upkeepOf(site, {
    now: now(),
    changes: db.boards.changes(site.id),
    credentials: credentialsNeeded(site).flatMap(({ key, owner, label, secret }) => {
      const updatedAt = stored.get(key)
      return secret && updatedAt ? [{ key, name: `${owner}, ${label}`, updatedAt }] : []
    }),
    done: db.upkeep.done(site.id),
    since: db.sites.madeAt(site.id) ?? now(),
  })
}

export const upkeepRoutes = (context: Context): Served[] => [
  serve('upkeep', ({ params }) => ({ items: itemsOf(context, storedSite(context, params.site).site) })),
  serve('upkeepDone', ({ params }) => {
    const { site } = storedSite(context, params.site)
    const item = itemsOf(context, site).find(({ id }) => id === params.item)
    if (!item?.byHand) throw notFound(`upkeep "${params.item}" with a “done today”`)
    const at = context.now()
    context.db.upkeep.put(site.id, item.id, at)
    context.db.logbook.note(site.id, item.controller, 'note', keptUp(item.what), at)
    context.live.tell({ kind: 'logbook', site: site.id })
    return DONE
  }),
  serve('calendar', ({ params, response }) => {
    const { site } = storedSite(context, params.site)
    response.attachment(`${site.id}-upkeep.ics`).type('text/calendar')
    return upkeepCalendar(site, itemsOf(context, site), context.now())
  }),
  serve('backup', ({ response }) => {
    const { bytes, tried } = triedBackup(context.dataFolder)
    const at = context.now()
    for (const { id } of context.db.sites.list()) {
      context.db.upkeep.put(id, 'backup', at)
      context.live.tell({ kind: 'logbook', site: id })
    }
    response
      .set({ 'Cache-Control': 'no-store', 'X-Tried': JSON.stringify(tried) })
      .attachment(`vestibule-${at.slice(0, 10)}.backup`)
      .type('application/zip')
    return bytes as unknown as string
  }),
]
