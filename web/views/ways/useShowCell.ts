import { useSearchParams } from 'react-router'
import type { Column } from '../../../core/ways'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch } from '../../store/store'

/** Goes to a cell of the crossbar from a side that stands beside it. */
export function useShowCell(): (channel: string, column: Column) => void {
  const dispatch = useAppDispatch()
  const [, setParameters] = useSearchParams()
  return (channel, column) => {
    dispatch(screenActions.cellPicked({ channel, column }))
    setParameters({}, { replace: true })
  }
}
