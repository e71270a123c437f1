import type { StartUpStrip } from '../../../core/pins'

/** Units of the drawing; it is as wide as the view. */
export const WIDTH = 1000
export const HEIGHT = 78
/** where time begins: before it stand the names of the levels */
export const LEFT = 84
const HIGH = 10
const LOW = 32

/** Milliseconds as places on the drawing, with round steps between. */
export interface TimeScale {
  readonly endMs: number
  readonly ticks: readonly number[]
  readonly at: (ms: number) => number
}

export function timeScale(endMs: number): TimeScale {
  const step = [50, 100, 200, 500, 1000, 2000, 5000].find((one) => endMs / one <= 9) ?? 10_000
  const ticks = Array.from({ length: Math.floor(endMs / step) + 1 }, (_, i) => i * step)
  const at = (ms: number) => LEFT + (ms / endMs) * (WIDTH - LEFT - 30)
  return { endMs, ticks: ticks.slice(1), at }
}

type Stretch = StartUpStrip['stretches'][number]

const levelAt = (level: Stretch['level']): number => (level === 'high' ? HIGH : LOW)

/** Up and down as often as there is room for: pulses of which nobody knows how many. */
const pulses = (from: number, to: number): string =>
  Array.from({ length: Math.max(2, Math.floor((to - from) / 9)) }, (_, k) => {
    const y = k % 2 ? LOW : HIGH
    return `${k === 0 ? 'M' : 'L'}${from + k * 9} ${y}L${from + k * 9 + 9} ${y}`
  }).join('')

const RELAY_FILL = { closed: 'var(--brass-fill)', 'may click': 'url(#hatch)', open: 'none' } as const

/** What happens in a stretch stands below it, as long as it has room; short ones are said by the strip's title. */
const LEAST_WORDS = 110
const CHARACTER = 7

interface DrawnProps {
  readonly stretch: Stretch
  readonly before: Stretch | undefined
  readonly scale: TimeScale
}

export function StretchDrawn({ stretch: { fromMs, toMs, level, relay, why }, before, scale }: DrawnProps) {
  const from = scale.at(fromMs)
  const to = scale.at(toMs)
  const comesFrom = before && before.level !== 'pulses' ? before.level : level
  const room = Math.floor((to - from) / CHARACTER)
  return (
    <g>
      {level === 'pulses' ? (
        <path d={pulses(from, to)} fill="none" stroke="var(--warning)" strokeWidth="2" />
      ) : (
        <path
          d={`M${from} ${levelAt(comesFrom)}V${levelAt(level)}H${to}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="2.5"
        />
      )}
      <rect x={from} y={43} width={Math.max(0, to - from)} height={14} fill={RELAY_FILL[relay]} stroke="var(--bus)" />
      {to - from >= LEAST_WORDS && (
        <text x={from + 2} y={72} fontSize="14" fill="var(--soft)">
          {why.length > room ? `${why.slice(0, room - 1)}…` : why}
        </text>
      )}
    </g>
  )
}
