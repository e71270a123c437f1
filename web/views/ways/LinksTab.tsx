import { channelsOn, mainOf, type Link } from '../../../core/site'
import { freeChar, linkFor, linkTable, removeLink } from '../../../core/ways'
import { ChoiceField, NumberField, TextField } from '../../parts/fields'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'

const BAUDS = ['1200', '2400', '4800', '9600', '19200', '38400', '57600', '115200'] as const

/** Nearby and serial links: one table of characters, from which both ends are built. */
export function LinksTab() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const narrowed = useAppSelector((state) => state.screen.controller)
  const links = site.links.filter(
    (link) => narrowed === null || link.controller === narrowed || link.other === narrowed,
  )
  const without = site.controllers.filter(
    (controller) => (narrowed === null || controller.id === narrowed) && channelsOn(site, controller.id).length > 0,
  )
  return (
    <div className="space-y-6">
      {links.length === 0 && (
        <p className="text-soft">No link yet. Fill the Nearby or Serial column of the crossbar, or begin one here.</p>
      )}
      {links.map((link) => (
        <LinkCard key={link.id} link={link} />
      ))}
      <div className="flex flex-wrap gap-1.5">
        {without.flatMap((controller) =>
          (['serial', 'nearby'] as const)
            .filter((kind) => !site.links.some((link) => link.controller === controller.id && link.kind === kind))
            .map((kind) => (
              <button
                key={`${controller.id}/${kind}`}
                type="button"
                className="press"
                onClick={() =>
                  dispatch(
                    edit(`${kind} link of ${controller.name}`, (draft) => void linkFor(draft, controller.id, kind)),
                  )
                }
              >
                {kind === 'serial' ? 'Serial' : 'Nearby'} link of {controller.name}
              </button>
            )),
        )}
      </div>
    </div>
  )
}

function LinkCard({ link }: { link: Link }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const targetName = (target: string): string =>
    site.channels.find((channel) => channel.id === target)?.name ??
    site.controllers.find((controller) => target === `controller ${controller.id}`)?.name ??
    site.groups.find((group) => target === `group ${group.id}`)?.name ??
    target
  // a letter's two cases mostly mean on and off of one thing: they stand together
  const rows = linkTable(site, link).sort(
    (a, b) => a.char.toLowerCase().localeCompare(b.char.toLowerCase()) || a.char.charCodeAt(0) - b.char.charCodeAt(0),
  )
  const name = (id: string | null): string => site.controllers.find((controller) => controller.id === id)?.name ?? ''
  const change = (label: string, mutate: (target: Link) => void) =>
    dispatch(edit(`${link.name}: ${label}`, (draft) => mutate(draft.links.find((l) => l.id === link.id)!)))
  const status = `S ${channelsOn(site, link.controller)
    .map((channel) => `${channel.id}=0`)
    .join(' ')} *…`
  return (
    <section aria-label={link.name}>
      <h2 className="rule-head">{link.name}</h2>
      <div className="mt-2 grid grid-cols-[13rem_1fr] gap-6">
        <div className="space-y-2">
          <TextField
            label="Name"
            value={link.name}
            check={(text) => (text.trim() ? null : 'a name is needed')}
            onKeep={(text) =>
              change('name', (l) => {
                l.name = text
              })
            }
          />
          <ChoiceField
            label="Speed of both ends"
            unit="baud"
            value={String(link.baud) as '9600'}
            choices={BAUDS.map((baud) => [baud as '9600', baud] as const)}
            onKeep={(baud) =>
              change('speed', (l) => {
                l.baud = Number(baud) as Link['baud']
              })
            }
          />
          <NumberField
            label="Status line each"
            unit="ms"
            value={link.statusMs}
            least={100}
            most={600_000}
            onKeep={(ms) =>
              change('status', (l) => {
                l.statusMs = ms
              })
            }
          />
          <ChoiceField
            label="The other end is"
            value={(link.other ?? '') as string}
            choices={[
              ['', link.kind === 'nearby' ? 'a phone nearby' : 'not one of ours'],
              ...site.controllers
                .filter((controller) => controller.id !== link.controller)
                .map((controller) => [controller.id as string, controller.name] as const),
            ]}
            onKeep={(id) =>
              change('other end', (l) => {
                l.other = (id || null) as Link['other']
              })
            }
          />
          <button
            type="button"
            className="press-quiet -ml-1.5"
            onClick={() => dispatch(edit(`no ${link.name}`, (draft) => removeLink(draft, link.id)))}
          >
            Take this link out
          </button>
        </div>
        <div>
          <p className="text-note text-soft">
            {name(link.controller)} understands these;{' '}
            {link.other ? `${name(link.other)} sends them` : 'whoever speaks to it sends them'}
            {link.other && mainOf(site, link.other)?.id === link.controller ? ', and stands for it on the network' : ''}
            . Both ends are written from this one table. Next free character:{' '}
            <span className="font-mono text-ink">{freeChar(site, link.controller)}</span>
          </p>
          <div className="mt-1 grid grid-cols-3 gap-x-5">
            {rows.map((row) => (
              <p key={row.char + row.target + row.action} className="flex gap-2 border-t border-hair py-0.5 text-note">
                <span className="w-5 font-mono font-semibold">{row.char}</span>
                <span className="min-w-0 flex-1 truncate">{targetName(row.target)}</span>
                <span className="text-soft">{row.action}</span>
              </p>
            ))}
          </div>
          <p className="mt-2 text-note text-soft">Back, on each change and each {link.statusMs / 1000} s:</p>
          <p className="border border-hair bg-panel px-2 py-1 font-mono text-note [overflow-wrap:anywhere]">{status}</p>
        </div>
      </div>
    </section>
  )
}
