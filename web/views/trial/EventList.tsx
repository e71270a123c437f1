import { useEffect, useRef } from 'react'
import type { TimelineEntry, TrialSnapshot } from '../../../core/trial'
import { clockOf } from './clock'

const SIGNS: Record<TimelineEntry['kind'], string> = {
  hand: '☞',
  output: '●',
  network: '↔',
  fault: '✕',
  verdict: '⚖',
  refused: '⊘',
  said: '¶',
}
const WORDS: Record<TimelineEntry['kind'], string> = {
  hand: 'by hand',
  output: 'output',
  network: 'network',
  fault: 'fault',
  verdict: 'who won',
  refused: 'refused',
  said: 'log',
}

/** What happened, the newest at the end; a press on a time goes there. */
export function EventList({ snapshot, onGo }: { snapshot: TrialSnapshot; onGo: (t: number) => void }) {
  const end = useRef<HTMLLIElement>(null)
  const count = snapshot.timeline.length
  useEffect(() => {
    // only the list scrolls: the view itself must stay where the hands are
    const item = end.current
    item?.parentElement?.scrollTo({ top: item.offsetTop })
  }, [count])
  if (count === 0)
    return <p className="mt-2 text-soft">Nothing yet: press a switch, tap a widget, or break something.</p>
  return (
    <ol className="relative min-h-0 flex-1 overflow-auto" tabIndex={0} aria-label="Events of this trial">
      {snapshot.timeline.map((entry, i) => (
        <li
          key={i}
          ref={i === count - 1 ? end : undefined}
          data-kind={entry.kind}
          className={
            'flex gap-3 border-b border-hair py-0.5 ' +
            `${entry.kind === 'verdict' ? 'bg-panel font-semibold' : ''} ` +
            `${entry.kind === 'fault' || entry.kind === 'refused' ? 'text-error' : ''}`
          }
        >
          <button
            type="button"
            className="w-24 shrink-0 text-right font-mono text-note text-soft hover:underline"
            onClick={() => onGo(entry.t)}
            aria-label={`Go to ${clockOf(entry.t)}`}
          >
            {clockOf(entry.t)}
          </button>
          <span className="w-20 shrink-0 text-note text-soft">
            <span aria-hidden="true">{SIGNS[entry.kind]}</span> {WORDS[entry.kind]}
          </span>
          <span>{entry.text}</span>
        </li>
      ))}
    </ol>
  )
}
