import { Copy, Download, PencilLine, Trash2, type LucideIcon } from 'lucide-react'
import { lazy, Suspense, useState } from 'react'
import { Link } from 'react-router'
import { addressOf, type DoorRow } from '../../../core/api'
import { comes } from '../../parts/comes'
import { Plates } from './Plates'
import type { Doing } from './SiteForm'
import type { Door } from './useDoor'

const SiteForm = lazy(() => comes(async () => ({ default: (await import('./SiteForm')).SiteForm })))

export function SiteList({ door }: { door: Door }) {
  const { sites } = door
  const [doing, setDoing] = useState<{ readonly id: string; readonly what: Doing } | null>(null)
  return (
    <section aria-label="Sites" className="mt-7 border-t border-bus">
      {sites === null && (
        <p role="status" className="py-4 text-soft">
          Loading …
        </p>
      )}
      {sites?.length === 0 && (
        <p className="py-4 text-soft">No site yet. Begin one below: a room with two lamps is a good start.</p>
      )}
      <ul>
        {sites?.map((site) => (
          <li key={site.id} className="border-b border-bus">
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

/** 11 Oct; the browser's own dates, since a package of them would double what the list weighs. */
const dayOf = (at: string): string => new Date(at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })

const counted = (count: number, word: string): string => `${count} ${count === 1 ? word : `${word}s`}`

function SiteLine({ site, onDo }: { site: DoorRow; onDo: (what: Doing) => void }) {
  const { id, name, rooms, volts, controllers } = site
  return (
    <div className="grid gap-x-6 gap-y-2 py-3.5 sm:grid-cols-[15rem_minmax(0,1fr)] lg:grid-cols-[15rem_minmax(0,1fr)_17rem]">
      <div>
        <Link
          to={`/${id}/bench`}
          className="font-place text-room leading-tight font-bold underline decoration-transparent underline-offset-3 hover:decoration-ink"
        >
          {name}
        </Link>
        <p className="text-note text-soft">
          {counted(rooms, 'room')}, {volts} V
        </p>
        <Deeds site={site} onDo={onDo} />
      </div>
      <Plates controllers={controllers} />
      <div className="text-note sm:col-start-2 lg:col-start-3 lg:text-right">
        <OpenIn site={site} />
        <p className="text-soft">{testWords(site)}</p>
        <p className="text-soft">
          revision {site.revision}, {dayOf(site.updatedAt)}
        </p>
      </div>
    </div>
  )
}

/** What is open in a site, the gravest first; a site of which nothing is said is not "fine". */
function OpenIn({ site: { open, unchecked, controllers } }: { site: DoorRow }) {
  if (controllers.length === 0) return <p>no controller yet</p>
  const grave = open.danger > 0 ? `${open.danger} dangerous` : open.error > 0 ? counted(open.error, 'error') : null
  const rest = [
    ...(open.danger > 0 && open.error > 0 ? [counted(open.error, 'error')] : []),
    ...(open.warning > 0 ? [counted(open.warning, 'warning')] : []),
    ...(open.note > 0 ? [counted(open.note, 'note')] : []),
    ...(unchecked > 0 ? [`${unchecked} not checked`] : []),
  ].join(', ')
  return (
    <p>
      {grave && <span className="border-b-2 border-error font-bold text-error">{grave}</span>}
      {grave && rest && ', '}
      {rest || (grave ? '' : 'no findings')}
    </p>
  )
}

function testWords({ lastTest, controllers }: DoorRow): string {
  if (lastTest) {
    const { controller, done, items, failed, at } = lastTest
    const outcome = failed > 0 ? `, ${failed} failed` : ''
    return `${controller}: ${done} of ${items} tests done${outcome}, ${dayOf(at)}`
  }
  return controllers.some(({ state }) => state !== 'none') ? 'not tested yet' : 'nothing built yet'
}

const DEEDS: readonly (readonly [Doing, string, LucideIcon])[] = [
  ['rename', 'Rename', PencilLine],
  ['copy', 'Copy', Copy],
  ['delete', 'Delete', Trash2],
]

const Deeds = ({ site: { id, name }, onDo }: { site: DoorRow; onDo: (what: Doing) => void }) => (
  <span className="mt-1 -ml-1.5 flex">
    <a
      className="press-quiet min-w-7 justify-center text-soft hover:text-ink"
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
        className="press-quiet min-w-7 justify-center text-soft hover:text-ink"
        title={word}
        aria-label={`${word} ${name}`}
        onClick={() => onDo(what)}
      >
        <Icon size={15} aria-hidden="true" />
      </button>
    ))}
  </span>
)
