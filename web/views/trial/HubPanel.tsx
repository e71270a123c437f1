import type { Channel } from '../../../core/site'
import type { TrialPart } from './parts'

/** What a hub can say to each kind of channel, with the words of its labels. */
function commandsOf(channel: Channel | undefined): readonly (readonly [string, string])[] {
  switch (channel?.kind) {
    case 'stepped':
      return [
        ['off', 'off'],
        ['down', 'down'],
        ['up', 'up'],
      ]
    case 'pulsed':
      return channel.contact
        ? [
            ['open', 'open'],
            ['close', 'close'],
          ]
        : [['pulse', 'pulse']]
    case 'paired':
      return [
        ['a', channel.labels[0]],
        ['stop', 'stop'],
        ['b', channel.labels[1]],
      ]
    default:
      return [
        ['on', 'on'],
        ['off', 'off'],
      ]
  }
}

function belief(channel: Channel | undefined, level: number | null): string {
  if (level === null) return 'unknown'
  switch (channel?.kind) {
    case 'stepped':
      return level === 0 ? 'off' : `level ${level}`
    case 'pulsed':
      return channel.contact ? (level ? 'open' : 'closed') : level ? 'pulsing' : 'idle'
    case 'paired':
      return level === 0 ? 'stopped' : channel.labels[level - 1]!
    default:
      return level ? 'on' : 'off'
  }
}

export function HubPanel({ site, snapshot, act }: TrialPart) {
  const entities = site.hubs.flatMap((hub) => hub.entities.map((entity) => ({ hub, entity })))
  if (entities.length === 0) return null
  return (
    <section aria-label="Hub">
      <h2 className="rule-head">Hub{snapshot.broken.includes('hub') ? ', gone' : ''}</h2>
      <ul>
        {entities.map(({ hub, entity }) => {
          const channel = site.channels.find((candidate) => candidate.id === entity.channel)
          return (
            <li key={`${hub.id}/${entity.id}`} className="flex items-center gap-1.5 border-b border-hair py-1">
              <span className="min-w-0 flex-1 truncate">{entity.name}</span>
              <span className="w-14 text-small text-soft">
                {belief(channel, snapshot.hub[`${hub.id}/${entity.id}`] ?? null)}
              </span>
              {commandsOf(channel).map(([command, word]) => (
                <button
                  key={command}
                  type="button"
                  className="press-quiet"
                  aria-label={`${entity.name} ${word} by the hub`}
                  onClick={() => act({ kind: 'hub', hub: hub.id, entity: entity.id, command })}
                >
                  {word}
                </button>
              ))}
            </li>
          )
        })}
      </ul>
    </section>
  )
}
