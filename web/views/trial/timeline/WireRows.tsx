import type { Lanes, WireLane } from '../../../../core/trial'
import type { TimeScale } from './scale'

const ROW = 16
const MESSAGES = 26

export const wiresHeight = ({ wires }: Lanes): number => (wires.length === 0 ? 0 : wires.length * ROW + 6)
export const messagesHeight = ({ messages }: Lanes): number => (messages.some((count) => count > 0) ? MESSAGES : 0)

interface Props {
  readonly lanes: Lanes
  readonly scale: TimeScale
  readonly y: number
  readonly names: number
  readonly plot: number
}

/** Switches and relays as they close and open, a row each. */
export const WireRows = ({ lanes, scale, y, names, plot }: Props) => (
  <g transform={`translate(0 ${y})`}>
    {lanes.wires.map((lane, i) => (
      <g key={lane.id} transform={`translate(0 ${i * ROW})`} data-wire={lane.id}>
        <text x={7} y={11} fontSize={10.5} fill="var(--soft)">
          {lane.name.length > 24 ? `${lane.name.slice(0, 23)}…` : lane.name}
        </text>
        <g transform={`translate(${names} 0)`}>
          <Edges lane={lane} scale={scale} plot={plot} />
        </g>
      </g>
    ))}
  </g>
)

/** Low is open, high is closed; a selector's code stands in its bar. */
function Edges({ lane, scale, plot }: { lane: WireLane; scale: TimeScale; plot: number }) {
  return (
    <>
      <line x1={0} x2={plot} y1={12} y2={12} stroke="var(--hair)" />
      {lane.bars.map((bar) => {
        if (bar.value === 0 && bar.changes === 0) return null
        const x = scale.x(bar.from)
        const width = Math.max(1, scale.x(bar.to) - x)
        return (
          <g key={bar.from}>
            <rect x={x} y={3} width={width} height={9} fill={bar.changes > 0 ? 'url(#busy)' : 'var(--soft)'} />
            {bar.value > 1 && width > 14 && (
              <text x={x + 3} y={11} fontSize={9} className="font-mono" fill="var(--wall)">
                {bar.value}
              </text>
            )}
          </g>
        )
      })}
    </>
  )
}

/** How many messages there were, piece by piece. */
export function MessageRow({ lanes, y, names, plot }: Omit<Props, 'scale'>) {
  const most = Math.max(1, ...lanes.messages)
  const width = plot / lanes.messages.length
  const total = lanes.messages.reduce((sum, count) => sum + count, 0)
  return (
    <g transform={`translate(0 ${y})`} data-messages={total}>
      <text x={7} y={16} fontSize={10.5} fill="var(--soft)">
        messages: {total}
      </text>
      <g transform={`translate(${names} 0)`}>
        {lanes.messages.map((count, i) =>
          count > 0 ? (
            <rect
              key={i}
              x={i * width}
              width={Math.max(1, width - 1)}
              y={MESSAGES - 5 - (18 * count) / most}
              height={(18 * count) / most}
              fill="var(--bus)"
            />
          ) : null,
        )}
      </g>
    </g>
  )
}
