import { levelOfContacts, type PartId } from '../parts'
import { kindOf, type Channel } from '../site'
import { note, track, type HouseState } from './house'
import { levelShown, type Screen } from './houseIndex'
import type { Cause } from './tracks'

/**
 * From what a board's tables say to what a load does: pins, wires, opto-couplers, coils and contacts stand between, and
 * each can fail.
 */

const keyOf = (channel: string, contact: number): string => `${channel}.${contact}`

/** The contacts that a board's tables want closed, as bits by channel; nothing without power. */
function toldContacts(house: HouseState, controllerId: string): ReadonlyMap<string, number> {
  const controller = house.controllers.find(({ id, part }) => part === 'main' && id === controllerId)
  if (!controller?.powered) return new Map()
  return new Map(controller.device.inspect().channels.map(({ id, closed }) => [id, closed]))
}

function isTold(told: ReadonlyMap<string, number>, key: string): boolean {
  const at = key.lastIndexOf('.')
  return ((told.get(key.slice(0, at)) ?? 0) & (1 << Number(key.slice(at + 1)))) !== 0
}

/** The output whose pin this relay hangs on: its own, unless two are crossed. */
function drivenBy(house: HouseState, key: string, outputs: readonly string[]): string {
  const place = outputs.indexOf(key)
  const next = outputs[(place + 1) % outputs.length]!
  const before = outputs[(place + outputs.length - 1) % outputs.length]!
  if (house.faults.get(`drive:${key}`) === 'crossed') return next
  return house.faults.get(`drive:${before}`) === 'crossed' ? before : key
}

/** Whether current flows through a relay's coil. */
function pulledIn(
  house: HouseState,
  key: string,
  controller: string,
  outputs: readonly string[],
  told: ReadonlyMap<string, number>,
): boolean {
  const { faults, down } = house
  const module: PartId = `module:${controller}`
  if (down.has(`coil:${key}`) && !fedStill(house, key, controller)) return false
  if (faults.get(module) === 'jumper') return true
  if (faults.get(`opto:${key}`) === 'stuck') return true
  const inverted = faults.get(`drive:${key}`) === 'inverted' && !down.has(`board:${controller}`)
  return isTold(told, drivenBy(house, key, outputs)) !== inverted
}

/** Whether a relay has pulled in: its click can be heard, and its indicator lights. */
export function isPulledIn(house: HouseState, channel: Channel, contact: number): boolean {
  const { controller } = channel
  const outputs = house.index.outputsOf.get(controller) ?? []
  return pulledIn(house, keyOf(channel.id, contact), controller, outputs, toldContacts(house, controller))
}

/** A coil that needs no board: its opto-coupler is shorted or the jumper holds it, and the module has power. */
function fedStill({ faults, down }: HouseState, key: string, controller: string): boolean {
  const held = faults.get(`opto:${key}`) === 'stuck' || faults.get(`module:${controller}`) === 'jumper'
  return held && faults.get(`coil:${key}`) === undefined && !down.has(`module:${controller}`)
}

function closes(
  house: HouseState,
  key: string,
  controller: string,
  outputs: readonly string[],
  told: ReadonlyMap<string, number>,
): boolean {
  // nothing is broken: the tables' word is what is
  if (house.faults.size === 0 && house.down.size === 0) return isTold(told, key)
  const fault = house.faults.get(`contact:${key}`)
  if (fault === 'gone') return false
  return fault === 'stuck' || pulledIn(house, key, controller, outputs, told)
}

export const closedContacts = ({ contacts }: HouseState, channel: Channel): number =>
  kindOf(channel)
    .outputs(channel)
    .reduce((bits, _, k) => (contacts.get(keyOf(channel.id, k)) ? bits | (1 << k) : bits), 0)

/** What a load does: nothing where it is dead, or what feeds it is off. Of a feed: whether there is power. */
export function seenLevel(house: HouseState, channel: Channel): number {
  if (house.down.has(`load:${channel.id}`)) return 0
  return levelOfContacts(channel, closedContacts(house, channel))
}

/** Works out a controller's contacts and loads anew, and says what has moved. */
export function settleContacts(
  house: HouseState,
  controller: string,
  cause: (channel: string) => Cause | null,
): string[] {
  const outputs = house.index.outputsOf.get(controller) ?? []
  const told = toldContacts(house, controller)
  const moved: string[] = []
  for (const key of outputs) {
    const closed = closes(house, key, controller, outputs, told)
    if ((house.contacts.get(key) ?? false) === closed) continue
    house.contacts.set(key, closed)
    const channel = key.slice(0, key.lastIndexOf('.'))
    moved.push(key)
    house.movedAt.set(channel, house.now)
    track(house, { t: house.now, lane: `contact:${key}`, value: Number(closed), cause: cause(channel) })
  }
  for (const channel of house.index.channelsOf.get(controller) ?? []) settleLoad(house, channel, cause(channel.id))
  return moved
}

function settleLoad(house: HouseState, channel: Channel, cause: Cause | null): void {
  const level = seenLevel(house, channel)
  if ((house.seen.get(channel.id) ?? 0) === level) return
  house.seen.set(channel.id, level)
  // smart lamps come back on when they get power (common practice: as they leave the factory)
  if (channel.kind === 'feed' && level > 0)
    house.hub = { ...house.hub, lamps: { ...house.hub.lamps, [channel.id]: true } }
  track(house, { t: house.now, lane: `load:${channel.id}`, value: level, cause })
}

/** A screen comes to believe something. */
export function believe(house: HouseState, screen: Screen, value: number, cause: Cause | null): void {
  const level = levelShown(screen, value)
  if (house.believed.get(screen.way) === level) return
  house.believed.set(screen.way, level)
  track(house, { t: house.now, lane: `belief:${screen.way}`, value: level, cause })
}

/** A contact that does not do as it is told is said where it is seen. */
export function noteOddContact(house: HouseState, channel: Channel, contact: number, isTold: boolean): void {
  const really = house.contacts.get(keyOf(channel.id, contact)) ?? false
  if (really !== isTold)
    note(house, 'fault', `${channel.name}: the contact stays ${really ? 'closed' : 'open'}`, channel.id)
}
