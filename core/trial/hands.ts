import { weekMsOf, type DeviceEvent } from '../device'
import { thousandths } from '../image'
import { channelOf, keyOf, type Channel, type Way } from '../site'
import { resolveUtterance, type Spoken } from '../voice'
import type { AimKey } from './aims'
import { setPoint, widgetSends } from './appService'
import { tell } from './boards'
import type { ControllerInWorld } from './controllerInWorld'
import { serviceStep } from './homePrograms'
import { after, brokerAt, HOUSE_BROKER, homeOf, note, track, type Held, type HouseState } from './house'
import { hubOfWish, hubSays, hubValue, isMeant, type HubWish } from './hub'
import { settleInput } from './inputs'
import { draw, LOSS } from './latency'
import type { Cause } from './tracks'
import type { TrialAction } from './types'
import { spokenValue } from './words'

/** What people do in the house. Each deed has a number, which all that follows from it bears. */

type Of<Kind extends TrialAction['kind']> = Extract<TrialAction, { kind: Kind }>

/** A weak battery: so many frames do not arrive (memory). */
const WEAK_REMOTE = 0.5
/** What a sensor that lies says too much. */
const LIE = 10
/** A curve says its next reading after a minute, and is highest at 15:00 (common practice for a summer's day). */
const CURVE_MS = 60_000
const DAY_MS = 86_400_000
const HIGHEST_AT = 15 / 24

/** Begins a deed: it is noted, and what follows at the channels that it is aimed at is put down to it. */
function deed(house: HouseState, text: string, channels: readonly string[]): Cause {
  note(house, 'hand', text)
  return moment(house, text, channels)
}

function moment(house: HouseState, text: string, channels: readonly string[]): Cause {
  const cause = ++house.deeds
  for (const channel of channels) house.aimed.set(channel, { cause, t: house.now })
  track(house, { t: house.now, lane: 'hand', text, channels, cause })
  return cause
}

const aims = (house: HouseState, key: AimKey): readonly string[] => house.index.aims.get(key) ?? []

/** A hand, or a door, puts an input's contacts into a state. */
export function moveContacts(house: HouseState, inputId: string, code: number, verb: string): void {
  const input = house.site.inputs.find(({ id }) => id === inputId)
  if (!input || (house.held[inputId] ?? 0) === code) return
  house.held[inputId] = code
  const channels = aims(house, `input:${inputId}`)
  const isLetGo = verb === 'let go'
  if (!isLetGo) note(house, 'hand', `${input.name} ${verb}`)
  settleInput(house, input, moment(house, `${input.name} ${verb}`, isLetGo ? [] : channels))
}

export function pressKey(house: HouseState, { remote: remoteId, key: keyId, repeat }: Of<'key'>): void {
  const remote = house.site.remotes.find(({ id }) => id === remoteId)
  const key = keyOf(house.site, remoteId, keyId)
  const controller = house.controllers.find(({ id }) => id === remote?.controller)
  if (!remote || !key || !controller) return
  const text = `“${key.name}” on ${remote.name}`
  if (!repeat) deed(house, text, aims(house, `key:${remoteId}/${keyId}`))
  const battery = house.faults.get(`remote:${remoteId}`)
  if (battery === 'gone') return repeat ? undefined : note(house, 'refused', `${remote.name} has no battery left`)
  if (battery === 'weak' && draw(house) < WEAK_REMOTE) return
  if (house.down.has(`receiver:${controller.id}`)) return
  const frame = key.code.protocol === 'unknown' ? { ...key.code, repeat } : { ...key.code, toggle: null, repeat }
  tell(house, controller, { kind: 'frame', frame })
}

export function sendChar(house: HouseState, { link: linkId, char }: Of<'char'>): void {
  const link = house.site.links.find(({ id }) => id === linkId)
  const controller = house.controllers.find(({ id }) => id === link?.controller)
  if (!link || !controller) return
  deed(house, `“${char}” over ${link.name}`, aims(house, `char:${linkId}/${char}`))
  const fault = house.faults.get(`link:${linkId}`)
  if (fault === 'gone') return note(house, 'refused', `${link.name} is cut: nothing arrives`)
  if (fault === 'lossy' && draw(house) < LOSS) return
  tell(house, controller, { kind: 'char', char })
}

// ---- voice ----

