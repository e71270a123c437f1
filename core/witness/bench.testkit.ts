import { createDevice, type Device, type DeviceEvent, type DeviceOutput } from '../device'
import { compileSite, linksOf, type ControllerImage } from '../image'
import { coprocessorOf, outputName, keyOf, type Site } from '../site'
import { topics, watchTopic } from '../topics'
import type { Deed, Relay } from './script.testkit'
import { hear, heardOn, pointLevels, type Boards, type Heard, type Screens } from '.'

/** What listens on the bench. */
export type Ear = (heard: Heard, before: Boards, after: Boards, screens: Screens) => void

/** How much passes between two looks, ms. */
const STEP_MS = 10
const JOIN_MS = 300
const BEAT_MS = 2_000

export const imageOf = (site: Site, controller: string): ControllerImage =>
  compileSite(site).find(({ board, part }) => board === controller && part === 'main')!.image

/**
 * What stands on a bench: a board that runs the tables of one site, wired as another says. Where both agree, nothing is
 * wrong; where they differ, the difference is the mistake. Hands and eyes know the wiring alone: pins and relays.
 */
export class Wiring {
  readonly true: ControllerImage
  readonly runs: ControllerImage

  constructor(
    readonly site: Site,
    flashed: Site,
    readonly controller: string,
  ) {
    this.true = imageOf(site, controller)
    this.runs = imageOf(flashed, controller)
  }

  /** The event at the board when a contact that is wired to a pin closes or opens; null: nothing hangs there. */
  contact(
    input: string,
    bit: number,
    closed: boolean,
  ): { input: number; id: string; bit: number; level: 0 | 1 } | null {
    const wired = this.true.inputs.find(({ id }) => id === input)!
    const gpio = wired.gpios[bit]
    const level = closed ? wired.closedLevel : ((1 - wired.closedLevel) as 0 | 1)
    for (const [index, at] of this.runs.inputs.entries()) {
      const place = at.gpios.indexOf(gpio!)
      if (place >= 0) return { input: index, id: at.id, bit: place, level }
    }
    return null
  }

  /** The relay that a pin drives, and whether its coil pulls in at this logical level of the board's own output. */
  relay(out: string, level: 0 | 1): Relay | null {
    const from = this.runs.channels.flatMap((channel) =>
      channel.gpios.map((gpio, contact) => ({
        name: outputName(channel, contact),
        gpio,
        activeLow: channel.activeLow,
      })),
    )
    const driven = from.find(({ name }) => name === out)
    if (!driven) return null
    const pin = driven.activeLow ? 1 - level : level
    return this.at(driven.gpio, pin as 0 | 1)
  }

  private at(gpio: number, pin: 0 | 1): Relay | null {
    for (const channel of this.true.channels) {
      const contact = channel.gpios.indexOf(gpio)
      if (contact >= 0) return { channel: channel.id, contact, on: (pin === 1) !== channel.activeLow }
    }
    return null
  }

  /** All outputs of the board at rest, as it starts. */
  atRest(): Relay[] {
    return this.runs.channels.flatMap((channel) =>
      channel.gpios.flatMap((_, contact) => this.relay(outputName(channel, contact), 0) ?? []),
    )
  }
}

/** A board on a bench in time of its own: its reports reach the broker and the phone, and hands work it. */
export class VirtualBench {
  now = 0
  boards: Boards = {}
  screens: Screens = {}
  lastBeat: number | null = null
  private readonly device: Device
  /** the radio that speaks for the board, at the other end of its serial line */
  private readonly radio: Device | null
  private readonly links: readonly { readonly id: string; readonly own: boolean }[]
  private network = true
  private broker = true
  private powered = false
  private hubRuns = true
  private lineUp = true
  private readonly joins: { at: number; of: number }[] = []

  constructor(
    readonly wiring: Wiring,
    private readonly ear: Ear,
    private readonly eye: (t: number, relay: Relay) => void,
    /** reports that get lost on their way */
    private readonly loses: (topic: string) => boolean = () => false,
  ) {
    this.device = createDevice(wiring.runs)
    this.radio = coprocessorOf(wiring.site, wiring.controller as never) ? createDevice(wiring.runs, 'mirror') : null
    this.links = linksOf(wiring.runs)
  }

  private get id(): string {
    return this.wiring.controller
  }

