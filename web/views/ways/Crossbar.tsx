import { useVirtualizer } from '@tanstack/react-virtual'
import { memo, useDeferredValue, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react'
import { assignedPin } from '../../../core/bench'
import type { Finding } from '../../../core/findings'
import { inputRoles, loadOf, outputRoles, topLevel, type Channel, type Site } from '../../../core/site'
import {
  cellOf,
  columnFoot,
  COLUMN_NAMES,
  columnOf,
  COLUMNS,
  fillColumn,
  type Cell,
  type Column,
} from '../../../core/ways'
import { FindingTag } from '../../parts/FindingTag'
import { PinMark } from '../../parts/PinMark'
import { edit } from '../../store/editing'
import { selectOpenFindings } from '../../store/findings'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { NewChannel } from './NewChannel'
import { chooseAlso, focusCell, useCrossbarKeys } from './crossbarKeys'

type Line =
  | { readonly kind: 'room'; readonly id: string; readonly name: string; readonly count: number }
  | { readonly kind: 'channel'; readonly channel: Channel }

/** The lines of the crossbar: each room's head, then its channels in the document's order. */
function linesOf(site: Site, controller: string | null): Line[] {
  const channels = site.channels.filter((channel) => controller === null || channel.controller === controller)
  return [
    ...site.rooms.map((room) => ({ id: room.id as string, name: room.name })),
    { id: '', name: 'No room' },
  ].flatMap((room): Line[] => {
    const own = channels.filter((channel) => (channel.room ?? '') === room.id)
    return own.length === 0
      ? []
      : [{ kind: 'room', ...room, count: own.length }, ...own.map((channel): Line => ({ kind: 'channel', channel }))]
  })
}

/** A column that no channel in sight uses shows only its sockets. */
function columnWidths(used: ReadonlySet<Column>): { template: string; least: string } {
  const wide = COLUMNS.filter((column) => used.has(column)).length
  return {
    template: `11.5rem ${COLUMNS.map((column) => (used.has(column) ? 'minmax(7rem, 1fr)' : '4.4rem')).join(' ')}`,
    least: `${11.5 + wide * 7 + (COLUMNS.length - wide) * 4.4}rem`,
  }
}

/** The crossbar: one bus line a channel, crossed by its ways in. */
export function Crossbar() {
  const site = useAppSelector((state) => state.site.site)!
  const controller = useAppSelector((state) => state.screen.controller)
  const picked = useAppSelector((state) => state.screen.cell)
  const chosen = useAppSelector((state) => state.screen.chosen)
  const findings = useDeferredValue(useAppSelector(selectOpenFindings))
  const dispatch = useAppDispatch()
  const lines = useMemo(() => linesOf(site, controller), [site, controller])
  const order = useMemo(() => lines.flatMap((line) => (line.kind === 'channel' ? [line.channel] : [])), [lines])
  const byChannel = useMemo(() => Map.groupBy(findings, (finding: Finding) => finding.where.channel ?? ''), [findings])
  const widths = useMemo(
    () => columnWidths(usedColumns(site, new Set(order.map((channel) => channel.id)))),
    [site, order],
  )
  const grid = useRef<HTMLDivElement>(null)
  const body = useRef<HTMLDivElement>(null)
  const [bodyTop, setBodyTop] = useState(0)
  useLayoutEffect(() => setBodyTop(body.current?.offsetTop ?? 0), [order.length])
  // Only the lines in sight are drawn: 200 channels cost no more than 20.
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => document.getElementById('view'),
    estimateSize: (at) => (lines[at]?.kind === 'room' ? 36 : 60),
    getItemKey: (at) => {
      const line = lines[at]!
      return line.kind === 'room' ? `room:${line.id}` : line.channel.id
    },
    overscan: 4,
    scrollMargin: bodyTop,
  })
  const onKeyDown = useCrossbarKeys(order)
  const current =
    picked && order.some((channel) => channel.id === picked.channel)
      ? picked
      : order[0]
        ? { channel: order[0].id as string, column: 'wall' as Column }
        : null

  useEffect(() => {
    if (!picked || !grid.current) return
    const at = lines.findIndex((line) => line.kind === 'channel' && line.channel.id === picked.channel)
    if (at < 0) return
    const mayFocus = document.activeElement === document.body || grid.current.contains(document.activeElement)
    // a line that is drawn needs only a nudge, which costs no layout of its own; one that is not must first be scrolled
    // to
    if (!rows.getVirtualItems().some((item) => item.index === at)) rows.scrollToIndex(at, { align: 'auto' })
    const focus = () => {
      const cell = grid.current?.querySelector<HTMLElement>(`[data-cell="${picked.channel}/${picked.column}"]`)
      cell?.focus({ preventScroll: true })
      bringIntoSight(cell ?? null)
      return cell
    }
    if (!mayFocus || focus()) return
    // a line that was out of sight is drawn with the next frame
    const frame = requestAnimationFrame(focus)
    return () => cancelAnimationFrame(frame)
    // Only a new choice moves the focus; an edit of the document leaves it where it is.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [picked])

  const fill = (column: Column) =>
    dispatch(
      edit(
        `fill ${COLUMN_NAMES[column]} column`,
        (draft) => void fillColumn(draft, column, controller === null ? {} : { controllers: [controller] }),
      ),
    )
  if (order.length === 0) {
    return (
      <>
        <p className="my-5 text-soft">
          {site.controllers.length === 0
            ? 'Put a controller on the bench first: channels belong to one.'
            : 'No channel yet. Name the first thing to be switched.'}
        </p>
        <NewChannel />
      </>
    )
  }
  const columns = { gridTemplateColumns: widths.template }
  return (
    <>
      <div
        ref={grid}
        role="grid"
        aria-label="Crossbar: channels by ways in"
        aria-rowcount={lines.length + 1}
        aria-colcount={COLUMNS.length + 1}
        aria-multiselectable="true"
        className="relative mt-2"
        style={{ minWidth: widths.least }}
        onKeyDown={onKeyDown}
      >
        <div
          role="row"
          className="sticky top-0 z-20 grid items-end border-b border-bus bg-wall pt-1 pb-1.5"
          style={columns}
        >
          <span role="columnheader" className="sticky left-0 z-10 bg-wall font-semibold">
            Channel
          </span>
          {COLUMNS.map((column) => (
            <span role="columnheader" key={column} className="pl-6 leading-tight font-semibold">
              {COLUMN_NAMES[column]}
              <span className="flex items-baseline gap-1 text-small font-normal text-soft">
                <span className="truncate">{columnFoot(site, column)}</span>
                <button
                  type="button"
                  tabIndex={-1}
                  className="press-quiet -my-1 ml-auto px-1 text-small font-normal"
                  onClick={() => fill(column)}
                  aria-label={`Fill the ${COLUMN_NAMES[column]} column`}
                >
                  fill
                </button>
              </span>
            </span>
          ))}
        </div>
        <div ref={body} role="presentation" className="relative" style={{ height: rows.getTotalSize() }}>
          {rows.getVirtualItems().map((item) => {
            const line = lines[item.index]!
            return (
              <div
                key={item.key}
                role="presentation"
                ref={rows.measureElement}
                data-index={item.index}
                className="absolute inset-x-0 top-0 [contain:layout_style]"
                style={{ transform: `translateY(${item.start - bodyTop}px)` }}
              >
                {line.kind === 'room' ? (
                  <RoomHead name={line.name} count={line.count} />
                ) : (
                  <Row
                    site={site}
                    channel={line.channel}
                    rowIndex={item.index + 2}
                    template={widths.template}
                    findings={byChannel.get(line.channel.id) ?? NO_FINDINGS}
                    current={current?.channel === line.channel.id ? current.column : null}
                    picked={
                      picked?.channel === line.channel.id || (chosen.includes(line.channel.id) && picked)
                        ? picked!.column
                        : null
                    }
                  />
                )}
              </div>
            )
          })}
        </div>
        <div className="mt-2 border-t-2 border-ink" aria-hidden="true" />
      </div>
      <NewChannel />
    </>
  )
}

/** Columns in which any of the channels has a way. */
function usedColumns(site: Site, channels: ReadonlySet<string>): Set<Column> {
  const used = new Set<Column>(['wall'])
  for (const way of site.ways) if (channels.has(way.channel)) used.add(columnOf(site, way))
  if (site.rules.some((rule) => channels.has(rule.channel))) used.add('rule')
  return used
}

/** A cell behind the channels' own column, or beyond the edge, is scrolled out from there. */
function bringIntoSight(cell: HTMLElement | null): void {
  const view = document.getElementById('view')
  if (!cell || !view) return
  const frame = view.getBoundingClientRect()
  const box = cell.getBoundingClientRect()
  const firstColumn = 214
  const head = 56
  if (box.top < frame.top + head) view.scrollTop -= frame.top + head - box.top
  else if (box.bottom > frame.bottom - 8) view.scrollTop += box.bottom - frame.bottom + 8
  if (box.left < frame.left + firstColumn) view.scrollLeft -= frame.left + firstColumn - box.left
  else if (box.right > frame.right - 12) view.scrollLeft += box.right - frame.right + 12
}

const NO_FINDINGS: readonly Finding[] = []

function RoomHead({ name, count }: { name: string; count: number }) {
  return (
    <div role="row" className="flex items-center gap-3 pt-3 pb-1">
      <span role="rowheader" className="font-place sticky left-0 bg-wall pr-2 font-semibold">
        {name}
      </span>
      <span className="h-px flex-1 bg-hair" aria-hidden="true" />
      <span role="gridcell" className="text-small text-soft">
        {count} {count === 1 ? 'channel' : 'channels'}
      </span>
    </div>
  )
}

interface RowProps {
  readonly site: Site
  readonly channel: Channel
  readonly rowIndex: number
  readonly template: string
  readonly findings: readonly Finding[]
  /** the column that Tab enters */
  readonly current: Column | null
  readonly picked: Column | null
}

const Row = memo(function Row({ site, channel, rowIndex, template, findings: own, current, picked }: RowProps) {
  const load = loadOf(site, channel.load)
  const pins = site.controllers.find((candidate) => candidate.id === channel.controller)?.pins ?? {}
  const pin = outputRoles(channel)
    .map((role) => pins[role]?.pin)
    .filter((one) => one !== undefined)[0]
  const more = outputRoles(channel).length - 1
  const pinOf = (of: Channel, id: string) => {
    const input = site.inputs.find((candidate) => candidate.id === id)
    const read = input ? inputRoles(input).map((role) => assignedPin(site, of.controller, role)) : []
    return read.every((one) => one === null) ? null : read.map((one) => one ?? '–').join(' ')
  }
  return (
    <div role="row" aria-rowindex={rowIndex} className="grid" style={{ gridTemplateColumns: template }}>
      <div role="rowheader" className="sticky left-0 z-10 flex items-start gap-2.5 bg-wall py-1.5 pr-2">
        <span
          className={
            'rounded-plate mt-0.5 flex h-8 w-11 shrink-0 items-center justify-center border-[1.5px] ' +
            'border-plate font-mono text-note font-semibold ' +
            `${pin ? 'bg-plate text-plate-ink' : 'border-dashed text-soft'}`
          }
          title={pin ? 'output pin' : 'no output pin yet'}
        >
          {pin ?? '–'}
          {pin && more > 0 && <span className="text-[0.625rem]">+{more}</span>}
        </span>
        <span className="min-w-0">
          <span className="block font-semibold">{channel.name}</span>
          <span className="block text-small text-soft">
            {load
              ? `${channel.kind}${channel.kind === 'stepped' ? ` 0–${topLevel(channel)}` : ''}, ` +
                `${load.type === 'led' ? 'LED' : load.type} ${load.watts} W`
              : `${channel.kind}, no load named`}
            {channel.essential ? ', essential' : ''}
          </span>
          <Tags findings={own.filter((finding) => finding.where.column === undefined)} />
        </span>
      </div>
      {COLUMNS.map((column) => (
        <CrossbarCell
          key={column}
          cell={cellOf(site, channel, column, pinOf)}
          name={channel.name}
          findings={own.filter((finding) => finding.where.column === column)}
          reachable={current === column}
          picked={picked === column}
        />
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

interface CellProps {
  readonly cell: Cell
  readonly name: string
  readonly findings: readonly Finding[]
  readonly reachable: boolean
  readonly picked: boolean
}

/** An edit makes a new site, and each row works out its cells anew; most of them look as they did. */
const looksTheSame = (a: CellProps, b: CellProps): boolean =>
  a.name === b.name &&
  a.reachable === b.reachable &&
  a.picked === b.picked &&
  a.cell.channel === b.cell.channel &&
  a.cell.mark === b.cell.mark &&
  a.cell.title === b.cell.title &&
  a.cell.detail === b.cell.detail &&
  a.findings.length === b.findings.length &&
  a.findings.every((finding, i) => finding === b.findings[i])

const CrossbarCell = memo(function CrossbarCell({ cell, name, findings, reachable, picked }: CellProps) {
  const dispatch = useAppDispatch()
  const said = cell.mark === 'empty' ? `${name} by ${COLUMN_NAMES[cell.column]}: no way yet` : undefined
  return (
    <div
      role="gridcell"
      tabIndex={reachable ? 0 : -1}
      aria-selected={picked}
      aria-label={said}
      data-cell={`${cell.channel}/${cell.column}`}
      className="group relative cursor-pointer border-l border-hair py-1.5 pr-1.5 pl-6 outline-offset-[-2px] hover:bg-panel aria-selected:bg-panel aria-selected:outline-2 aria-selected:outline-ink"
      onClick={(event) =>
        dispatch(
          event.shiftKey || event.ctrlKey || event.metaKey
            ? chooseAlso(cell.channel, event.shiftKey)
            : screenActions.cellPicked({ channel: cell.channel, column: cell.column }),
        )
      }
      onFocus={(event) => {
        if (event.target.matches(':focus-visible')) dispatch(focusCell(cell.channel, cell.column))
      }}
    >
      <span aria-hidden="true" className="absolute top-[1.06rem] left-0 h-px w-5 bg-bus" />
      {cell.mark === 'empty' && (
        <span aria-hidden="true" className="absolute top-[1.06rem] right-0 left-5 h-px bg-hair" />
      )}
      <span className="absolute top-[0.66rem] left-1.5">
        <PinMark mark={cell.mark} />
      </span>
      <span
        className={
          'block font-semibold [overflow-wrap:anywhere] ' + `${cell.title.length > 14 ? 'text-note leading-tight' : ''}`
        }
      >
        {cell.title || ' '}
      </span>
      <span className="block min-h-4 text-small leading-tight text-soft">{cell.detail}</span>
      <Tags findings={findings} />
    </div>
  )
}, looksTheSame)
