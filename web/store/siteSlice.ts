import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import { applyOperations, type Operation, type Site } from '../../core/site'

export interface SiteState {
  readonly status: 'none' | 'loading' | 'ready' | 'failed'
  readonly error: string | null
  readonly site: Site | null
  /** revision of the document that the server has acknowledged */
  readonly revision: number
  /** edits on their way */
  readonly pending: number
  readonly undo: string | null
  readonly redo: string | null
}

const initialState: SiteState = {
  status: 'none',
  error: null,
  site: null,
  revision: 0,
  pending: 0,
  undo: null,
  redo: null,
}

interface Loaded {
  site: Site
  revision: number
  undo: string | null
  redo: string | null
}

const slice = createSlice({
  name: 'site',
  initialState: initialState as SiteState,
  reducers: {
    loading: () => ({ ...initialState, status: 'loading' as const }),
    failed: (state, action: PayloadAction<string>) => ({ ...state, status: 'failed' as const, error: action.payload }),
    loaded: (_state, action: PayloadAction<Loaded>) => ({
      ...action.payload,
      status: 'ready' as const,
      error: null,
      pending: 0,
    }),
    /** An edit shows at once; the server hears of it next. */
    applied: (state, action: PayloadAction<{ label: string; patch: readonly Operation[] }>) => {
      const before = state as SiteState
      return before.site
        ? {
            ...before,
            site: applyOperations(before.site, action.payload.patch),
            pending: before.pending + 1,
            undo: action.payload.label,
            redo: null,
          }
        : before
    },
    acknowledged: (state, action: PayloadAction<{ revision: number; undo: string | null; redo: string | null }>) => {
      const before = state as SiteState
      const pending = Math.max(0, before.pending - 1)
      return {
        ...before,
        revision: action.payload.revision,
        pending,
        ...(pending === 0 ? { undo: action.payload.undo, redo: action.payload.redo } : {}),
      }
    },
    walked: (
      state,
      action: PayloadAction<{
        patch: readonly Operation[]
        revision: number
        undo: string | null
        redo: string | null
      }>,
    ) => {
      const before = state as SiteState
      const { patch, ...rest } = action.payload
      return before.site ? { ...before, ...rest, site: applyOperations(before.site, patch) } : before
    },
  },
})

export const siteActions = slice.actions
export const siteReducer = slice.reducer
