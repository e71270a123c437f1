import { configureStore } from '@reduxjs/toolkit'
import { useDispatch, useSelector, useStore } from 'react-redux'
import { followFindings } from './findings'
import { logbookReducer } from './logbookSlice'
import { screenReducer } from './screenSlice'
import { siteReducer } from './siteSlice'

export const store = configureStore({
  reducer: { site: siteReducer, screen: screenReducer, logbook: logbookReducer },
  // The document can be large; freezing and deep checks on each keystroke would cost more than they find.
  middleware: (getDefault) => getDefault({ immutableCheck: false, serializableCheck: false }),
})

followFindings(store)

export type RootState = ReturnType<typeof store.getState>
export type Dispatch = typeof store.dispatch
export type Thunk<T = void> = (dispatch: Dispatch, getState: () => RootState) => T

export const useAppDispatch = useDispatch.withTypes<Dispatch>()
export const useAppSelector = useSelector.withTypes<RootState>()
export const useAppStore = useStore.withTypes<typeof store>()
