import { startUpStrips, type StartUpStrip } from '../../../core/bench'
import { pinName } from '../../../core/boards'
import type { Controller } from '../../../core/site'
import { useAppSelector } from '../../store/store'

const WIDTH = 520
const X = (ms: number, end: number): number => (ms / end) * WIDTH

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
            <tr key={strip.role}>
              <td className="font-semibold">{strip.name}</td>
              <td className="font-mono text-note">{pinName(strip.spot)}</td>
              <td>
                <Strip strip={strip} end={end} />
              </td>
              <td
                className={
                  strip.heldWrong
                    ? 'font-semibold text-error'
                    : strip.clicks
                      ? 'font-semibold text-warning'
                      : 'text-rest'
                }
              >
                {strip.heldWrong
                  ? `must be ${strip.spot.startLevel?.level}: ${strip.spot.startLevel?.otherwise} (P03)`
                  : strip.clicks
                    ? 'may click at start (P04)'
                    : 'starts quietly'}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function Strip({ strip, end }: { strip: StartUpStrip; end: number }) {
  const y = (level: string) => (level === 'high' ? 4 : 18)
  const says = strip.stretches
    .map((s) => `${s.fromMs} to ${s.toMs} ms ${s.level}, relay ${s.relay}: ${s.why}`)
    .join('; ')
  return (
    <svg viewBox={`-2 0 ${WIDTH + 4} 34`} className="h-9 w-full max-w-[33rem]" role="img" aria-label={says}>
      <title>{says}</title>
      <defs>
        <pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0v6" stroke="var(--warning)" strokeWidth="3" />
        </pattern>
      </defs>
      {strip.stretches.map((s, i) => {
        const from = X(s.fromMs, end)
        const to = X(s.toMs, end)
        const before = strip.stretches[i - 1]
        return (
          <g key={s.fromMs}>
            {s.level === 'pulses' ? (
              <path
                d={Array.from(
                  { length: Math.max(2, Math.floor((to - from) / 6)) },
                  (_, k) =>
                    `${k === 0 ? 'M' : 'L'}${from + k * 6} ${k % 2 ? 18 : 4}L${from + k * 6 + 6} ${k % 2 ? 18 : 4}`,
                ).join('')}
                fill="none"
                stroke="var(--warning)"
                strokeWidth="1.5"
              />
            ) : (
              <path
                d={`M${from} ${y(before && before.level !== 'pulses' ? before.level : s.level)}V${y(s.level)}H${to}`}
                fill="none"
                stroke="var(--ink)"
                strokeWidth="2"
              />
            )}
            <rect
              x={from}
              y={24}
              width={Math.max(0, to - from)}
              height={8}
              fill={s.relay === 'closed' ? 'var(--brass-fill)' : s.relay === 'may click' ? 'url(#hatch)' : 'none'}
              stroke="var(--bus)"
            />
          </g>
        )
      })}
    </svg>
  )
}
