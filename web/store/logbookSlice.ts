import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import type { CredentialRecord } from '../../core/findings'
import type { ImageChange, TestItem } from '../../core/outputs'
import type { CredentialNeed } from '../../core/ways'
import type { TimelineEntry } from '../../core/trial'

export interface BuildRow {
  readonly id: number
  readonly controller: string
  readonly number: number
  readonly revision: number
  readonly hash: string
  readonly at: string
  readonly flashes: readonly {
    readonly id: number
    readonly boardPackage: string
    readonly note: string
    readonly at: string
  }[]
}
export interface BoardRow {
  readonly controller: string
  readonly hash: string
  readonly number: number
  readonly at: string
  readonly changes: readonly ImageChange[]
}
export type Outcome = 'open' | 'passed' | 'failed' | 'skipped'
export interface TestRun {
  readonly id: number
  readonly controller: string
  readonly buildId: number | null
  readonly revision: number
  readonly at: string
  readonly items: readonly (TestItem & {
    readonly outcome: Outcome
    readonly note: string
    readonly at: string | null
  })[]
}
export interface LogEntry {
  readonly id: number
  readonly controller: string | null
  readonly kind: 'build' | 'flash' | 'trial' | 'test' | 'note' | 'fault'
  readonly text: string
  readonly at: string
}
/** A credential that the site needs, with what is known of its value; null: not stored. */
export type CredentialRow = CredentialNeed & {
  readonly stored: (CredentialRecord & { readonly updatedAt: string }) | null
}

export interface LogbookState {
  readonly builds: readonly BuildRow[]
  readonly boards: readonly BoardRow[]
  readonly entries: readonly LogEntry[]
  readonly runs: readonly TestRun[]
  /** null: not loaded yet */
  readonly credentialRows: readonly CredentialRow[] | null
  /** of those, the records that findings look at */
  readonly credentials: readonly CredentialRecord[] | null
  readonly trials: readonly {
    readonly id: number
    readonly revision: number
    readonly durationMs: number
    readonly timeline: readonly TimelineEntry[]
    readonly at: string
  }[]
}

const initialState: LogbookState = {
  builds: [],
  boards: [],
  entries: [],
  runs: [],
  trials: [],
  credentialRows: null,
  credentials: null,
}

const slice = createSlice({
  name: 'logbook',
  initialState: initialState as LogbookState,
  reducers: {
    logbookLoaded: (state, action: PayloadAction<Omit<LogbookState, 'credentialRows' | 'credentials'>>) => ({
      ...(state as LogbookState),
      ...action.payload,
    }),
    credentialsLoaded: (state, action: PayloadAction<readonly CredentialRow[]>) => ({
      ...(state as LogbookState),
      credentialRows: action.payload,
      credentials: action.payload.flatMap((row) => (row.stored ? [row.stored] : [])),
    }),
    logbookLeft: () => initialState,
  },
})

export const logbookActions = slice.actions
export const logbookReducer = slice.reducer
