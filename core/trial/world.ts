import { weekMsOf } from '../device'
import { compileSite, linksOf, thousandths } from '../image'
import { holdersOf, wiredHolders, wireOf, type Holder } from '../services'
import type { DeviceEvent, DeviceOutput } from '../device'
import { channelOf, keyOf, type Channel, type Site, type Way, kindOf, readOutputName } from '../site'
import { resolveUtterance, type Spoken } from '../voice'
import {
  announceHeld,
  appServiceFilters,
  appServiceHears,
  setPoint,
  startAppService,
  widgetSends,
  type AppServiceState,
  type Step,
} from './appService'
import { Broker, type Message } from './broker'
import { ControllerInWorld } from './controllerInWorld'
import {
  heartbeat,
  heartbeatMs,
  hubFilters,
  hubHears,
  hubOfWish,
  hubSays,
  hubValue,
  isMeant,
  startHub,
  type HubState,
  type HubWish,
} from './hub'
import { EventQueue } from './eventQueue'
import { Pairings } from './pairings'
import { snapshotOf } from './snapshot'
import type { Breakable, TimelineEntry, TrialAction, TrialSnapshot } from './types'
import { disputesAt, verdictOf, type Dispute } from './verdicts'
import { SOURCE_WORDS, spokenValue } from './words'

/** One way through a small network, ms; joining takes longer. Common practice for a house's Wi-Fi. */
const MESSAGE_MS = 8
const JOIN_MS = 600
/** A door needs this long to reach its other end, ms: enough to be seen. */
const DOOR_MS = 1_200
const LONGEST_TIMELINE = 400
const HOUSE = 'house'

/** A controller is a client of its own on each link. */
const clientOf = (controller: ControllerInWorld, link: number): string =>
  link === 0 ? controller.id : `${controller.id}#${link}`
const linkIndexOf = ({ image }: ControllerInWorld, of: string | undefined): number =>
  of === undefined ? 0 : linksOf(image).findIndex(({ id }) => id === of)
const linkIdOf = (controller: ControllerInWorld, of: string | undefined): string =>
  linksOf(controller.image)[linkIndexOf(controller, of)]!.id

/** A contact opens or closes; `t`: world time, ms. */
export interface ContactMove {
  readonly t: number
  readonly channel: string
  readonly contact: number
  readonly closed: boolean
}

/**
 * The world around the controllers of a site: their switches, a network, a broker, an app service and a hub, and the
 * faults that can be made in them. It knows no clock: the caller advances it to instants, in ms since its start.
 */
export class World {
  private now = 0
  private readonly queue = new EventQueue()
  private readonly site: Site
  /** the broker of the house, and beside it what each service with a wire has of its own */
  private readonly brokers = new Map<string, Broker>()
  private readonly controllers: ControllerInWorld[]
  /** app services, hubs with a wire of their own, and voice services that speak to controllers themselves */
  private readonly services: (Holder & { state: AppServiceState })[]
  private hub: HubState
  private readonly lines: Record<string, string> = {}
  /** closed contacts of each input as bits; a selector counts by its code */
  private readonly closed: Record<string, number> = {}
  private readonly broken = new Set<Breakable>()
  private readonly timeline: TimelineEntry[] = []
  /**
   * when each link went (by "controller/link"), each channel's contact moved, each point was touched; world
   * time, ms
   */
  private readonly lostAt = new Map<string, number>()
  private readonly movedAt = new Map<string, number>()
  private readonly touchedAt = new Map<string, number>()
  /** what was last asked for on the phone, by point */
  private readonly asked = new Map<string, number>()
  private disputes: Dispute[] = []
  private readonly pairings: Pairings

