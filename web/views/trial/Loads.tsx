import { loadOf, type Channel, type Site } from '../../../core/site'
import type { TrialSnapshot } from '../../../core/trial'

interface Belief {
  readonly who: string
  readonly on: boolean | null
}

/** What each screen believes of a channel. */
function beliefsOf(site: Site, channel: Channel, snapshot: TrialSnapshot): Belief[] {
  return site.ways.flatMap((way): Belief[] => {
    if (way.channel !== channel.id) return []
    if (way.kind === 'hub') return [{ who: 'hub', on: snapshot.hub[`${way.hub}/${way.entity}`] ?? null }]
    if (way.kind === 'app') {
      const widget = site.services.find((s) => s.id === way.service)?.widgets.find((w) => w.point === way.point)
      const shown = widget && snapshot.widgets[`${way.service}/${widget.id}`]
      return shown ? [{ who: 'phone', on: shown.on }] : []
    }
    return []
  })
}

/** The truth: each load, lit or not, with what the screens believe beside it. */
export function Loads({ site, snapshot }: { site: Site; snapshot: TrialSnapshot }) {
  return (
    <section aria-label="Loads">
      <h2 className="rule-head">What is</h2>
      <ul>
        {site.channels.map((channel) => {
          const truth = snapshot.channels.find((candidate) => candidate.id === channel.id)!
          const load = loadOf(site, channel.load)
          return (
            <li key={channel.id} data-load={channel.id} data-on={truth.on} className="flex items-center gap-3 border-b border-hair py-2">
              <Lamp on={truth.on} type={load?.type ?? 'unknown'} />
              <div className="min-w-0 flex-1">
                <p className="font-semibold">
                  {channel.name} <span className={`ml-1 font-mono text-note ${truth.on ? 'text-brass' : 'text-rest'}`}>{truth.on ? 'on' : 'off'}</span>
                </p>
                <p className="text-small text-soft">{truth.powered ? `last by ${truth.source}` : 'controller without power'}</p>
              </div>
              <ul className="shrink-0 text-right text-small">
                {beliefsOf(site, channel, snapshot).map(({ who, on }) => (
                  <li key={who} className={on !== null && on !== truth.on ? 'font-semibold text-error' : 'text-soft'}>
                    {who} {on === null ? 'knows nothing' : on === truth.on ? `agrees: ${on ? 'on' : 'off'}` : `believes ${on ? 'on' : 'off'}`}
                  </li>
                ))}
              </ul>
            </li>
          )
        })}
      </ul>
    </section>
  )
}

/** A lamp shines by rays, a motor shows its rotor, a heater its waves: on and off differ by shape too. */
function Lamp({ on, type }: { on: boolean; type: string }) {
  const stroke = on ? 'var(--brass)' : 'var(--rest)'
  return (
    <svg viewBox="0 0 40 40" width="38" height="38" role="img" aria-label={on ? 'on' : 'off'} className="shrink-0">
      <circle cx="20" cy="20" r="9" fill={on ? 'var(--brass-fill)' : 'none'} stroke={stroke} strokeWidth="2" />
      {type === 'motor' && <path d="M20 12v16M12 20h16" stroke={on ? 'var(--ink)' : stroke} strokeWidth="1.6" transform={on ? 'rotate(30 20 20)' : undefined} />}
      {type === 'heater' && <path d="M15 24c0-4 3-4 3-8m4 8c0-4 3-4 3-8" fill="none" stroke={on ? 'var(--ink)' : stroke} strokeWidth="1.6" />}
      {on && Array.from({ length: 8 }, (_, i) => <path key={i} d="M20 6V2" stroke={stroke} strokeWidth="2" transform={`rotate(${i * 45} 20 20)`} />)}
    </svg>
  )
}
