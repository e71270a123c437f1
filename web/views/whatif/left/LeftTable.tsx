import { memo, type KeyboardEvent } from 'react'
import type { ChannelFaults, LeftCell, LeftRow, Question, WhoIsLeft } from '../../../../core/faults'
import type { Site } from '../../../../core/site'
import { hoursWords, onlyWords, SO } from '../words'

/** A channel, and what fails; no column: nothing does. */
export interface Cell {
  readonly channel: string
  readonly column: string | null
}

interface TableProps {
  readonly site: Site
  readonly question: Question
  readonly left: WhoIsLeft
  readonly faults: readonly ChannelFaults[]
  readonly picked: Cell | null
  readonly onPick: (cell: Cell) => void
}

/** Channels by what fails: a square for each way that is left, a dark plate where nobody is. Arrow keys move in it. */
export function LeftTable({ site, question, left: { columns, rows }, faults, picked, onPick }: TableProps) {
  const hours = new Map(faults.map((one) => [one.channel, one]))
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Channels by what fails">
      <table className="sheet left-table" onKeyDown={moves}>
        <thead>
          <tr>
            <th className="left-name left-name-head min-w-36 bg-wall align-bottom">Channel</th>
            <th className="text-right align-bottom">{question === 'unbidden' ? 'Times per year' : 'Per year'}</th>
            {columns.map(({ key, name }) => (
              <th key={key} className="max-w-20 text-center align-bottom leading-tight">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <Row
              key={row.channel}
              {...{ site, question, row, columns, onPick }}
              faults={hours.get(row.channel)}
              picked={picked?.channel === row.channel ? (picked.column ?? OWN) : null}
              isFirst={picked === null && i === 0}
            />
          ))}
        </tbody>
      </table>
    </div>
  )
}

/** From cell to cell by the arrows, as on the crossbar. */
function moves(event: KeyboardEvent<HTMLTableElement>): void {
  const steps: Record<string, readonly [number, number]> = {
    ...{ ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] },
  }
  const step = steps[event.key]
  const cell = (event.target as HTMLElement).closest('td')
  if (!step || !cell) return
  event.preventDefault()
  const body = cell.closest('tbody')!
  const [down, along] = step
  let [row, column] = [(cell.parentElement as HTMLTableRowElement).sectionRowIndex, cell.cellIndex]
  for (;;) {
    row += down
    column += along
    const next = body.rows[row]?.cells[column]
    if (!next) return
    const press = next.querySelector('button')
    if (press) return press.focus()
  }
}

/** The name of a channel is picked, and no column. */
const OWN = ' '

interface RowProps extends Pick<TableProps, 'site' | 'question' | 'onPick'> {
  readonly row: LeftRow
  readonly columns: WhoIsLeft['columns']
  readonly faults: ChannelFaults | undefined
  /** the column that is picked in this row; null: none of it */
  readonly picked: string | null
  /** Tab comes to it, where nothing is picked */
  readonly isFirst: boolean
}

/** One row: drawn again only when something of it changes, since there can be hundreds. */
const Row = memo(function Row({ site, question, row, columns, faults, picked, isFirst, onPick }: RowProps) {
  if (row.notAsked !== null)
    return (
      <tr>
        <td className="left-name bg-wall text-soft">{row.name}</td>
        <td colSpan={columns.length + 1} className="text-small text-soft">
          not asked: {row.notAsked}
        </td>
      </tr>
    )
  return (
    <tr className={picked === null ? '' : 'bg-panel'}>
      <td className={`left-name ${picked === null ? 'bg-wall' : 'bg-panel'}`}>
        <button
          type="button"
          aria-pressed={picked === OWN}
          tabIndex={picked === OWN || isFirst ? 0 : -1}
          className="min-h-6 text-left font-semibold hover:underline"
          onClick={() => onPick({ channel: row.channel, column: null })}
        >
          {row.name}
        </button>
      </td>
      <td className="text-right font-mono whitespace-nowrap">{yearly(question, faults)}</td>
      {columns.map(({ key, name }, i) => (
        <FailedCell
          key={key}
          {...{ site, question, name, row }}
          cell={row.cells[i] ?? null}
          isPicked={picked === key}
          onPick={() => onPick({ channel: row.channel, column: key })}
        />
      ))}
    </tr>
  )
})

interface FailedProps {
  readonly site: Site
  readonly question: Question
  /** what fails */
  readonly name: string
  readonly row: LeftRow
  readonly cell: LeftCell | null
  readonly isPicked: boolean
  readonly onPick: () => void
}

function FailedCell({ site, question, name, row, cell, isPicked, onPick }: FailedProps) {
  if (!cell) return <td />
  return (
    <td className="!p-0 text-center">
      <button
        type="button"
        aria-pressed={isPicked}
        tabIndex={isPicked ? 0 : -1}
        aria-label={`${row.name}, ${name} fails: ${spoken(question, cell, row)}`}
        className="min-h-8 w-full px-1 aria-pressed:outline-2 aria-pressed:outline-ink"
        onClick={onPick}
      >
        <Mark site={site} question={question} cell={cell} row={row} />
      </button>
    </td>
  )
}

function yearly(question: Question, faults: ChannelFaults | undefined): string {
  if (!faults || faults.hours === null || faults.times === null) return 'always'
  if (question !== 'unbidden') return hoursWords(faults.hours)
  return faults.times >= 0.1 ? faults.times.toFixed(1) : faults.times > 0 ? faults.times.toFixed(2) : '0'
}

const spoken = (question: Question, cell: LeftCell, row: LeftRow): string =>
  cell.isSo
    ? SO[question]
    : row.whole.ways.length === 0
      ? 'nothing changes'
      : `${cell.ways.length} of ${row.whole.ways.length} ways left`

/** More squares than that are as good as many. */
const MOST_MARKS = 4

function Mark({ site, question, cell, row }: { site: Site; question: Question; cell: LeftCell; row: LeftRow }) {
  if (cell.isSo)
    return (
      <span className="rounded-plate inline-block bg-plate px-1.5 text-small font-semibold text-plate-ink">
        {SO[question]}
      </span>
    )
  const count = cell.ways.length
  if (row.whole.ways.length === 0 || count === 0)
    return (
      <span aria-hidden="true" className="text-soft">
        ·
      </span>
    )
  const isWhole = count === row.whole.ways.length
  return (
    <span aria-hidden="true" className="inline-flex flex-col items-center leading-none">
      <span className={`inline-flex items-center gap-0.5 ${isWhole ? 'text-rest' : 'text-brass'}`}>
        {Array.from({ length: Math.min(count, MOST_MARKS) }, (_, i) => (
          <span key={i} className={count === 1 ? 'way-mark way-mark-last' : 'way-mark'} />
        ))}
        {count > MOST_MARKS && <span className="text-[0.6875rem]">+</span>}
      </span>
      {count === 1 && !isWhole && (
        <span className="mt-0.5 text-[0.6875rem] whitespace-nowrap text-soft">{onlyWords(site, cell.ways)}</span>
      )}
    </span>
  )
}
