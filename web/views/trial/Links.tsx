import { linkTable } from '../../../core/ways'
import type { TrialPart } from './parts'

/** Characters of the nearby and serial links, and the last status line that came back. */
export function Links({ site, snapshot, act }: TrialPart) {
  if (site.links.length === 0) return null
  return (
    <section aria-label="Links">
      <h2 className="rule-head">Links</h2>
      {site.links.map((link) => (
        <div key={link.id} className="mt-1.5">
          <p className="text-small text-soft">
            {link.name}, {link.baud} baud
          </p>
          <div className="mt-1 flex flex-wrap gap-1">
            {linkTable(site, link).map((row) => (
              <button
                key={row.char}
                type="button"
                className="press min-w-7 px-1 font-mono"
                title={`${row.target} ${row.action}`}
                aria-label={`Send ${row.char}: ${row.target} ${row.action}`}
                onClick={() => act({ kind: 'char', link: link.id, char: row.char })}
              >
                {row.char}
              </button>
            ))}
          </div>
          <p className="mt-1 font-mono text-small text-soft [overflow-wrap:anywhere]" data-line={link.controller}>
            {snapshot.lines[link.controller] ?? 'no line yet'}
          </p>
        </div>
      ))}
    </section>
  )
}
