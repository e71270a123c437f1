import { randomBytes } from 'node:crypto'
import type { Site } from '../core/site'
import { startBroker, type RunningBroker } from './broker/broker'
import { usersOf, type BrokerUser } from './broker/rights'
import type { Database } from './db'
import type { Live } from './live'
import { AppServiceStandIn } from './standIns/appService'

/** Credential that opens the broker for a controller. */
export const BROKER_PASSWORD = 'broker password'
const ownerOf = (controller: string): string => `controller ${controller}`

/**
 * The broker and the stand-ins around it: one app service a site. `VESTIBULE_BROKER_URL` points the stand-ins to a
 * broker of the house instead, and no broker is started here.
 */
export class House {
  private readonly standIns = new Map<string, AppServiceStandIn>()
  /** passwords of the stand-ins: new at each start, never stored */
  private readonly own = new Map<string, string>()
  private readonly db: Database
  private readonly live: Live
  private broker: RunningBroker | null = null
  readonly externalUrl: string | null

  constructor(db: Database, live: Live, externalUrl: string | null) {
    this.db = db
    this.live = live
    this.externalUrl = externalUrl
  }

  async start(port: number): Promise<void> {
    if (!this.externalUrl) this.broker = await startBroker('127.0.0.1', port, (user) => this.passwordOf(user))
    for (const { id } of this.db.sites.list()) this.follow(this.db.sites.get(id)!.site)
  }

  get url(): string {
    return this.externalUrl ?? this.broker?.url ?? ''
  }

  /** A site is new or has changed. */
  follow(site: Site): void {
    this.giveBrokerPasswords(site)
    const standIn = this.standIns.get(site.id)
    if (standIn) return standIn.follow(site)
    if (site.services.length === 0) return
    const login = this.externalUrl
      ? { url: this.externalUrl }
      : {
          url: this.url,
          username: `${site.id}.@service`,
          password: this.passwordOf({ kind: 'service', site: site.id })!,
        }
    this.standIns.set(site.id, new AppServiceStandIn(site, login, this.db, this.live))
  }

  standIn(site: string): AppServiceStandIn | undefined {
    return this.standIns.get(site)
  }

  health(): { broker: string; own: boolean; standIns: { site: string; connected: boolean }[] } {
    return {
      broker: this.url.replace(/\/\/[^@/]*@/, '//'),
      own: this.externalUrl === null,
      standIns: [...this.standIns].map(([site, standIn]) => ({ site, connected: standIn.connected })),
    }
  }

  async close(): Promise<void> {
    await Promise.all([...this.standIns.values()].map((standIn) => standIn.close()))
    await this.broker?.close()
  }

  brokerPassword(site: string, controller: string): string | undefined {
    return this.db.credentials.reveal(site, ownerOf(controller), BROKER_PASSWORD)
  }

  private passwordOf(user: BrokerUser): string | undefined {
    if (user.kind === 'controller') return this.brokerPassword(user.site, user.controller)
    if (!this.db.sites.get(user.site)) return undefined
    const key = `${user.site}.${user.kind}`
    if (!this.own.has(key)) this.own.set(key, randomBytes(18).toString('base64url'))
    return this.own.get(key)
  }

  /** Every controller gets a password of its own the first time it is seen. */
  private giveBrokerPasswords(site: Site): void {
    for (const user of usersOf(site)) {
      if (user.kind === 'controller' && this.brokerPassword(site.id, user.controller) === undefined) {
        this.db.credentials.put(
          site.id,
          ownerOf(user.controller),
          BROKER_PASSWORD,
          randomBytes(18).toString('base64url'),
          new Date().toISOString(),
        )
      }
    }
  }
}
