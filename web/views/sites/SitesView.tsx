import { useEffect, useRef, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { formatDistanceToNowStrict } from 'date-fns'
import { ask } from '../../store/api'

interface Row {
  readonly id: string
  readonly name: string
  readonly revision: number
  readonly updatedAt: string
}

/** The door: sites there are, a new one, one from a file. */
export function SitesView() {
  const navigate = useNavigate()
  const [sites, setSites] = useState<readonly Row[] | null>(null)
  const [name, setName] = useState('')
  const [error, setError] = useState<string | null>(null)
  const file = useRef<HTMLInputElement>(null)
  useEffect(() => {
    document.documentElement.dataset['theme'] ??= localStorage.getItem('vestibule-theme') ?? 'light'
    ask<{ sites: Row[] }>('GET', '/api/sites').then(
      (answer) => setSites(answer.sites),
      (reason: Error) => setError(reason.message),
    )
  }, [])
  const create = (body: unknown) =>
    ask<{ id: string }>('POST', '/api/sites', body).then(
      (answer) => void navigate(`/${answer.id}/bench`),
      (reason: Error) => setError(reason.message),
    )
  const open = async (picked: File | undefined) => {
    if (!picked) return
    const { readSite } = await import('./readSiteFile')
    const parsed = readSite(await picked.text())
    if (parsed.ok) await create({ site: parsed.value })
    else setError(`${picked.name}: ${parsed.error.message}`)
  }
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
        <section aria-label="Sites">
          <h2 className="rule-head">Sites</h2>
          {sites?.length === 0 && (
            <p className="py-3 text-soft">
              No site yet. Name one on the right: a room with two lamps is a good beginning.
            </p>
          )}
          <ul>
            {sites?.map((site) => (
              <li key={site.id} className="border-b border-hair">
                <Link to={`/${site.id}/bench`} className="flex items-baseline gap-3 py-2.5 hover:bg-panel">
                  <span className="font-place text-head font-semibold">{site.name}</span>
                  <span className="ml-auto text-note text-soft">
                    revision {site.revision}, {formatDistanceToNowStrict(new Date(site.updatedAt))} ago
                  </span>
                </Link>
              </li>
            ))}
          </ul>
        </section>
        <section aria-label="A new site">
          <h2 className="rule-head">A new site</h2>
          <form
            className="mt-3 space-y-2"
            onSubmit={(event) => {
              event.preventDefault()
              if (name.trim()) void create({ name: name.trim() })
            }}
          >
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
            onChange={(event) => void open(event.target.files?.[0])}
          />
          <button type="button" className="press mt-2" onClick={() => file.current?.click()}>
            Open a site file
          </button>
        </section>
      </div>
      <p className="mt-14 border-t border-hair pt-3 text-note text-soft">
        Mains can kill and burn. Supply off and proved dead before opening a box, covers on before power, a licensed
        electrician where the law asks for one. Local code decides.
      </p>
    </main>
  )
}
