import { formatDistanceToNowStrict } from 'date-fns'
import { useEffect, useRef, useState, type FormEvent } from 'react'
import { Link, useNavigate } from 'react-router'
import type { BodySent, SiteRow } from '../../../core/api'
import { call } from '../../store/api'
import { keptTheme } from '../../store/screenSlice'

/** The sites there are, what went wrong at the door, and the ways through it. */
function useDoor() {
  const navigate = useNavigate()
  const [sites, setSites] = useState<readonly SiteRow[] | null>(null)
  const [error, setError] = useState<string | null>(null)
  const refuse = (reason: Error) => setError(reason.message)
  useEffect(() => {
    document.documentElement.dataset['theme'] ??= keptTheme() ?? 'light'
    call('sites', {}).then((answer) => setSites(answer.sites), refuse)
  }, [])
  const create = (body: BodySent<'newSite'>) =>
    call('newSite', { body }).then((answer) => void navigate(`/${answer.id}/bench`), refuse)
  const open = async (picked: File | undefined) => {
    if (!picked) return
    const { readSite } = await import('./readSiteFile')
    const parsed = readSite(await picked.text())
    if (parsed.ok) await create({ site: parsed.value })
    else setError(`${picked.name}: ${parsed.error.message}`)
  }
  return { sites, error, create, open }
}

/** The door: sites there are, a new one, one from a file. */
export function SitesView() {
  const { sites, error, create, open } = useDoor()
  return (
    <main className="mx-auto max-w-3xl px-8 py-14">
      <h1 className="text-[2rem] leading-tight font-bold">Vestibule</h1>
      <p className="mt-1 text-head text-soft">
        Every way in to every channel: planned, proved, and on record before mains goes on.
      </p>
      {error && (
        <p role="alert" className="mt-5 border-2 border-error px-3 py-2 text-error">
          {error}
        </p>
      )}
      <div className="mt-10 grid grid-cols-[1fr_17rem] gap-12">
        <SiteList sites={sites} />
        <section aria-label="A new site">
          <h2 className="rule-head">A new site</h2>
          <NameSite onName={(name) => void create({ name })} />
          <OpenFile onPick={(file) => void open(file)} />
        </section>
      </div>
      <p className="mt-14 border-t border-hair pt-3 text-note text-soft">
        Mains can kill and burn. Supply off and proved dead before opening a box, covers on before power, a licensed
        electrician where the law asks for one. Local code decides.
      </p>
    </main>
  )
}

function SiteList({ sites }: { sites: readonly SiteRow[] | null }) {
  return (
    <section aria-label="Sites">
      <h2 className="rule-head">Sites</h2>
      {sites?.length === 0 && (
        <p className="py-3 text-soft">No site yet. Name one on the right: a room with two lamps is a good beginning.</p>
      )}
      <ul>
        {sites?.map(({ id, name, revision, updatedAt }) => (
          <li key={id} className="border-b border-hair">
            <Link to={`/${id}/bench`} className="flex items-baseline gap-3 py-2.5 hover:bg-panel">
              <span className="font-place text-head font-semibold">{name}</span>
              <span className="ml-auto text-note text-soft">
                revision {revision}, {formatDistanceToNowStrict(new Date(updatedAt))} ago
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  )
}

function NameSite({ onName }: { onName: (name: string) => void }) {
  const [name, setName] = useState('')
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (name.trim()) onName(name.trim())
  }
  return (
    <form className="mt-3 space-y-2" onSubmit={submit}>
      <label className="field-label" htmlFor="site-name">
        Name of the house or room
      </label>
      <input
        id="site-name"
        className="field"
        value={name}
        maxLength={60}
        onChange={(event) => setName(event.target.value)}
      />
      <button type="submit" className="press-main" disabled={!name.trim()}>
        Make the site
      </button>
    </form>
  )
}

function OpenFile({ onPick }: { onPick: (file: File | undefined) => void }) {
  const file = useRef<HTMLInputElement>(null)
  return (
    <>
      <p className="mt-6 text-note text-soft">
        Or open a site file (JSON). It is checked whole before anything is kept.
      </p>
      <input
        ref={file}
        type="file"
        accept="application/json,.json"
        className="sr-only"
        aria-label="Site file"
        tabIndex={-1}
        onChange={(event) => onPick(event.target.files?.[0])}
      />
      <button type="button" className="press mt-2" onClick={() => file.current?.click()}>
        Open a site file
      </button>
    </>
  )
}
