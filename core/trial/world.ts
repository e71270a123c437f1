import { PLACE_WORDS, type FaultKind, type PartId } from '../parts'
import type { Channel, Site } from '../site'
import { tell } from './boards'
import { isPulledIn, settleContacts } from './contacts'
import type { Happening } from './eventQueue'
import { restart, returns, setFault, setFaults } from './faults'
import {
  arrives,
  followCurve,
  hear,
  moveContacts,
  pair,
  pressKey,
  readByHand,
  sayByHub,
  sendChar,
  setClocks,
  startCurve,
  touchWidget,
} from './hands'
import { beat, connectPrograms, hubIsTold, serviceHears } from './homePrograms'
import { copyHouse, createHouse, note, type HouseState } from './house'
import { finishJoin, judge, loseLinks } from './links'
import { outOfReach } from './reach'
import { snapshotOf } from './snapshot'
import type { HouseListener } from './tracks'
import type { TrialAction, TrialSnapshot } from './types'

/**
 * The world around the controllers of a site: their switches, a network, a broker, an app service and a hub, and the
 * faults that can be made in them. It knows no clock: the caller advances it to instants, in ms since its start. The
 * same site, seed and deeds give the same bytes.
 */
export class World {
  private constructor(private readonly house: HouseState) {}

  /** A house whose power has just come on. `seed`: of the latencies and losses. */
  static begin(site: Site, seed = 1, listener: HouseListener = {}): World {
    const house = createHouse(site, seed, listener)
    connectPrograms(house)
    for (const controller of house.controllers) tell(house, controller, { kind: 'power', on: true })
    for (const { id } of site.controllers) settleContacts(house, id, () => null)
    return new World(house)
  }

  /** The same world once more, as it stands; each goes its own way from here, with another seed if one is given. */
  copy(listener?: HouseListener, seed?: number): World {
    const house = copyHouse(this.house, listener)
    if (seed !== undefined) house.random = seed >>> 0
    return new World(house)
  }

  get site(): Site {
    return this.house.site
  }

  /** Where the hand has each input, as a code; what is not said is open. */
  get held(): Readonly<Record<string, number>> {
    return this.house.held
  }

  /** The level at which the load of a channel is. */
  seenOf(channel: string): number {
    return this.house.seen.get(channel) ?? 0
  }

  /** Whether the relay behind a contact has pulled in. */
  hasPulledIn(channel: Channel, contact: number): boolean {
    return isPulledIn(this.house, channel, contact)
  }

  /** What of the house does not work now. */
  get down(): ReadonlySet<PartId> {
    return this.house.down
  }

  /** How a part has failed by itself; undefined: it has not. */
  faultOf(part: PartId): FaultKind | undefined {
    return this.house.faults.get(part)
  }

  get now(): number {
    return this.house.now
  }

  /** Works off everything up to and at an instant. */
  advance(to: number): void {
    const { house } = this
    const run = (what: Happening): void => happens(house, what)
    for (let next = this.nextAt(); next <= to; next = this.nextAt()) {
      house.now = next
      house.queue.runUpTo(next, run)
      for (const controller of house.controllers) if (controller.dueAt <= next) tell(house, controller)
      judge(house)
    }
    house.now = Math.max(house.now, to)
  }

  /** The next instant at which something happens by itself; null: never. */
  nextDeadline(): number | null {
    const at = this.nextAt()
    return at === Infinity ? null : at
  }

  private nextAt(): number {
    const { house } = this
    let at = house.queue.next
    for (const { dueAt } of house.controllers) if (dueAt < at) at = dueAt
    for (const { until } of house.disputes) if (until < at) at = until
    // what is over is due now
    return Math.max(at, house.now)
  }

  act(action: TrialAction): void {
    const { house } = this
    const why = outOfReach(house, action)
    if (why !== null) return note(house, 'refused', why)
    does(house, action)
    judge(house)
  }

  /** Several parts fail, or work again (null), in one instant. */
  breakTogether(list: readonly { readonly id: PartId; readonly how: FaultKind | null }[]): void {
    setFaults(this.house, list)
    judge(this.house)
  }

  /** How each link of a board stands; none: it has no power, or no link. */
  linksOf(board: string): readonly ('down' | 'joining' | 'up')[] {
    const found = this.house.controllers.find(({ id, powered }) => id === board && powered)
    return found ? found.device.inspect().links.map(({ state }) => state) : []
  }

  snapshot(): TrialSnapshot {
    return snapshotOf(this.house)
  }
}

function does(house: HouseState, action: TrialAction): void {
  switch (action.kind) {
    case 'press':
      return moveContacts(house, action.input, 1, 'pressed')
    case 'release':
      return moveContacts(house, action.input, 0, 'let go')
    case 'rock':
      return moveContacts(house, action.input, house.held[action.input] ? 0 : 1, 'rocked')
    case 'turn':
      return moveContacts(house, action.input, action.code, `turned to code ${action.code}`)
    case 'key':
      return pressKey(house, action)
    case 'char':
      return sendChar(house, action)
    case 'say':
      return hear(house, action)
    case 'reading':
      return readByHand(house, action)
    case 'curve':
      return startCurve(house, action)
    case 'clock':
      return setClocks(house, action)
    case 'widget':
      return touchWidget(house, action)
    case 'hub':
    case 'mode':
    case 'group':
      return sayByHub(house, action)
    case 'pair':
      return pair(house, action)
    case 'replay':
      for (const broker of house.brokers.values()) broker.replay()
      return note(house, 'fault', 'the network says again what was commanded')
    case 'stand':
      house.place = action.place
      return note(house, 'hand', `you are ${PLACE_WORDS[action.place]}`)
    case 'break':
      return setFault(house, action.what, action.broken ? (action.how ?? 'gone') : null)
  }
}

function happens(house: HouseState, what: Happening): void {
  switch (what.kind) {
    case 'serviceHears':
      serviceHears(house, what.service, what.message)
      return judge(house)
    case 'hubHears':
      return hubIsTold(house, what.message)
    case 'beat':
      return beat(house, what.everyMs)
    case 'told':
      return arrives(house, house.controllers[what.controller]!, what.boots, what.event)
    case 'joined':
      return finishJoin(house, house.controllers[what.controller]!, what.link)
    case 'linksLost':
      return loseLinks(house, house.controllers[what.controller]!)
    case 'restarts':
      return restart(house, house.controllers[what.controller]!)
    case 'doorMoves':
      return moveContacts(house, what.contact, house.held[what.contact] ? 0 : 1, 'moved')
    case 'returns':
      return returns(house, what.part, what.turn)
    case 'curve':
      return followCurve(house, what.sensor, what.turn)
  }
}
