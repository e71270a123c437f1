import { useMemo } from 'react'
import { grouped, isFeed, kindOf, loadOf, type Channel, type Site, type Way } from '../../../core/site'
import {
  beliefsOf,
  metersOf,
  SOURCE_WORDS,
  trueLevel,
  type ChannelTruth,
  type TrialSnapshot,
} from '../../../core/trial'
import { Picture } from './pictures'

const said = (channel: Channel, level: number): string => kindOf(channel).seen(channel, level)

/** The truth: each load, at its level or off, with what the screens believe beside it. */
export function Loads({ site, snapshot }: { site: Site; snapshot: TrialSnapshot }) {
  const ways = useMemo(() => grouped(site.ways, (way) => way.channel), [site])
  return (
    <section aria-label="Loads">
      <h2 className="rule-head">Loads</h2>
      <Meters site={site} snapshot={snapshot} />
      <ul>
        {site.channels.map((channel) => (
          <LoadLine
            key={channel.id}
            site={site}
            channel={channel}
            ways={ways.get(channel.id) ?? []}
            snapshot={snapshot}
          />
        ))}
      </ul>
    </section>
  )
}

/** What flows through each breaker now. */
function Meters({ site, snapshot }: { site: Site; snapshot: TrialSnapshot }) {
  return (
    <p className="flex flex-wrap gap-x-4 pt-1 text-small text-soft" aria-label="Current now">
      {metersOf(site, snapshot).map(({ controller, name, amps, breakerAmps }) => (
        <span key={controller} data-meter={controller} className={amps > (breakerAmps ?? Infinity) ? 'text-error' : ''}>
          {name} <span className="font-mono">{amps.toFixed(2)}</span> A
          {breakerAmps === null ? '' : ` of ${breakerAmps} A`}
        </span>
      ))}
    </p>
  )
}

/** By whom it was last told, and what keeps it. */
function circumstances(channel: Channel, truth: ChannelTruth): string {
  const feeding = truth.local ? 'local: its switch works the relay' : `detached; lamps ${truth.shines ? 'on' : 'off'}`
  return [
    truth.powered ? (truth.source === 'power' ? 'since power-up' : SOURCE_WORDS[truth.source]) : 'no power',
    ...(truth.waiting ? ['waiting to turn on'] : []),
    ...(isFeed(channel) ? [feeding] : []),
    ...(truth.auto === null ? [] : [truth.auto ? 'auto' : 'manual']),
  ].join(', ')
}

interface LineProps {
  readonly site: Site
  readonly channel: Channel
  readonly ways: readonly Way[]
  readonly snapshot: TrialSnapshot
}

function LoadLine({ site, channel, ways, snapshot }: LineProps) {
  const truth = snapshot.channels.find((candidate) => candidate.id === channel.id)!
  const level = trueLevel(channel, truth)
  return (
    <li
      data-load={channel.id}
      data-on={level > 0}
      data-level={level}
      className="flex items-center gap-3 border-b border-hair py-2 [contain-intrinsic-size:auto_3.5rem] [content-visibility:auto]"
    >
      <Picture channel={channel} truth={truth} type={loadOf(site, channel.load)?.type ?? 'unknown'} />
      <div className="min-w-0 flex-1">
        <p className="font-semibold">
          {channel.name}{' '}
          <span className={`ml-1 font-mono text-note ${level > 0 ? 'text-brass' : 'text-rest'}`}>
            {said(channel, level)}
          </span>
        </p>
        <p className="text-small text-soft">{circumstances(channel, truth)}</p>
      </div>
      <ul className="shrink-0 text-right text-small">
        {beliefsOf(site, channel, snapshot, ways).map(({ who, level: believed }) => (
          <Believed key={who} who={who} channel={channel} level={level} believed={believed} />
        ))}
      </ul>
    </li>
  )
}

interface BelievedProps {
  readonly who: string
  readonly channel: Channel
  readonly level: number
  readonly believed: number | null
}

function Believed({ who, channel, level, believed }: BelievedProps) {
  if (believed === null) return <li className="text-soft">{who} shows nothing yet</li>
  if (believed === level) return <li className="text-soft">{`${who} shows ${said(channel, believed)}`}</li>
  return <li className="font-semibold text-error">{`${who} shows ${said(channel, believed)} (wrong)`}</li>
}
