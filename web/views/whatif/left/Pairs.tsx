import { useState } from 'react'
import { setWords, type Together } from '../../../../core/faults'
import type { Site } from '../../../../core/site'
import { graphOf } from '../graph'
import { hoursWords } from '../words'

const FIRST = 6

/** Two failures that together do what neither does alone, the heaviest first, as sentences. */
export function Pairs({ site, pairs }: { site: Site; pairs: readonly Together[] }) {
  const [all, setAll] = useState(false)
  const graph = graphOf(site)
  return (
    <section aria-label="Two failures together" className="mt-4">
      <h2 className="rule-head">Two failures together</h2>
      {pairs.length === 0 && (
        <p className="mt-1 text-soft">All pairs were tried: none does more than its parts do alone.</p>
      )}
      <ol className="mt-1">
        {pairs.slice(0, all ? 60 : FIRST).map(({ failures, channels, hours }) => (
          <li key={failures.join()} className="flex justify-between gap-4 border-b border-hair py-0.5">
            <span>
              <b className="font-semibold">{setWords(graph, failures)}</b>: {channels.join(', ')}
            </span>
            <span className="shrink-0 font-mono text-small">{hoursWords(hours)} per year</span>
          </li>
        ))}
      </ol>
      {pairs.length > FIRST && (
        <button type="button" className="press-quiet mt-1" onClick={() => setAll(!all)}>
          {all ? 'Show fewer' : `Show ${Math.min(pairs.length, 60) - FIRST} more of ${pairs.length}`}
        </button>
      )}
    </section>
  )
}
