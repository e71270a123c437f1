import mqtt, { type MqttClient } from 'mqtt'
import {
  announceHeld,
  appServiceFilters,
  appServiceHears,
  setPoint,
  startAppService,
  widgetSends,
  type AppServiceState,
  type Message,
  type Step,
} from '../../core/trial'
import { wireOf } from '../../core/services'
import type { Service, Site } from '../../core/site'
import type { Database } from '../db'
import type { Live } from '../live'
import { recognise, tablesSaid } from './recognise'

export interface BrokerLogin {
  readonly url: string
  readonly username?: string
  readonly password?: string
  readonly rejectUnauthorized?: boolean
}

/**
 * The app-service stand-in of one site on the real broker: points, widgets and last values, over MQTT. It also hears
 * which tables the boards of the house run.
 */
export class AppServiceStandIn {
  private site: Site
  private readonly states = new Map<string, AppServiceState>()
  private readonly client: MqttClient
  private readonly db: Database
  private readonly live: Live

  constructor(
    site: Site,
    login: BrokerLogin,
    db: Database,
    live: Live,
    private readonly trouble: (error: unknown) => void,
  ) {
    this.site = site
    this.db = db
    this.live = live
    this.client = mqtt.connect(login.url, {
      clientId: `service.${site.id}`,
      protocolVersion: 4,
      reconnectPeriod: 1000,
      ...(login.username ? { username: login.username } : {}),
      ...(login.password ? { password: login.password } : {}),
      ...(login.rejectUnauthorized === false ? { rejectUnauthorized: false } : {}),
    })
    this.client.on('connect', () => {
      for (const filter of appServiceFilters(this.site.id)) this.client.subscribe(filter, { qos: 1 })
      this.client.subscribe(`vestibule/${this.site.id}/+/log`, { qos: 1 })
      this.announce()
    })
    // MQTT 3.1.1, 4.3.2: what could not be kept is not acknowledged. The connection is given up, so that it comes
    // again with the next one: states are retained
    this.client.handleMessage = ({ topic, payload, retain }, done) => {
      try {
        this.hears({ topic, payload: payload.toString(), retain })
        done()
      } catch (error) {
        this.trouble(error)
        this.client.stream.destroy()
      }
    }
    this.client.on('error', () => undefined) // mqtt.js keeps trying; the health endpoint tells
    this.follow(site)
  }

  /** A service with a wire of its own is spoken to over that. */
  private get services(): Service[] {
    return this.site.services.filter((service) => !wireOf(this.site, service))
  }

  get connected(): boolean {
    return this.client.connected
  }

  /** The document has changed: new points get their default, kept ones their last value. */
  follow(site: Site): void {
    this.site = site
    for (const service of this.services) {
      const online = this.states.get(service.id)?.online ?? {}
      this.states.set(service.id, { ...startAppService(service, this.db.heldValues.all(site.id, service.id)), online })
    }
    if (this.client.connected) this.announce()
  }

  state(serviceId: string): AppServiceState | undefined {
    return this.states.get(serviceId)
  }

  /** A person touches a widget. False: there is no such widget, or it only shows. */
  touch(serviceId: string, widgetId: string, on: boolean, value?: number): boolean {
    const service = this.services.find((candidate) => candidate.id === serviceId)
    const widget = service?.widgets.find((candidate) => candidate.id === widgetId)
    const point = service?.points.find((candidate) => candidate.id === widget?.point)
    const state = this.states.get(serviceId)
    if (!service || !widget || !point || !state || widget.kind === 'value' || widget.kind === 'gauge') return false
    this.take(
      service,
      setPoint(this.site.id, service, state, point.id, value ?? widgetSends(point, widget.inverted, on)),
    )
    return true
  }

  close(): Promise<void> {
    return this.client.endAsync(true)
  }

  private announce(): void {
    for (const service of this.services)
      for (const message of announceHeld(this.site.id, service, this.states.get(service.id)!)) this.publish(message)
  }

  private hears(message: Message): void {
    const [, , controller, level] = message.topic.split('/')
    const hash = level === 'log' && !message.retain ? tablesSaid(message.payload) : undefined
    if (hash !== undefined && controller !== undefined)
      return recognise(this.db, this.site, controller, hash, new Date().toISOString())
    for (const service of this.services)
      this.take(service, appServiceHears(this.site.id, service, this.states.get(service.id)!, message))
  }

  private take(service: Service, step: Step): void {
    const before = this.states.get(service.id)
    if (before === step.state) return
    for (const [point, value] of Object.entries(step.state.values))
      if (before?.values[point] !== value && Number.isInteger(value))
        this.db.heldValues.put(this.site.id, service.id, point, value)
    this.states.set(service.id, step.state)
    for (const message of step.publish) this.publish(message)
    this.live.tell({
      kind: 'points',
      site: this.site.id,
      service: service.id,
      values: { ...step.state.values },
      online: { ...step.state.online },
    })
  }

  private publish(message: Message): void {
    if (this.client.connected) this.client.publish(message.topic, message.payload, { qos: 1, retain: message.retain })
  }
}
