import { compileSite, linksOf } from '../image'
import { isInternetService, partsOf, type FaultKind, type PartGraph, type PartId, type Place } from '../parts'
import { holdersOf, wiredHolders, wireOf, type Holder } from '../services'
import type { Service, Site } from '../site'
import { startAppService, type AppServiceState } from './appService'
import { Broker, type Message } from './broker'
import { ControllerInWorld } from './controllerInWorld'
import { EventQueue, type Happening } from './eventQueue'
import { startHub, type HubState } from './hub'
import { indexOf, type HouseIndex } from './houseIndex'
import { drawMs, LATENCIES, LOSS, RETRANSMIT_MS, SLOW_MS, draw } from './latency'
import { Pairings } from './pairings'
import type { Cause, HouseListener, TrackEvent } from './tracks'
import type { TimelineEntry } from './types'
import type { Dispute } from './verdicts'

/** The broker of the house, beside what services have of their own. */
export const HOUSE_BROKER = 'house'
const LONGEST_TIMELINE = 400

/** A service with what it holds. */
export type Held = Holder & { state: AppServiceState }

/** All that is true in a house at an instant. Plain data but for its brokers and boards, which can be copied too. */
export interface HouseState {
  readonly site: Site
  readonly graph: PartGraph
  readonly index: HouseIndex
  readonly listener: HouseListener
  /** world time, ms */
  now: number
  /** of the numbers that are drawn */
  random: number
  queue: EventQueue
  brokers: Map<string, Broker>
  controllers: ControllerInWorld[]
  /** app services, hubs with a wire of their own, and voice services that speak to controllers themselves */
  services: Held[]
  hub: HubState
  lines: Record<string, string>
  /** where the hand has each input, as a code; what its controller sees stands in `closed` */
  held: Record<string, number>
  closed: Record<string, number>
  /** contacts of relays as they really are, by "channel.contact" */
  contacts: Map<string, boolean>
  /** what each load does, by channel: a level */
  seen: Map<string, number>
  /** what each screen believes, by way */
  believed: Map<string, number>
  faults: Map<PartId, FaultKind>
  /** where a stuck switch stands, as a code */
  stuckAt: Map<string, number>
  /** parts that have power and are starting, with the number of the start */
  starting: Map<PartId, number>
  starts: number
  down: ReadonlySet<PartId>
  place: Place
  timeline: TimelineEntry[]
  /**
   * when each link went (by "controller/link"), each channel's contact moved, each point was touched; world time,
   * ms
   */
  lostAt: Map<string, number>
  movedAt: Map<string, number>
  touchedAt: Map<string, number>
  /** what was last asked for on the phone, by point */
  asked: Map<string, number>
  disputes: Dispute[]
  pairings: Pairings
  /** when the last message to a client arrives: they keep their order */
  arrivals: Map<string, number>
  /** number of the last deed of a hand */
  deeds: Cause
  /** the last deed that was aimed at each channel, and what its state follows from now */
  aimed: Map<string, { readonly cause: Cause; readonly t: number }>
  causes: Map<string, Cause>
  /** a day's curve by sensor, and what each sensor said last */
  curves: Map<string, { readonly low: number; readonly high: number; readonly turn: number }>
  readings: Map<string, number>
  /** local time at an instant of the world, ms since Monday 00:00; null: nobody has said */
  clock: { readonly at: number; readonly weekMs: number } | null
}

const brokersOf = (house: HouseState): string[] => [HOUSE_BROKER, ...wiredHolders(house.site).map(({ id }) => id)]

/** A house before its first instant: nothing has power. */
export function createHouse(site: Site, seed: number, listener: HouseListener): HouseState {
  const boards = compileSite(site).map(
    (tables) => new ControllerInWorld(tables, site.controllers.find(({ id }) => id === tables.board)!.name, 0),
  )
  const codes = Object.fromEntries(site.inputs.map(({ id }) => [id, 0]))
  const house: HouseState = {
    ...{ site, graph: partsOf(site), index: indexOf(site, boards), listener },
    ...{ now: 0, random: seed >>> 0, queue: new EventQueue(), brokers: new Map(), controllers: boards },
    services: holdersOf(site).map((holder) => ({ ...holder, state: startAppService(holder.service) })),
    ...{ hub: startHub(site), lines: {}, held: { ...codes }, closed: { ...codes } },
    ...{
      contacts: new Map(),
      seen: new Map(),
      believed: new Map(),
      faults: new Map(),
      stuckAt: new Map(),
      starting: new Map(),
      starts: 0,
    },
    ...{ down: new Set(), place: 'here' as const, timeline: [], lostAt: new Map(), movedAt: new Map() },
    ...{ touchedAt: new Map(), asked: new Map(), disputes: [], pairings: new Pairings(site), arrivals: new Map() },
    ...{ deeds: 0, aimed: new Map(), causes: new Map(), curves: new Map(), readings: new Map(), clock: null },
  }
  for (const id of brokersOf(house))
    house.brokers.set(id, new Broker((client, message) => send(house, client, message)))
  return house
}

