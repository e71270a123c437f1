import { formatDistanceToNowStrict } from 'date-fns'
import { Copy, Download, PencilLine, Trash2, type LucideIcon } from 'lucide-react'
import { lazy, Suspense, useState } from 'react'
import { Link } from 'react-router'
import { addressOf, type SiteRow } from '../../../core/api'
import { comes } from '../../parts/comes'
import type { Doing } from './SiteForm'
import type { Door } from './useDoor'

const SiteForm = lazy(() => comes(async () => ({ default: (await import('./SiteForm')).SiteForm })))

export function SiteList({ door }: { door: Door }) {
  const { sites } = door
  const [doing, setDoing] = useState<{ readonly id: string; readonly what: Doing } | null>(null)
  return (
    <section aria-label="Sites">
      <h2 className="rule-head">Sites</h2>
      {sites?.length === 0 && (
        <p className="py-3 text-soft">No site yet. Name one on the right: a room with two lamps is a good beginning.</p>
      )}
      <ul>
        {sites?.map((site) => (
          <li key={site.id} className="border-b border-hair">
            <SiteLine site={site} onDo={(what) => setDoing({ id: site.id, what })} />
            {doing?.id === site.id && (
              <Suspense fallback={null}>
                <SiteForm key={doing.what} site={site} what={doing.what} door={door} onDone={() => setDoing(null)} />
              </Suspense>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

const DEEDS: readonly (readonly [Doing, string, LucideIcon])[] = [
  ['rename', 'Rename', PencilLine],
  ['copy', 'Copy', Copy],
  ['delete', 'Delete', Trash2],
]

function SiteLine({ site: { id, name, revision, updatedAt }, onDo }: { site: SiteRow; onDo: (what: Doing) => void }) {
  return (
    <div className="flex items-baseline gap-1">
      <Link to={`/${id}/bench`} className="flex min-w-0 flex-1 items-baseline gap-3 py-2.5 hover:bg-panel">
        <span className="truncate font-place text-head font-semibold">{name}</span>
        <span className="ml-auto shrink-0 text-note text-soft">
          revision {revision}, {formatDistanceToNowStrict(new Date(updatedAt), { addSuffix: true })}
        </span>
      </Link>
      <span className="flex shrink-0 self-center pl-2">
        <a
          className="press-quiet"
          href={addressOf('export', { site: id, format: 'site' })}
          download
          title="Save as a file"
          aria-label={`Save ${name} as a file`}
        >
          <Download size={15} aria-hidden="true" />
        </a>
        {DEEDS.map(([what, word, Icon]) => (
          <button
            key={what}
            type="button"
            className="press-quiet"
            title={word}
            aria-label={`${word} ${name}`}
            onClick={() => onDo(what)}
          >
            <Icon size={15} aria-hidden="true" />
          </button>
        ))}
      </span>
    </div>
  )
}
