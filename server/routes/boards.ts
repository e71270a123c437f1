import { controllerIn, storedSite, type Context } from '../context'
import { rowNumber, DONE, serve, type Served } from './serve'

/** Boards on the network, and tests that listen to them. */
export const boardRoutes = (context: Context): Served[] => [
  serve('boards', ({ params }) => context.house.boards(storedSite(context, params.site).site).page()),
  serve('openDoor', ({ params, body: { minutes } }) => {
    const { site } = storedSite(context, params.site)
    const { id } = controllerIn(site, params.controller)
    context.house.openDoor(site, id, minutes)
    return DONE
  }),
  serve('takeTest', ({ params, body, tab }) => ({
    hand: context.hands.take(rowNumber('run', params.run), body.key, tab, body.again ?? false),
  })),
  serve('seeTest', ({ params, body }) => {
    context.hands.sees(rowNumber('run', params.run), params.key, body.what, body.seen)
    return DONE
  }),
]
