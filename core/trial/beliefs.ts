import { kindOf, topLevel, waysTo, type AppWay, type Channel, type Site, type Way } from '../site'
import type { ChannelTruth, TrialSnapshot } from './types'

/** What a screen believes of a channel. */
export interface Belief {
  readonly who: 'hub' | 'phone'
  /** level; null: nothing heard yet */
  readonly level: number | null
}

/** The level that a phone's widget shows: the one whose value it is, or above. */
function onThePhone(site: Site, channel: Channel, way: AppWay, snapshot: TrialSnapshot): Belief[] {
  const service = site.services.find((candidate) => candidate.id === way.service)
  const point = service?.points.find((candidate) => candidate.id === way.point)
  const widget = service?.widgets.find((candidate) => candidate.point === way.point)
  const shown = widget && snapshot.widgets[`${way.service}/${widget.id}`]
  if (!shown || !point) return []
  const top = topLevel(channel)
  const level = top === 1 ? Number(shown.on) : Math.ceil(((shown.value - point.min) * top) / (point.max - point.min))
  return [{ who: 'phone', level }]
}

/** What each screen believes of a channel, as a level; `ways`: those to the channel. */
export const beliefsOf = (
  site: Site,
  channel: Channel,
  snapshot: TrialSnapshot,
  ways: readonly Way[] = waysTo(site, channel.id),
): Belief[] =>
  ways.flatMap((way): Belief[] => {
    if (way.kind === 'hub') return [{ who: 'hub', level: snapshot.hub[`${way.hub}/${way.entity}`] ?? null }]
    return way.kind === 'app' ? onThePhone(site, channel, way, snapshot) : []
  })

/** The level that is compared with what screens believe: a door counts by where it stands. */
export const trueLevel = (channel: Channel, truth: ChannelTruth): number =>
  kindOf(channel).position(channel)?.input ? Number(truth.shines === true) : truth.seen
