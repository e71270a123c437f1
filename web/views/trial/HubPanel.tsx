import type { TrialPart } from './parts'

export function HubPanel({ site, snapshot, act }: TrialPart) {
  const entities = site.hubs.flatMap((hub) => hub.entities.map((entity) => ({ hub, entity })))
  if (entities.length === 0) return null
  return (
    <section aria-label="Hub">
      <h2 className="rule-head">Hub</h2>
      <ul>
        {entities.map(({ hub, entity }) => {
          const belief = snapshot.hub[`${hub.id}/${entity.id}`] ?? null
          return (
            <li key={`${hub.id}/${entity.id}`} className="flex items-center gap-1.5 border-b border-hair py-1">
              <span className="min-w-0 flex-1 truncate">{entity.name}</span>
              <span className="w-14 text-small text-soft">{belief === null ? 'unknown' : belief === 0 ? 'off' : site.channels.find((c) => c.id === entity.channel)?.kind === 'stepped' ? `level ${belief}` : 'on'}</span>
              {(site.channels.find((c) => c.id === entity.channel)?.kind === 'stepped' ? ['off', 'down', 'up'] : ['on', 'off']).map((command) => (
                <button key={command} type="button" className="press-quiet" aria-label={`${entity.name} ${command} by the hub`} onClick={() => act({ kind: 'hub', hub: hub.id, entity: entity.id, command })}>
                  {command}
                </button>
              ))}
            </li>
          )
        })}
      </ul>
    </section>
  )
}
