import { bitsSent, codeName, drawnFrame, ticksOf, type Decoded } from '../../../../core/infrared'

// Drawn one to one in the column, so that the letters are as large as they say.
const WIDTH = 520
const HIGH = 16
const LOW = 46
/** An edge this far from its nominal place, as a part of its duration, is drawn heavy. */
const FAR_OFF = 0.15

type Drawn = ReturnType<typeof drawnFrame>
type Bits = ReturnType<typeof bitsSent>
type X = (microseconds: number) => number

/**
 * A frame as the receiver saw it: marks up, spaces down, a tick at each nominal edge (heavy where it is off), and its
 * bits
 * below.
 */
export function FrameDrawing({ durations, decoded }: { durations: readonly number[]; decoded: Decoded }) {
  const drawn = drawnFrame(durations, decoded)
  const bits = bitsSent(durations, decoded)
  const total = drawn.reduce((sum, one) => sum + one.microseconds, 0)
  const before = Math.max(0, -(bits[0]?.from ?? 0))
  const x: X = (microseconds) => 4 + ((WIDTH - 8) * (microseconds + before)) / Math.max(1, total + before)
  const milliseconds = `${(total / 1000).toFixed(1)} ms`
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 90`}
      className="w-full"
      role="img"
      aria-label={`${codeName(decoded.frame)}, ${drawn.length} durations, ${milliseconds}`}
    >
      <BitFields bits={bits} x={x} />
      <Edges drawn={drawn} x={x} />
      <Lengths drawn={drawn} total={total} x={x} />
      <text x={WIDTH - 4} y="89" textAnchor="end" fontSize="11" fill="var(--soft)">
        {milliseconds}
      </text>
    </svg>
  )
}

function Edges({ drawn, x }: { drawn: Drawn; x: X }) {
  const path = drawn
    .map((one) => `${one.mark ? `V${HIGH}` : `V${LOW}`}H${x(one.from + one.microseconds).toFixed(1)}`)
    .join('')
  return (
    <>
      <path d={`M4 ${LOW}H${WIDTH - 4}`} stroke="var(--hair)" />
      <path d={`M${x(0).toFixed(1)} ${LOW}${path}V${LOW}`} fill="none" stroke="var(--ink)" strokeWidth="1.4" />
      {ticksOf(drawn).map(({ at, off }, i) => {
        const far = off > FAR_OFF
        const d = `M${x(at).toFixed(1)} 50v${far ? 9 : 5}`
        return <path key={i} d={d} stroke={far ? 'var(--warning)' : 'var(--bus)'} strokeWidth={far ? 2 : 1} />
      })}
    </>
  )
}

/** Each field of bits on a ground of its own, by turns. */
function BitFields({ bits, x }: { bits: Bits; x: X }) {
  return bits.map((one, i) => {
    const from = x(one.from).toFixed(1)
    const ground = `M${from} 62H${x(one.to).toFixed(1)}V78H${from}Z`
    return (
      <g key={i}>
        {one.group % 2 === 0 && <path d={ground} fill="var(--panel)" />}
        <text
          x={(x(one.from) + x(one.to)) / 2}
          y={74}
          textAnchor="middle"
          fontSize="12"
          className="font-mono"
          fill="var(--ink)"
        >
          {one.bit}
        </text>
      </g>
    )
  })
}

/** The first mark and space in ms, where there is room for it. */
function Lengths({ drawn, total, x }: { drawn: Drawn; total: number; x: X }) {
  return drawn.slice(0, 2).map((one, i) =>
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
  )
}
