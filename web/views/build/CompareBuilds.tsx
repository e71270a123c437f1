import { useCallback, useState } from 'react'
import type { AnswerOf, BuildRow } from '../../../core/api'
import { counted } from '../../../core/site'
import { useAsked } from '../../parts/useAsked'
import { call } from '../../store/api'

const SIGNS = { added: '+', removed: '−', changed: '≠' } as const
const nothing = (): boolean => false

/** A build against another of the same board: what a maker would say of it, what to test, and the tables themselves. */
export function CompareBuilds({ build, builds }: { build: BuildRow; builds: readonly BuildRow[] }) {
  const others = builds.filter(({ id }) => id !== build.id)
  const [other, setOther] = useState<string>('')
  if (others.length === 0) return null
  return (
    <section aria-label="Compare builds">
      <h2 className="rule-head">Compare</h2>
      <label className="mt-1.5 flex flex-wrap items-center gap-2 text-note">
        Build {build.number} with
        <select className="field w-auto" value={other} onChange={(event) => setOther(event.target.value)}>
          <option value="">choose a build</option>
          {others.map(({ id, number }) => (
            <option key={id} value={id}>
              build {number}
            </option>
          ))}
        </select>
      </label>
      {other !== '' && <Compared key={`${build.id}/${other}`} build={String(build.id)} other={other} />}
    </section>
  )
}

function Compared({ build, other }: { build: string; other: string }) {
  const ask = useCallback(() => call('compareBuilds', { build, other }), [build, other])
  const page = useAsked(ask, nothing)
  if (!page) return <p className="mt-2 text-note text-soft">Comparing …</p>
  return (
    <div className="mt-2 text-note">
      {page.changes.length === 0 ? (
        <p>The same tables.</p>
      ) : (
        <ul>
          {page.changes.map(({ kind, what }) => (
            <li key={what} className="flex gap-1.5 border-b border-hair py-0.5">
              <span className="w-3 shrink-0 font-mono font-semibold" aria-label={kind}>
                {SIGNS[kind]}
              </span>
              <span className="min-w-0 break-words">{what}</span>
            </li>
          ))}
        </ul>
      )}
      <Tests page={page} />
      <Tables page={page} />
    </div>
  )
}

type Page = AnswerOf<'compareBuilds'>

const Tests = ({ page: { again, of } }: { page: Page }) => (
  <details className="mt-2">
    <summary className="min-h-6 cursor-pointer">
      To test again: {again.length} of {counted(of, 'test')}
    </summary>
    <ul>
      {again.map(({ key, action, why }) => (
        <li key={key} className="border-t border-hair py-0.5">
          {action} <span className="text-soft">({why.join(', ')})</span>
        </li>
      ))}
    </ul>
  </details>
)

const Tables = ({ page: { tables } }: { page: Page }) =>
  tables.length > 0 && (
    <details className="mt-1">
      <summary className="min-h-6 cursor-pointer">The tables, line by line</summary>
      <pre tabIndex={0} aria-label="Lines of the tables that differ" className="mt-1 max-h-80 overflow-auto font-mono text-small">
        {tables.map(({ sign, line }) => `${sign} ${line}`).join('\n')}
      </pre>
    </details>
  )
