import { useVirtualizer } from '@tanstack/react-virtual'
import { memo, useDeferredValue, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react'
import { assignedPin } from '../../../core/bench'
import type { Finding } from '../../../core/findings'
import { inputRoles, loadOf, outputRoles, topLevel, type Channel, type Site } from '../../../core/site'
import { cellOf, columnFoot, COLUMN_NAMES, COLUMNS, fillColumn, type Cell, type Column } from '../../../core/ways'
import { FindingTag } from '../../parts/FindingTag'
import { PinMark } from '../../parts/PinMark'
import { edit } from '../../store/editing'
import { selectOpenFindings } from '../../store/findings'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { NewChannel } from './NewChannel'
import { useCrossbarKeys } from './crossbarKeys'

type Line = { readonly kind: 'room'; readonly id: string; readonly name: string; readonly count: number } | { readonly kind: 'channel'; readonly channel: Channel }

/** The lines of the crossbar: each room's head, then its channels in the document's order. */
function linesOf(site: Site, controller: string | null): Line[] {
  const channels = site.channels.filter((channel) => controller === null || channel.controller === controller)
  return [...site.rooms.map((room) => ({ id: room.id as string, name: room.name })), { id: '', name: 'No room' }].flatMap((room): Line[] => {
    const own = channels.filter((channel) => (channel.room ?? '') === room.id)
    return own.length === 0 ? [] : [{ kind: 'room', ...room, count: own.length }, ...own.map((channel): Line => ({ kind: 'channel', channel }))]
  })
}

const COLUMN_WIDTHS = 'grid grid-cols-[minmax(13rem,1.1fr)_repeat(3,minmax(9rem,1fr))]'

/** The crossbar: one bus line a channel, crossed by its ways in. */
export function WaysView() {
  const site = useAppSelector((state) => state.site.site)!
  const controller = useAppSelector((state) => state.screen.controller)
  const picked = useAppSelector((state) => state.screen.cell)
  const findings = useDeferredValue(useAppSelector(selectOpenFindings))
  const dispatch = useAppDispatch()
  const lines = useMemo(() => linesOf(site, controller), [site, controller])
  const order = useMemo(() => lines.flatMap((line) => (line.kind === 'channel' ? [line.channel] : [])), [lines])
  const byChannel = useMemo(() => Map.groupBy(findings, (finding: Finding) => finding.where.channel ?? ''), [findings])
  const grid = useRef<HTMLDivElement>(null)
  const body = useRef<HTMLDivElement>(null)
  const [bodyTop, setBodyTop] = useState(0)
  useLayoutEffect(() => setBodyTop(body.current?.offsetTop ?? 0), [order.length])
  // Only the lines in sight are drawn: 200 channels cost no more than 20.
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => document.getElementById('view'),
    estimateSize: (at) => (lines[at]?.kind === 'room' ? 36 : 48),
    getItemKey: (at) => { const line = lines[at]!; return line.kind === 'room' ? `room:${line.id}` : line.channel.id },
    overscan: 6,
    scrollMargin: bodyTop,
  })
  const onKeyDown = useCrossbarKeys(order)
  const current = picked && order.some((channel) => channel.id === picked.channel) ? picked : order[0] ? { channel: order[0].id as string, column: 'wall' as Column } : null

  useEffect(() => {
    if (!picked || !grid.current) return
    const at = lines.findIndex((line) => line.kind === 'channel' && line.channel.id === picked.channel)
    if (at < 0) return
    const mayFocus = document.activeElement === document.body || grid.current.contains(document.activeElement)
    rows.scrollToIndex(at, { align: 'auto' })
    const focus = () => grid.current?.querySelector<HTMLElement>(`[data-cell="${picked.channel}/${picked.column}"]`)?.focus({ preventScroll: true })
    if (!mayFocus) return
    focus()
    // a line that was out of sight is drawn with the next frame
    const frame = requestAnimationFrame(focus)
    return () => cancelAnimationFrame(frame)
    // Only a new choice moves the focus; an edit of the document leaves it where it is.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [picked])

  const fill = (column: Column) => dispatch(edit(`fill ${COLUMN_NAMES[column]} column`, (draft) => void fillColumn(draft, column, controller === null ? {} : { controllers: [controller] })))
  return (
    <div className="px-5 py-4">
      <div className="flex items-baseline gap-4">
        <h1 className="text-view font-bold">Ways in</h1>
        <p className="text-note text-soft">
          {order.length} {order.length === 1 ? 'channel' : 'channels'}, {site.ways.filter((way) => order.some((channel) => channel.id === way.channel)).length} ways. A full pin speaks both ways, a half pin never reports back.
        </p>
      </div>
      {order.length === 0 ? (
        <p className="my-5 text-soft">{site.controllers.length === 0 ? 'Put a controller on the bench first: channels belong to one.' : 'No channel yet. Name the first thing to be switched.'}</p>
      ) : (
        <div ref={grid} role="grid" aria-label="Crossbar: channels by ways in" aria-rowcount={lines.length + 1} className="mt-3" onKeyDown={onKeyDown}>
          <div role="row" className={`${COLUMN_WIDTHS} items-baseline border-b border-hair pb-1.5`}>
            <span role="columnheader" className="font-semibold">Channel</span>
            {COLUMNS.map((column) => (
              <span role="columnheader" key={column} className="flex items-baseline gap-2 pl-6 font-semibold">
                {COLUMN_NAMES[column]}
                <span className="text-small font-normal text-soft">{columnFoot(site, column)}</span>
                <button type="button" tabIndex={-1} className="press-quiet ml-auto text-small font-normal" onClick={() => fill(column)} aria-label={`Fill the ${COLUMN_NAMES[column]} column`}>
                  fill
                </button>
              </span>
            ))}
          </div>
          <div ref={body} role="presentation" className="relative" style={{ height: rows.getTotalSize() }}>
            {rows.getVirtualItems().map((item) => {
              const line = lines[item.index]!
              return (
                <div key={item.key} role="presentation" ref={rows.measureElement} data-index={item.index} className="absolute inset-x-0 top-0" style={{ transform: `translateY(${item.start - bodyTop}px)` }}>
                  {line.kind === 'room' ? (
                    <RoomHead name={line.name} count={line.count} />
                  ) : (
                    <Row site={site} channel={line.channel} rowIndex={item.index + 2} findings={byChannel.get(line.channel.id) ?? NO_FINDINGS} current={current?.channel === line.channel.id ? current.column : null} picked={picked?.channel === line.channel.id ? picked.column : null} />
                  )}
                </div>
              )
            })}
          </div>
          <div className="mt-2 border-t-2 border-ink" aria-hidden="true" />
        </div>
      )}
      <NewChannel />
    </div>
  )
}

const NO_FINDINGS: readonly Finding[] = []

function RoomHead({ name, count }: { name: string; count: number }) {
  return (
    <div role="row" className="flex items-center gap-3 pt-3 pb-1">
      <span role="rowheader" className="font-place font-semibold">{name}</span>
      <span className="h-px flex-1 bg-hair" aria-hidden="true" />
      <span role="gridcell" className="text-small text-soft">{count} {count === 1 ? 'channel' : 'channels'}</span>
    </div>
  )
}

interface RowProps {
  readonly site: Site
  readonly channel: Channel
  readonly rowIndex: number
  readonly findings: readonly Finding[]
  /** the column that Tab enters */
  readonly current: Column | null
  readonly picked: Column | null
}

const Row = memo(function Row({ site, channel, rowIndex, findings: own, current, picked }: RowProps) {
  const load = loadOf(site, channel.load)
  const pins = site.controllers.find((candidate) => candidate.id === channel.controller)?.pins ?? {}
  const pin = outputRoles(channel).map((role) => pins[role]?.pin).filter((one) => one !== undefined)[0]
  const more = outputRoles(channel).length - 1
  const pinOf = (of: Channel, id: string) => {
    const input = site.inputs.find((candidate) => candidate.id === id)
    const read = input ? inputRoles(input).map((role) => assignedPin(site, of.controller, role)) : []
    return read.every((one) => one === null) ? null : read.map((one) => one ?? '–').join(' ')
  }
  return (
    <div role="row" aria-rowindex={rowIndex} className={COLUMN_WIDTHS}>
      <div role="rowheader" className="flex items-start gap-2.5 py-1.5 pr-2">
        <span className={`rounded-plate mt-0.5 flex h-8 w-11 shrink-0 items-center justify-center border-[1.5px] border-plate font-mono text-note font-semibold ${pin ? 'bg-plate text-plate-ink' : 'border-dashed text-soft'}`} title={pin ? 'output pin' : 'no output pin yet'}>
          {pin ?? '–'}
          {pin && more > 0 && <span className="text-[0.625rem]">+{more}</span>}
        </span>
        <span className="min-w-0">
          <span className="block font-semibold">{channel.name}</span>
          <span className="block text-small text-soft">{load ? `${channel.kind}${channel.kind === 'stepped' ? ` 0–${topLevel(channel)}` : ''}, ${load.type === 'led' ? 'LED' : load.type} ${load.watts} W` : `${channel.kind}, no load named`}</span>
          <Tags findings={own.filter((finding) => finding.where.column === undefined)} />
        </span>
      </div>
      {COLUMNS.map((column) => (
        <CrossbarCell key={column} cell={cellOf(site, channel, column, pinOf)} name={channel.name} findings={own.filter((finding) => finding.where.column === column)} reachable={current === column} picked={picked === column} />
      ))}
    </div>
  )
})

function Tags({ findings }: { findings: readonly Finding[] }) {
  if (findings.length === 0) return null
  return (
    <span className="mt-0.5 flex flex-wrap gap-1">
      {findings.map((finding) => (
        <FindingTag key={finding.id + finding.what} id={finding.id} severity={finding.severity} />
      ))}
    </span>
  )
}

function CrossbarCell({ cell, name, findings, reachable, picked }: { cell: Cell; name: string; findings: readonly Finding[]; reachable: boolean; picked: boolean }) {
  const dispatch = useAppDispatch()
  const said = cell.mark === 'empty' ? `${name} by ${COLUMN_NAMES[cell.column]}: no way yet` : undefined
  return (
    <div
      role="gridcell"
      tabIndex={reachable ? 0 : -1}
      aria-selected={picked}
      aria-label={said}
      data-cell={`${cell.channel}/${cell.column}`}
      className="group relative cursor-pointer border-l border-hair py-1.5 pr-2 pl-6 outline-offset-[-2px] hover:bg-panel aria-selected:bg-panel aria-selected:outline-2 aria-selected:outline-ink"
      onClick={() => dispatch(screenActions.cellPicked({ channel: cell.channel, column: cell.column }))}
      onFocus={() => dispatch(screenActions.cellPicked({ channel: cell.channel, column: cell.column }))}
    >
      <span aria-hidden="true" className="absolute top-[1.06rem] left-0 h-px w-5 bg-bus" />
      {cell.mark === 'empty' && <span aria-hidden="true" className="absolute top-[1.06rem] right-0 left-5 h-px bg-hair" />}
      <span className="absolute top-[0.66rem] left-1.5">
        <PinMark mark={cell.mark} />
      </span>
      <span className="block font-semibold">{cell.title || ' '}</span>
      <span className="block min-h-4 text-small leading-tight text-soft">{cell.detail}</span>
      <Tags findings={findings} />
    </div>
  )
}
