import { compileSite } from '../image'
import { topics } from '../topics'
import type { DeviceEvent, DeviceOutput } from '../device'
import type { Site } from '../site'
import { announceHeld, appServiceFilters, appServiceHears, setPoint, startAppService, widgetSends, widgetShows, type AppServiceState, type Step } from './appService'
import { Broker, type Message } from './broker'
import { ControllerInWorld } from './controllerInWorld'
import type { Breakable, TimelineEntry, TrialAction, TrialSnapshot } from './types'
import { disputesAt, verdictOf, type Dispute } from './verdicts'

/** One way through a small network, ms; joining takes longer. Common practice for a house's Wi-Fi. */
const MESSAGE_MS = 8
const JOIN_MS = 600
const LONGEST_TIMELINE = 400

interface Due {
  readonly at: number
  readonly order: number
  readonly run: () => void
}

/**
 * The world around the controllers of a site: their switches, a network, a broker, an app service and a hub, and the faults
 * that can be made in them. It knows no clock: the caller advances it to instants, in ms since its start.
 */
export class World {
  private now = 0
  private orders = 0
  private queue: Due[] = []
  private readonly site: Site
  private readonly broker = new Broker()
  private readonly controllers: ControllerInWorld[]
  private readonly services: { service: Site['services'][number]; state: AppServiceState }[]
  private readonly hubBeliefs = new Map<string, number>()
  /** closed contacts of each input as bits; a selector counts by its code */
  private readonly closed: Record<string, number> = {}
  private readonly broken = new Set<Breakable>()
  private readonly timeline: TimelineEntry[] = []
  private disputes: Dispute[] = []

  constructor(site: Site) {
    this.site = site
    this.services = site.services.map((service) => ({ service, state: startAppService(service) }))
    this.controllers = compileSite(site).map((image) => new ControllerInWorld(image, site.controllers.find((c) => c.id === image.controller)!.name, 0))
    for (const input of site.inputs) this.closed[input.id] = 0
    this.connectHouse()
    for (const controller of this.controllers) this.tell(controller, { kind: 'power', on: true })
  }

  /** Works off everything up to and at an instant. */
  advance(to: number): void {
    for (let next = this.nextDeadline(); next !== null && next <= to; next = this.nextDeadline()) {
      this.now = next
      this.runDue()
      for (const controller of this.controllers) {
        const at = controller.nextDeadline(this.now)
        if (at !== null && at <= this.now) this.tell(controller)
      }
      this.judge()
    }
    this.now = Math.max(this.now, to)
  }

  /** The next instant at which something happens by itself; null: never. */
  nextDeadline(): number | null {
    const times = [...this.queue.map((due) => due.at), ...this.controllers.map((controller) => controller.nextDeadline(this.now)), ...this.disputes.map((dispute) => dispute.until)].filter((at): at is number => at !== null)
    return times.length ? Math.min(...times) : null
  }

  act(action: TrialAction): void {
    switch (action.kind) {
      case 'press': return this.moveContacts(action.input, 1, 'pressed')
      case 'release': return this.moveContacts(action.input, 0, 'let go')
      case 'rock': return this.moveContacts(action.input, this.closed[action.input] ? 0 : 1, 'rocked')
      case 'turn': return this.moveContacts(action.input, action.code, `turned to code ${action.code}`)
      case 'widget': return this.touchWidget(action.service, action.widget, action.on, action.value)
      case 'hub': return this.commandFromHub(action.hub, action.entity, action.command)
      case 'break': return this.breakThing(action.what, action.broken)
    }
  }

  snapshot(): TrialSnapshot {
    const views = new Map(this.controllers.map((controller) => [controller.id, controller.device.inspect()]))
    return {
      now: this.now,
      channels: this.site.channels.map((channel) => {
        const controller = this.controllers.find((candidate) => candidate.id === channel.controller)!
        const view = views.get(controller.id)!
        return { id: channel.id, controller: controller.id, level: controller.powered ? (view.channels.find((c) => c.id === channel.id)?.level ?? 0) : 0, source: view.channels.find((c) => c.id === channel.id)?.source ?? 'power', powered: controller.powered }
      }),
      closed: { ...this.closed },
      widgets: Object.fromEntries(
        this.services.flatMap(({ service, state }) =>
          service.widgets.map((widget) => {
            const shown = widgetShows(this.site, service.id, widget.id, state)!
            return [`${service.id}/${widget.id}`, { on: shown.on, value: shown.value, reachable: !this.broken.has('broker') && state.online[shown.point.controller] === true }]
          }),
        ),
      ),
      hub: Object.fromEntries(this.site.hubs.flatMap((hub) => hub.entities.map((entity) => [`${hub.id}/${entity.id}`, this.hubBeliefs.get(this.entityTopic(entity.channel, entity.topic)) ?? null]))),
      links: Object.fromEntries(this.controllers.map((controller) => [controller.id, controller.powered ? views.get(controller.id)!.link : ('off' as const)])),
      broken: [...this.broken],
      timeline: [...this.timeline],
    }
  }

