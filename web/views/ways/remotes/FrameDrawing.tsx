import { bitsSent, codeName, drawnFrame, type Decoded } from '../../../../core/infrared'

// Drawn one to one in the column, so that the letters are as large as they say.
const WIDTH = 520
const HIGH = 16
const LOW = 46

/**
 * A frame as the receiver saw it: marks up, spaces down, a tick at each nominal edge (heavy where it is off), and its
 * bits below.
 */
export function FrameDrawing({ durations, decoded }: { durations: readonly number[]; decoded: Decoded }) {
  const drawn = drawnFrame(durations, decoded)
  const bits = bitsSent(durations, decoded)
  const total = drawn.reduce((sum, one) => sum + one.microseconds, 0)
  const before = Math.max(0, -(bits[0]?.from ?? 0))
  const x = (microseconds: number): number => 4 + ((WIDTH - 8) * (microseconds + before)) / Math.max(1, total + before)
  const path = drawn
    .map((one) => `${one.mark ? `V${HIGH}` : `V${LOW}`}H${x(one.from + one.microseconds).toFixed(1)}`)
    .join('')
  let nominal = 0
  const ticks = drawn.flatMap((one) => {
    nominal += one.nominal ?? one.microseconds
    return one.nominal === null
      ? []
      : [{ at: x(Math.min(total, nominal)), off: Math.abs(one.microseconds - one.nominal) / one.nominal }]
  })
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 90`}
      className="w-full"
      role="img"
      aria-label={`${codeName(decoded.frame)}, ${drawn.length} durations, ${(total / 1000).toFixed(1)} ms`}
    >
      {bits.map((one, i) =>
        one.group % 2 === 0 ? (
          <path
            key={i}
            d={`M${x(one.from).toFixed(1)} 62H${x(one.to).toFixed(1)}V78H${x(one.from).toFixed(1)}Z`}
            fill="var(--panel)"
          />
        ) : null,
      )}
      <path d={`M4 ${LOW}H${WIDTH - 4}`} stroke="var(--hair)" />
      <path d={`M${x(0).toFixed(1)} ${LOW}${path}V${LOW}`} fill="none" stroke="var(--ink)" strokeWidth="1.4" />
      {ticks.map((tick, i) => (
        <path
          key={i}
          d={`M${tick.at.toFixed(1)} 50v${tick.off > 0.15 ? 9 : 5}`}
          stroke={tick.off > 0.15 ? 'var(--warning)' : 'var(--bus)'}
          strokeWidth={tick.off > 0.15 ? 2 : 1}
        />
      ))}
      {bits.map((one, i) => (
        <text
          key={i}
          x={(x(one.from) + x(one.to)) / 2}
          y={74}
          textAnchor="middle"
          fontSize="12"
          className="font-mono"
          fill="var(--ink)"
        >
          {one.bit}
        </text>
      ))}
      {drawn.slice(0, 2).map((one, i) =>
        one.microseconds > total / 40 ? (
          <text
            key={i}
            x={x(one.from + one.microseconds / 2)}
            y={one.mark ? 12 : 42}
            textAnchor="middle"
            fontSize="11"
            fill="var(--soft)"
          >
            {(one.microseconds / 1000).toFixed(1)}
          </text>
        ) : null,
      )}
      <text x={WIDTH - 4} y="89" textAnchor="end" fontSize="11" fill="var(--soft)">
        {(total / 1000).toFixed(1)} ms
      </text>
    </svg>
  )
}
