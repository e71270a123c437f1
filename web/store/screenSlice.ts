import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import type { Column } from '../../core/ways'
import { firstTheme } from '../parts/theme'

/** How the findings stand at the edge of the page. */
export interface DrawerState {
  /** folded by hand: it stays so on every view until a hand opens it */
  readonly folded: boolean
  /** the side of a view on which a hand has opened it, though nothing there asks for it */
  readonly openAt: string | null
}

/** What the screen shows, apart from the document. */
export interface ScreenState {
  /** controller that the views are narrowed to, as a hand picked it; null: all. What is shown: `selectShown` */
  readonly controller: string | null
  /** the step of the job that is looked at */
  readonly step: string | null
  readonly theme: 'light' | 'dark'
  readonly drawer: DrawerState
  /** on a narrow screen: the panel that lies over the view */
  readonly panel: 'steps' | 'findings' | null
  /** step of the walk through an example; null: nobody walks */
  readonly walk: number | null
  /** cell of the crossbar */
  readonly cell: { readonly channel: string; readonly column: Column } | null
  /** channels that are picked beside the cell's own, for one edit of many; empty: only the cell */
  readonly chosen: readonly string[]
  /** role picked on the bench */
  readonly role: string | null
  /** grows when the findings have been worked out anew */
  readonly checked: number
}

const initialState: ScreenState = {
  controller: null,
  theme: firstTheme(),
  step: null,
  drawer: { folded: false, openAt: null },
  panel: null,
  walk: null,
  cell: null,
  chosen: [],
  role: null,
  checked: 0,
}

const slice = createSlice({
  name: 'screen',
  initialState,
  reducers: {
    controllerPicked: (state, action: PayloadAction<string | null>) => ({
      ...state,
      controller: action.payload,
      role: null,
    }),
    walked: (state, action: PayloadAction<number | null>) => ({ ...state, walk: action.payload }),
    themeTurned: (state) => ({ ...state, theme: state.theme === 'light' ? ('dark' as const) : ('light' as const) }),
    stepOpened: (state, action: PayloadAction<string | null>) => ({ ...state, step: action.payload, panel: null }),
    drawerTurned: (state, action: PayloadAction<{ readonly at: string; readonly shown: boolean }>) => ({
      ...state,
      drawer: action.payload.shown ? { folded: true, openAt: null } : { folded: false, openAt: action.payload.at },
    }),
    panelTurned: (state, action: PayloadAction<ScreenState['panel']>) => ({
      ...state,
      panel: state.panel === action.payload ? null : action.payload,
    }),
    cellPicked: (state, action: PayloadAction<ScreenState['cell']>) => ({ ...state, cell: action.payload, chosen: [] }),
    channelsChosen: (state, action: PayloadAction<readonly string[]>) => ({ ...state, chosen: [...action.payload] }),
    findingsChecked: (state) => ({ ...state, checked: state.checked + 1 }),
    rolePicked: (state, action: PayloadAction<string | null>) => ({ ...state, role: action.payload }),
    siteLeft: (state) => ({ ...state, controller: null, cell: null, chosen: [], role: null }),
  },
})

export const screenActions = slice.actions
export const screenReducer = slice.reducer
