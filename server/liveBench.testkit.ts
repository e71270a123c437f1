import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { connect as connectSocket, createServer, type AddressInfo, type Server, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import mqtt, { type MqttClient } from 'mqtt'
import WebSocket from 'ws'
import type { HandRow, LiveMessage } from '../core/api'
import { stateSaid } from '../core/topics'
import { keyOf, type Site } from '../core/site'
import { compileWires, type LinkWire, type Place } from '../core/wires'
import { imageOf, Wiring } from '../core/witness/bench.testkit'
import type { Actor, Eyes } from '../core/witness/player.testkit'
import type { Deed } from '../core/witness/script.testkit'
import { buildHost } from '../firmware/host'
import type { mosquitto } from '../firmware/test/live.testkit'
import { until, type TestServer } from './server.testkit'

const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms))

/** A line that can be cut: what passes is ended at both ends, and nobody new gets through. */
class Wire {
  private readonly sockets = new Set<Socket>()
  private readonly server: Server
  private isCut = false
  port = 0
  constructor(private readonly to: () => number) {
    this.server = createServer((near) => {
      near.on('error', () => undefined)
      if (this.isCut) return void near.resetAndDestroy()
      const far = connectSocket(this.to(), '127.0.0.1')
      for (const [from, into] of [
        [near, far],
        [far, near],
      ] as const) {
        this.sockets.add(from)
        from.on('error', () => undefined)
        from.on('close', () => into.destroy())
        from.pipe(into)
      }
    })
  }
  async open(): Promise<this> {
    await new Promise<void>((resolve) => this.server.listen(0, '127.0.0.1', resolve))
    this.port = (this.server.address() as AddressInfo).port
    return this
  }
  cut(cut: boolean): void {
    this.isCut = cut
    if (cut) for (const socket of this.sockets) socket.resetAndDestroy()
    if (cut) this.sockets.clear()
  }
  close(): void {
    this.cut(true)
    this.server.close()
  }
}

/**
 * The firmware of a controller as a process, on an independent broker, with the secrets that the server's own sheet
 * gives it; hands and eyes at its pins, a phone at the stand-in of its service, and a hub that is a client of the
 * broker alone.
 */
export class LiveBench implements Actor {
  hand: HandRow | null = null
  private child: ChildProcessWithoutNullStreams | null = null
  private readonly levels = new Map<string, number>()
  private readonly closed = new Map<string, number>()
  private readonly live: WebSocket
  private powered = false

  private constructor(
    private readonly server: TestServer,
    readonly site: Site,
    private readonly wiring: Wiring,
    private readonly eyes: Eyes,
    private readonly broker: ReturnType<typeof mosquitto>,
    private readonly hub: MqttClient,
    private readonly wires: { house: Wire; service: Wire },
  ) {
    hub.on('message', (topic, payload) => {
      const [, , controller, channel, kind] = topic.split('/')
      const said = kind === 'state' && controller === wiring.controller ? stateSaid(payload.toString()) : undefined
      if (said) this.levels.set(channel!, said.level)
    })
    this.live = new WebSocket(`${server.url.replace('http', 'ws')}/api/live?site=${site.id}`)
    this.live.on('error', () => undefined)
    this.live.on('message', (text: Buffer) => {
      const message = JSON.parse(text.toString()) as LiveMessage
      if (message.kind === 'hand' && message.hand.key === this.hand?.key) this.hand = message.hand
    })
  }

  static async of(
    server: TestServer,
    site: Site,
    flashed: Site,
    controller: string,
    eyes: Eyes,
    broker: ReturnType<typeof mosquitto>,
  ): Promise<LiveBench> {
    const secrets = (await server.ask('POST', `/api/sites/${site.id}/controllers/${controller}/secrets`)).text
    const doorPort = Number(/_PORT "?(\d+)"?/.exec(secrets.replace(/.*BROKER_PORT.*/g, ''))![1])
    const [house, service] = await Promise.all([new Wire(() => broker.port).open(), new Wire(() => doorPort).open()])
    const hub = await mqtt.connectAsync(`mqtt://127.0.0.1:${broker.port}`, { reconnectPeriod: 200 })
    await hub.subscribeAsync(`vestibule/${site.id}/+/+/state`)
    const bench = new LiveBench(server, site, new Wiring(site, flashed, controller), eyes, broker, hub, {
      house,
      service,
    })
    await bench.flash(flashed, controller, secrets)
    return bench
  }

  private async flash(flashed: Site, controller: string, secrets: string): Promise<void> {
    const image = imageOf(flashed, controller)
    const place: Place = { address: ['127.0.0.1'], port: this.wires.service.port, portSecret: null, tls: false }
    const wires = compileWires(flashed, image, true)
    const links = wires.links.map((link): LinkWire =>
      link.transport === 'own' || link.transport === 'hook' ? link : { ...link, place },
    )
    const { program } = await buildHost(image, {
      wires: { ...wires, links },
      secrets: secrets.replace(/(BROKER_PORT) .*/g, `$1 ${this.wires.house.port}`),
      outDir: mkdtempSync(join(tmpdir(), 'vestibule-board-')),
    })
    this.child = spawn(program, ['live'])
    this.child.stdin.on('error', () => undefined)
    let rest = ''
    this.child.stdout.on('data', (data: Buffer) => {
      const lines = (rest + data.toString()).split('\n')
      rest = lines.pop()!
      for (const line of lines) this.takes(line)
    })
    this.powered = true
    for (const { id } of this.wiring.true.inputs) this.contacts(id, 0, true)
  }

