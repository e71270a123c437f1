import { toast } from 'sonner'
import type { WireRow } from '../../core/api'
import { credentialsNeeded } from '../../core/services'
import { call } from './api'
import { logbookActions } from './logbookSlice'
import type { Thunk } from './store'

/** Fetches what the server keeps beside the document. */

export const loadLogbook =
  (site: string): Thunk<Promise<void>> =>
  async (dispatch) => {
    try {
      const [builds, log] = await Promise.all([call('builds', { site }), call('log', { site })])
      dispatch(logbookActions.logbookLoaded({ ...builds, ...log }))
    } catch (error) {
      toast.error((error as Error).message)
    }
  }

/** Ticks a wire off, or takes the tick back; it shows at once, and is taken back when it was not kept. */
export const solder =
  (site: string, controller: string, wire: string, done: boolean): Thunk<Promise<void>> =>
  async (dispatch) => {
    dispatch(logbookActions.wireTurned({ controller, wire, done }))
    try {
      await call('solder', { site, controller, body: { wire, done } })
    } catch (error) {
      dispatch(logbookActions.wireTurned({ controller, wire, done: !done }))
      toast.error(`Not ticked: ${(error as Error).message}`)
    }
  }

/** The wires of a controller that are ticked off. */
export const tickedWires = (wires: readonly WireRow[], controller: string): Set<string> =>
  new Set(wires.filter((row) => row.controller === controller).map((row) => row.wire))

/** Which credentials there are; their values never come here. */
export const loadCredentials =
  (site: string): Thunk<Promise<void>> =>
  async (dispatch) => {
    try {
      dispatch(logbookActions.credentialsLoaded((await call('credentials', { site })).credentials))
    } catch (error) {
      toast.error((error as Error).message)
    }
  }

/** An edit may need other credentials than were needed before: they are asked for as soon as it is kept. */
export const lookAtCredentials: Thunk = (dispatch, getState) => {
  const { site } = getState().site
  const rows = getState().logbook.credentialRows
  if (!site || !rows) return
  const needed = credentialsNeeded(site).map(({ key, label, owner }) => `${key}|${owner}|${label}`)
  if (needed.join('\n') !== rows.map(({ key, label, owner }) => `${key}|${owner}|${label}`).join('\n'))
    void dispatch(loadCredentials(site.id))
}
