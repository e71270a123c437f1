import { topLevel, type Channel } from '../../../core/site'
import type { ChannelTruth } from '../../../core/trial'

/** How a load looks in its state, by the kind of its channel: by shape, not only by colour. */

export function Picture({ channel, truth, type }: { channel: Channel; truth: ChannelTruth; type: string }) {
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
  const turning = { animation: `spin ${1.8 / level}s linear infinite`, transformOrigin: '17px 18px' }
  return (
    <svg
      viewBox="0 0 40 40"
      width="38"
      height="38"
      role="img"
      aria-label={level > 0 ? `turns at level ${level}` : 'stands'}
      className="shrink-0"
    >
      <g style={level > 0 ? turning : undefined}>
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
      {Array.from({ length: top }, (_, i) => {
        const fill = i < level ? 'var(--brass-fill)' : 'none'
        return <rect key={i} x="35" y={30 - i * 7} width="4" height="5" fill={fill} stroke={stroke} />
      })}
    </svg>
  )
}
