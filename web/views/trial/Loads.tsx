import { loadOf, topLevel, type Channel, type Site } from '../../../core/site'
import type { ChannelTruth, TrialSnapshot } from '../../../core/trial'

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
      return [
        {
          who: 'phone',
          level:
            top === 1 ? (shown.on ? 1 : 0) : Math.ceil(((shown.value - point.min) * top) / (point.max - point.min)),
        },
      ]
    }
    return []
  })
}

const said = (channel: Channel, level: number): string => {
  switch (channel.kind) {
    case 'stepped':
      return level === 0 ? 'off' : `level ${level}`
    case 'pulsed':
      return channel.contact ? (level ? 'open' : 'closed') : level ? 'pulsing' : 'at rest'
    case 'paired':
      return level === 0 ? 'stopped' : channel.labels[level - 1]!
    case 'feed':
      return level ? 'fed' : 'cut off'
    case 'switched':
      return level ? 'on' : 'off'
  }
}

/** The level that is compared with what screens believe: a door counts by where it stands. */
const trueLevel = (channel: Channel, truth: ChannelTruth): number =>
  channel.kind === 'pulsed' && channel.contact ? (truth.shines ? 1 : 0) : truth.level

/** The truth: each load, at its level or off, with what the screens believe beside it. */
export function Loads({ site, snapshot }: { site: Site; snapshot: TrialSnapshot }) {
  return (
    <section aria-label="Loads">
      <h2 className="rule-head">What is</h2>
      <ul>
        {site.channels.map((channel) => {
          const truth = snapshot.channels.find((candidate) => candidate.id === channel.id)!
          const load = loadOf(site, channel.load)
          const level = trueLevel(channel, truth)
          const more = [
            channel.kind === 'feed'
              ? truth.local
                ? 'local: its switch works the relay'
                : `detached; lamps ${truth.shines ? 'on' : 'off'}`
              : null,
            truth.auto === null ? null : truth.auto ? 'auto' : 'manual',
          ].filter((one) => one !== null)
          return (
            <li
              key={channel.id}
              data-load={channel.id}
              data-on={level > 0}
              data-level={level}
              className="flex items-center gap-3 border-b border-hair py-2"
            >
              <Picture channel={channel} truth={truth} type={load?.type ?? 'unknown'} />
              <div className="min-w-0 flex-1">
                <p className="font-semibold">
                  {channel.name}{' '}
                  <span className={`ml-1 font-mono text-note ${level > 0 ? 'text-brass' : 'text-rest'}`}>
                    {said(channel, level)}
                  </span>
                </p>
                <p className="text-small text-soft">
                  {truth.powered ? `last by ${truth.source}` : 'controller without power'}
                  {more.length ? `, ${more.join(', ')}` : ''}
                </p>
              </div>
              <ul className="shrink-0 text-right text-small">
                {beliefsOf(site, channel, snapshot).map(({ who, level: believed }) => (
                  <li
                    key={who}
                    className={believed !== null && believed !== level ? 'font-semibold text-error' : 'text-soft'}
                  >
                    {who}{' '}
                    {believed === null
                      ? 'knows nothing'
                      : believed === level
                        ? `agrees: ${said(channel, believed)}`
                        : `believes ${said(channel, believed)}`}
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

function Picture({ channel, truth, type }: { channel: Channel; truth: ChannelTruth; type: string }) {
  switch (channel.kind) {
    case 'stepped':
      return <Fan level={truth.level} top={topLevel(channel)} />
    case 'paired':
      return <Shutter level={truth.level} labels={channel.labels} />
    case 'pulsed':
      return <Door open={channel.contact ? truth.shines === true : null} pulsing={truth.level > 0} />
    case 'feed':
      return <Lamp on={truth.shines === true} type="led" />
    case 'switched':
      return <Lamp on={truth.level > 0} type={type} />
  }
}

/** A door stands open or closed where that is known; a strike shows its bolt drawn while it is pulsed. */
function Door({ open, pulsing }: { open: boolean | null; pulsing: boolean }) {
  const stroke = open || pulsing ? 'var(--brass)' : 'var(--rest)'
  return (
    <svg
      viewBox="0 0 40 40"
      width="38"
      height="38"
      role="img"
      aria-label={
        open === null ? (pulsing ? 'pulsing' : 'at rest; where it stands is not known') : open ? 'open' : 'closed'
      }
      className="shrink-0"
    >
      <path d="M9 36V4h22v32" fill="none" stroke="var(--bus)" strokeWidth="2" />
      {open ? (
        <path d="M9 36V4l13 5v30z" fill="var(--brass-fill)" stroke={stroke} strokeWidth="1.6" />
      ) : (
        <rect
          x="11"
          y="6"
          width="18"
          height="30"
          fill={pulsing ? 'var(--brass-fill)' : 'none'}
          stroke={stroke}
          strokeWidth="1.6"
        />
      )}
      {!open && <circle cx="25" cy="21" r="1.8" fill={stroke} />}
      {open === null && (
        <text x="20" y="25" textAnchor="middle" fontSize="12" fill={stroke}>
          ?
        </text>
      )}
    </svg>
  )
}

function Shutter({ level, labels }: { level: number; labels: readonly [string, string] }) {
  const stroke = level > 0 ? 'var(--brass)' : 'var(--rest)'
  return (
    <svg
      viewBox="0 0 40 40"
      width="38"
      height="38"
      role="img"
      aria-label={level > 0 ? `runs ${labels[level - 1]}` : 'stands'}
      className="shrink-0"
    >
      {[8, 14, 20, 26].map((y) => (
        <path key={y} d={`M6 ${y}h20`} stroke={stroke} strokeWidth="2.4" />
      ))}
      {level > 0 && (
        <path
          d={level === 1 ? 'M33 30V10m-4 5 4-6 4 6' : 'M33 8v20m-4-5 4 6 4-6'}
          fill="none"
          stroke={stroke}
          strokeWidth="2"
        />
      )}
    </svg>
  )
}

/** A lamp shines by rays, a motor shows its rotor, a heater its waves: on and off differ by shape too. */
function Lamp({ on, type }: { on: boolean; type: string }) {
  const stroke = on ? 'var(--brass)' : 'var(--rest)'
  return (
    <svg viewBox="0 0 40 40" width="38" height="38" role="img" aria-label={on ? 'on' : 'off'} className="shrink-0">
      <circle cx="20" cy="20" r="9" fill={on ? 'var(--brass-fill)' : 'none'} stroke={stroke} strokeWidth="2" />
      {type === 'motor' && (
        <path
          d="M20 12v16M12 20h16"
          stroke={on ? 'var(--ink)' : stroke}
          strokeWidth="1.6"
          transform={on ? 'rotate(30 20 20)' : undefined}
        />
      )}
      {type === 'heater' && (
        <path
          d="M15 24c0-4 3-4 3-8m4 8c0-4 3-4 3-8"
          fill="none"
          stroke={on ? 'var(--ink)' : stroke}
          strokeWidth="1.6"
        />
      )}
      {on &&
        Array.from({ length: 8 }, (_, i) => (
          <path key={i} d="M20 6V2" stroke={stroke} strokeWidth="2" transform={`rotate(${i * 45} 20 20)`} />
        ))}
    </svg>
  )
}

/** Three blades that turn the faster the higher the level; the level stands beside as filled steps. */
function Fan({ level, top }: { level: number; top: number }) {
  const stroke = level > 0 ? 'var(--brass)' : 'var(--rest)'
  return (
    <svg
      viewBox="0 0 40 40"
      width="38"
      height="38"
      role="img"
      aria-label={level > 0 ? `turns at level ${level}` : 'stands'}
      className="shrink-0"
    >
      <g
        style={
          level > 0 ? { animation: `spin ${1.8 / level}s linear infinite`, transformOrigin: '17px 18px' } : undefined
        }
      >
        {[0, 120, 240].map((angle) => (
          <path
            key={angle}
            d="M17 18c1-7 5-11 9-9 1 4-3 8-9 9z"
            fill={level > 0 ? 'var(--brass-fill)' : 'none'}
            stroke={stroke}
            strokeWidth="1.6"
            transform={`rotate(${angle} 17 18)`}
          />
        ))}
      </g>
      {Array.from({ length: top }, (_, i) => (
        <rect
          key={i}
          x="35"
          y={30 - i * 7}
          width="4"
          height="5"
          fill={i < level ? 'var(--brass-fill)' : 'none'}
          stroke={stroke}
        />
      ))}
    </svg>
  )
}
