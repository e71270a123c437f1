import { channelsOn, controllerOf, mainOf, type Controller, type Link, type Site } from '../../../core/site'
import { freeChar, linkFor, linkRowsByLetter, linkTargetName, removeLink } from '../../../core/ways'
import { Fields, fieldsOf, needsName } from '../../parts/form'
import { edit } from '../../store/editing'
import { takeOut } from '../../store/takeOut'
import { selectShown } from '../../store/selection'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { useChange, withId } from '../../store/useChange'

const BAUDS = ['1200', '2400', '4800', '9600', '19200', '38400', '57600', '115200'] as const
const KINDS = [
  ['serial', 'Serial'],
  ['nearby', 'Nearby'],
] as const

/** Nearby and serial links: one table of characters, from which both ends are built. */
export function LinksTab() {
  const site = useAppSelector((state) => state.site.site)!
  const narrowed = useAppSelector(selectShown)
  const here = (id: string | null) => narrowed === null || id === narrowed
  const links = site.links.filter((link) => here(link.controller) || here(link.other))
  return (
    <div className="space-y-6">
      {links.length === 0 && (
        <p className="text-soft">No link yet. Fill the Nearby or Serial column of the crossbar, or add one here.</p>
      )}
      {links.map((link) => (
        <LinkCard key={link.id} link={link} />
      ))}
      <MissingLinks controllers={site.controllers.filter(({ id }) => here(id) && channelsOn(site, id).length > 0)} />
    </div>
  )
}

/** The links that these controllers have not; nothing where they have all. */
function MissingLinks({ controllers }: { controllers: readonly Controller[] }) {
  const dispatch = useAppDispatch()
  const links = useAppSelector((state) => state.site.site!.links)
  const missing = controllers.flatMap(({ id, name }) =>
    KINDS.filter(([kind]) => !links.some((link) => link.controller === id && link.kind === kind)).map(
      ([kind, words]) => ({ id, name, kind, words }),
    ),
  )
  if (missing.length === 0) return null
  return (
    <section aria-label="Add link">
      <h2 className="rule-head mb-2">Add link</h2>
      <div className="flex flex-wrap gap-1.5">
        {missing.map(({ id, name, kind, words }) => (
          <button
            key={`${id}/${kind}`}
            type="button"
            className="press"
            onClick={() => dispatch(edit(`${kind} link of ${name}`, (draft) => void linkFor(draft, id, kind)))}
          >
            {words} link of {name}
          </button>
        ))}
      </div>
    </section>
  )
}

const field = fieldsOf<Link>()
const fieldsFor = (site: Site, link: Link) => [
  field.text('Name', 'name', { check: needsName }),
  field.choice(
    'Speed (both ends)',
    {
      read: ({ baud }) => String(baud) as (typeof BAUDS)[number],
      write: (target, baud) => {
        target.baud = Number(baud) as Link['baud']
      },
    },
    BAUDS.map((baud) => [baud, baud] as const),
    { what: 'speed', unit: 'baud' },
  ),
  field.number('Status line every', 'statusMs', { what: 'status', unit: 'ms', least: 100, most: 600_000 }),
  field.choice(
    'Other end',
    {
      read: ({ other }) => (other ?? '') as string,
      write: (target, id) => {
        target.other = (id || null) as Link['other']
      },
    },
    [
      ['', link.kind === 'nearby' ? 'a phone nearby' : 'not on this site'],
      ...site.controllers
        .filter(({ id }) => id !== link.controller)
        .map(({ id, name }) => [id as string, name] as const),
    ],
    { what: 'other end' },
  ),
]

function LinkCard({ link }: { link: Link }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const change = useChange(link.name, (draft) => withId(draft.links, link.id))
  const out = takeOut(link.name, (draft) => removeLink(draft, link.id))
  return (
    <section aria-label={link.name} data-thing={link.id}>
      <h2 className="rule-head">{link.name}</h2>
      <div className="mt-2 grid @3xl:grid-cols-[13rem_1fr] gap-6">
        <div className="space-y-2">
          <Fields rows={fieldsFor(site, link)} of={link} change={change} />
          <button type="button" className="press-quiet -ml-1.5" onClick={() => dispatch(out)}>
            Delete link
          </button>
        </div>
        <CharacterTable link={link} />
      </div>
    </section>
  )
}

/** Who understands the characters, and who sends them. */
function endsWords(site: Site, { controller, other }: Link): string {
  const name = (id: string): string => controllerOf(site, id)?.name ?? ''
  const sender = other ? `${name(other)} sends them` : 'any sender may send them'
  const stands = other && mainOf(site, other)?.id === controller ? ', and connects it to the network' : ''
  return `${name(controller)} understands these; ${sender}${stands}. Both boards use this table.`
}

function CharacterTable({ link }: { link: Link }) {
  const site = useAppSelector((state) => state.site.site)!
  const values = channelsOn(site, link.controller).map((channel) => `${channel.id}=0`)
  return (
    <div>
      <p className="text-note text-soft">
        {endsWords(site, link)} Next free character:{' '}
        <span className="font-mono text-ink">{freeChar(site, link.controller)}</span>
      </p>
      <div className="mt-1 grid @2xl:grid-cols-3 gap-x-5">
        {linkRowsByLetter(site, link).map(({ char, target, action }) => (
          <p key={char + target + action} className="flex gap-2 border-t border-hair py-0.5 text-note">
            <span className="w-5 font-mono font-semibold">{char}</span>
            <span className="min-w-0 flex-1 truncate">{linkTargetName(site, target)}</span>
            <span className="text-soft">{action}</span>
          </p>
        ))}
      </div>
      <p className="mt-2 text-note text-soft">Reported on each change and every {link.statusMs / 1000} s:</p>
      <p className="border border-hair bg-panel px-2 py-1 font-mono text-note [overflow-wrap:anywhere]">
        {`S ${values.join(' ')} *…`}
      </p>
    </div>
  )
}
