import { toast } from 'sonner'
import { makeEdit, type Edit, type Operation, type Site } from '../../core/site'
import { call, Refused } from './api'
import { loadCredentials, loadLogbook } from './logbook'
import { screenActions } from './screenSlice'
import { siteActions } from './siteSlice'
import type { Thunk } from './store'

/** Edits go out one after the other, each against the revision that the one before it gave. */
let line: Promise<unknown> = Promise.resolve()
/** Counts loads: what was queued before a load is dropped with the document that it was made on. */
let generation = 0

export const loadSite =
  (site: string): Thunk<Promise<void>> =>
  async (dispatch) => {
    generation++
    dispatch(siteActions.loading())
    dispatch(screenActions.siteLeft())
    try {
      dispatch(siteActions.loaded(await call('site', { site })))
      void dispatch(loadLogbook(site))
      void dispatch(loadCredentials(site))
    } catch (error) {
      dispatch(siteActions.failed((error as Error).message))
    }
  }

const reload =
  (site: string, why: string): Thunk<Promise<void>> =>
  async (dispatch) => {
    generation++
    toast.error(why)
    try {
      dispatch(siteActions.loaded(await call('site', { site })))
    } catch (error) {
      dispatch(siteActions.failed((error as Error).message))
    }
  }

/** Another tab has changed the site: take its document, unless our own edits are on their way. */
export const heardEdit =
  (site: string, revision: number): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    await line
    const state = getState().site
    if (state.site?.id !== site || state.pending > 0 || state.revision >= revision) return
    dispatch(siteActions.loaded(await call('site', { site })))
  }

/** The live connection was gone for a while: whatever was said meanwhile is asked for. */
export const catchUp =
  (site: string): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    void dispatch(loadLogbook(site))
    void dispatch(loadCredentials(site))
    await line
    try {
      const stored = await call('site', { site })
      const state = getState().site
      if (state.site?.id === site && state.pending === 0 && state.revision < stored.revision)
        dispatch(siteActions.loaded(stored))
    } catch {
      // the line is up again, so the next message or edit will tell
    }
  }

const sendPatch =
  (site: string, label: string, patch: readonly Operation[]): Thunk =>
  (dispatch, getState) => {
    const mine = generation
    line = line.then(async () => {
      if (mine !== generation) return
      const { revision } = getState().site
      try {
        const body = { label, patch: [...patch] }
        dispatch(siteActions.acknowledged(await call('keepEdit', { site, revision, body })))
      } catch (error) {
        const why = error instanceof Refused ? error.message : 'the edit could not be sent'
        await dispatch(reload(site, `Not kept: ${why}`))
      }
    })
  }

/**
 * The one door: an edit of the document on screen shows at once, is kept by the server, and undone by one press.
 * Fields,
 * fixes, imports and fills all come through it; one that changes nothing does not.
 */
export const keep =
  (edit: Edit): Thunk =>
  (dispatch, getState) => {
    const { site } = getState().site
    if (!site || edit.patch.length === 0) return
    dispatch(siteActions.applied(edit))
    dispatch(sendPatch(site.id, edit.label, edit.patch))
  }

/** Changes the site by a function that writes into a draft of it. */
export const edit =
  (label: string, change: (draft: Site) => void): Thunk =>
  (dispatch, getState) => {
    const { site } = getState().site
    if (!site) return
    try {
      dispatch(keep(makeEdit(site, label, (draft) => change(draft as Site))))
    } catch (error) {
      // a change that cannot be made is said: a press that does nothing and says nothing is the worse fault
      toast.error(`Not changed: ${(error as Error).message}`)
    }
  }

const walk =
  (direction: 'undo' | 'redo'): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    const site = getState().site.site?.id
    if (!site || !getState().site[direction]) return
    line = line.then(async () => {
      try {
        const { label, ...walked } = await call(direction, { site, revision: getState().site.revision })
        dispatch(siteActions.walked({ ...walked, patch: walked.patch as Operation[] }))
        toast(`${direction === 'undo' ? 'Undone' : 'Done again'}: ${label}`)
      } catch (error) {
        toast.error((error as Error).message)
      }
    })
    await line
  }

export const undo = (): Thunk<Promise<void>> => walk('undo')
export const redo = (): Thunk<Promise<void>> => walk('redo')