/** The same house once more, as it stands: each goes its own way from here. */
export function copyHouse(house: HouseState, listener: HouseListener = house.listener): HouseState {
  const copied: HouseState = {
    ...house,
    listener,
    queue: house.queue.copy(),
    brokers: new Map(),
    controllers: house.controllers.map((controller) => controller.copy()),
    services: house.services.map((held) => ({ ...held })),
    lines: { ...house.lines },
    held: { ...house.held },
    closed: { ...house.closed },
    timeline: [...house.timeline],
    disputes: [...house.disputes],
    pairings: house.pairings.copy(),
    ...copiedMaps(house),
  }
  for (const [id, broker] of house.brokers)
    copied.brokers.set(
      id,
      broker.copy((client, message) => send(copied, client, message)),
    )
  return copied
}

const copiedMaps = (house: HouseState) => ({
  contacts: new Map(house.contacts),
  seen: new Map(house.seen),
  believed: new Map(house.believed),
  faults: new Map(house.faults),
  stuckAt: new Map(house.stuckAt),
  starting: new Map(house.starting),
  lostAt: new Map(house.lostAt),
  movedAt: new Map(house.movedAt),
  touchedAt: new Map(house.touchedAt),
  asked: new Map(house.asked),
  arrivals: new Map(house.arrivals),
  aimed: new Map(house.aimed),
  causes: new Map(house.causes),
  curves: new Map(house.curves),
  readings: new Map(house.readings),
})

// ---- what is said of it ----

export function note(house: HouseState, kind: TimelineEntry['kind'], text: string, channel?: string): void {
  const { timeline, now } = house
  timeline.push(channel === undefined ? { t: now, kind, text } : { t: now, kind, text, channel })
  if (timeline.length > LONGEST_TIMELINE) timeline.splice(0, timeline.length - LONGEST_TIMELINE)
}

export const track = (house: HouseState, event: TrackEvent): void => house.listener.onTrack?.(event)

export const after = (house: HouseState, ms: number, what: Happening): void => house.queue.put(house.now + ms, what)

// ---- where messages go ----

/** What a service is reached through by the boards. */
export const homeOf = ({ site }: HouseState, service: Pick<Service, 'kind' | 'id'>): PartId =>
  wireOf(site, service) ? `service:${service.id}` : 'broker'

export const homeOfLink = ({ brokers }: HouseState, link: string): PartId =>
  brokers.has(link) && link !== HOUSE_BROKER ? `service:${link}` : 'broker'

export const brokerAt = ({ brokers }: HouseState, link: string): Broker =>
  brokers.get(link) ?? brokers.get(HOUSE_BROKER)!

export const brokerOf = (house: HouseState, service: Service): Broker =>
  brokerAt(house, wireOf(house.site, service) ? service.id : HOUSE_BROKER)

/** A controller is a client of its own on each link. */
export const clientOf = (controller: ControllerInWorld, link: number): string =>
  link === 0 ? controller.id : `${controller.id}#${link}`

/** The network that a controller's links go through. */
export const networkOf = ({ site }: HouseState, controller: string): PartId =>
  site.controllers.find(({ id }) => id === controller)?.link === 'modem' ? `modem:${controller}` : 'wifi'

const isInternet = ({ site }: HouseState, home: PartId): boolean =>
  home.startsWith('service:') && isInternetService(site, home.slice('service:'.length))

/** What a board's link leads over: its network, the house's line where it must, and its home. */
export function linkPath(house: HouseState, controller: string, home: PartId): PartId[] {
  const network = networkOf(house, controller)
  return [network, home, ...(network === 'wifi' && isInternet(house, home) ? (['internet'] as const) : [])]
}

/** The parts over which a client's messages come; looked up once. */
function pathTo(house: HouseState, client: string): readonly PartId[] {
  const known = house.index.paths.get(client)
  if (known) return known
  const found = findPath(house, client)
  house.index.paths.set(client, found)
  return found
}

function findPath(house: HouseState, client: string): PartId[] {
  const [id, link] = client.split('#')
  const found = house.controllers.find((controller) => controller.id === id)
  if (!found) {
    const service = house.services.find((held) => `service:${held.service.id}` === client)?.service
    const home = service ? homeOf(house, service) : 'broker'
    return isInternet(house, home) ? [home, 'internet'] : [home]
  }
  const home = homeOfLink(house, linksOf(found.image)[Number(link ?? 0)]?.id ?? HOUSE_BROKER)
  return linkPath(house, found.id, home)
}

/** ms that one message needs to a client; null: it is lost. */
function travelMs(house: HouseState, client: string): number | null {
  const path = pathTo(house, client)
  let ms = drawMs(house, LATENCIES.message) + (path.includes('internet') ? drawMs(house, LATENCIES.internet) : 0)
  if (house.faults.size === 0) return ms
  for (const id of path) {
    const fault = house.faults.get(id)
    if (fault === 'slow') ms += SLOW_MS
    if (fault !== 'lossy' || draw(house) >= LOSS) continue
    // a network that loses packets delays a connection; a broker that loses messages loses them
    if (id === 'broker' || id.startsWith('service:')) return null
    ms += RETRANSMIT_MS
  }
  return ms
}

/** A broker's message on its way to a client; what is sent over one connection keeps its order. */
function send(house: HouseState, client: string, message: Message): void {
  const ms = travelMs(house, client)
  if (ms === null) return
  const at = Math.max(house.now + ms, house.arrivals.get(client) ?? 0)
  house.arrivals.set(client, at)
  const what = house.index.happens(client, message, house)
  if (what) house.queue.put(at, what)
}