  /** `onContact` hears of every contact that moves, from the first power on. */
  constructor(
    site: Site,
    private readonly onContact: ((move: ContactMove) => void) | null = null,
  ) {
    this.site = site
    this.pairings = new Pairings(site)
    this.services = holdersOf(site).map((holder) => ({ ...holder, state: startAppService(holder.service) }))
    for (const id of [HOUSE, ...wiredHolders(site).map(({ id }) => id)]) this.brokers.set(id, new Broker())
    this.controllers = compileSite(site).map(
      (tables) => new ControllerInWorld(tables, site.controllers.find((c) => c.id === tables.board)!.name, 0),
    )
    for (const input of site.inputs) this.closed[input.id] = 0
    this.hub = startHub(site)
    this.connectHouse()
    for (const controller of this.controllers) this.tell(controller, { kind: 'power', on: true })
  }

  /** Works off everything up to and at an instant. */
  advance(to: number): void {
    for (let next = this.nextAt(); next <= to; next = this.nextAt()) {
      this.now = next
      this.queue.runUpTo(next)
      for (const controller of this.controllers) if (controller.dueAt <= next) this.tell(controller)
      if (this.disputes.length > 0) this.judge()
    }
    this.now = Math.max(this.now, to)
  }

  /** The next instant at which something happens by itself; null: never. */
  nextDeadline(): number | null {
    const at = this.nextAt()
    return at === Infinity ? null : at
  }

  private nextAt(): number {
    let at = this.queue.next
    for (const { dueAt } of this.controllers) if (dueAt < at) at = dueAt
    for (const { until } of this.disputes) if (until < at) at = until
    // what is over is due now
    return Math.max(at, this.now)
  }

  act(action: TrialAction): void {
    switch (action.kind) {
      case 'press':
        return this.moveContacts(action.input, 1, 'pressed')
      case 'release':
        return this.moveContacts(action.input, 0, 'let go')
      case 'rock':
        return this.moveContacts(action.input, this.closed[action.input] ? 0 : 1, 'rocked')
      case 'turn':
        return this.moveContacts(action.input, action.code, `turned to code ${action.code}`)
      case 'key':
        return this.pressKey(action.remote, action.key, action.repeat)
      case 'char':
        return this.sendChar(action.link, action.char)
      case 'say':
        return this.hear(action.text)
      case 'reading':
        return this.read(action.sensor, action.value)
      case 'clock':
        return this.setClocks(action.local)
      case 'widget':
        return this.touchWidget(action.service, action.widget, action.on, action.value)
      case 'hub':
      case 'mode':
      case 'group':
        return this.sayByHub(action)
      case 'replay':
        for (const broker of this.brokers.values()) broker.replay()
        return this.note('fault', 'the network says again what was commanded')
      case 'pair':
        return this.pair(action.controller, action.right)
      case 'break':
        return this.breakThing(action.what, action.broken)
    }
  }

  snapshot(): TrialSnapshot {
    const { now, site, controllers, services, hub, asked, closed, broken, lines, timeline } = this
    const pairing = this.pairings.truth(now)
    return snapshotOf({ now, site, controllers, services, hub, asked, closed, broken, lines, timeline, pairing })
  }

  // ---- the house's own programs: app service and hub ----

  private connectHouse(): void {
    for (const [i, held] of this.services.entries()) {
      const name = `service:${held.service.id}`
      const broker = this.brokerOf(held.service)
      broker.connect({
        name,
        filters: new Set(),
        will: null,
        receive: (message) =>
          this.after(MESSAGE_MS, () =>
            this.serviceStep(i, appServiceHears(this.site.id, held.service, this.services[i]!.state, message)),
          ),
      })
      for (const filter of appServiceFilters(this.site.id)) broker.subscribe(name, filter)
      for (const message of announceHeld(this.site.id, held.service, held.state)) broker.publish(message)
    }
    this.house.connect({
      name: 'hub',
      filters: new Set(),
      will: null,
      receive: (message) => this.after(MESSAGE_MS, () => this.hubHears(message)),
    })
    for (const filter of hubFilters(this.site.id)) this.house.subscribe('hub', filter)
    const every = heartbeatMs(this.site)
    if (every !== null) this.beat(every)
  }

