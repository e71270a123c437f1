import type { DeedPath, PathStop } from '../../../core/trial'
import { clockOf } from './clock'

/** The way of a deed from the hand to every screen, lit as far as it came. */
export function JustHappened({ path, now }: { path: DeedPath | null; now: number }) {
  if (!path)
    return (
      <p className="py-1.5 text-note text-soft">
        Press a switch, tap a widget or break something: its whole path is shown here.
      </p>
    )
  return (
    <section aria-label="What just happened" className="flex flex-col gap-0.5 py-1" data-testid="path">
      {path.channels.slice(0, 4).map(({ channel, name, stops }, row) => (
        <div key={channel} className="flex min-w-0 items-start gap-2 overflow-x-auto">
          <p className="w-36 shrink-0 pt-0.5 text-note">
            <span className="block truncate font-semibold">{name}</span>
            {row === 0 && <span className="block text-small text-soft">at {clockOf(path.t)}</span>}
          </p>
          <ol className="flex flex-1 items-start">
            {stops.map((stop, i) => (
              <Stop key={`${stop.what}-${i}`} stop={stop} sinceMs={now - path.t} isLast={i === stops.length - 1} />
            ))}
          </ol>
        </div>
      ))}
      {path.channels.length > 4 && <p className="text-small text-soft">and {path.channels.length - 4} more channels</p>}
    </section>
  )
}

function Stop({ stop, sinceMs, isLast }: { stop: PathStop; sinceMs: number; isLast: boolean }) {
  const { name, text, afterMs, wrong } = stop
  const reached = afterMs !== null
  const took = reached ? `${afterMs} ms` : wrong ? `${clockOf(sinceMs, 1_000)} so far` : '–'
  return (
    <li className="relative min-w-24 flex-1 pr-2" data-stop={stop.what} data-reached={reached}>
      {!isLast && (
        <span
          aria-hidden="true"
          className={`absolute top-[0.55rem] right-0 left-2 border-t ${reached ? 'border-brass' : 'border-dashed border-bus'}`}
        />
      )}
      <span className="relative flex items-center gap-1.5">
        <svg width="15" height="15" viewBox="0 0 15 15" aria-hidden="true" className="shrink-0">
          <circle
            cx="7.5"
            cy="7.5"
            r="6"
            fill={reached ? 'var(--brass-fill)' : 'var(--wall)'}
            stroke={reached ? 'var(--brass)' : wrong ? 'var(--error)' : 'var(--bus)'}
            strokeWidth="1.6"
            strokeDasharray={reached ? undefined : '2.5 2'}
          />
        </svg>
        <span className="relative truncate bg-wall pr-1 text-small font-semibold">{name}</span>
      </span>
      <span className={`block truncate text-small ${wrong ? 'font-semibold text-error' : 'text-soft'}`} title={text}>
        {text}
      </span>
      <span className={`block font-mono text-small ${wrong ? 'text-error' : ''}`}>{took}</span>
    </li>
  )
}
