import { useRef, type KeyboardEvent } from 'react'
import type { Key } from '../../../core/site'
import type { TrialPart } from './parts'

/** A held key sends a repeat frame each 108 ms, as the common protocols do. */
const REPEAT_MS = 108

/** The remotes: a key sends its frame, and goes on while it is held. */
export function Remotes({ site, act }: TrialPart) {
  const held = useRef<ReturnType<typeof setInterval> | undefined>(undefined)
  const press = (remote: string, key: string) => {
    act({ kind: 'key', remote, key, repeat: false })
    clearInterval(held.current)
    held.current = setInterval(() => act({ kind: 'key', remote, key, repeat: true }), REPEAT_MS)
  }
  const release = () => clearInterval(held.current)
  if (site.remotes.length === 0) return null
  return (
    <section aria-label="Remotes">
      <h2 className="rule-head">Remotes</h2>
      {site.remotes.map((remote) => (
        <div key={remote.id} className="mt-2">
          <p className="text-small text-soft">{remote.name}</p>
          <div className="mt-1 grid grid-cols-3 gap-1.5 rounded-2xl border-2 border-ink bg-panel p-2">
            {remote.keys.map((key) => (
              <HeldKey key={key.id} of={key} onPress={() => press(remote.id, key.id)} onRelease={release} />
            ))}
          </div>
        </div>
      ))}
    </section>
  )
}

function HeldKey({ of, onPress, onRelease }: { of: Key; onPress: () => void; onRelease: () => void }) {
  const keyDown = (event: KeyboardEvent) => {
    if ((event.key !== 'Enter' && event.key !== ' ') || event.repeat) return
    event.preventDefault()
    onPress()
  }
  return (
    <button
      type="button"
      data-key={of.id}
      className={
        'min-h-9 rounded-lg border-2 border-ink bg-wall px-1 text-small leading-tight font-semibold ' +
        'active:bg-brass-fill'
      }
      style={{ gridRow: of.row + 1, gridColumn: Math.min(3, of.column + 1) }}
      onPointerDown={onPress}
      onPointerUp={onRelease}
      onPointerLeave={onRelease}
      onKeyDown={keyDown}
      onKeyUp={onRelease}
      onBlur={onRelease}
    >
      {of.name}
    </button>
  )
}