  private serviceStep(index: number, step: Step): void {
    this.services[index]!.state = step.state
    const { service } = this.services[index]!
    if (this.broken.has(this.homeOf(service))) return
    for (const message of step.publish) this.brokerOf(service).publish(message)
    this.judge()
  }

  private hubHears(message: Message): void {
    if (this.broken.has('hub')) return
    const before = this.hub.lamps
    this.hub = hubHears(this.site, this.hub, message)
    for (const [channel, on] of Object.entries(this.hub.lamps))
      if (before[channel] !== on)
        this.note(
          'output',
          `the hub turns the lamps behind ${channelOf(this.site, channel)?.name ?? channel} ${on ? 'on' : 'off'}`,
          channel,
        )
  }

  /** The hub's heartbeat goes on for ever; while the hub or the broker is gone nobody hears it. */
  private beat(every: number): void {
    this.after(every, () => {
      if (!this.broken.has('hub') && !this.broken.has('broker')) this.house.publish(heartbeat(this.site.id))
      this.beat(every)
    })
  }

  // ---- hands ----

  private moveContacts(inputId: string, code: number, verb: string): void {
    const input = this.site.inputs.find((candidate) => candidate.id === inputId)
    const before = this.closed[inputId] ?? 0
    if (!input || before === code) return
    this.closed[inputId] = code
    const controller = this.controllers.find((candidate) => candidate.id === input.controller)!
    const index = controller.image.inputs.findIndex((candidate) => candidate.id === inputId)
    if (verb !== 'let go') this.note('hand', `${input.name} ${verb}`)
    const bits = controller.image.inputs[index]!.gpios.map((_, bit) => bit).filter(
      (bit) => (before ^ code) & (1 << bit),
    )
    const levelOf = (bit: number) => (((code & (1 << bit)) !== 0) === (input.closedLevel === 'high') ? 1 : 0)
    this.tell(
      controller,
      ...bits.map((bit) => ({ kind: 'level' as const, input: index, bit, level: levelOf(bit) as 0 | 1 })),
    )
  }

  private pressKey(remoteId: string, keyId: string, repeat: boolean): void {
    const remote = this.site.remotes.find((candidate) => candidate.id === remoteId)
    const key = keyOf(this.site, remoteId, keyId)
    const controller = this.controllers.find((candidate) => candidate.id === remote?.controller)
    if (!remote || !key || !controller) return
    if (!repeat) this.note('hand', `“${key.name}” on ${remote.name}`)
    const frame = key.code.protocol === 'unknown' ? { ...key.code, repeat } : { ...key.code, toggle: null, repeat }
    this.tell(controller, { kind: 'frame', frame })
  }

  private sendChar(linkId: string, char: string): void {
    const link = this.site.links.find((candidate) => candidate.id === linkId)
    const controller = this.controllers.find((candidate) => candidate.id === link?.controller)
    if (!link || !controller) return
    this.note('hand', `“${char}” over ${link.name}`)
    this.tell(controller, { kind: 'char', char })
  }

  /** The voice service takes a line for what it resolves to, and sends it the way that carries the name. */
  private hear(text: string): void {
    this.note('hand', `“${text}”`)
    const found = resolveUtterance(this.site, text)
    if (found.kind === 'nothing' || found.kind === 'ambiguous')
      return this.note('refused', `the voice service: ${found.why.at(-1)}`)
    if (found.kind === 'group') return this.speakToGroup(found.group, found.through, found.spoken.action)
    for (const way of found.kind === 'device' ? [found.way] : found.ways) this.speakTo(way, found.spoken)
  }

