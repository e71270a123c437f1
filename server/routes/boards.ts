import { ownCredentials } from '../../core/outputs'
import { testsOfNewBoard } from '../../core/retest'
import type { Controller, Site } from '../../core/site'
import { controllerIn, storedSite, type Context } from '../context'
import { boardLeft } from '../logbookText'
import { addressOf } from '../secretAddress'
import { dueRow } from '../testsDue'
import { rowNumber, DONE, serve, type Served } from './serve'

/** Credentials that nobody but one controller uses; how many there were. */
const deleteOwn = ({ db }: Context, site: Site, controller: Controller): number =>
  ownCredentials(site, controller).filter((key) => {
    const { owner, name } = addressOf(key)
    return db.credentials.remove(site.id, owner, name)
  }).length

/** Boards on the network, and tests that listen to them. */
export const boardRoutes = (context: Context): Served[] => [
  serve('boards', ({ params }) => context.house.boards(storedSite(context, params.site).site).page()),
  serve('openDoor', ({ params, body: { minutes } }) => {
    const { site } = storedSite(context, params.site)
    const { id } = controllerIn(site, params.controller)
    context.house.openDoor(site, id, minutes)
    return DONE
  }),
  serve('replaceBoard', ({ params, body: { why } }) => {
    const { site } = storedSite(context, params.site)
    const controller = controllerIn(site, params.controller)
    const deleted = why === 'gone' ? deleteOwn(context, site, controller) : 0
    context.house.lockOut(site, controller.id)
    context.db.logbook.note(site.id, controller.id, 'note', boardLeft(controller.name, why, deleted), context.now())
    for (const kind of ['logbook', 'boards', 'credentials'] as const) context.live.tell({ kind, site: site.id })
    return { deleted }
  }),
  serve('newBoardTests', ({ params }) => {
    const { site } = storedSite(context, params.site)
    const { again, of } = testsOfNewBoard(site, controllerIn(site, params.controller).id)
    return { again: again.map(dueRow), of }
  }),
  serve('takeTest', ({ params, body, tab }) => ({
    hand: context.hands.take(rowNumber('run', params.run), body.key, tab, body.again ?? false),
  })),
  serve('seeTest', ({ params, body }) => {
    context.hands.sees(rowNumber('run', params.run), params.key, body.what, body.seen)
    return DONE
  }),
]
