import { COLUMN_NAMES, columnFoot, COLUMNS, fillColumn, type Column } from '../../../core/ways'
import { selectShown } from '../../store/selection'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { fillWithin } from './cellEdits'

/** The names of the columns, how much stands in each, and a press that fills it. */
export function CrossbarHead({ template }: { template: string }) {
  return (
    <div
      role="row"
      className="sticky top-0 z-20 grid items-end border-b border-bus bg-wall pt-1 pb-1.5"
      style={{ gridTemplateColumns: template }}
    >
      <span role="columnheader" className="sticky left-0 z-10 bg-wall font-semibold">
        Channel
      </span>
      {COLUMNS.map((column) => (
        <ColumnHead key={column} column={column} />
      ))}
    </div>
  )
}

function ColumnHead({ column }: { column: Column }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const controller = useAppSelector(selectShown)
  const name = COLUMN_NAMES[column]
  const fill = () =>
    dispatch(
      fillWithin(`fill ${name} column`, (draft) => {
        fillColumn(draft, column, controller === null ? {} : { controllers: [controller] })
      }),
    )
  return (
    <span role="columnheader" className="pl-6 leading-tight font-semibold">
      {name}
      <span className="flex items-baseline gap-1 text-small font-normal text-soft">
        <span className="truncate">{columnFoot(site, column)}</span>
        <button
          type="button"
          tabIndex={-1}
          className="press-quiet -my-1 ml-auto min-w-7 justify-center px-1 text-small font-normal"
          onClick={fill}
          aria-label={`Fill the ${name} column`}
        >
          fill
        </button>
      </span>
    </span>
  )
}