  /** A group hears by its entity, or by each of its points. */
  private speakToGroup(id: string, through: 'app' | 'hub', word: string): void {
    const ways = this.site.groups.find((group) => group.id === id)?.ways ?? []
    for (const way of ways) {
      if (way.kind === 'hub' && through === 'hub')
        this.sayByHub({ kind: 'group', hub: way.hub, group: id, command: word })
      if (way.kind !== 'app' || through !== 'app') continue
      const index = this.services.findIndex((held) => held.service.id === way.service)
      const held = this.services[index]
      const point = held?.service.points.find((candidate) => candidate.id === way.point)
      if (held && point)
        this.serviceStep(
          index,
          setPoint(this.site.id, held.service, held.state, point.id, word === 'off' ? point.min : point.max),
        )
    }
  }

  private speakTo(spokenWay: Way, spoken: Spoken): void {
    const through = spokenWay.kind === 'voice' ? spokenWay.through : null
    const way = through === null ? spokenWay : this.site.ways.find(({ id }) => id === through)
    if (way?.kind === 'hub')
      return this.sayByHub({
        ...{ kind: 'hub', hub: way.hub, entity: way.entity },
        command: spoken.action === 'level' ? String(spoken.level) : spoken.action,
      })
    const index = this.services.findIndex(({ pointOf }) => way !== undefined && pointOf.has(way.id))
    const held = this.services[index]
    const point = way && held?.service.points.find(({ id }) => id === held.pointOf.get(way.id))
    if (!way || !held || !point)
      return this.note('refused', 'the name leads nowhere: no point and no entity carries it')
    const wish = spokenValue(channelOf(this.site, way.channel)!, point, spoken)
    this.serviceStep(index, setPoint(this.site.id, held.service, held.state, point.id, wish))
    this.asked.set(point.id, wish)
  }

  private read(sensorId: string, value: number): void {
    const sensor = this.site.sensors.find((candidate) => candidate.id === sensorId)
    const controller = this.controllers.find((candidate) => candidate.id === sensor?.controller)
    const index = controller?.image.sensors.findIndex((candidate) => candidate.id === sensorId) ?? -1
    if (!sensor || !controller || index < 0) return
    this.tell(controller, { kind: 'sensor', sensor: index, value: thousandths(value) })
  }

  private setClocks(local: string): void {
    this.note('hand', `it is ${local.replace('T', ' ')}`)
    for (const controller of this.controllers) this.tell(controller, { kind: 'clock', weekMs: weekMsOf(local) })
  }

  private touchWidget(serviceId: string, widgetId: string, on: boolean, value?: number): void {
    const index = this.services.findIndex((held) => held.service.id === serviceId)
    const held = this.services[index]
    const widget = held?.service.widgets.find((candidate) => candidate.id === widgetId)
    const point = held?.service.points.find((candidate) => candidate.id === widget?.point)
    if (!held || !widget || !point || widget.kind === 'value' || widget.kind === 'gauge') return
    const wish = value ?? widgetSends(point, widget.inverted, on)
    this.touchedAt.set(point.id, this.now)
    if (widget.kind !== 'push' || on) this.note('hand', `${widget.name} on the phone: ${value ?? (on ? 'on' : 'off')}`)
    this.serviceStep(index, setPoint(this.site.id, held.service, held.state, point.id, wish))
    this.asked.set(point.id, wish)
    const home = this.homeOf(held.service)
    if (this.broken.has(home))
      this.note(
        'refused',
        `the app service holds ${value ?? (on ? 'on' : 'off')} for ${widget.name}; ` +
          (home === 'broker' ? 'the broker is down' : 'its connection is down'),
      )
  }

  /** A person has the hub say something. */
  private sayByHub(wish: HubWish): void {
    const said = hubSays(this.site, wish)
    if (!said) return
    this.note('hand', `${said.name} by the hub: ${wish.command}`)
    if (this.sayByWire(wish)) return
    if (this.broken.has('hub')) return this.note('refused', 'the hub is down: nobody sends the command')
    if (this.broken.has('broker')) return this.note('refused', 'the hub has no broker: the command is lost')
    for (const message of said.says) this.house.publish(message)
  }

