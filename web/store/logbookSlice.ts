import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import type { AnswerOf, CredentialRow } from '../../core/api'
import type { CredentialRecord } from '../../core/findings'

/** What the server keeps beside the document: builds, boards, the log, and what is known of credentials. */
export interface LogbookState extends AnswerOf<'builds'>, AnswerOf<'log'> {
  /** the server has answered: until then, that nothing is on record means nothing */
  readonly isRead: boolean
  /** null: not loaded yet */
  readonly credentialRows: readonly CredentialRow[] | null
  /** of those, the records that findings look at */
  readonly credentials: readonly CredentialRecord[] | null
}

const initialState: LogbookState = {
  isRead: false,
  builds: [],
  boards: [],
  entries: [],
  runs: [],
  trials: [],
  acceptance: null,
  wires: [],
  credentialRows: null,
  credentials: null,
}

const slice = createSlice({
  name: 'logbook',
  initialState: initialState as LogbookState,
  reducers: {
    logbookLoaded: (state, action: PayloadAction<AnswerOf<'builds'> & AnswerOf<'log'>>) => ({
      ...(state as LogbookState),
      ...action.payload,
      isRead: true,
    }),
    credentialsLoaded: (state, action: PayloadAction<readonly CredentialRow[]>) => ({
      ...(state as LogbookState),
      credentialRows: action.payload,
      credentials: action.payload.flatMap((row) => (row.stored ? [row.stored] : [])),
    }),
    wireTurned: (state, { payload }: PayloadAction<{ controller: string; wire: string; done: boolean }>) => {
      const { controller, wire, done } = payload
      const wires = state.wires.filter((row) => row.controller !== controller || row.wire !== wire)
      return { ...(state as LogbookState), wires: done ? [...wires, { controller, wire, at: '' }] : wires }
    },
    logbookLeft: () => initialState,
  },
})

export const logbookActions = slice.actions
export const logbookReducer = slice.reducer
