import { startUpStrips, type StartUpStrip } from '../../../core/pins'
import { pinName } from '../../../core/boards'
import type { Controller } from '../../../core/site'
import { useAppSelector } from '../../store/store'

const WIDTH = 520
const HIGH = 4
const LOW = 18

/**
 * The level of each output from power applied to the first restore, so that a click at start is seen before it is
 * heard.
 */
export function StartUpTab({ controller }: { controller: Controller }) {
  const site = useAppSelector((state) => state.site.site)!
  const strips = startUpStrips(site, controller)
  const end = Math.max(500, ...strips.flatMap((strip) => strip.stretches.map((stretch) => stretch.toMs)))
  if (strips.length === 0) return <p className="mt-4 text-soft">No output has a pin yet: plan the pins first.</p>
  return (
    <div className="mt-3">
      <p className="max-w-prose text-note text-soft">
        From power applied (0 ms), through what the chip does by itself, to the firmware’s safe level and the first
        restore. The line is the pin’s level; the bar below it is filled while the relay is closed, hatched while it may
        click. By the board’s profile, from memory of data sheets.
      </p>
      <table className="sheet mt-2 w-full">
        <thead>
          <tr>
            <th>output</th>
            <th>pin</th>
            <th>level and relay, 0 to {end} ms</th>
            <th>verdict</th>
          </tr>
        </thead>
        <tbody>
          {strips.map((strip) => (
            <StripLine key={strip.role} strip={strip} end={end} />
          ))}
        </tbody>
      </table>
    </div>
  )
}

/** What becomes of an output at start: [words, how they look]. */
function verdictOf({ heldWrong, clicks, spot }: StartUpStrip): readonly [string, string] {
  if (heldWrong)
    return [`must be ${spot.startLevel?.level}: ${spot.startLevel?.otherwise} (P03)`, 'font-semibold text-error']
  return clicks ? ['may click at start (P04)', 'font-semibold text-warning'] : ['starts quietly', 'text-rest']
}

function StripLine({ strip, end }: { strip: StartUpStrip; end: number }) {
  const [words, looks] = verdictOf(strip)
  return (
    <tr>
      <td className="whitespace-nowrap font-semibold">{strip.name}</td>
      <td className="whitespace-nowrap font-mono text-note">{pinName(strip.spot)}</td>
      <td>
        <Strip strip={strip} end={end} />
      </td>
      <td className={looks}>{words}</td>
    </tr>
  )
}

function Strip({ strip, end }: { strip: StartUpStrip; end: number }) {
  const says = strip.stretches
    .map(({ fromMs, toMs, level, relay, why }) => `${fromMs} to ${toMs} ms ${level}, relay ${relay}: ${why}`)
    .join('; ')
  return (
    <svg viewBox={`-2 0 ${WIDTH + 4} 34`} className="h-9 w-full max-w-[33rem]" role="img" aria-label={says}>
      <title>{says}</title>
      <defs>
        <pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0v6" stroke="var(--warning)" strokeWidth="3" />
        </pattern>
      </defs>
      {strip.stretches.map((stretch, i) => (
        <StretchDrawn key={stretch.fromMs} stretch={stretch} before={strip.stretches[i - 1]} end={end} />
      ))}
    </svg>
  )
}

type Stretch = StartUpStrip['stretches'][number]

const levelAt = (level: Stretch['level']): number => (level === 'high' ? HIGH : LOW)

/** Up and down as often as there is room for: pulses of which nobody knows how many. */
const pulses = (from: number, to: number): string =>
  Array.from({ length: Math.max(2, Math.floor((to - from) / 6)) }, (_, k) => {
    const y = k % 2 ? LOW : HIGH
    return `${k === 0 ? 'M' : 'L'}${from + k * 6} ${y}L${from + k * 6 + 6} ${y}`
  }).join('')

const RELAY_FILL = { closed: 'var(--brass-fill)', 'may click': 'url(#hatch)', open: 'none' } as const

interface DrawnProps {
  readonly stretch: Stretch
  readonly before: Stretch | undefined
  readonly end: number
}

function StretchDrawn({ stretch: { fromMs, toMs, level, relay }, before, end }: DrawnProps) {
  const from = (fromMs / end) * WIDTH
  const to = (toMs / end) * WIDTH
  const comesFrom = before && before.level !== 'pulses' ? before.level : level
  return (
    <g>
      {level === 'pulses' ? (
        <path d={pulses(from, to)} fill="none" stroke="var(--warning)" strokeWidth="1.5" />
      ) : (
        <path
          d={`M${from} ${levelAt(comesFrom)}V${levelAt(level)}H${to}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="2"
        />
      )}
      <rect x={from} y={24} width={Math.max(0, to - from)} height={8} fill={RELAY_FILL[relay]} stroke="var(--bus)" />
    </g>
  )
}
