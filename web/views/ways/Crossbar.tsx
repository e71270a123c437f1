import { useVirtualizer } from '@tanstack/react-virtual'
import { useDeferredValue, useLayoutEffect, useMemo, useRef, useState, type RefObject } from 'react'
import type { Finding } from '../../../core/findings'
import type { Channel } from '../../../core/site'
import { COLUMNS, crossbarLines, usedColumns, type Column, type CrossbarLine } from '../../../core/ways'
import { NewChannel } from '../../parts/NewChannel'
import { selectOpenFindings } from '../../store/findings'
import { selectShown } from '../../store/selection'
import { useAppSelector } from '../../store/store'
import { CrossbarHead } from './CrossbarHead'
import { CrossbarRow, RoomHead } from './CrossbarRow'
import { useCrossbarFocus } from './crossbarFocus'
import { useCrossbarKeys } from './crossbarKeys'
import { TriedProvider, useTried } from './tried'

/** A column that no channel in sight uses shows only its sockets. */
function columnWidths(used: ReadonlySet<Column>): { template: string; least: string } {
  const wide = COLUMNS.filter((column) => used.has(column)).length
  const column = (one: Column) => (used.has(one) ? 'minmax(7rem, 1fr)' : '4.4rem')
  return {
    template: `var(--channel-column) ${COLUMNS.map(column).join(' ')}`,
    least: `calc(var(--channel-column) + ${wide * 7 + (COLUMNS.length - wide) * 4.4}rem)`,
  }
}

/** The crossbar: one bus line a channel, crossed by its ways in. */
export function Crossbar() {
  const site = useAppSelector((state) => state.site.site)!
  const controller = useAppSelector(selectShown)
  const lines = useMemo(() => crossbarLines(site, controller), [site, controller])
  const order = useMemo(() => lines.flatMap((line) => (line.kind === 'channel' ? [line.channel] : [])), [lines])
  const begin = site.controllers.length === 0
  const tried = useTried(site)
  return (
    <>
      {order.length > 0 ? (
        <TriedProvider value={tried}>
          <Grid lines={lines} order={order} />
        </TriedProvider>
      ) : (
        <p className="my-5 text-soft">
          {begin
            ? 'Add a controller on the bench first: each channel belongs to one.'
            : 'No channel yet. Name the first thing that is switched.'}
        </p>
      )}
      <NewChannel />
    </>
  )
}

interface GridProps {
  readonly lines: readonly CrossbarLine[]
  readonly order: readonly Channel[]
}

/** Only the lines in sight are drawn: 200 channels cost no more than 20. */
function useLines(lines: readonly CrossbarLine[], body: RefObject<HTMLDivElement | null>) {
  const [bodyTop, setBodyTop] = useState(0)
  useLayoutEffect(() => setBodyTop(body.current?.offsetTop ?? 0), [lines.length, body])
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
  return { rows, bodyTop }
}

function Grid({ lines, order }: GridProps) {
  const site = useAppSelector((state) => state.site.site)!
  const widths = useMemo(() => columnWidths(usedColumns(site, order)), [site, order])
  const grid = useRef<HTMLDivElement>(null)
  const body = useRef<HTMLDivElement>(null)
  const { rows, bodyTop } = useLines(lines, body)
  const onKeyDown = useCrossbarKeys(order)
  useCrossbarFocus(grid, lines, rows)
  return (
    <div
      ref={grid}
      role="grid"
      aria-label="Crossbar: channels by ways in"
      aria-rowcount={lines.length + 1}
      aria-colcount={COLUMNS.length + 1}
      aria-multiselectable="true"
      className="relative mt-2 [--channel-column:7.5rem] @3xl:[--channel-column:11.5rem]"
      style={{ minWidth: widths.least }}
      onKeyDown={onKeyDown}
    >
      <CrossbarHead template={widths.template} />
      <div ref={body} role="presentation" className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((item) => (
          <div
            key={item.key}
            role="presentation"
            ref={rows.measureElement}
            data-index={item.index}
            className="absolute inset-x-0 top-0 [contain:layout_style]"
            style={{ transform: `translateY(${item.start - bodyTop}px)` }}
          >
            <Line at={item.index} line={lines[item.index]!} order={order} template={widths.template} />
          </div>
        ))}
      </div>
      <div className="mt-2 border-t-2 border-ink" aria-hidden="true" />
    </div>
  )
}

const NO_FINDINGS: readonly Finding[] = []

interface LineProps {
  readonly at: number
  readonly line: CrossbarLine
  readonly order: readonly Channel[]
  readonly template: string
}

function Line({ at, line, order, template }: LineProps) {
  const picked = useAppSelector((state) => state.screen.cell)
  const chosen = useAppSelector((state) => state.screen.chosen)
  // findings may be a frame behind the hand
  const findings = useDeferredValue(useAppSelector(selectOpenFindings))
  const id = line.kind === 'channel' ? line.channel.id : null
  const own = useMemo(() => findings.filter((finding) => finding.where.channel === id), [findings, id])
  if (line.kind === 'room') return <RoomHead name={line.name} count={line.count} />
  const inSight = picked !== null && order.some((channel) => channel.id === picked.channel)
  const entered = inSight ? picked.channel : order[0]!.id
  const column = inSight ? picked.column : 'wall'
  const shown = picked !== null && (picked.channel === id || chosen.includes(line.channel.id))
  return (
    <CrossbarRow
      channel={line.channel}
      rowIndex={at + 2}
      template={template}
      findings={own.length ? own : NO_FINDINGS}
      current={entered === id ? column : null}
      picked={shown ? picked.column : null}
    />
  )
}
