import type { Bar, BeliefLane, ChannelLane } from '../../../../core/trial'
import type { TimeScale } from './scale'

/** Rows of a channel's lane, from its top: what was asked, what is, and what each screen believes. */
const ASKED = 13
const IS = 13
const BELIEVED = 11
const GAP = 3
export const laneHeight = ({ believed }: ChannelLane): number => ASKED + IS + GAP + believed.length * (BELIEVED + 2) + 7

interface Props {
  readonly lane: ChannelLane
  readonly scale: TimeScale
  readonly y: number
  readonly width: number
  /** the deed whose path is lit */
  readonly cause: number | null
  readonly onPick: (cause: number) => void
}

const span = (scale: TimeScale, { from, to }: Bar): { x: number; width: number } => {
  const x = scale.x(from)
  return { x, width: Math.max(1, scale.x(to) - x) }
}

/** One channel over time: ticks by whom it was asked, a solid bar for what is, an outlined one for each screen. */
export function ChannelRow(props: Props) {
  const { lane, scale, y, width } = props
  return (
    <g transform={`translate(0 ${y})`} data-lane={lane.channel}>
      <Asked {...props} />
      <line x1={0} x2={width} y1={ASKED + IS} y2={ASKED + IS} stroke="var(--bus)" />
      {lane.is.map((bar) =>
        bar.value > 0 || bar.changes > 0 ? <IsBar key={bar.from} bar={bar} top={lane.top} scale={scale} /> : null,
      )}
      {lane.differs.map((bar) => (
        <rect
          key={bar.from}
          {...span(scale, bar)}
          y={ASKED - 1}
          height={IS + 2}
          fill="none"
          stroke="var(--rest)"
          strokeWidth={2}
          strokeDasharray="5 3"
          data-differs
        />
      ))}
      {lane.believed.map((screen, i) => (
        <g key={screen.way} transform={`translate(0 ${ASKED + IS + GAP + i * (BELIEVED + 2)})`}>
          <Believed screen={screen} top={lane.top} scale={scale} width={width} />
        </g>
      ))}
    </g>
  )
}

interface BelievedProps {
  readonly screen: BeliefLane
  readonly top: number
  readonly scale: TimeScale
  readonly width: number
}

function Believed({ screen: { who, bars, wrong }, top, scale, width }: BelievedProps) {
  return (
    <>
      <line x1={0} x2={width} y1={BELIEVED} y2={BELIEVED} stroke="var(--hair)" />
      {bars.map((bar) =>
        bar.value > 0 ? (
          <rect key={bar.from} {...span(scale, bar)} y={0.5} height={BELIEVED - 1} fill="none" stroke="var(--soft)" />
        ) : null,
      )}
      {wrong.map((bar) => (
        <Wrong key={bar.from} bar={bar} who={who} top={top} scale={scale} />
      ))}
    </>
  )
}

/** The bar is as high as its level; changes that are too near each other are drawn as a comb. */
function IsBar({ bar, top, scale }: { bar: Bar; top: number; scale: TimeScale }) {
  const { x, width } = span(scale, bar)
  const height = bar.value > 0 ? Math.max(4, (IS * bar.value) / top) : IS / 2
  return (
    <>
      <rect
        x={x}
        y={ASKED + IS - height}
        width={width}
        height={height}
        fill={bar.changes > 0 ? 'url(#busy)' : 'var(--brass-fill)'}
        stroke="var(--brass)"
        strokeWidth={0.8}
      />
      {top > 1 && width > 16 && bar.value > 0 && (
        <text x={x + 4} y={ASKED + IS - 3} className="font-mono" fontSize={10} fill="#1d2930">
          {bar.value}
        </text>
      )}
    </>
  )
}

/** A screen that shows what is not so: hatched, framed, and said. */
function Wrong({ bar, who, top, scale }: { bar: Bar; who: string; top: number; scale: TimeScale }) {
  const { x, width } = span(scale, bar)
  const said = `${who} shows ${bar.value === 0 ? 'off' : top > 1 ? bar.value : 'on'}`
  return (
    <>
      <rect
        x={x}
        y={0.5}
        width={width}
        height={BELIEVED - 1}
        fill="url(#wrong)"
        stroke="var(--error)"
        strokeWidth={1.4}
        data-wrong={who}
      />
      {width > 92 && (
        <text
          x={x + 5}
          y={BELIEVED - 0.5}
          fontSize={11}
          fontWeight={650}
          fill="var(--error)"
          stroke="var(--wall)"
          strokeWidth={3}
          paintOrder="stroke"
        >
          {said}
        </text>
      )}
    </>
  )
}

/** Names are written where there is room before the next one. */
function Asked({ lane, scale, cause, width, onPick }: Props) {
  return lane.asked.map((tick, i) => {
    const x = scale.x(tick.t)
    const next = lane.asked[i + 1]
    const room = (next ? scale.x(next.t) : width) - x
    const letters = Math.floor((room - 8) / 6)
    const isLit = tick.cause === cause
    return (
      <g key={tick.cause} className="cursor-pointer" onClick={() => onPick(tick.cause)} data-asked={tick.cause}>
        <title>{tick.text}</title>
        <rect
          x={x - 3}
          y={0}
          width={Math.max(6, Math.min(room - 2, 8 + 6 * tick.text.length))}
          height={ASKED}
          fill="transparent"
        />
        <line
          x1={x}
          x2={x}
          y1={1}
          y2={ASKED}
          stroke={isLit ? 'var(--brass)' : 'var(--ink)'}
          strokeWidth={isLit ? 3 : 2}
        />
        {letters >= 3 && (
          <text
            x={x + 4}
            y={ASKED - 3}
            fontSize={11}
            fontWeight={isLit ? 650 : 400}
            fill={isLit ? 'var(--brass)' : 'var(--soft)'}
          >
            {tick.text.length > letters ? `${tick.text.slice(0, letters - 1)}…` : tick.text}
          </text>
        )}
      </g>
    )
  })
}
