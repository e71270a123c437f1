import { memo, type FocusEvent, type MouseEvent } from 'react'
import type { Finding } from '../../../core/findings'
import { COLUMN_NAMES, type Cell } from '../../../core/ways'
import { FindingTags } from '../../parts/FindingTag'
import { isWide } from '../../parts/wide'
import { PinMark } from '../../parts/PinMark'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch } from '../../store/store'
import { chooseAlso, focusCell } from './crossbarChoice'
import type { Tried } from './tried'

interface CellProps {
  readonly cell: Cell
  readonly name: string
  readonly findings: readonly Finding[]
  readonly reachable: boolean
  readonly picked: boolean
  /** what the acceptance run in the simulated house said of it; absent: nothing */
  readonly tried?: Tried | undefined
}

/** An edit makes a new site, and each row works out its cells anew; most of them look as they did. */
const looksTheSame = (a: CellProps, b: CellProps): boolean =>
  a.name === b.name &&
  a.reachable === b.reachable &&
  a.picked === b.picked &&
  a.tried?.result === b.tried?.result &&
  a.tried?.isOld === b.tried?.isOld &&
  a.cell.channel === b.cell.channel &&
  a.cell.mark === b.cell.mark &&
  a.cell.title === b.cell.title &&
  a.cell.detail === b.cell.detail &&
  a.findings.length === b.findings.length &&
  a.findings.every((finding, i) => finding === b.findings[i])

const LOOKS =
  'group relative cursor-pointer border-l border-hair py-1.5 pr-1.5 pl-6 outline-offset-[-2px] hover:bg-panel ' +
  'aria-selected:bg-panel aria-selected:outline-2 aria-selected:outline-ink'

export const CrossbarCell = memo(function CrossbarCell(props: CellProps) {
  const { cell, name, findings, reachable, picked, tried } = props
  const dispatch = useAppDispatch()
  const { channel, column } = cell
  const pick = ({ shiftKey, ctrlKey, metaKey }: MouseEvent) => {
    if (shiftKey || ctrlKey || metaKey) return void dispatch(chooseAlso(channel, shiftKey))
    dispatch(screenActions.cellPicked({ channel, column }))
    // where there is no room beside the crossbar, a tap opens the cell over it
    if (!isWide()) dispatch(screenActions.panelTurned('findings'))
  }
  const reached = (event: FocusEvent) => {
    if (event.target.matches(':focus-visible')) dispatch(focusCell(channel, column))
  }
  return (
    <div
      role="gridcell"
      tabIndex={reachable ? 0 : -1}
      aria-selected={picked}
      aria-label={cell.mark === 'empty' ? `${name} by ${COLUMN_NAMES[column]}: no way yet` : undefined}
      data-cell={`${channel}/${column}`}
      className={LOOKS}
      onClick={pick}
      onFocus={reached}
    >
      <Wire cell={cell} />
      {tried && cell.mark !== 'empty' && <TriedMark tried={tried} />}
      <span
        className={`block font-semibold [overflow-wrap:anywhere] ${cell.title.length > 14 ? 'text-note leading-tight' : ''}`}
      >
        {cell.title || ' '}
      </span>
      <span className="block min-h-4 text-small leading-tight text-soft">{cell.detail}</span>
      <FindingTags findings={findings} />
    </div>
  )
}, looksTheSame)

const TRIED = {
  passed: { sign: '✓', looks: 'text-rest', words: 'passed in the simulated house' },
  failed: { sign: '✕', looks: 'text-error', words: 'failed in the simulated house' },
  skipped: { sign: '–', looks: 'text-soft', words: 'skipped in the simulated house' },
} as const

/** What the last acceptance run found; pale where the controller has other tables by now. */
function TriedMark({ tried: { result, note, isOld } }: { tried: Tried }) {
  const { sign, looks, words } = TRIED[result]
  const said = `${words}${isOld ? ', with older tables' : ''}${note ? `: ${note}` : ''}`
  return (
    <span
      className={`absolute right-1 bottom-1 text-small leading-none font-semibold ${isOld ? 'text-soft' : looks}`}
      title={said}
      data-tried={result}
    >
      <span aria-hidden="true">{isOld ? '?' : sign}</span>
      <span className="sr-only">{said}</span>
    </span>
  )
}

/** The bus line that runs into the cell, and the pin on it; beyond an empty socket it goes on thin. */
function Wire({ cell }: { cell: Cell }) {
  return (
    <>
      <span aria-hidden="true" className="absolute top-[1.06rem] left-0 h-px w-5 bg-bus" />
      {cell.mark === 'empty' && (
        <span aria-hidden="true" className="absolute top-[1.06rem] right-0 left-5 h-px bg-hair" />
      )}
      <span className="absolute top-[0.66rem] left-1.5">
        <PinMark mark={cell.mark} />
      </span>
    </>
  )
}