  private hears(heard: Heard): void {
    const before = this.boards
    this.boards = hear(before, heard)
    this.ear(heard, before, this.boards, this.screens)
  }

  private event(event: DeviceEvent): void {
    this.takes(this.device.advance(this.now, [event]))
  }

  /** What comes over the network: to the radio, where there is one. */
  private fromNetwork(event: DeviceEvent): void {
    if (this.radio) this.takes(this.radio.advance(this.now, [event]))
    else this.event(event)
  }

  private takes(outputs: readonly DeviceOutput[]): void {
    for (const output of outputs) {
      if ('out' in output) {
        const relay = this.wiring.relay(output.out, output.level)
        if (relay) this.eye(output.t, relay)
      } else if ('pub' in output) this.published(output.pub.topic, output.pub.payload, output.of)
      else if ('line' in output && this.radio && this.lineUp)
        this.takes(this.radio.advance(this.now, [{ kind: 'line', line: output.line }]))
      else if ('char' in output) this.event({ kind: 'char', char: output.char })
      else if ('link' in output) this.joins.push({ at: this.now + JOIN_MS, of: this.linkOf(output.of) })
    }
  }

  private linkOf = (of: string | undefined): number =>
    Math.max(
      0,
      this.links.findIndex(({ id }) => id === of),
    )

  private published(topic: string, payload: string, of: string | undefined): void {
    if (this.loses(topic)) return
    const { site } = this.wiring
    const link = this.links[this.linkOf(of)]!
    const point = /\/vp\/(\d+)\/state$/.exec(topic)?.[1]
    if (point !== undefined) return this.pointSaid(link.id, Number(point), Number(payload))
    const heard = heardOn(site, topic, payload, this.now)
    if (heard) this.hears(heard)
  }

  /** A service shows the point by its number, as its own document has it. */
  private pointSaid(service: string, vp: number, value: number): void {
    const { site } = this.wiring
    const own = site.services.find(({ id }) => id === service)
    const point = own?.points.find((one) => one.vp === vp && one.controller === this.id)
    if (!point) return
    for (const [channel, level] of Object.entries(pointLevels(site, service, { [point.id]: value }))) {
      this.screens = { ...this.screens, [`${service}/${channel}`]: level }
      this.hears({ t: this.now, kind: 'screen', holder: service, channel, level })
      const says = this.wiring.true.channels.find(({ id }) => id === channel)?.reports
      if (!says || !this.links.some((link) => link.own))
        this.hears({
          ...{ t: this.now, kind: 'state', controller: this.id, channel, level },
          ...{ source: null, seq: null, mode: null, waiting: false },
        })
    }
  }

  private linkChanges(of: number, up: boolean): void {
    this.fromNetwork({ kind: 'link', up, of })
    // a board without topics of its own is known by its service
    const speaks = this.links[of]!.own || !this.links.some((link) => link.own)
    if (speaks && (!up || !this.links[of]!.own))
      this.hears({ t: this.now, kind: 'status', controller: this.id, online: up })
  }

  private isUp = (of: number): boolean =>
    this.network && (this.powered || this.radio !== null) && (this.broker || !this.links[of]!.own)

  /** Time passes. */
  wait(ms: number, look: () => void = () => undefined): void {
    for (const end = this.now + ms; this.now < end;) {
      this.now = Math.min(end, this.now + STEP_MS)
      this.takes(this.device.advance(this.now, []))
      if (this.radio) this.takes(this.radio.advance(this.now, []))
      if (this.hubRuns && this.now % BEAT_MS === 0) this.beat()
      for (const join of this.joins.splice(0)) {
        if (join.at > this.now) this.joins.push(join)
        else if (this.powered || this.radio) this.linkChanges(join.of, this.isUp(join.of))
      }
      look()
    }
  }

  private power(on: boolean): void {
    if (!on) {
      if (!this.radio) {
        this.joins.length = 0
        for (const of of this.links.keys()) if (this.isUp(of)) this.statusGone(of)
      }
      for (const relay of this.wiring.atRest()) this.eye(this.now, { ...relay, on: false })
      this.powered = false
      return this.event({ kind: 'power', on })
    }
    this.powered = true
    for (const relay of this.wiring.atRest()) if (relay.on) this.eye(this.now, relay)
    this.event({ kind: 'power', on })
    for (const [id, code] of this.closed) this.contacts(id, code, true)
  }

