import { toast } from 'sonner'
import { makeEdit, type Operation, type Site } from '../../core/site'
import { ask, Refused, sitePath } from './api'
import { logbookActions, type CredentialRow, type LogbookState } from './logbookSlice'
import { screenActions } from './screenSlice'
import { siteActions } from './siteSlice'
import type { Thunk } from './store'

interface Acknowledged {
  revision: number
  undo: string | null
  redo: string | null
}

/** Edits go out one after the other, each against the revision that the one before it gave. */
let line: Promise<unknown> = Promise.resolve()
/** Counts loads: what was queued before a load is dropped with the document that it was made on. */
let generation = 0

export const loadSite =
  (id: string): Thunk<Promise<void>> =>
  async (dispatch) => {
    generation++
    dispatch(siteActions.loading())
    dispatch(screenActions.siteLeft())
    try {
      dispatch(siteActions.loaded(await ask<{ site: Site } & Acknowledged>('GET', sitePath(id))))
      void dispatch(loadLogbook(id))
      void dispatch(loadCredentials(id))
    } catch (error) {
      dispatch(siteActions.failed((error as Error).message))
    }
  }

const reload =
  (id: string, why: string): Thunk<Promise<void>> =>
  async (dispatch) => {
    generation++
    toast.error(why)
    try {
      dispatch(siteActions.loaded(await ask<{ site: Site } & Acknowledged>('GET', sitePath(id))))
    } catch (error) {
      dispatch(siteActions.failed((error as Error).message))
    }
  }

/** Another tab has changed the site: take its document, unless our own edits are on their way. */
export const heardEdit =
  (id: string, revision: number): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    await line
    const state = getState().site
    if (state.site?.id !== id || state.pending > 0 || state.revision >= revision) return
    dispatch(siteActions.loaded(await ask<{ site: Site } & Acknowledged>('GET', sitePath(id))))
  }

const sendPatch =
  (id: string, label: string, patch: readonly Operation[]): Thunk<void> =>
  (dispatch, getState) => {
    const mine = generation
    line = line.then(async () => {
      if (mine !== generation) return
      try {
        dispatch(
          siteActions.acknowledged(
            await ask<Acknowledged>('PATCH', sitePath(id), { label, patch }, getState().site.revision),
          ),
        )
      } catch (error) {
        await dispatch(
          reload(id, error instanceof Refused ? `Not kept: ${error.message}` : 'Not kept: the edit could not be sent'),
        )
      }
    })
  }

/** Changes the site: shown at once, kept by the server, undone by one press. */
export const edit =
  (label: string, change: (draft: Site) => void): Thunk<void> =>
  (dispatch, getState) => {
    const { site } = getState().site
    if (!site) return
    const made = makeEdit(site, label, (draft) => change(draft as Site))
    if (made.patch.length === 0) return
    dispatch(siteActions.applied({ label, patch: made.patch }))
    dispatch(sendPatch(site.id, label, made.patch))
  }

const walk =
  (direction: 'undo' | 'redo'): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    const id = getState().site.site?.id
    if (!id || !getState().site[direction]) return
    line = line.then(async () => {
      try {
        const answer = await ask<Acknowledged & { label: string; patch: Operation[] }>(
          'POST',
          `${sitePath(id)}/${direction}`,
          undefined,
          getState().site.revision,
        )
        const { label, ...walked } = answer
        dispatch(siteActions.walked(walked))
        toast(`${direction === 'undo' ? 'Undone' : 'Done again'}: ${label}`)
      } catch (error) {
        toast.error((error as Error).message)
      }
    })
    await line
  }

export const undo = (): Thunk<Promise<void>> => walk('undo')
export const redo = (): Thunk<Promise<void>> => walk('redo')

export const loadLogbook =
  (id: string): Thunk<Promise<void>> =>
  async (dispatch) => {
    try {
      const [builds, log] = await Promise.all([
        ask<Pick<LogbookState, 'builds' | 'boards'>>('GET', `${sitePath(id)}/builds`),
        ask<Pick<LogbookState, 'entries' | 'runs' | 'trials'>>('GET', `${sitePath(id)}/log`),
      ])
      dispatch(logbookActions.logbookLoaded({ ...builds, ...log }))
    } catch (error) {
      toast.error((error as Error).message)
    }
  }

/** Which credentials there are; their values never come here. */
export const loadCredentials =
  (id: string): Thunk<Promise<void>> =>
  async (dispatch) => {
    try {
      dispatch(
        logbookActions.credentialsLoaded(
          (await ask<{ credentials: CredentialRow[] }>('GET', `${sitePath(id)}/credentials`)).credentials,
        ),
      )
    } catch (error) {
      toast.error((error as Error).message)
    }
  }

/** Does something at the server and says in one line when it is refused. */
export async function attempt<T>(work: Promise<T>, done?: string): Promise<T | undefined> {
  try {
    const answer = await work
    if (done) toast.success(done)
    return answer
  } catch (error) {
    toast.error((error as Error).message)
    return undefined
  }
}
