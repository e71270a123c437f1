import type { AppServiceState } from './appService'
import { kindOf, type AppWay, type Channel, type Service } from '../site'
import type { TimelineEntry } from './types'

/** Controller and service disagree about a channel at the moment when the link is back. */
export interface Dispute {
  readonly channel: string
  readonly channelName: string
  readonly point: string
  readonly service: string
  readonly controllerOn: boolean
  readonly serviceOn: boolean
  /** where the controller's state came from */
  readonly source: string
  /** did anybody touch the app, and did the channel move, while the two could not speak? */
  readonly appSaid: boolean
  readonly controllerMoved: boolean
  /** world time after which it is called undecided */
  readonly until: number
}

const LONGEST_DISPUTE_MS = 10_000

/** Disputes at reconnection: each app way of a controller whose service value differs from the channel. */
export function disputesAt(
  channels: ReadonlyMap<string, Channel>,
  ways: readonly AppWay[],
  services: readonly { service: Service; state: AppServiceState }[],
  truth: (channel: string) => { on: boolean; source: string; moved: boolean } | undefined,
  touched: (point: string) => boolean,
  now: number,
): Dispute[] {
  return ways.flatMap((way): Dispute[] => {
    const channel = channels.get(way.channel)
    const held = services.find((candidate) => candidate.service.id === way.service)
    const point = held?.service.points.find((candidate) => candidate.id === way.point)
    const real = truth(way.channel)
    // nobody wins over a door or a shutter: what a service remembers never moves them
    if (!channel || !kindOf(channel).lasting || !held || !point || !real) return []
    const serviceOn = (held.state.values[point.id] ?? point.default) !== point.min
    if (serviceOn === real.on) return []
    return [
      {
        channel: channel.id,
        channelName: channel.name,
        point: point.id,
        service: way.service,
        controllerOn: real.on,
        serviceOn,
        source: real.source,
        appSaid: touched(point.id),
        controllerMoved: real.moved,
        until: now + LONGEST_DISPUTE_MS,
      },
    ]
  })
}

const word = (on: boolean): string => (on ? 'on' : 'off')

/** The verdict, once both say the same; undefined while they still differ. */
export function verdictOf(
  dispute: Dispute,
  nowOn: boolean,
  serviceOn: boolean,
  now: number,
): TimelineEntry | undefined {
  const { channel, channelName, controllerOn, source, appSaid, controllerMoved } = dispute
  if (nowOn !== serviceOn) {
    if (now < dispute.until) return undefined
    return {
      t: now,
      kind: 'verdict',
      channel,
      text: `${channelName}: still in dispute; the controller has ${word(nowOn)}, the app shows ${word(serviceOn)}`,
    }
  }
  const local = nowOn === controllerOn
  const board = source === 'wall' && controllerMoved ? 'the wall' : 'the controller'
  const lost = word(!nowOn)
  // who was not there during the outage has said nothing: it only remembered
  const loser = local
    ? appSaid
      ? `the app had said ${lost} during the outage`
      : `the app still showed ${lost} from before`
    : controllerMoved
      ? `${board} had said ${lost} during the outage`
      : `the controller still had ${lost} from before`
  return {
    t: now,
    kind: 'verdict',
    channel,
    text: `${channelName}: ${local ? board : 'the app service'} won (${word(nowOn)}); ${loser}`,
  }
}