  /** A hub with a wire of its own says it there. False: this one has none. */
  private sayByWire(wish: HubWish): boolean {
    const hub = hubOfWish(this.site, wish)
    const index = this.services.findIndex(({ service }) => service.id === hub)
    const held = this.services[index]
    if (!held) return false
    if (this.broken.has(this.homeOf(held.service)))
      this.note('refused', `the connection of ${held.service.name} is down: its command waits there`)
    for (const point of held.service.points) {
      if (!isMeant(point, wish)) continue
      const channel = wish.kind === 'hub' ? this.entityChannel(wish.hub, wish.entity) : undefined
      const value = hubValue(channel, point, wish.command, held.state.values[point.id] ?? point.min)
      this.serviceStep(index, setPoint(this.site.id, held.service, this.services[index]!.state, point.id, value))
    }
    return true
  }

  private entityChannel(hub: string, entity: string): Channel | undefined {
    const found = this.site.hubs.find(({ id }) => id === hub)?.entities.find(({ id }) => id === entity)
    return found && channelOf(this.site, found.channel)
  }

  // ---- faults ----

  private breakThing(what: Breakable, broken: boolean): void {
    if (this.broken.has(what) === broken) return
    if (broken) this.broken.add(what)
    else this.broken.delete(what)
    if (what === 'wifi' || what === 'broker' || what.startsWith('service:')) return this.breakLinks(what, broken)
    if (what === 'hub') return this.breakHub(broken)
    const controller = this.controllers.find((candidate) => `power:${candidate.id}` === what)
    if (!controller) return
    this.note('fault', `${controller.name} ${broken ? 'has no power' : 'has power again'}`)
    if (broken)
      linksOf(controller.image).forEach((link, index) => {
        this.brokerAt(link.id).drop(clientOf(controller, index))
        this.lostAt.set(`${controller.id}/${link.id}`, this.now)
      })
    if (!broken) this.pairings.starts(controller.id, this.now)
    this.tell(controller, { kind: 'power', on: !broken })
  }

  /** A hub that comes up subscribes anew, and is told what is retained (MQTT 3.1.1, 3.3.1.3). */
  private breakHub(broken: boolean): void {
    this.note('fault', `the hub ${broken ? 'is down' : 'is up again'}`)
    if (!broken && !this.broken.has('broker'))
      for (const filter of hubFilters(this.site.id)) this.house.subscribe('hub', filter)
  }

  /** What links lead over: the network takes them all, a broker or a service its own. */
  private breakLinks(what: Breakable, broken: boolean): void {
    const service = this.services.find((held) => `service:${held.service.id}` === what)?.service
    const name = what === 'wifi' ? 'Wi-Fi' : (service?.name ?? 'the broker')
    this.note('fault', `${name} ${broken ? 'is down' : 'is up again'}`)
    if (!broken && what !== 'wifi')
      for (const held of this.services)
        if (this.homeOf(held.service) === what)
          for (const message of announceHeld(this.site.id, held.service, held.state))
            this.brokerOf(held.service).publish(message)
    if (!broken) return
    for (const controller of this.controllers)
      linksOf(controller.image).forEach((link, index) => {
        if (what === 'wifi' ? this.isOverWifi(controller) : this.homeOfLink(link.id) === what)
          this.loseLink(controller, index)
      })
  }

  // ---- where links lead ----

  private get house(): Broker {
    return this.brokers.get(HOUSE)!
  }

  /** What a service is reached through, as something that can break. */
  private homeOf(service: Site['services'][number]): Breakable {
    return wireOf(this.site, service) ? `service:${service.id}` : 'broker'
  }

  private homeOfLink(link: string): Breakable {
    return this.brokers.has(link) && link !== HOUSE ? `service:${link}` : 'broker'
  }

  private brokerAt(link: string): Broker {
    return this.brokers.get(link) ?? this.house
  }

  private brokerOf(service: Site['services'][number]): Broker {
    return wireOf(this.site, service) ? this.brokerAt(service.id) : this.house
  }