  private takes(line: string): void {
    const said = JSON.parse(line) as { out?: string; level?: 0 | 1 }
    const relay = said.out === undefined ? null : this.wiring.relay(said.out, said.level!)
    if (relay) this.eyes.sees({ ...relay, on: relay.on && this.powered })
  }

  private event(event: object): void {
    this.child?.stdin.write(`${JSON.stringify({ t: 0, ...event })}\n`)
  }

  private contacts(input: string, code: number, all = false): void {
    const bits = this.wiring.true.inputs.find(({ id }) => id === input)!.gpios.length
    const before = this.closed.get(input) ?? 0
    this.closed.set(input, code)
    for (let bit = 0; bit < bits; bit++) {
      const is = (code >> bit) & 1
      if (!all && ((before >> bit) & 1) === is) continue
      const at = this.wiring.contact(input, bit, is === 1)
      const isSelector = at && this.wiring.runs.inputs[at.input]!.kind === 'selector'
      if (at) this.event({ pin: isSelector ? `${at.id}.${at.bit + 1}` : at.id, level: at.level })
    }
  }

  // ---- what a person does ----

  async does(deed: Deed): Promise<void> {
    switch (deed.kind) {
      case 'contacts':
        return this.contacts(deed.input, deed.rocks ? 1 - (this.closed.get(deed.input) ?? 0) : deed.code)
      case 'key': {
        const { code } = keyOf(this.site, deed.remote as never, deed.key as never)!
        return this.event({ ir: { ...code, repeat: deed.repeat } })
      }
      case 'char':
        return this.event({ char: deed.char })
      case 'sensor':
        return this.event({ sensor: deed.sensor, value: deed.value })
      case 'clock':
        // 1 January 2024 was a Monday
        return this.event({ clock: new Date(Date.UTC(2024, 0, 1) + deed.weekMs).toISOString().slice(0, 19) })
      case 'point':
        return this.touches(deed.service, deed.point, deed.value)
      case 'hub': {
        const topic = `vestibule/${this.site.id}/${this.wiring.controller}/${deed.topic}/set`
        return void this.hub.publish(topic, deed.word, { qos: 1 })
      }
      case 'power':
        return this.power(deed.on)
      case 'network':
        return this.network(deed.up)
      case 'broker':
        if (deed.up) this.broker.start()
        else this.broker.kill()
        return
      case 'hubRuns':
      case 'line':
        return
    }
  }

  private async touches(service: string, point: string, value: number): Promise<void> {
    const widget = this.site.services.find(({ id }) => id === service)!.widgets.find((one) => one.point === point)!
    await this.server.ask('POST', `/api/sites/${this.site.id}/stand-ins/${service}/widgets/${widget.id}`, {
      on: value > 0,
      value,
    })
  }

  private network(up: boolean): void {
    for (const wire of Object.values(this.wires)) wire.cut(!up)
  }

  private async power(on: boolean): Promise<void> {
    this.powered = on
    if (!on) {
      for (const relay of this.wiring.atRest()) this.eyes.sees({ ...relay, on: false })
      this.event({ power: 'off' })
      return this.network(false)
    }
    this.network(true)
    for (const relay of this.wiring.atRest()) if (relay.on) this.eyes.sees(relay)
    this.event({ power: 'on' })
    for (const [id, code] of this.closed) this.contacts(id, code, true)
  }

  /** Waits that are there for a link to come back end when it has. */
  async wait(ms: number): Promise<void> {
    for (const end = Date.now() + ms; Date.now() < end;) {
      if (ms >= 20_000 && this.hand?.heard) return
      await pause(Math.min(50, end - Date.now()))
    }
  }

  async reported(channel: string): Promise<number | undefined> {
    const known = this.levels.get(channel)
    if (known !== undefined) return known
    const way = this.site.ways.find((one) => one.kind === 'app' && one.channel === channel)
    if (way?.kind !== 'app') return undefined
    const page = await this.server.ask('GET', `/api/sites/${this.site.id}/stand-ins/${way.service}`)
    return (page.json as { values: Record<string, number> }).values[way.point]
  }

  async looks(): Promise<void> {
    if (this.hand?.mayLook) await this.sees('screen', true)
  }

  async sees(what: 'eye' | 'screen', seen: boolean): Promise<void> {
    const { run, key } = this.hand!
    await this.server.ask('POST', `/api/test-runs/${run}/hand/${encodeURIComponent(key)}/seen`, { what, seen })
  }

  async isUp(): Promise<void> {
    const here = async () =>
      (
        (await this.server.ask('GET', `/api/sites/${this.site.id}/boards`)).json as {
          boards: { controller: string; state: string }[]
        }
      ).boards
    await until(
      async () => (await here()).some((row) => row.controller === this.wiring.controller && row.state === 'online'),
      20_000,
    )
    await pause(500)
  }

  close(): void {
    this.child?.kill('SIGKILL')
    this.live.close()
    this.hub.end(true)
    for (const wire of Object.values(this.wires)) wire.close()
  }
}
