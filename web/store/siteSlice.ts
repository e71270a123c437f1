import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import type { UndoLabels } from '../../core/api'
import { applyOperations, type Edit, type Site } from '../../core/site'

export interface SiteState extends UndoLabels {
  readonly status: 'none' | 'loading' | 'ready' | 'failed'
  readonly error: string | null
  /** the document on screen: what is kept, and what waits on top of it */
  readonly site: Site | null
  /** the document that the server has acknowledged, at this revision */
  readonly kept: Site | null
  readonly revision: number
  /** edits on their way, the next one first */
  readonly waiting: readonly Edit[]
  /** why edits wait here: no server, or what it says; null: they do not */
  readonly away: string | null
}

const initialState: SiteState = {
  status: 'none',
  error: null,
  site: null,
  kept: null,
  revision: 0,
  waiting: [],
  away: null,
  undo: null,
  redo: null,
  elsewhere: null,
}

interface Loaded extends UndoLabels {
  site: Site
  revision: number
}

const slice = createSlice({
  name: 'site',
  initialState: initialState as SiteState,
  reducers: {
    loading: () => ({ ...initialState, status: 'loading' as const }),
    failed: (state, action: PayloadAction<string>) => ({ ...state, status: 'failed' as const, error: action.payload }),
    loaded: (_state, { payload }: PayloadAction<Loaded>) => ({
      ...payload,
      kept: payload.site,
      status: 'ready' as const,
      error: null,
      waiting: [],
      away: null,
    }),
    away: (state, action: PayloadAction<string | null>) => ({
      ...state,
      away: action.payload ?? 'the server cannot be reached',
    }),
    answered: (state) => (state.away === null ? state : { ...state, away: null }),
    /** An edit shows at once; the server hears of it next. */
    applied: (state, action: PayloadAction<Edit>) => {
      const before = state as SiteState
      if (!before.site) return before
      const { label, patch } = action.payload
      return {
        ...before,
        site: applyOperations(before.site, patch),
        waiting: [...before.waiting, action.payload],
        undo: label,
        redo: null,
        elsewhere: null,
      }
    },
    /** The first that waits is kept. */
    acknowledged: (state, { payload }: PayloadAction<UndoLabels & { revision: number }>) => {
      const before = state as SiteState
      const [first, ...waiting] = before.waiting
      if (!first || !before.kept) return before
      const { revision, ...labels } = payload
      // where nothing else waits the screen shows what is kept, and is the same object
      const kept = waiting.length === 0 ? before.site : applyOperations(before.kept, first.patch)
      return { ...before, kept, revision, waiting, ...(waiting.length === 0 ? labels : {}) }
    },
    /** Another document is kept, and what waits stands on top of that. */
    takenOver: (state, { payload }: PayloadAction<{ stored: Loaded; site: Site; waiting: readonly Edit[] }>) => {
      const { site: kept, ...stored } = payload.stored
      return { ...(state as SiteState), ...stored, kept, site: payload.site, waiting: payload.waiting }
    },
  },
})

export const siteActions = slice.actions
export const siteReducer = slice.reducer
