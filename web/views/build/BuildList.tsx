import { format } from 'date-fns'
import type { BoardRow, BuildRow } from '../../../core/api'

const SIGNS = { added: '+', removed: '−', changed: '≠' } as const

/** What the board runs, and what has changed since it was flashed. */
export function OnTheBoard({ board, tables }: { board: BoardRow | undefined; tables: string }) {
  return (
    <section aria-label="Flashed now">
      <h2 className="rule-head">Flashed now</h2>
      {!board && <p className="mt-1.5 text-note text-soft">No flash recorded.</p>}
      {board && (
        <div className="mt-1.5 text-note">
          <p>
            Build {board.number}, <code className="font-mono">{board.hash}</code>, since{' '}
            {format(new Date(board.at), 'd MMM HH:mm')}
          </p>
          {board.hash === tables ? (
            <p className="mt-1 font-semibold text-rest">The flashed build matches this site.</p>
          ) : (
            <ChangedSince changes={board.changes} />
          )}
        </div>
      )}
    </section>
  )
}

function ChangedSince({ changes }: Pick<BoardRow, 'changes'>) {
  return (
    <>
      <p className="mt-1 text-soft">The site has changed since:</p>
      <ul className="mt-1">
        {changes.map(({ kind, what }) => (
          <li key={what} className="flex gap-1.5 border-b border-hair py-0.5">
            <span className="w-3 shrink-0 font-mono font-semibold" aria-label={kind}>
              {SIGNS[kind]}
            </span>
            <span className="break-words">{what}</span>
          </li>
        ))}
      </ul>
    </>
  )
}

interface ListProps {
  readonly name: string
  readonly builds: readonly BuildRow[]
  readonly picked: number | null
  readonly onPick: (build: number) => void
}

export function BuildList({ name, builds, picked, onPick }: ListProps) {
  return (
    <section aria-label="Builds">
      <h2 className="rule-head">Builds</h2>
      {builds.length === 0 && <p className="mt-1.5 text-note text-soft">None yet: press “Build {name}”.</p>}
      <ul>
        {builds.map(({ id, number, hash, at, flashes }) => (
          <li key={id}>
            <button
              type="button"
              aria-pressed={id === picked}
              className={
                'flex w-full items-baseline gap-2 border-b border-hair py-1 text-left text-note hover:bg-panel ' +
                'aria-pressed:font-semibold'
              }
              onClick={() => onPick(id)}
            >
              <span>build {number}</span>
              <code className="font-mono text-soft">{hash}</code>
              <span className="ml-auto text-small text-soft">
                {flashes.length ? 'flashed' : format(new Date(at), 'd MMM')}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
