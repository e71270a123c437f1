import { toast } from 'sonner'
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