/** The voice service takes a line for what it resolves to, and sends it the way that carries the name. */
export function hear(house: HouseState, { text }: Of<'say'>): void {
  const found = resolveUtterance(house.site, text)
  const channels =
    found.kind === 'group'
      ? aims(house, `group:${found.group}`)
      : found.kind === 'device'
        ? [found.way.channel]
        : found.kind === 'nothing' || found.kind === 'ambiguous'
          ? []
          : found.ways.map(({ channel }) => channel)
  const cause = deed(house, `“${text}”`, channels)
  if (house.faults.get('voice') === 'gone') return note(house, 'refused', 'the voice service does not answer')
  if (house.down.has('voice')) return note(house, 'refused', 'the voice service is not reached: no internet')
  if (found.kind === 'nothing' || found.kind === 'ambiguous')
    return note(house, 'refused', `the voice service: ${found.why.at(-1)}`)
  if (found.kind === 'group') return speakToGroup(house, found.group, found.through, found.spoken.action, cause)
  for (const way of found.kind === 'device' ? [found.way] : found.ways) speakTo(house, way, found.spoken, cause)
}

/** A group hears by its entity, or by each of its points. */
function speakToGroup(house: HouseState, id: string, through: 'app' | 'hub', word: string, cause: Cause): void {
  const ways = house.site.groups.find((group) => group.id === id)?.ways ?? []
  for (const way of ways) {
    if (way.kind === 'hub' && through === 'hub')
      sayByHub(house, { kind: 'group', hub: way.hub, group: id, command: word }, cause)
    if (way.kind !== 'app' || through !== 'app') continue
    const held = house.services.find(({ service }) => service.id === way.service)
    const point = held?.service.points.find((candidate) => candidate.id === way.point)
    if (held && point) setHeld(house, held, point.id, word === 'off' ? point.min : point.max, cause)
  }
}

function speakTo(house: HouseState, spokenWay: Way, spoken: Spoken, cause: Cause): void {
  const through = spokenWay.kind === 'voice' ? spokenWay.through : null
  const way = through === null ? spokenWay : house.site.ways.find(({ id }) => id === through)
  if (way?.kind === 'hub') {
    const command = spoken.action === 'level' ? String(spoken.level) : spoken.action
    return sayByHub(house, { kind: 'hub', hub: way.hub, entity: way.entity, command }, cause)
  }
  const held = house.services.find(({ pointOf }) => way !== undefined && pointOf.has(way.id))
  const point = way && held?.service.points.find(({ id }) => id === held.pointOf.get(way.id))
  if (!way || !held || !point)
    return note(house, 'refused', 'the name leads nowhere: no point and no entity carries it')
  const wish = spokenValue(channelOf(house.site, way.channel)!, point, spoken)
  setHeld(house, held, point.id, wish, cause)
  house.asked.set(point.id, wish)
}

function setHeld(house: HouseState, held: Held, point: string, value: number, cause: Cause): void {
  const index = house.services.indexOf(held)
  serviceStep(house, index, setPoint(house.site.id, held.service, held.state, point, value), cause)
}

// ---- sensors and clocks ----

function read(house: HouseState, sensorId: string, value: number): void {
  const sensor = house.site.sensors.find(({ id }) => id === sensorId)
  const controller = house.controllers.find(({ id }) => id === sensor?.controller)
  const index = controller?.image.sensors.findIndex(({ id }) => id === sensorId) ?? -1
  if (!sensor || !controller || index < 0) return
  const fault = house.faults.get(`sensor:${sensorId}`)
  if (fault === 'gone') return
  const said = fault === 'stuck' ? (house.readings.get(sensorId) ?? value) : fault === 'lying' ? value + LIE : value
  house.readings.set(sensorId, said)
  tell(house, controller, { kind: 'sensor', sensor: index, value: thousandths(said) })
}

/** A day's curve for a sensor, from now on, said again and again as a real one does; low and high alike: a constant. */
export function startCurve(house: HouseState, { sensor, low, high }: Of<'curve'>): void {
  const turn = (house.curves.get(sensor)?.turn ?? 0) + 1
  house.curves.set(sensor, { low, high, turn })
  followCurve(house, sensor, turn)
}

/** A curve that another has taken the place of says nothing more. */
export function followCurve(house: HouseState, sensor: string, turn: number): void {
  const curve = house.curves.get(sensor)
  if (curve?.turn !== turn) return
  const time = house.clock ? house.clock.weekMs + house.now - house.clock.at : house.now
  const phase = (time / DAY_MS - HIGHEST_AT) * 2 * Math.PI
  const value = (curve.low + curve.high) / 2 + ((curve.high - curve.low) / 2) * Math.cos(phase)
  read(house, sensor, Math.round(value * 10) / 10)
  const every = house.site.sensors.find(({ id }) => id === sensor)?.everyMs ?? CURVE_MS
  after(house, Math.min(every, CURVE_MS), { kind: 'curve', sensor, turn })
}