  // ---- the house's own programs: app service and hub ----

  private entityTopic(channel: string, level: string): string {
    return topics(this.site.id, this.site.channels.find((candidate) => candidate.id === channel)!.controller).state(level)
  }

  private connectHouse(): void {
    for (const [i, held] of this.services.entries()) {
      const name = `service:${held.service.id}`
      this.broker.connect({ name, filters: new Set(), will: null, receive: (message) => this.after(MESSAGE_MS, () => this.serviceStep(i, appServiceHears(this.site.id, held.service, this.services[i]!.state, message))) })
      for (const filter of appServiceFilters(this.site.id)) this.broker.subscribe(name, filter)
      for (const message of announceHeld(this.site.id, held.service, held.state)) this.broker.publish(message)
    }
    this.broker.connect({ name: 'hub', filters: new Set(), will: null, receive: (message) => this.after(MESSAGE_MS, () => this.hubHears(message)) })
    this.broker.subscribe('hub', `vestibule/${this.site.id}/+/+/state`)
  }

  private serviceStep(index: number, step: Step): void {
    this.services[index]!.state = step.state
    if (this.broken.has('broker')) return
    for (const message of step.publish) this.broker.publish(message)
    this.judge()
  }

  private hubHears(message: Message): void {
    const on = /"on":(true|false)/.exec(message.payload)?.[1]
    const level = /"level":(\d+)/.exec(message.payload)?.[1]
    if (on !== undefined) this.hubBeliefs.set(message.topic, level === undefined ? (on === 'true' ? 1 : 0) : Number(level))
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
    const bits = controller.image.inputs[index]!.gpios.map((_, bit) => bit).filter((bit) => (before ^ code) & (1 << bit))
    const levelOf = (bit: number) => ((code & (1 << bit)) !== 0) === (input.closedLevel === 'high') ? 1 : 0
    this.tell(controller, ...bits.map((bit) => ({ kind: 'level' as const, input: index, bit, level: levelOf(bit) as 0 | 1 })))
  }

  private touchWidget(serviceId: string, widgetId: string, on: boolean, value?: number): void {
    const index = this.services.findIndex((held) => held.service.id === serviceId)
    const held = this.services[index]
    const widget = held?.service.widgets.find((candidate) => candidate.id === widgetId)
    const point = held?.service.points.find((candidate) => candidate.id === widget?.point)
    if (!held || !widget || !point || widget.kind === 'value') return
    const wish = value ?? widgetSends(point, widget.inverted, on)
    if (widget.kind !== 'push' || on) this.note('hand', `${widget.name} on the phone: ${value ?? (on ? 'on' : 'off')}`)
    this.serviceStep(index, setPoint(this.site.id, held.service, held.state, point.id, wish))
    if (this.broken.has('broker')) this.note('refused', `the app service holds ${value ?? (on ? 'on' : 'off')} for ${widget.name}; the broker is gone`)
  }

  private commandFromHub(hubId: string, entityId: string, command: string): void {
    const entity = this.site.hubs.find((hub) => hub.id === hubId)?.entities.find((candidate) => candidate.id === entityId)
    if (!entity) return
    this.note('hand', `${entity.name} by the hub: ${command}`)
    if (this.broken.has('broker')) return this.note('refused', 'the hub has no broker: the command is lost')
    const controller = this.site.channels.find((candidate) => candidate.id === entity.channel)!.controller
    this.broker.publish({ topic: topics(this.site.id, controller).set(entity.topic), payload: command, retain: false })
  }

  // ---- faults ----

