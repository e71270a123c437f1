import { useState } from 'react'
import { usePicked } from '../../../parts/Sides'
import { closestPair, codeName, codeTrouble, type NamedCode } from '../../../../core/infrared'
import type { Key, Remote } from '../../../../core/site'
import { addKey, remoteFor, removeRemote } from '../../../../core/ways'
import { edit } from '../../../store/editing'
import { takeOut } from '../../../store/takeOut'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { withId } from '../../../store/useChange'
import { KeyFields } from './KeyFields'
import { TeachPanel } from './TeachPanel'

/** Remotes as they lie in the hand: their keys, what each sends and does; and the bench where keys are taught. */
export function RemotesTab() {
  const remotes = useAppSelector((state) => state.site.site!.remotes)
  const [which, setWhich] = useState<string | null>(null)
  const [keyId, setKeyId] = usePicked()
  const holder = remotes.find((one) => one.keys.some((key) => key.id === keyId))
  const remote = remotes.find((one) => one.id === which) ?? holder ?? remotes[0]
  const key = remote?.keys.find((one) => one.id === keyId) ?? remote?.keys[0]
  return (
    <div>
      <RemoteList picked={remote?.id ?? null} onPick={setWhich} />
      {!remote ? (
        <p className="mt-4 text-soft">
          No remote yet. Fill the Remote column of the crossbar, or add one for a controller with a receiver.
        </p>
      ) : (
        <div className="mt-3 grid @3xl:grid-cols-[17rem_1fr] gap-7">
          <div className="space-y-4">
            <DrawnRemote remote={remote} picked={key?.id ?? null} onPick={setKeyId} />
            {key ? <KeyFields remote={remote} pressed={key} /> : <p className="text-soft">No key yet: teach one.</p>}
          </div>
          <TeachPanel remote={remote} picked={key} />
        </div>
      )}
    </div>
  )
}

function RemoteList({ picked, onPick }: { picked: string | null; onPick: (id: string) => void }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const deaf = site.controllers.filter((controller) => !site.remotes.some((one) => one.controller === controller.id))
  return (
    <div className="flex flex-wrap gap-1.5">
      {site.remotes.map((one) => (
        <button
          key={one.id}
          type="button"
          aria-pressed={one.id === picked}
          className="press aria-pressed:bg-ink aria-pressed:text-wall"
          onClick={() => onPick(one.id)}
        >
          {one.name}
        </button>
      ))}
      {deaf.map(({ id, name }) => (
        <button
          key={id}
          type="button"
          className="press-quiet"
          onClick={() => dispatch(edit(`remote for ${name}`, (draft) => void remoteFor(draft, id)))}
        >
          remote for {name}
        </button>
      ))}
    </div>
  )
}

/** Least distance between two taught codes, and which they are. */
function Distance({ remote }: { remote: Remote }) {
  const codes = remote.keys.flatMap(({ name, code }): NamedCode[] =>
    code.protocol === 'unknown' || codeTrouble(code) ? [] : [{ name, code }],
  )
  const closest = closestPair(codes)
  if (!closest) return null
  const looks = closest.microseconds === 0 ? 'font-semibold text-error' : 'text-soft'
  return (
    <p className={`mt-2 text-note ${looks}`}>
      {`Closest: “${closest.a}” and “${closest.b}”, ${(closest.microseconds / 1000).toFixed(1)} ms apart.`}
    </p>
  )
}

interface DrawnProps {
  readonly remote: Remote
  readonly picked: string | null
  readonly onPick: (id: string) => void
}

function DrawnRemote({ remote, picked, onPick }: DrawnProps) {
  const dispatch = useAppDispatch()
  const rows = Math.max(3, ...remote.keys.map((key) => key.row + 1))
  const another = edit(`a key on ${remote.name}`, (draft) => {
    addKey(draft, withId(draft.remotes, remote.id)!, `Key ${remote.keys.length + 1}`)
  })
  const out = takeOut(remote.name, (draft) => removeRemote(draft, remote.id))
  return (
    <section aria-label={remote.name}>
      <h2 className="rule-head">{remote.name}</h2>
      <div
        className="mt-2 grid grid-cols-3 gap-2 rounded-2xl border-2 border-ink bg-panel p-3"
        style={{ gridTemplateRows: `repeat(${rows}, minmax(3.4rem, auto))` }}
      >
        {remote.keys.map((key) => (
          <DrawnKey key={key.id} of={key} picked={key.id === picked} onPick={() => onPick(key.id)} />
        ))}
      </div>
      <Distance remote={remote} />
      <div className="mt-2 flex flex-wrap gap-1.5">
        <button type="button" className="press" onClick={() => dispatch(another)}>
          Add key
        </button>
        <button type="button" className="press-quiet" onClick={() => dispatch(out)}>
          Delete remote
        </button>
      </div>
    </section>
  )
}

function DrawnKey({ of, picked, onPick }: { of: Key; picked: boolean; onPick: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={picked}
      className={
        'flex flex-col items-center justify-center rounded-lg border-2 border-ink bg-wall px-1 py-1 text-center ' +
        'text-note leading-tight font-semibold aria-pressed:bg-ink aria-pressed:text-wall'
      }
      style={{ gridRow: of.row + 1, gridColumn: Math.min(3, of.column + 1) }}
      onClick={onPick}
    >
      {of.name}
      <span className="font-mono text-[0.625rem] font-normal opacity-80">
        {codeName(of.code).replace(/^unknown /, '#')}
      </span>
    </button>
  )
}