  private statusGone(of: number): void {
    if (this.links[of]!.own || !this.links.some((link) => link.own))
      this.hears({ t: this.now, kind: 'status', controller: this.id, online: false })
  }

  /** Contacts as hands have left them, as bits. */
  private readonly closed = new Map<string, number>()

  private contacts(input: string, code: number, all = false): void {
    const bits = this.wiring.true.inputs.find(({ id }) => id === input)!.gpios.length
    const before = this.closed.get(input) ?? 0
    this.closed.set(input, code)
    for (let bit = 0; bit < bits; bit++) {
      const isClosed = ((code >> bit) & 1) === 1
      if (!all && ((before >> bit) & 1) === Number(isClosed)) continue
      const event = this.wiring.contact(input, bit, isClosed)
      if (event) this.event({ kind: 'level', input: event.input, bit: event.bit, level: event.level })
    }
  }

  /** All contacts open, power on. */
  begin(): void {
    for (const { id } of this.wiring.true.inputs) this.closed.set(id, 0)
    if (this.radio) this.takes(this.radio.advance(this.now, [{ kind: 'power', on: true }]))
    this.power(true)
    this.wait(this.radio ? 8_000 : 2_000)
  }

  does(deed: Deed): void {
    const { site } = this.wiring
    switch (deed.kind) {
      case 'contacts':
        return this.contacts(deed.input, deed.rocks ? 1 - (this.closed.get(deed.input) ?? 0) : deed.code)
      case 'key': {
        const { code } = keyOf(site, deed.remote as never, deed.key as never)!
        const frame =
          code.protocol === 'unknown'
            ? { ...code, repeat: deed.repeat }
            : { ...code, toggle: null, repeat: deed.repeat }
        return this.event({ kind: 'frame', frame: frame as never })
      }
      case 'char':
        return this.event({ kind: 'char', char: deed.char })
      case 'point': {
        const point = site.services.find(({ id }) => id === deed.service)!.points.find(({ id }) => id === deed.point)!
        const topic = topics(site.id, this.id).pointSet(point.vp)
        if (!this.isUp(this.linkOf(deed.service))) return
        return this.fromNetwork({
          kind: 'message',
          topic,
          payload: String(deed.value),
          retain: false,
          of: this.linkOf(deed.service),
        })
      }
      case 'hub': {
        const own = this.links.findIndex((link) => link.own)
        if (own < 0 || !this.isUp(own)) return
        return this.fromNetwork({
          kind: 'message',
          topic: topics(site.id, this.id).set(deed.topic),
          payload: deed.word,
          retain: false,
          of: own,
        })
      }
      case 'clock':
        return this.event({ kind: 'clock', weekMs: deed.weekMs })
      case 'sensor': {
        const sensor = this.wiring.runs.sensors.findIndex(({ id }) => id === deed.sensor)
        return sensor < 0 ? undefined : this.event({ kind: 'sensor', sensor, value: Math.round(deed.value * 1000) })
      }
      case 'power':
        return this.power(deed.on)
      case 'network':
        return this.network_(deed.up)
      case 'broker':
        return this.broker_(deed.up)
      case 'line':
        this.lineUp = deed.up
        return
      case 'hubRuns':
        this.hubRuns = deed.up
        return
    }
  }

  private beat(): void {
    const own = this.links.findIndex((link) => link.own)
    this.lastBeat = this.now
    if (own >= 0 && this.isUp(own))
      this.fromNetwork({
        kind: 'message',
        topic: watchTopic(this.wiring.site.id),
        payload: '1',
        retain: false,
        of: own,
      })
    this.hears({ t: this.now, kind: 'beat' })
  }

  private network_(up: boolean): void {
    const was = this.links.map((_, of) => this.isUp(of))
    this.network = up
    if (!up) for (const [of, isUp] of was.entries()) if (isUp) this.linkChanges(of, false)
  }

  private broker_(up: boolean): void {
    const own = this.links.findIndex((link) => link.own)
    const was = own >= 0 && this.isUp(own)
    this.broker = up
    if (!up && was) this.fromNetwork({ kind: 'link', up: false, of: own })
    this.hears({ t: this.now, kind: 'broker', up })
  }
}
