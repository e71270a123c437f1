import { actionsOf, kindOf, type Channel, type Site } from '../../../core/site'
import type { HubWish } from '../../../core/trial'
import type { TrialPart } from './parts'

/** What a hub can say to a channel: the words of its `set` topic, but for levels, with the words of its outputs. */
const commandsOf = (channel: Channel | undefined) =>
  channel ? actionsOf(channel).filter(({ action, set }) => set && action !== 'level' && action !== 'toggle') : []

interface Line {
  readonly name: string
  /** what the hub believes of it; groups and modes have no state of their own */
  readonly note?: string
  readonly commands: readonly { readonly action: string; readonly words: string }[]
  readonly say: (command: string) => void
}

/** One thing that the hub works, and the words that it has for it. */
function HubLine({ name, note, commands, say }: Line) {
  return (
    <li className="flex items-center gap-1.5 border-b border-hair py-1">
      <span className="min-w-0 flex-1">
        {name}
        {note && <span className="block text-small text-soft">{note}</span>}
      </span>
      {commands.map(({ action, words }) => (
        <button
          key={action}
          type="button"
          className="press-quiet min-w-7 justify-center px-1"
          aria-label={`${name} ${words} by the hub`}
          onClick={() => say(action)}
        >
          {words}
        </button>
      ))}
    </li>
  )
}

const ON_OFF = ['on', 'off'].map((word) => ({ action: word, words: word }))
const MODES = ['auto', 'manual'].map((word) => ({ action: word, words: word }))

/** Level that the hub believes, null: nothing heard yet; and whether what it said waits at the controller. */
const believed = (channel: Channel | undefined, level: number | null, waits: boolean): string =>
  (channel && level !== null ? kindOf(channel).seen(channel, level) : 'unknown') + (waits ? ', waiting' : '')

/** Groups that a hub works; they have no state of their own. */
const groupsOf = (site: Site) =>
  site.groups.flatMap((group) =>
    (group.ways ?? []).flatMap((way) =>
      way.kind === 'hub' ? [{ group: group.id, hub: way.hub, name: way.name }] : [],
    ),
  )

/** Controllers whose auto and manual a hub works. */
const modesOf = (site: Site) =>
  site.controllers.flatMap(({ id, modeEntity }) => (modeEntity ? [{ controller: id, name: modeEntity.name }] : []))

const entitiesOf = (site: Site) => site.hubs.flatMap((hub) => hub.entities.map((entity) => ({ hub: hub.id, entity })))

/** What a hub believes, and how it is made to speak. */
interface HubPart {
  readonly site: Site
  readonly beliefs: Readonly<Record<string, number | null>>
  readonly waits: readonly string[]
  readonly act: (wish: HubWish) => void
}

const EntityLines = ({ site, beliefs, waits, act }: HubPart) =>
  entitiesOf(site).map(({ hub, entity }) => {
    const key = `${hub}/${entity.id}`
    const channel = site.channels.find((candidate) => candidate.id === entity.channel)
    return (
      <HubLine
        key={key}
        name={entity.name}
        note={believed(channel, beliefs[key] ?? null, waits.includes(key))}
        commands={commandsOf(channel)}
        say={(command) => act({ kind: 'hub', hub, entity: entity.id, command })}
      />
    )
  })

const isEmpty = (site: Site): boolean => entitiesOf(site).length + groupsOf(site).length + modesOf(site).length === 0

/** Everything that the hubs of a site work, with what they believe. */
export const HubLines = ({ site, act, ...part }: HubPart) => (
  <ul>
    <EntityLines site={site} act={act} {...part} />
    {groupsOf(site).map(({ group, hub, name }) => (
      <HubLine
        key={`${hub}/${group}`}
        name={name}
        commands={ON_OFF}
        say={(command) => act({ kind: 'group', hub, group, command })}
      />
    ))}
    {modesOf(site).map(({ controller, name }) => (
      <HubLine
        key={controller}
        name={name}
        commands={MODES}
        say={(command) => act({ kind: 'mode', controller, command })}
      />
    ))}
  </ul>
)

export function HubPanel({ site, snapshot, act }: TrialPart) {
  if (isEmpty(site)) return null
  return (
    <section aria-label="Hub">
      <h2 className="rule-head">Hub{snapshot.broken.includes('hub') ? ', down' : ''}</h2>
      <HubLines site={site} beliefs={snapshot.hub} waits={snapshot.hubWaits} act={act} />
    </section>
  )
}
