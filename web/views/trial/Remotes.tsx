import { useRef } from 'react'
import type { TrialPart } from './parts'

/** A held key sends a repeat frame each 108 ms, as the common protocols do. */
const REPEAT_MS = 108

/** The remotes: a key sends its frame, and goes on while it is held. */
export function Remotes({ site, act }: TrialPart) {
  const held = useRef<ReturnType<typeof setInterval> | undefined>(undefined)
  if (site.remotes.length === 0) return null
  const press = (remote: string, key: string) => {
    act({ kind: 'key', remote, key, repeat: false })
    clearInterval(held.current)
    held.current = setInterval(() => act({ kind: 'key', remote, key, repeat: true }), REPEAT_MS)
  }
  const release = () => clearInterval(held.current)
  return (
    <section aria-label="Remotes">
      <h2 className="rule-head">Remotes</h2>
      {site.remotes.map((remote) => (
        <div key={remote.id} className="mt-2">
          <p className="text-small text-soft">{remote.name}</p>
          <div className="mt-1 grid grid-cols-3 gap-1.5 rounded-2xl border-2 border-ink bg-panel p-2">
            {remote.keys.map((key) => (
              <button
                key={key.id}
                type="button"
                data-key={key.id}
                className="min-h-9 rounded-lg border-2 border-ink bg-wall px-1 text-small leading-tight font-semibold active:bg-brass-fill"
                style={{ gridRow: key.row + 1, gridColumn: Math.min(3, key.column + 1) }}
                onPointerDown={() => press(remote.id, key.id)}
                onPointerUp={release}
                onPointerLeave={release}
                onKeyDown={(event) => {
                  if ((event.key === 'Enter' || event.key === ' ') && !event.repeat) {
                    event.preventDefault()
                    press(remote.id, key.id)
                  }
                }}
                onKeyUp={release}
                onBlur={release}
              >
                {key.name}
              </button>
            ))}
          </div>
        </div>
      ))}
    </section>
  )
}