/** A reading said by hand ends what its sensor said by itself. */
export function readByHand(house: HouseState, { sensor, value }: Of<'reading'>): void {
  const curve = house.curves.get(sensor)
  // the number goes on, so that what still waits is an old one
  if (curve) house.curves.set(sensor, { ...curve, turn: curve.turn + 1 })
  read(house, sensor, value)
}

export function setClocks(house: HouseState, { local }: Of<'clock'>): void {
  note(house, 'hand', `it is ${local.replace('T', ' ')}`)
  const weekMs = weekMsOf(local)
  house.clock = { at: house.now, weekMs }
  for (const controller of house.controllers) tell(house, controller, { kind: 'clock', weekMs })
}

// ---- screens ----

export function touchWidget(
  house: HouseState,
  { service: serviceId, widget: widgetId, on, value }: Of<'widget'>,
): void {
  const held = house.services.find(({ service }) => service.id === serviceId)
  const widget = held?.service.widgets.find(({ id }) => id === widgetId)
  const point = held?.service.points.find(({ id }) => id === widget?.point)
  if (!held || !widget || !point || widget.kind === 'value' || widget.kind === 'gauge') return
  const wish = value ?? widgetSends(point, widget.inverted, on)
  const said = value ?? (on ? 'on' : 'off')
  house.touchedAt.set(point.id, house.now)
  const text = `${widget.name} on the phone: ${said}`
  const channels = aims(house, `point:${serviceId}/${point.id}`)
  const cause = widget.kind !== 'push' || on ? deed(house, text, channels) : moment(house, text, [])
  if (house.down.has('phone')) return note(house, 'refused', 'the phone does not work')
  setHeld(house, held, point.id, wish, cause)
  house.asked.set(point.id, wish)
  const home = homeOf(house, held.service)
  if (house.down.has(home))
    note(
      house,
      'refused',
      `the app service holds ${said} for ${widget.name}; ` +
        (home === 'broker' ? 'the broker is down' : 'its connection is down'),
    )
}

/** A person has the hub say something. */
export function sayByHub(house: HouseState, wish: HubWish, by?: Cause): void {
  const said = hubSays(house.site, wish)
  if (!said) return
  const text = `${said.name} by the hub: ${wish.command}`
  const cause = by ?? deed(house, text, aimsOfWish(house, wish))
  if (by !== undefined) note(house, 'hand', text)
  if (sayByWire(house, wish, cause)) return
  if (house.down.has('hub')) return note(house, 'refused', 'the hub is down: nobody sends the command')
  if (house.down.has('broker')) return note(house, 'refused', 'the hub has no broker: the command is lost')
  for (const message of said.says) {
    const { topic, payload } = message
    track(house, { t: house.now, lane: 'message', from: 'hub', topic, bytes: payload.length, cause })
    brokerAt(house, HOUSE_BROKER).publish(message)
  }
}

const aimsOfWish = (house: HouseState, wish: HubWish): readonly string[] =>
  wish.kind === 'hub'
    ? aims(house, `entity:${wish.hub}/${wish.entity}`)
    : wish.kind === 'group'
      ? aims(house, `group:${wish.group}`)
      : []

/** A hub with a wire of its own says it there. False: this one has none. */
function sayByWire(house: HouseState, wish: HubWish, cause: Cause): boolean {
  const hub = hubOfWish(house.site, wish)
  const held = house.services.find(({ service }) => service.id === hub)
  if (!held) return false
  if (house.down.has(homeOf(house, held.service)))
    note(house, 'refused', `the connection of ${held.service.name} is down: its command waits there`)
  for (const point of held.service.points) {
    if (!isMeant(point, wish)) continue
    const channel = wish.kind === 'hub' ? entityChannel(house, wish.hub, wish.entity) : undefined
    const value = hubValue(channel, point, wish.command, held.state.values[point.id] ?? point.min)
    setHeld(house, held, point.id, value, cause)
  }
  return true
}

function entityChannel({ site }: HouseState, hub: string, entity: string): Channel | undefined {
  const found = site.hubs.find(({ id }) => id === hub)?.entities.find(({ id }) => id === entity)
  return found && channelOf(site, found.channel)
}

/** A phone beside a controller says a PIN. */
export function pair(house: HouseState, { controller: id, right }: Of<'pair'>): void {
  const controller = house.controllers.find((candidate) => candidate.id === id)
  if (!controller?.powered) return
  const answer = house.pairings.says(id, right, house.now)
  if (answer) note(house, answer.paired ? 'hand' : 'refused', `${controller.name} ${answer.text}`)
}

/** What was on its way to a board arrives, unless the board has started anew meanwhile. */
export function arrives(house: HouseState, controller: ControllerInWorld, boots: number, event: DeviceEvent): void {
  if (controller.powered && controller.boots === boots) tell(house, controller, event)
}
