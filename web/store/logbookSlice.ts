import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import type { ImageChange, TestItem } from '../../core/outputs'
import type { TimelineEntry } from '../../core/trial'

export interface BuildRow {
  readonly id: number
  readonly controller: string
  readonly number: number
  readonly revision: number
  readonly hash: string
  readonly at: string
  readonly flashes: readonly { readonly id: number; readonly boardPackage: string; readonly note: string; readonly at: string }[]
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
  readonly items: readonly (TestItem & { readonly outcome: Outcome; readonly note: string; readonly at: string | null })[]
}
export interface LogEntry {
  readonly id: number
  readonly controller: string | null
  readonly kind: 'build' | 'flash' | 'trial' | 'test' | 'note' | 'fault'
  readonly text: string
  readonly at: string
}
export interface LogbookState {
  readonly builds: readonly BuildRow[]
  readonly boards: readonly BoardRow[]
  readonly entries: readonly LogEntry[]
  readonly runs: readonly TestRun[]
  readonly trials: readonly { readonly id: number; readonly revision: number; readonly durationMs: number; readonly timeline: readonly TimelineEntry[]; readonly at: string }[]
}

const initialState: LogbookState = { builds: [], boards: [], entries: [], runs: [], trials: [] }

const slice = createSlice({
  name: 'logbook',
  initialState: initialState as LogbookState,
  reducers: { logbookLoaded: (_state, action: PayloadAction<LogbookState>) => action.payload, logbookLeft: () => initialState },
})

export const logbookActions = slice.actions
export const logbookReducer = slice.reducer
