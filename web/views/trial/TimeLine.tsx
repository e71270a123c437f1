import { useEffect, useRef } from 'react'
import type { TimelineEntry, TrialSnapshot } from '../../../core/trial'

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

/** What happened, the newest at the end. */
export function TimeLine({ snapshot }: { snapshot: TrialSnapshot }) {
  const end = useRef<HTMLLIElement>(null)
  const count = snapshot.timeline.length
  useEffect(() => {
    // only the list scrolls: the view itself must stay where the hands are
    const item = end.current
    item?.parentElement?.scrollTo({ top: item.offsetTop })
  }, [count])
  return (
    <section aria-label="Time line" className="h-44 shrink-0 border-t-2 border-ink pt-2">
      <h2 className="rule-head">Time line</h2>
      {count === 0 && <p className="mt-2 text-soft">Nothing yet: press a switch, tap a widget, or break something.</p>}
      <ol className="relative h-34 overflow-auto" tabIndex={0} aria-label="Events of this trial">
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
            <span className="w-20 shrink-0 text-right font-mono text-note text-soft">
              {(entry.t / 1000).toFixed(3)} s
            </span>
            <span className="w-20 shrink-0 text-note text-soft">
              <span aria-hidden="true">{SIGNS[entry.kind]}</span> {WORDS[entry.kind]}
            </span>
            <span>{entry.text}</span>
          </li>
        ))}
      </ol>
    </section>
  )
}
