import { linksOf } from '../image'
import { kindOf, readOutputName, type Channel } from '../site'
import type { DeviceEvent, DeviceOutput, Source } from '../device'
import { noteOddContact, settleContacts } from './contacts'
import type { ControllerInWorld } from './controllerInWorld'
import { after, brokerAt, clientOf, note, track, type HouseState } from './house'
import { drawMs, draw, LATENCIES, LOSS } from './latency'
import { BROWN_OUT_VOLTS, sagVolts } from './sag'
import type { Cause } from './tracks'
import { SOURCE_WORDS } from '../topics'

/** A door needs this long to reach its other end, ms: enough to be seen. */
const DOOR_MS = 1_200
/** A slow leaf, ms (common practice: up to a quarter of a minute). */
const SLOW_DOOR_MS = 10_000
/** What moves so long after a hand's deed no longer follows from it, ms: a turn-on may wait for its rest. */
const LONGEST_CAUSE_MS = 60_000

/** What a hand's deed can have led to, by where a change came from. */
const BY_HAND: ReadonlySet<Source> = new Set(['wall', 'remote', 'app', 'hub', 'nearby', 'serial', 'service', 'contact'])

export const linkIndexOf = ({ image }: ControllerInWorld, of: string | undefined): number =>
  of === undefined ? 0 : linksOf(image).findIndex(({ id }) => id === of)
const linkIdOf = (controller: ControllerInWorld, of: string | undefined): string =>
  linksOf(controller.image)[linkIndexOf(controller, of)]!.id

/** A board is told something, or only that time has gone on; what it does about it is done. */
export function tell(house: HouseState, controller: ControllerInWorld, ...events: DeviceEvent[]): void {
  const outputs = controller.advance(house.now, events)
  house.listener.onTold?.(controller, house.now, events, outputs)
  for (const output of outputs) outputArrives(house, controller, output)
}

function outputArrives(house: HouseState, controller: ControllerInWorld, output: DeviceOutput): void {
  // the commonest first: a pair's main board says a line every two seconds
  if ('line' in output) saysLine(house, controller, output.line)
  else if ('pub' in output) publishes(house, controller, output)
  else if ('out' in output) contactMoves(house, controller, output.out, output.level)
  else if ('sub' in output) {
    const index = linkIndexOf(controller, output.of)
    brokerAt(house, linkIdOf(controller, output.of)).subscribe(clientOf(controller, index), output.sub)
  } else if ('link' in output) {
    const link = linkIndexOf(controller, output.of)
    after(house, joinMs(house, controller), { kind: 'joined', controller: placeOf(house, controller), link })
  } else if ('char' in output) saysChar(house, controller, output.char)
  else if ('do' in output) {
    note(house, 'hand', `${controller.name} ${house.pairings.asks(controller.id, output.do, house.now)}`)
    if (output.do === 'reset') after(house, 0, { kind: 'linksLost', controller: placeOf(house, controller) })
  }
}

const placeOf = ({ controllers }: HouseState, controller: ControllerInWorld): number => controllers.indexOf(controller)

function publishes(
  house: HouseState,
  controller: ControllerInWorld,
  { pub, of }: Extract<DeviceOutput, { pub: unknown }>,
): void {
  // which tables run is no news here: they are these
  if (pub.topic.endsWith('/log') && !pub.payload.startsWith('tables '))
    note(house, 'said', `${controller.name}: ${pub.payload}`)
  const channel = house.index.channelOfTopic.get(pub.topic)
  track(house, {
    t: house.now,
    lane: 'message',
    from: controller.id,
    topic: pub.topic,
    bytes: pub.payload.length,
    cause: (channel === undefined ? undefined : house.causes.get(channel)) ?? null,
  })
  brokerAt(house, linkIdOf(controller, of)).publish(pub)
}

