import { useState, type FormEvent } from 'react'
import { attempt } from '../../../store/attempt'
import { call } from '../../../store/api'
import { useAppSelector } from '../../../store/store'

type Found = Awaited<ReturnType<typeof call<'dryRun'>>>
const ADDRESS = /^[A-Za-z0-9.-]{1,200}(:\d{1,5})?$/

/** A login and a look from this machine, with the stored credentials; nothing is written. */
export function DryRun({ service }: { service: string }) {
  const site = useAppSelector((state) => state.site.site!.id)
  const [address, setAddress] = useState('')
  const [found, setFound] = useState<Found | 'running' | null>(null)
  const wrong = address !== '' && !ADDRESS.test(address)
  const run = async (event: FormEvent) => {
    event.preventDefault()
    setFound('running')
    const body = { address: address === '' ? null : address }
    setFound((await attempt(call('dryRun', { site, service, body }))) ?? null)
  }
  return (
    <form className="mt-2" onSubmit={(event) => void run(event)}>
      <div className="flex items-end gap-2">
        <label className="block">
          <span className="field-label">Dry run at (empty: stand-in on this machine)</span>
          <input
            className="field font-mono"
            value={address}
            placeholder="host:port"
            aria-invalid={wrong || undefined}
            onChange={(event) => setAddress(event.target.value.trim())}
          />
        </label>
        <button type="submit" className="press" disabled={wrong || found === 'running'}>
          Run dry run
        </button>
      </div>
      <p className="text-small text-soft">
        Writes nothing. A board that is connected with the same login is disconnected for a moment.
      </p>
      {wrong && <p className="text-small text-error">a host name or address, with :port where it is another</p>}
      {found && <Lines found={found} />}
    </form>
  )
}

function Lines({ found }: { found: Found | 'running' }) {
  if (found === 'running')
    return (
      <p role="status" className="mt-1 text-note text-soft">
        Connecting …
      </p>
    )
  return (
    <ol aria-label="Dry run" className="mt-1 border-l-2 border-hair pl-2 font-mono text-note">
      {found.lines.map((line, i) => (
        <li key={i} className="break-all">
          {line}
        </li>
      ))}
      <li className={found.ok ? 'text-rest' : 'text-error'}>{found.ok ? '● passed' : '✕ failed'}</li>
    </ol>
  )
}