  /** A modem has a network of its own. */
  private isOverWifi({ id }: ControllerInWorld): boolean {
    return this.site.controllers.find((candidate) => candidate.id === id)?.link !== 'modem'
  }

  private loseLink(controller: ControllerInWorld, index: number): void {
    const { id, state } = controller.device.inspect().links[index]!
    const wasUp = state === 'up'
    this.brokerAt(id).drop(clientOf(controller, index))
    if (wasUp) this.lostAt.set(`${controller.id}/${id}`, this.now)
    this.tell(controller, { kind: 'link', up: false, of: index })
    if (!wasUp) return
    const offline = controller.device.inspect().links.every((link) => link.state !== 'up')
    this.note('network', `${controller.name} has lost its link${this.toWhom(id)}${offline ? ' and works offline' : ''}`)
  }

  // ---- controllers ----

  private tell(controller: ControllerInWorld, ...events: DeviceEvent[]): void {
    for (const output of controller.advance(this.now, events)) this.outputArrives(controller, output)
  }

  private outputArrives(controller: ControllerInWorld, output: DeviceOutput): void {
    if ('out' in output) {
      this.contactMoves(controller, output.out, output.level)
    } else if ('pub' in output) {
      // which tables run is no news here: they are these
      if (output.pub.topic.endsWith('/log') && !output.pub.payload.startsWith('tables '))
        this.note('said', `${controller.name}: ${output.pub.payload}`)
      this.brokerAt(linkIdOf(controller, output.of)).publish(output.pub)
    } else if ('sub' in output) {
      const index = linkIndexOf(controller, output.of)
      this.brokerAt(linkIdOf(controller, output.of)).subscribe(clientOf(controller, index), output.sub)
    } else if ('link' in output) {
      const index = linkIndexOf(controller, output.of)
      this.after(this.joinMs(controller), () => this.finishJoin(controller, index))
    } else if ('line' in output) {
      this.lines[controller.id] = output.line
      const mirror = this.controllers.find(
        (candidate) => candidate.part === 'mirror' && candidate.image.controller === controller.id,
      )
      if (mirror)
        this.after(
          controller.lineMs(output.line.length + 1),
          () => mirror.powered && this.tell(mirror, { kind: 'line', line: output.line }),
        )
    } else if ('char' in output) {
      const main = this.controllers.find(
        (candidate) => candidate.part === 'main' && candidate.id === controller.image.controller,
      )
      if (main) this.after(main.lineMs(1), () => main.powered && this.tell(main, { kind: 'char', char: output.char }))
    } else if ('do' in output) {
      this.note('hand', `${controller.name} ${this.pairings.asks(controller.id, output.do, this.now)}`)
      if (output.do === 'reset') linksOf(controller.image).forEach((_, index) => this.loseLink(controller, index))
    }
  }

  /** A phone beside a controller says a PIN. */
  private pair(id: string, right: boolean): void {
    const controller = this.controllers.find((candidate) => candidate.id === id)
    if (!controller?.powered) return
    const answer = this.pairings.says(id, right, this.now)
    if (answer) this.note(answer.paired ? 'hand' : 'refused', `${controller.name} ${answer.text}`)
  }

  /** A modem needs its time before it can join. */
  private joinMs(controller: ControllerInWorld): number {
    const modem = this.site.controllers.find((candidate) => candidate.id === controller.id)?.modem
    return modem ? modem.joinS * 1000 : JOIN_MS
  }

  private contactMoves(controller: ControllerInWorld, name: string, level: 0 | 1): void {
    const { channel: id, contact } = readOutputName(name)
    this.movedAt.set(id, this.now)
    this.onContact?.({ t: this.now, channel: id, contact, closed: level === 1 })
    const channel = this.site.channels.find((candidate) => candidate.id === id)
    const view = controller.device.inspect().channels.find((candidate) => candidate.id === id)
    if (!channel || !view) return
    if (channel.kind === 'pulsed' && level === 1) this.moveDoor(channel)
    if (level === 0 && !this.timeline.some((entry) => entry.channel === channel.id)) return
    this.note(
      'output',
      `${channel.name} ${kindOf(channel).moves(channel, contact, level === 1, view.level)}, ${SOURCE_WORDS[view.source]}`,
      channel.id,
    )
  }

