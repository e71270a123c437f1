import mqtt, { type MqttClient } from 'mqtt'
import type { BrokerLogin } from '../standIns/appService'

const AGAIN_MS = 1_000

/** Hears all that is said on the topics of a site, and when the broker itself comes and goes. */
export class Listener {
  private client: MqttClient | null = null
  private up = false
  private closed = false

  constructor(
    private readonly site: string,
    /** asked at each connection: it may be another by then */
    private readonly login: () => BrokerLogin,
    private readonly said: (topic: string, payload: string) => void,
    private readonly broker: (up: boolean) => void,
    private readonly trouble: (error: unknown) => void,
  ) {
    this.connect()
  }

  private connect(): void {
    if (this.closed) return
    const { url, ...login } = this.login()
    const client = mqtt.connect(url, {
      ...login,
      clientId: `listener.${this.site}`,
      protocolVersion: 4,
      reconnectPeriod: AGAIN_MS,
    })
    this.client = client
    client.on('connect', () => {
      client.subscribe(`vestibule/${this.site}/#`, { qos: 1 }, () => this.turns(true))
    })
    client.on('close', () => this.turns(false))
    // mqtt.js gives up after a refusal; a password that is another now is asked for again
    client.on('error', () => this.again(client))
    client.on('message', (topic, payload) => {
      try {
        this.said(topic, payload.toString())
      } catch (error) {
        this.trouble(error)
      }
    })
  }

  private turns(up: boolean): void {
    if (this.closed || this.up === up) return
    this.up = up
    try {
      this.broker(up)
    } catch (error) {
      this.trouble(error)
    }
  }

  private again(client: MqttClient): void {
    if (this.client !== client || this.closed) return
    this.client = null
    void client.endAsync(true).catch(this.trouble)
    setTimeout(() => this.connect(), AGAIN_MS).unref()
  }

  async close(): Promise<void> {
    this.closed = true
    await this.client?.endAsync(true)
  }
}