/** A modem needs its time before it can join. */
function joinMs(house: HouseState, { id }: ControllerInWorld): number {
  const modem = house.site.controllers.find((candidate) => candidate.id === id)?.modem
  return modem ? modem.joinS * 1000 : drawMs(house, LATENCIES.join)
}

// ---- the line of a pair ----

const isLineLost = (house: HouseState, main: string): boolean => {
  const link = house.index.mirrors.get(main)?.link
  if (!link || house.faults.size === 0) return false
  const fault = house.faults.get(`link:${link}`)
  return fault === 'gone' || (fault === 'lossy' && draw(house) < LOSS)
}

function saysLine(house: HouseState, controller: ControllerInWorld, line: string): void {
  house.lines[controller.id] = line
  const { place } = house.index.mirrors.get(controller.id) ?? { place: -1 }
  const mirror = house.controllers[place]
  if (!mirror || isLineLost(house, controller.id)) return
  const event = { kind: 'line', line } as const
  after(house, controller.lineMs(line.length + 1), { kind: 'told', controller: place, event, boots: mirror.boots })
}

function saysChar(house: HouseState, controller: ControllerInWorld, char: string): void {
  const place = house.controllers.findIndex(({ part, id }) => part === 'main' && id === controller.image.controller)
  const main = house.controllers[place]
  if (!main || isLineLost(house, main.id)) return
  after(house, main.lineMs(1), { kind: 'told', controller: place, event: { kind: 'char', char }, boots: main.boots })
}

// ---- contacts ----

function contactMoves(house: HouseState, controller: ControllerInWorld, name: string, level: 0 | 1): void {
  const { channel: id, contact } = readOutputName(name)
  const channel = house.index.channels.get(id)
  const view = controller.device.inspect().channels.find((candidate) => candidate.id === id)
  if (!channel || !view) return
  const cause = causeOf(house, id, view.source)
  if (cause === null) house.causes.delete(id)
  else house.causes.set(id, cause)
  const moved = settleContacts(house, controller.id, (of) => (of === id ? cause : null))
  if (channel.kind === 'pulsed' && level === 1 && moved.length > 0) moveDoor(house, channel)
  if (level === 1) sags(house, controller)
  if (level === 0 && !house.timeline.some((entry) => entry.channel === channel.id)) return
  note(
    house,
    'output',
    `${channel.name} ${kindOf(channel).moves(channel, contact, level === 1, view.level)}, ${SOURCE_WORDS[view.source]}`,
    channel.id,
  )
  if (house.faults.size > 0) noteOddContact(house, channel, contact, level === 1)
}

function causeOf(house: HouseState, channel: string, source: Source): Cause | null {
  const aimed = house.aimed.get(channel)
  return aimed && BY_HAND.has(source) && house.now - aimed.t <= LONGEST_CAUSE_MS ? aimed.cause : null
}

/** A weak supply sags when a coil pulls in; by more than the board bears, it starts anew. */
function sags(house: HouseState, controller: ControllerInWorld): void {
  if (house.faults.get(`power:${controller.id}`) !== 'weak') return
  const outputs = house.index.outputsOf.get(controller.id) ?? []
  const coils = outputs.filter((key) => house.contacts.get(key)).length
  const volts = sagVolts(house.site, controller.id, coils, outputs.length)
  if (volts === null || volts <= BROWN_OUT_VOLTS) return
  const said = Number.isFinite(volts) ? `falls by ${volts.toFixed(2)} V` : 'breaks down'
  note(house, 'fault', `${controller.name}: its supply ${said} with ${coils} coils on, and the board restarts`)
  after(house, 0, { kind: 'restarts', controller: placeOf(house, controller) })
}

/** A pulse sends a door with a position contact to its other end. */
function moveDoor(house: HouseState, { id, contact }: Extract<Channel, { kind: 'pulsed' }>): void {
  const isSlow = house.faults.get(`load:${id}`) === 'slow'
  if (contact) after(house, isSlow ? SLOW_DOOR_MS : DOOR_MS, { kind: 'doorMoves', contact })
}
