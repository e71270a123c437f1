import { actionsOf, kindOf, type Channel, type Site } from '../../../core/site'
import type { TrialPart } from './parts'

/** What a hub can say to a channel: the words of its `set` topic, but for levels, with the words of its outputs. */
const commandsOf = (channel: Channel | undefined) =>
  channel ? actionsOf(channel).filter(({ action, set }) => set && action !== 'level' && action !== 'toggle') : []

interface Line {
  readonly name: string
  readonly channel: Channel | undefined
  /** level that the hub believes; null: nothing heard yet */
  readonly level: number | null
  /** it has been told to turn on, and its controller waits */
  readonly waits: boolean
  readonly say: (command: string) => void
}

function EntityLine({ name, channel, level, waits, say }: Line) {
  return (
    <li className="flex items-center gap-1.5 border-b border-hair py-1">
      <span className="min-w-0 flex-1 truncate">{name}</span>
      <span className="w-14 text-small text-soft">
        {channel && level !== null ? kindOf(channel).seen(channel, level) : 'unknown'}
        {waits && ', waits'}
      </span>
      {commandsOf(channel).map(({ action, words }) => (
        <button
          key={action}
          type="button"
          className="press-quiet px-1"
          aria-label={`${name} ${words} by the hub`}
          onClick={() => say(action)}
        >
          {words}
        </button>
      ))}
    </li>
  )
}

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

interface WordsLine {
  readonly name: string
  readonly words: readonly string[]
  readonly say: (command: string) => void
}

function GroupLine({ name, words, say }: WordsLine) {
  return (
    <li className="flex items-center gap-1.5 border-b border-hair py-1">
      <span className="min-w-0 flex-1 truncate">{name}</span>
      {words.map((command) => (
        <button
          key={command}
          type="button"
          className="press-quiet px-1"
          aria-label={`${name} ${command} by the hub`}
          onClick={() => say(command)}
        >
          {command}
        </button>
      ))}
    </li>
  )
}

export function HubPanel({ site, snapshot, act }: TrialPart) {
  const entities = site.hubs.flatMap((hub) => hub.entities.map((entity) => ({ hub: hub.id, entity })))
  const groups = groupsOf(site)
  const modes = modesOf(site)
  if (entities.length + groups.length + modes.length === 0) return null
  return (
    <section aria-label="Hub">
      <h2 className="rule-head">Hub{snapshot.broken.includes('hub') ? ', gone' : ''}</h2>
      <ul>
        {entities.map(({ hub, entity }) => (
          <EntityLine
            key={`${hub}/${entity.id}`}
            name={entity.name}
            channel={site.channels.find((candidate) => candidate.id === entity.channel)}
            level={snapshot.hub[`${hub}/${entity.id}`] ?? null}
            waits={snapshot.hubWaits.includes(`${hub}/${entity.id}`)}
            say={(command) => act({ kind: 'hub', hub, entity: entity.id, command })}
          />
        ))}
        {groups.map(({ group, hub, name }) => (
          <GroupLine
            key={`${hub}/${group}`}
            name={name}
            words={['on', 'off']}
            say={(command) => act({ kind: 'group', hub, group, command })}
          />
        ))}
        {modes.map(({ controller, name }) => (
          <GroupLine
            key={controller}
            name={name}
            words={['auto', 'manual']}
            say={(command) => act({ kind: 'mode', controller, command })}
          />
        ))}
      </ul>
    </section>
  )
}