  /** A pulse sends a door with a position contact to its other end. */
  private moveDoor(channel: Extract<Channel, { kind: 'pulsed' }>): void {
    const { contact } = channel
    if (!contact) return
    this.after(DOOR_MS, () => this.moveContacts(contact, this.closed[contact] ? 0 : 1, 'moved'))
  }

  private finishJoin(controller: ControllerInWorld, index: number): void {
    const { id, state } = controller.device.inspect().links[index]!
    if (!controller.powered || state !== 'joining') return
    const hasNetwork =
      !(this.broken.has('wifi') && this.isOverWifi(controller)) && this.pairings.knowsNetwork(controller.id)
    if (!hasNetwork || this.broken.has(this.homeOfLink(id)))
      return this.tell(controller, { kind: 'link', up: false, of: index })
    this.brokerAt(id).connect({
      name: clientOf(controller, index),
      filters: new Set(),
      will: controller.will,
      receive: (message) =>
        this.after(
          MESSAGE_MS,
          () => controller.powered && this.tell(controller, { kind: 'message', ...message, of: index }),
        ),
    })
    this.note('network', `${controller.name} is connected${this.toWhom(id)}`)
    this.weighDisputes(controller, id)
    this.tell(controller, { kind: 'link', up: true, of: index })
  }

  /** A link of its own is named; the one to the house is understood. */
  private toWhom(link: string): string {
    const service = this.site.services.find(({ id }) => id === link)
    return service && this.brokers.has(link) ? ` to ${service.name}` : ''
  }

  /** What controller and services disagree about when a link is back. */
  private weighDisputes(controller: ControllerInWorld, link: string): void {
    const lostAt = this.lostAt.get(`${controller.id}/${link}`) ?? 0
    const home = this.homeOfLink(link)
    const since = (times: ReadonlyMap<string, number>, id: string): boolean => (times.get(id) ?? -1) >= lostAt
    this.disputes.push(
      ...disputesAt(
        this.site,
        controller.image.controller,
        this.services.filter((held) => this.homeOf(held.service) === home),
        (channel) => {
          const view = controller.device.inspect().channels.find((candidate) => candidate.id === channel)
          return view && { on: view.level > 0, source: view.source, moved: since(this.movedAt, channel) }
        },
        (point) => since(this.touchedAt, point),
        this.now,
      ),
    )
  }

  /** Ends the disputes that are decided. */
  private judge(): void {
    this.disputes = this.disputes.filter((dispute) => {
      const controller = this.controllers.find(
        (candidate) =>
          candidate.part === 'main' && candidate.image.channels.some((channel) => channel.id === dispute.channel),
      )
      const held = this.services.find((candidate) => candidate.service.id === dispute.service)
      const point = held?.service.points.find((candidate) => candidate.id === dispute.point)
      if (!controller || !held || !point) return false
      const verdict = verdictOf(
        dispute,
        controller.powered &&
          (controller.device.inspect().channels.find((view) => view.id === dispute.channel)?.level ?? 0) > 0,
        (held.state.values[point.id] ?? point.default) !== point.min,
        this.now,
      )
      if (verdict) this.timeline.push(verdict)
      return verdict === undefined
    })
  }

  // ---- time ----

  private after(ms: number, run: () => void): void {
    this.queue.put(this.now + ms, run)
  }

  private note(kind: TimelineEntry['kind'], text: string, channel?: string): void {
    this.timeline.push(channel === undefined ? { t: this.now, kind, text } : { t: this.now, kind, text, channel })
    if (this.timeline.length > LONGEST_TIMELINE) this.timeline.splice(0, this.timeline.length - LONGEST_TIMELINE)
  }
}