  private breakThing(what: Breakable, broken: boolean): void {
    if (this.broken.has(what) === broken) return
    if (broken) this.broken.add(what)
    else this.broken.delete(what)
    if (what === 'wifi' || what === 'broker') {
      this.note('fault', `${what === 'wifi' ? 'Wi-Fi' : 'the broker'} ${broken ? 'is gone' : 'is back'}`)
      if (!broken && what === 'broker') for (const held of this.services) for (const message of announceHeld(this.site.id, held.service, held.state)) this.broker.publish(message)
      if (broken) for (const controller of this.controllers) this.loseLink(controller)
      return
    }
    const controller = this.controllers.find((candidate) => `power:${candidate.id}` === what)
    if (!controller) return
    this.note('fault', `${controller.name} ${broken ? 'has no power' : 'has power again'}`)
    if (broken) this.broker.drop(controller.id)
    this.tell(controller, { kind: 'power', on: !broken })
  }

  private loseLink(controller: ControllerInWorld): void {
    const wasUp = controller.device.inspect().link === 'up'
    this.broker.drop(controller.id)
    this.tell(controller, { kind: 'link', up: false })
    if (wasUp) this.note('network', `${controller.name} has lost its link and goes on alone`)
  }

  // ---- controllers ----

  private tell(controller: ControllerInWorld, ...events: DeviceEvent[]): void {
    for (const output of controller.advance(this.now, events)) this.outputArrives(controller, output)
  }

  private outputArrives(controller: ControllerInWorld, output: DeviceOutput): void {
    if ('out' in output) {
      const id = output.out.split('.')[0]!
      const channel = this.site.channels.find((candidate) => candidate.id === id)
      const view = controller.device.inspect().channels.find((candidate) => candidate.id === id)
      if (channel && view && (output.level === 1 || this.timeline.some((entry) => entry.channel === channel.id))) {
        const what = channel.kind === 'stepped' ? `contact ${output.out.split('.')[1]} ${output.level ? 'closes' : 'opens'} for level ${view.level}` : output.level ? 'on' : 'off'
        this.note('output', `${channel.name} ${what}, by ${view.source}`, channel.id)
      }
    } else if ('pub' in output) {
      if (output.pub.topic.endsWith('/log')) this.note('refused', `${controller.name}: ${output.pub.payload}`)
      this.broker.publish(output.pub)
    } else if ('sub' in output) {
      this.broker.subscribe(controller.id, output.sub)
    } else if ('link' in output) {
      this.after(JOIN_MS, () => this.finishJoin(controller))
    }
  }

  private finishJoin(controller: ControllerInWorld): void {
    if (!controller.powered || controller.device.inspect().link !== 'joining') return
    if (this.broken.has('wifi') || this.broken.has('broker')) return this.tell(controller, { kind: 'link', up: false })
    this.broker.connect({
      name: controller.id,
      filters: new Set(),
      will: controller.will,
      receive: (message) => this.after(MESSAGE_MS, () => controller.powered && this.tell(controller, { kind: 'message', ...message })),
    })
    this.note('network', `${controller.name} is connected`)
    this.disputes.push(...disputesAt(this.site, controller.id, this.services, (channel) => { const view = controller.device.inspect().channels.find((candidate) => candidate.id === channel); return view && { on: view.level > 0, source: view.source } }, this.now))
    this.tell(controller, { kind: 'link', up: true })
  }

  /** Ends the disputes that are decided. */
  private judge(): void {
    this.disputes = this.disputes.filter((dispute) => {
      const controller = this.controllers.find((candidate) => candidate.image.channels.some((channel) => channel.id === dispute.channel))
      const held = this.services.find((candidate) => candidate.service.id === dispute.service)
      const point = held?.service.points.find((candidate) => candidate.id === dispute.point)
      if (!controller || !held || !point) return false
      const verdict = verdictOf(dispute, controller.powered && (controller.device.inspect().channels.find((view) => view.id === dispute.channel)?.level ?? 0) > 0, (held.state.values[point.id] ?? point.default) !== point.min, this.now)
      if (verdict) this.timeline.push(verdict)
      return verdict === undefined
    })
  }

  // ---- time ----

  private after(ms: number, run: () => void): void {
    this.queue.push({ at: this.now + ms, order: ++this.orders, run })
  }

  private runDue(): void {
    const due = this.queue.filter((item) => item.at <= this.now).sort((a, b) => a.at - b.at || a.order - b.order)
    // Unlinked before they run, so that what they do may queue more.
    this.queue = this.queue.filter((item) => item.at > this.now)
    for (const item of due) item.run()
  }

  private note(kind: TimelineEntry['kind'], text: string, channel?: string): void {
    this.timeline.push(channel === undefined ? { t: this.now, kind, text } : { t: this.now, kind, text, channel })
    if (this.timeline.length > LONGEST_TIMELINE) this.timeline.splice(0, this.timeline.length - LONGEST_TIMELINE)
  }
}
