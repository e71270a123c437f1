import { pinName } from '../../../core/boards'
import { startUpStrips, type StartUpStrip } from '../../../core/pins'
import type { Controller } from '../../../core/site'
import { useAppSelector } from '../../store/store'
import { HEIGHT, LEFT, StretchDrawn, timeScale, WIDTH, type TimeScale } from './startUpDrawing'

/**
 * The level of each output from power applied to the first restore, so that a click at start is seen before it is
 * heard.
 */
export function StartUpTab({ controller }: { controller: Controller }) {
  const site = useAppSelector((state) => state.site.site)!
  const strips = startUpStrips(site, controller)
  const end = Math.max(500, ...strips.flatMap((strip) => strip.stretches.map((stretch) => stretch.toMs)))
  const scale = timeScale(end)
  if (strips.length === 0) return <p className="mt-4 text-soft">No output has a pin yet: plan the pins first.</p>
  return (
    <div className="mt-3">
      <p className="max-w-prose text-note text-soft">
        From power applied to the first restore. The line is the pin’s level; the bar is filled while the relay is
        closed and hatched while it may click. By the board’s profile, from memory of data sheets.
      </p>
      <Hatch />
      <div className="mt-2 min-w-0 overflow-x-auto" role="region" aria-label="Start-up of each output" tabIndex={0}>
        <div className="min-w-[44rem]">
          <Axis scale={scale} />
          {strips.map((strip) => (
            <StripLine key={strip.role} strip={strip} scale={scale} />
          ))}
        </div>
      </div>
    </div>
  )
}

/** The pattern of “may click”, once for all strips. */
const Hatch = () => (
  <svg width="0" height="0" className="absolute" aria-hidden="true">
    <defs>
      <pattern id="hatch" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <path d="M0 0v8" stroke="var(--warning)" strokeWidth="4" />
      </pattern>
    </defs>
  </svg>
)

/** Milliseconds since power, above all strips. */
const Axis = ({ scale }: { scale: TimeScale }) => (
  <svg viewBox={`0 0 ${WIDTH} 30`} className="block w-full" role="img" aria-label={`Time axis, 0 to ${scale.endMs} ms`}>
    {scale.ticks.map((ms) => (
      <g key={ms}>
        <path d={`M${scale.at(ms)} 22v8`} stroke="var(--soft)" />
        <text x={scale.at(ms)} y="17" textAnchor="middle" fontSize="15" fill="var(--soft)">
          {ms} ms
        </text>
      </g>
    ))}
    <text x="0" y="17" fontSize="15" fill="var(--soft)">
      power applied
    </text>
  </svg>
)

/** What becomes of an output at start: [words, how they look]. */
function verdictOf({ heldWrong, clicks, spot }: StartUpStrip): readonly [string, string] {
  if (heldWrong)
    return [
      `P03: must be ${spot.startLevel?.level} at start; ${spot.startLevel?.otherwise}`,
      'font-semibold text-error',
    ]
  return clicks ? ['P04: may click at start', 'font-semibold text-warning'] : ['starts quietly', 'text-rest']
}

function StripLine({ strip, scale }: { strip: StartUpStrip; scale: TimeScale }) {
  const [words, looks] = verdictOf(strip)
  const says = strip.stretches
    .map(({ fromMs, toMs, level, relay, why }) => `${fromMs} to ${toMs} ms ${level}, relay ${relay}: ${why}`)
    .join('; ')
  return (
    <div className="border-t border-hair pt-1.5">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span className="font-semibold">{strip.name}</span>
        <span className="font-mono text-note">{pinName(strip.spot)}</span>
        <span className={`ml-auto text-note ${looks}`}>{words}</span>
      </p>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full" role="img" aria-label={says}>
        <title>{says}</title>
        {scale.ticks.map((ms) => (
          <path key={ms} d={`M${scale.at(ms)} 0v${HEIGHT - 18}`} stroke="var(--hair)" />
        ))}
        <LevelNames />
        {strip.stretches.map((stretch, i) => (
          <StretchDrawn key={stretch.fromMs} stretch={stretch} before={strip.stretches[i - 1]} scale={scale} />
        ))}
      </svg>
    </div>
  )
}

const LevelNames = () => (
  <g fontSize="14" fill="var(--soft)" textAnchor="end">
    <text x={LEFT - 8} y="14">
      high
    </text>
    <text x={LEFT - 8} y="36">
      low
    </text>
    <text x={LEFT - 8} y="54">
      relay
    </text>
  </g>
)
