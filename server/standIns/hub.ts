import mqtt, { type MqttClient } from 'mqtt'
import { NO_FAULTS, type Faults, type HubPage } from '../../core/api'
import { wireOf } from '../../core/services'
import { setWords, channelOf, type Site } from '../../core/site'
import {
  heartbeat,
  heartbeatMs,
  hubBeliefs,
  hubFilters,
  hubHears,
  hubOfWish,
  hubSays,
  startHub,
  type HubState,
  type HubWish,
  type Message,
} from '../../core/trial'
import type { Live } from '../live'
import type { BrokerLogin } from './appService'
import { Notes } from './notes'

const TELL_MS = 50
/** A hub that sends its commands again does it so much later, ms. */
const AGAIN_MS = 300

/**
 * The stand-in of a site's hub on the real broker, for as long as the rig runs: it opens the broker with the login of
 * the hub's own secrets file, believes what the controllers report, works the lamps behind feeds, and sends its
 * heartbeat. It can be stopped, slowed, made to lose every third message, and to say commands twice.
 */
export class HubStandIn {
  private client: MqttClient | null = null
  private state: HubState
  private readonly online = new Map<string, boolean>()
  private readonly refused: Notes
  private readonly heard: Notes
  private messages = { count: 0, dayOf: '' }
  private beat: NodeJS.Timeout | null = null
  private telling: NodeJS.Timeout | null = null
  private running = false
  faults: Faults = NO_FAULTS

  constructor(
    private site: Site,
    /** asked at each connection: a password that is another now lets in with the new one */
    private readonly login: () => BrokerLogin,
    private readonly live: Live,
    private readonly now: () => Date,
  ) {
    this.state = startHub(site)
    this.refused = new Notes(now, () => this.tell())
    this.heard = new Notes(now, () => this.tell())
  }

  follow(site: Site): void {
    const watched = heartbeatMs(this.site)
    this.site = site
    this.state = { ...this.state, lamps: { ...startHub(site).lamps, ...this.state.lamps } }
    if (watched !== heartbeatMs(site)) this.startBeat()
    this.tell()
  }

  start(): void {
    if (this.running) return
    this.running = true
    this.connect()
  }

  /** The rig ends, and with it the hub. What it believed it forgets. */
  async stop(): Promise<void> {
    this.running = false
    this.state = startHub(this.site)
    this.online.clear()
    await this.disconnect()
    this.tell()
  }

  setFaults(faults: Faults): void {
    const before = this.faults
    this.faults = faults
    if (!this.running || before.stopped === faults.stopped) return this.tell()
    if (faults.stopped) void this.disconnect()
    else this.connect()
    this.tell()
  }

  /** A controller, or a hub, was not let in at the broker. */
  turnedAway(user: string): void {
    this.refused.add(`${user}: wrong user or password`)
  }

  /** A person has the hub say something. False: there is no such entity, group or mode. */
  says(wish: HubWish): boolean {
    const said = hubSays(this.site, wish)
    const hub = this.site.hubs.find(({ id }) => id === hubOfWish(this.site, wish))
    // a hub with a wire of its own has a stand-in of its own
    if (!said || !hub || wireOf(this.site, hub)) return false
    if (wish.kind === 'hub' && !this.understands(wish)) {
      this.refused.add(`${said.name}: “${wish.command}” is no command of it`)
      return true
    }
    if (!this.client?.connected) {
      this.refused.add(`${said.name} ${wish.command}: ${this.faults.stopped ? 'the hub is stopped' : 'no broker'}`)
      return true
    }
    for (const message of said.says) {
      this.publish(message)
      if (this.faults.replay) setTimeout(() => this.publish(message), AGAIN_MS).unref()
    }
    this.heard.add(`says: ${said.name} ${wish.command}`)
    return true
  }

  page(): HubPage {
    const { beliefs, waits } = hubBeliefs(this.site, this.state)
    return {
      running: this.running,
      connected: this.client?.connected ?? false,
      beliefs,
      waits,
      lamps: { ...this.state.lamps },
      online: Object.fromEntries(this.online),
      refused: this.refused.all(),
      heard: this.heard.all(),
      messages: this.today().count,
      faults: { ...this.faults },
    }
  }

  async close(): Promise<void> {
    if (this.telling) clearTimeout(this.telling)
    await this.stop()
    if (this.telling) clearTimeout(this.telling)
  }

  // ---- within ----

  private understands({ hub, entity, command }: Extract<HubWish, { kind: 'hub' }>): boolean {
    const found = this.site.hubs.find(({ id }) => id === hub)?.entities.find(({ id }) => id === entity)
    const channel = found && channelOf(this.site, found.channel)
    return channel !== undefined && setWords(channel).includes(command)
  }

  private connect(): void {
    if (this.client || this.faults.stopped) return
    const { url, ...login } = this.login()
    const client = mqtt.connect(url, {
      ...login,
      clientId: `hub.${this.site.id}`,
      protocolVersion: 4,
      reconnectPeriod: 1000,
    })
    this.client = client
    client.on('connect', () => {
      for (const filter of [...hubFilters(this.site.id), `vestibule/${this.site.id}/+/status`])
        client.subscribe(filter, { qos: 1 })
      this.startBeat()
      this.tell()
    })
    client.on('close', () => this.tell())
    client.on('error', (error) => {
      // mqtt.js gives up after a refusal: a password that is another now is asked for again
      this.refused.add(`the hub itself: ${error.message}`)
      this.again(client)
    })
    client.on('message', (topic, payload, { retain }) => {
      const message = { topic, payload: payload.toString(), retain }
      if (this.faults.slowMs === 0) return this.hears(message)
      setTimeout(() => this.hears(message), this.faults.slowMs).unref()
    })
  }

  /** What could not get in tries anew, with the login as it is by then. */
  private again(client: MqttClient): void {
    if (this.client !== client) return
    void this.disconnect()
    setTimeout(() => this.running && this.connect(), 1000).unref()
  }

  private async disconnect(): Promise<void> {
    const { client } = this
    this.client = null
    if (this.beat) clearInterval(this.beat)
    this.beat = null
    await client?.endAsync(true)
  }

  private startBeat(): void {
    if (this.beat) clearInterval(this.beat)
    const every = heartbeatMs(this.site)
    const send = () => this.publish(heartbeat(this.site.id))
    this.beat = every === null || !this.client ? null : setInterval(send, every).unref()
    if (this.beat) send()
  }

  private hears(message: Message): void {
    const count = this.counts()
    if (!this.running || (this.faults.lose && count % 3 === 0)) return
    const [, , controller, level] = message.topic.split('/')
    if (level === 'status' && controller !== undefined) {
      this.online.set(controller, message.payload === 'online')
      return this.tell()
    }
    this.state = hubHears(this.site, this.state, message)
    if (!message.retain) this.heard.add(`${controller} ${level}: ${message.payload}`)
    this.tell()
  }

  private publish(message: Message): void {
    const count = this.counts()
    if (this.faults.lose && count % 3 === 0) return
    const send = () => this.client?.connected && this.client.publish(message.topic, message.payload, { qos: 1 })
    if (this.faults.slowMs === 0) return void send()
    setTimeout(send, this.faults.slowMs).unref()
  }

  private today() {
    const dayOf = this.now().toISOString().slice(0, 10)
    if (this.messages.dayOf !== dayOf) this.messages = { count: 0, dayOf }
    return this.messages
  }

  private counts = (): number => ++this.today().count

  private tell(): void {
    this.telling ??= setTimeout(() => {
      this.telling = null
      this.live.tell({ kind: 'hub', site: this.site.id })
    }, TELL_MS).unref()
  }
}
