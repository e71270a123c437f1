import { useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { ChannelLane, Lanes } from '../../../../core/trial'
import { clockOf } from '../clock'
import type { Hold } from '../useTrial'
import { ChannelRow, laneHeight } from './ChannelRow'
import { timeScale, type TimeScale } from './scale'
import { MessageRow, messagesHeight, WireRows, wiresHeight } from './WireRows'
import type { StretchHold } from './useStretch'

const NAMES = 148
const HEAD = 22
/** more, where something is broken */
const FAULTS = 14

interface Props {
  readonly lanes: Lanes
  readonly stretch: StretchHold
  readonly hold: Hold
  readonly width: number
  /** all channels, or only those with something in the stretch */
  readonly all: boolean
  readonly cause: number | null
}

const hasNews = ({ asked, is, believed, differs }: ChannelLane): boolean =>
  asked.length > 0 ||
  is.length > 1 ||
  differs.length > 0 ||
  believed.some(({ bars, wrong }) => bars.length > 1 || wrong.length > 0) ||
  is.some(({ value }) => value > 0)

/** The run, drawn: a lane for each channel under one head of time, with outages as shades. */
export function Drawn({ lanes, stretch, hold, width, all, cause }: Props) {
  const shown = all ? lanes.channels : lanes.channels.filter(hasNews)
  const plot = Math.max(100, width - NAMES)
  const scale = useMemo(() => timeScale(lanes.from, lanes.to, plot), [lanes.from, lanes.to, plot])
  const cursor = useCursor(shown, scale, hold, stretch)
  const place = useWheel(scale, stretch)
  const drag = useDrag(scale, lanes, stretch, hold)
  return (
    <div
      ref={place}
      role="group"
      aria-label={
        'Drawn time line: up and down pick a channel, left and right go from change to change, ' +
        'Enter goes there, + and - zoom'
      }
      tabIndex={0}
      className="relative min-h-0 flex-1 overflow-x-hidden overflow-y-auto"
      onKeyDown={cursor.onKey}
      data-testid="drawn"
    >
      <svg
        width={width}
        height={HEAD + (lanes.faults.length > 0 ? FAULTS : 0)}
        className="sticky top-0 z-10 block bg-wall"
        {...drag}
      >
        <Head lanes={lanes} scale={scale} plot={plot} />
      </svg>
      {shown.length === 0 && (
        <p className="py-3 text-note text-soft">Nothing in this stretch: press a switch, or look further back.</p>
      )}
      <Plot {...{ lanes, shown, scale, width, plot, cause, drag }} cursor={cursor} onPick={stretch.pick} />
      <output className="sr-only" aria-live="polite">
        {cursor.said}
      </output>
    </div>
  )
}

interface PlotProps {
  readonly lanes: Lanes
  readonly shown: readonly ChannelLane[]
  readonly scale: TimeScale
  readonly width: number
  readonly plot: number
  readonly cause: number | null
  readonly drag: ReturnType<typeof useDrag>
  readonly cursor: { readonly row: number; readonly t: number | null }
  readonly onPick: (cause: number) => void
}

function Plot({ lanes, shown, scale, width, plot, cause, drag, cursor, onPick }: PlotProps) {
  const tops = shown.reduce<number[]>((rows, lane) => [...rows, rows.at(-1)! + laneHeight(lane)], [0])
  const lanesEnd = tops.at(-1)!
  const wiresEnd = lanesEnd + wiresHeight(lanes)
  const height = wiresEnd + messagesHeight(lanes)
  const rows = { lanes, scale, names: NAMES, plot }
  return (
    <svg width={width} height={Math.max(1, height)} className="block touch-pan-y select-none" {...drag}>
      <Patterns />
      <Instants lanes={lanes} scale={scale} height={height} cursor={cursor.t} />
      {shown.map((lane, i) => (
        <g key={lane.channel}>
          <Name lane={lane} y={tops[i]!} isPicked={cursor.t !== null && cursor.row === i} />
          <g transform={`translate(${NAMES} 0)`}>
            <ChannelRow lane={lane} scale={scale} y={tops[i]!} width={plot} cause={cause} onPick={onPick} />
          </g>
          <line x1={0} x2={width} y1={tops[i + 1]! - 2} y2={tops[i + 1]! - 2} stroke="var(--hair)" />
        </g>
      ))}
      <WireRows {...rows} y={lanesEnd + 3} />
      {messagesHeight(lanes) > 0 && <MessageRow {...rows} y={wiresEnd} />}
    </svg>
  )
}

interface InstantsProps {
  readonly lanes: Lanes
  readonly scale: TimeScale
  readonly height: number
  readonly cursor: number | null
}

/** Behind the lanes: what is broken as a shade, where the run stands, and where the keyboard is. */
function Instants({ lanes, scale, height, cursor }: InstantsProps) {
  const upright = (t: number) => ({ x1: scale.x(t), x2: scale.x(t), y1: 0, y2: height })
  return (
    <g transform={`translate(${NAMES} 0)`}>
      {lanes.faults.map(({ part, from, to }) => (
        <rect
          key={`${part}${from}`}
          x={scale.x(from)}
          width={Math.max(1, scale.x(to) - scale.x(from))}
          height={height}
          fill="var(--error)"
          opacity={0.07}
        />
      ))}
      <line {...upright(lanes.now)} stroke="var(--ink)" strokeWidth={1.6} />
      {cursor !== null && <line {...upright(cursor)} stroke="var(--brass)" strokeWidth={1.4} strokeDasharray="3 3" />}
    </g>
  )
}

function Name({ lane, y, isPicked }: { lane: ChannelLane; y: number; isPicked: boolean }) {
  return (
    <g transform={`translate(0 ${y})`}>
      {isPicked && <rect x={0} y={2} width={3} height={laneHeight(lane) - 6} fill="var(--brass-fill)" />}
      <text x={7} y={15} fontSize={13} fontWeight={650} fill="var(--ink)">
        {lane.name.length > 19 ? `${lane.name.slice(0, 18)}…` : lane.name}
      </text>
      {lane.believed.map(({ way, who }, i) => (
        <text key={way} x={NAMES - 8} y={ASKED_AND_IS + i * 13 + 9} fontSize={10.5} textAnchor="end" fill="var(--soft)">
          {who}
        </text>
      ))}
    </g>
  )
}
const ASKED_AND_IS = 29

/** The instants, and above them what is broken. */
function Head({ lanes, scale, plot }: { lanes: Lanes; scale: TimeScale; plot: number }) {
  const foot = HEAD + (lanes.faults.length > 0 ? FAULTS : 0)
  return (
    <g transform={`translate(${NAMES} 0)`}>
      <text x={-NAMES + 7} y={15} fontSize={11} fill="var(--soft)">
        asked · is · believed
      </text>
      {scale.ticks.map((t) => (
        <g key={t} transform={`translate(${scale.x(t)} 0)`}>
          <line y1={HEAD - 5} y2={HEAD} stroke="var(--bus)" />
          <text x={3} y={14} fontSize={10.5} className="font-mono" fill="var(--soft)">
            {clockOf(t, scale.stepMs)}
          </text>
        </g>
      ))}
      {lanes.faults.map(({ part, from, text }) => (
        <text
          key={`${part}${from}`}
          x={Math.max(0, scale.x(from)) + 3}
          y={foot - 4}
          fontSize={10.5}
          fontWeight={650}
          fill="var(--error)"
          stroke="var(--wall)"
          strokeWidth={4}
          paintOrder="stroke"
        >
          ✕ {text}
        </text>
      ))}
      <line x1={scale.x(lanes.now)} x2={scale.x(lanes.now)} y1={0} y2={foot} stroke="var(--ink)" strokeWidth={2.4} />
      <line x1={-NAMES} x2={plot} y1={foot - 0.5} y2={foot - 0.5} stroke="var(--ink)" />
    </g>
  )
}

const Patterns = () => (
  <defs>
    <pattern id="wrong" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <rect width="6" height="6" fill="var(--wall)" />
      <line x1="0" y1="0" x2="0" y2="6" stroke="var(--error)" strokeWidth="2" />
    </pattern>
    <pattern id="busy" width="4" height="4" patternUnits="userSpaceOnUse">
      <rect width="2" height="4" fill="var(--brass-fill)" />
    </pattern>
  </defs>
)

// ---- by hand and by keyboard ----

/** The wheel zooms about the pointer, with Shift or sideways it moves. */
function useWheel(scale: TimeScale, stretch: StretchHold) {
  const place = useRef<HTMLDivElement>(null)
  const latest = useRef({ scale, stretch })
  useEffect(() => {
    latest.current = { scale, stretch }
  })
  useEffect(() => {
    const element = place.current!
    const listen = (event: WheelEvent): void => {
      if (!event.ctrlKey && !event.metaKey && !event.altKey) return
      event.preventDefault()
      const { scale: at, stretch: held } = latest.current
      const x = event.clientX - element.getBoundingClientRect().left - NAMES
      const t = at.t(x)
      const [from, to] = [at.t(0), at.t(1)]
      held.zoom(event.deltaY > 0 ? 1.25 : 0.8, { t, share: x / Math.max(1, held.spanMs / Math.max(1e-9, to - from)) })
    }
    element.addEventListener('wheel', listen, { passive: false })
    return () => element.removeEventListener('wheel', listen)
  }, [])
  return place
}

/** A drag moves the stretch; a click goes to the instant. */
function useDrag(scale: TimeScale, lanes: Lanes, stretch: StretchHold, hold: Hold) {
  const [start, setStart] = useState<{ x: number; from: number; moved: boolean } | null>(null)
  const xOf = (event: PointerEvent<SVGSVGElement>): number =>
    event.clientX - event.currentTarget.getBoundingClientRect().left - NAMES
  return {
    onPointerDown: (event: PointerEvent<SVGSVGElement>) => {
      if (xOf(event) < 0 || event.button !== 0) return
      setStart({ x: xOf(event), from: lanes.from, moved: false })
    },
    onPointerMove: (event: PointerEvent<SVGSVGElement>) => {
      if (!start) return
      const by = xOf(event) - start.x
      if (Math.abs(by) < 4 && !start.moved) return
      setStart({ ...start, moved: true })
      stretch.moveTo(start.from - (scale.t(by) - scale.t(0)))
    },
    onPointerUp: (event: PointerEvent<SVGSVGElement>) => {
      if (start && !start.moved && !(event.target as Element).closest('[data-asked]')) hold.goTo(scale.t(start.x))
      setStart(null)
    },
    onPointerLeave: () => setStart(null),
  }
}

/** The instants at which something of a lane changes. */
const changesOf = (lane: ChannelLane): number[] =>
  [
    ...new Set([
      ...lane.asked.map(({ t }) => t),
      ...lane.is.map(({ from }) => from),
      ...lane.believed.flatMap(({ bars, wrong }) => [...bars, ...wrong].map(({ from }) => from)),
    ]),
  ].sort((a, b) => a - b)

const valueAt = (bars: readonly { from: number; to: number; value: number }[], t: number): number =>
  bars.find(({ from, to }) => from <= t && t < to)?.value ?? bars.at(-1)?.value ?? 0

function saidAt(lane: ChannelLane, t: number): string {
  const words = (value: number): string => (value === 0 ? 'off' : lane.top > 1 ? `level ${value}` : 'on')
  const asked = lane.asked.filter((tick) => tick.t === t).map(({ text }) => text)
  const is = valueAt(lane.is, t)
  const screens = lane.believed.map(({ who, bars, wrong }) => {
    const isWrong = wrong.some(({ from, to }) => from <= t && t < to)
    return `${who} shows ${words(valueAt(bars, t))}${isWrong ? ', which is wrong' : ''}`
  })
  return [`${lane.name} at ${clockOf(t)}: ${words(is)}`, ...asked, ...screens].join('; ')
}

/** A lane and an instant are picked by keyboard, and said. */
function useCursor(shown: readonly ChannelLane[], scale: TimeScale, hold: Hold, stretch: StretchHold) {
  const [at, setAt] = useState<{ row: number; t: number | null }>({ row: 0, t: null })
  const row = Math.min(at.row, Math.max(0, shown.length - 1))
  const lane = shown[row]
  const move = (by: 1 | -1): void => {
    if (!lane) return
    const times = changesOf(lane)
    const from = at.t ?? (by > 0 ? scale.t(0) - 1 : Infinity)
    const next = by > 0 ? times.find((t) => t > from) : times.filter((t) => t < from).at(-1)
    if (next !== undefined) setAt({ row, t: next })
  }
  const keys: Record<string, () => void> = {
    ArrowDown: () => setAt({ row: Math.min(shown.length - 1, row + 1), t: at.t }),
    ArrowUp: () => setAt({ row: Math.max(0, row - 1), t: at.t }),
    ArrowRight: () => move(1),
    ArrowLeft: () => move(-1),
    Enter: () => (at.t === null ? undefined : hold.goTo(at.t)),
    '+': () => stretch.zoom(0.5),
    '-': () => stretch.zoom(2),
  }
  const onKey = (event: KeyboardEvent): void => {
    const does = keys[event.key]
    if (!does || event.ctrlKey || event.metaKey || event.altKey) return
    event.preventDefault()
    does()
  }
  return { row, t: at.t, onKey, said: lane && at.t !== null ? saidAt(lane, at.t) : '' }
}
