import { toast } from 'sonner'
import { applyOperations, makeEdit, type Edit, type Operation, type Site } from '../../core/site'
import { call, Refused } from './api'
import { untilAnswered } from './away'
import { loadCredentials, loadLogbook, lookAtCredentials } from './logbook'
import { screenActions } from './screenSlice'
import { siteActions } from './siteSlice'
import type { Thunk } from './store'
import { TAB } from './tab'
import { takeOver, type Stored } from './takeOver'

/** Edits go out one after the other, each against the revision that the one before it gave. */
let line: Promise<unknown> = Promise.resolve()
/** Counts loads: what was queued before a load is dropped with the document that it was made on. */
let generation = 0

export const loadSite =
  (site: string): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    // what is on its way is kept first: going elsewhere loses nothing
    if (getState().site.waiting.length > 0) await line
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
      dispatch(siteActions.loaded(await untilAnswered(() => call('site', { site }), dispatch)))
    } catch (error) {
      dispatch(siteActions.failed((error as Error).message))
    }
  }

/** The document as the server has it now, where that is newer and none of our own edits is on its way. */
const fetchNewer =
  (site: string): Thunk<Promise<boolean>> =>
  async (dispatch, getState) => {
    await line
    try {
      const stored = await call('site', { site })
      const state = getState().site
      if (state.site?.id !== site || state.waiting.length > 0 || state.revision >= stored.revision) return false
      dispatch(takeOver(stored))
      return true
    } catch {
      // the line is gone, or comes back: then the next message or edit will tell
      return false
    }
  }

/** Another tab has changed the site: its document is taken, and said whose change it is. */
export const heardEdit =
  (site: string, { revision, label, tab }: { revision: number; label: string; tab: string }): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    await line
    const state = getState().site
    if (state.site?.id !== site || state.revision >= revision) return
    if ((await dispatch(fetchNewer(site))) && tab !== TAB)
      toast(`Changed in another tab: ${label}`, { id: 'elsewhere' })
  }

/** The live connection was gone for a while: whatever was said meanwhile is asked for. */
export const catchUp =
  (site: string): Thunk<Promise<void>> =>
  async (dispatch) => {
    void dispatch(loadLogbook(site))
    void dispatch(loadCredentials(site))
    await dispatch(fetchNewer(site))
  }

interface Sent {
  readonly site: string
  readonly revision: number
  readonly body: { readonly label: string; readonly patch: Operation[] }
}

/**
 * Has an edit kept. When it is sent again the first may have been kept, and only its answer lost: then the document
 * already holds it.
 */
async function keepOnce(sent: Sent, again: boolean): Promise<Omit<Stored, 'site'>> {
  if (again) {
    const stored = await call('site', { site: sent.site })
    const own = stored.revision === sent.revision + 1 && stored.undo === sent.body.label
    if (own && holdsAlready(stored.site, sent.body.patch)) return stored
  }
  return call('keepEdit', sent)
}

/** A patch whose every operation would put what is there: it has been applied. */
const holdsAlready = (site: Site, patch: readonly Operation[]): boolean =>
  patch.every((operation) => {
    if (operation.op !== 'replace' && operation.op !== 'add') return true
    try {
      applyOperations(site, [{ op: 'test', path: operation.path, value: operation.value as unknown }])
      return true
    } catch {
      return false
    }
  })

/** Somebody else was faster: what the server has now is taken, with our own on top of it. */
const isBehind = (error: unknown): boolean => error instanceof Refused && error.status === 412

/** Sends the first that waits, on whatever document the server has by then. */
const sendFirst =
  (site: string): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    for (;;) {
      const { waiting, revision } = getState().site
      const [first] = waiting
      if (!first) return
      const body = { label: first.label, patch: [...first.patch] }
      try {
        const answer = await untilAnswered((again) => keepOnce({ site, revision, body }, again), dispatch)
        dispatch(siteActions.acknowledged({ revision: answer.revision, ...labelsOf(answer) }))
        dispatch(lookAtCredentials)
        return
      } catch (error) {
        if (!isBehind(error)) throw error
        dispatch(takeOver(await untilAnswered(() => call('site', { site }), dispatch)))
      }
    }
  }

const labelsOf = ({ undo, redo, elsewhere }: Omit<Stored, 'site'>) => ({ undo, redo, elsewhere })

const send =
  (site: string): Thunk =>
  (dispatch) => {
    const mine = generation
    line = line.then(async () => {
      if (mine !== generation) return
      try {
        await dispatch(sendFirst(site))
      } catch (error) {
        const why = error instanceof Refused ? error.message : 'the edit could not be sent'
        await dispatch(reload(site, `Not saved: ${why}`))
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
    dispatch(send(site.id))
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

type Direction = 'undo' | 'redo'
type Whose = 'own' | 'any'

/** One step back or forth at the server, on whatever document it has by then. */
const walkOnce =
  (site: string, direction: Direction, whose: Whose, again = true): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    try {
      const answer = await call(direction, { site, revision: getState().site.revision, body: { whose } })
      const { kept } = getState().site
      const walked = { revision: answer.revision, site: applyOperations(kept!, answer.patch as Operation[]) }
      dispatch(takeOver({ ...walked, ...labelsOf({ ...answer, revision: 0 }) }))
      toast(`${direction === 'undo' ? 'Undone' : 'Redone'}: ${answer.label}`)
    } catch (error) {
      if (!again || !isBehind(error)) throw error
      dispatch(takeOver(await call('site', { site })))
      await dispatch(walkOnce(site, direction, whose, false))
    }
  }

const walk =
  (direction: Direction, whose: Whose): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    const state = getState().site
    const site = state.site?.id
    if (!site || (whose === 'own' && !state[direction])) return
    line = line.then(async () => {
      try {
        await dispatch(walkOnce(site, direction, whose))
      } catch (error) {
        toast.error((error as Error).message)
      }
    })
    await line
  }

/** Takes back this tab's own last edit; where it has none, says whose there is, and offers that. */
export const undo =
  (whose: Whose = 'own'): Thunk<Promise<void>> =>
  async (dispatch, getState) => {
    const { undo: own, elsewhere } = getState().site
    if (whose === 'any' || own || !elsewhere) return dispatch(walk('undo', whose))
    toast(`This tab has nothing to undo. The last change, “${elsewhere}”, was made elsewhere.`, {
      action: { label: 'Undo that', onClick: () => void dispatch(walk('undo', 'any')) },
    })
  }
export const redo = (): Thunk<Promise<void>> => walk('redo', 'own')
