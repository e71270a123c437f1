import { loadOf, topLevel, type Channel, type Site } from '../../../core/site'
import type { TrialSnapshot } from '../../../core/trial'

interface Belief {
  readonly who: string
  /** level; null: nothing heard yet */
  readonly level: number | null
}

/** What each screen believes of a channel, as a level. */
function beliefsOf(site: Site, channel: Channel, snapshot: TrialSnapshot): Belief[] {
  return site.ways.flatMap((way): Belief[] => {
    if (way.channel !== channel.id) return []
    if (way.kind === 'hub') return [{ who: 'hub', level: snapshot.hub[`${way.hub}/${way.entity}`] ?? null }]
    if (way.kind === 'app') {
      const service = site.services.find((s) => s.id === way.service)
      const point = service?.points.find((p) => p.id === way.point)
      const widget = service?.widgets.find((w) => w.point === way.point)
      const shown = widget && snapshot.widgets[`${way.service}/${widget.id}`]
      if (!shown || !point) return []
      const top = topLevel(channel)
      return [{ who: 'phone', level: top === 1 ? (shown.on ? 1 : 0) : Math.ceil(((shown.value - point.min) * top) / (point.max - point.min)) }]
    }
    return []
  })
}

const said = (channel: Channel, level: number): string => (level === 0 ? 'off' : topLevel(channel) === 1 ? 'on' : `level ${level}`)

/** The truth: each load, at its level or off, with what the screens believe beside it. */
export function Loads({ site, snapshot }: { site: Site; snapshot: TrialSnapshot }) {
  return (
    <section aria-label="Loads">
      <h2 className="rule-head">What is</h2>
      <ul>
        {site.channels.map((channel) => {
          const truth = snapshot.channels.find((candidate) => candidate.id === channel.id)!
          const load = loadOf(site, channel.load)
          return (
            <li key={channel.id} data-load={channel.id} data-on={truth.level > 0} data-level={truth.level} className="flex items-center gap-3 border-b border-hair py-2">
              {channel.kind === 'stepped' ? <Fan level={truth.level} top={topLevel(channel)} /> : <Lamp on={truth.level > 0} type={load?.type ?? 'unknown'} />}
              <div className="min-w-0 flex-1">
                <p className="font-semibold">
                  {channel.name} <span className={`ml-1 font-mono text-note ${truth.level > 0 ? 'text-brass' : 'text-rest'}`}>{said(channel, truth.level)}</span>
                </p>
                <p className="text-small text-soft">{truth.powered ? `last by ${truth.source}` : 'controller without power'}</p>
              </div>
              <ul className="shrink-0 text-right text-small">
                {beliefsOf(site, channel, snapshot).map(({ who, level }) => (
                  <li key={who} className={level !== null && level !== truth.level ? 'font-semibold text-error' : 'text-soft'}>
                    {who} {level === null ? 'knows nothing' : level === truth.level ? `agrees: ${said(channel, level)}` : `believes ${said(channel, level)}`}
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

/** Three blades that turn the faster the higher the level; the level stands beside as filled steps. */
function Fan({ level, top }: { level: number; top: number }) {
  const stroke = level > 0 ? 'var(--brass)' : 'var(--rest)'
  return (
    <svg viewBox="0 0 40 40" width="38" height="38" role="img" aria-label={level > 0 ? `turns at level ${level}` : 'stands'} className="shrink-0">
      <g style={level > 0 ? { animation: `spin ${1.8 / level}s linear infinite`, transformOrigin: '17px 18px' } : undefined}>
        {[0, 120, 240].map((angle) => (
          <path key={angle} d="M17 18c1-7 5-11 9-9 1 4-3 8-9 9z" fill={level > 0 ? 'var(--brass-fill)' : 'none'} stroke={stroke} strokeWidth="1.6" transform={`rotate(${angle} 17 18)`} />
        ))}
      </g>
      {Array.from({ length: top }, (_, i) => (
        <rect key={i} x="35" y={30 - i * 7} width="4" height="5" fill={i < level ? 'var(--brass-fill)' : 'none'} stroke={stroke} />
      ))}
    </svg>
  )
}
