import { randomBytes } from 'node:crypto'
import type { Site } from '../core/site'
import { startBroker, type BrokerOptions, type RunningBroker } from './broker/broker'
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
  /** who may come, by site */
  private readonly controllers = new Map<string, ReadonlySet<string>>()
  private readonly db: Database
  private readonly live: Live
  private broker: RunningBroker | null = null
  readonly externalUrl: string | null

  /** `trouble` is told what could not be done for a message, in a program that goes on. */
  constructor(
    db: Database,
    live: Live,
    externalUrl: string | null,
    private readonly trouble: (error: unknown) => void,
  ) {
    this.db = db
    this.live = live
    this.externalUrl = externalUrl
  }

  async start(options: Pick<BrokerOptions, 'address' | 'port' | 'tls' | 'slowed'>): Promise<void> {
    if (!this.externalUrl)
      this.broker = await startBroker({
        ...options,
        passwordOf: (user) => this.passwordOf(user),
        trouble: this.trouble,
      })
    for (const { id } of this.db.sites.list()) this.follow(this.db.sites.get(id)!.site)
  }

  get url(): string {
    return this.externalUrl ?? this.broker?.url ?? ''
  }

  /** A site is new or has changed. A controller that is there no more is cut at once, and what it said forgotten. */
  follow(site: Site): void {
    const before = this.controllers.get(site.id) ?? []
    const now = new Set<string>(site.controllers.map(({ id }) => id))
    this.controllers.set(site.id, now)
    this.recheck(site)
    for (const gone of before) if (!now.has(gone)) this.broker?.forget(`vestibule/${site.id}/${gone}/`)
    const standIn = this.standIns.get(site.id)
    if (standIn) return standIn.follow(site)
    if (site.services.length === 0) return
    const login = this.externalUrl
      ? { url: this.externalUrl }
      : {
          url: this.url,
          username: `${site.id}.@service`,
          password: this.passwordOf({ kind: 'service', site: site.id })!,
          // our own broker, on this machine: its certificate names what boards call it
          rejectUnauthorized: false,
        }
    this.standIns.set(site.id, new AppServiceStandIn(site, login, this.db, this.live, this.trouble))
  }

  /** A password may be another now: whoever came with the old one is cut. */
  recheck(site: Site): void {
    this.giveBrokerPasswords(site)
    this.broker?.recheck(site.id)
  }

  /** A site is gone: nobody of it is let in, and a later one of its name hears nothing of it. */
  async leave(site: string): Promise<void> {
    const standIn = this.standIns.get(site)
    this.standIns.delete(site)
    this.controllers.delete(site)
    for (const key of this.own.keys()) if (key.startsWith(`${site}.`)) this.own.delete(key)
    await standIn?.close()
    this.broker?.recheck(site)
    this.broker?.forget(`vestibule/${site}/`)
  }

  standIn(site: string): AppServiceStandIn | undefined {
    return this.standIns.get(site)
  }

  health() {
    return {
      broker: this.url.replace(/\/\/[^@/]*@/, '//'),
      own: this.externalUrl === null,
      /** users that are connected; unknown on a broker of the house */
      connections: this.broker?.connections() ?? null,
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
    // a password outlives its controller, so that an undo brings both back
    const controllers = this.controllers.get(user.site)
    if (!controllers) return undefined
    if (user.kind === 'controller')
      return controllers.has(user.controller) ? this.brokerPassword(user.site, user.controller) : undefined
    const key = `${user.site}.${user.kind}`
    if (!this.own.has(key)) this.own.set(key, randomBytes(18).toString('base64url'))
    return this.own.get(key)
  }

  /** Every controller gets a password of its own the first time it is seen. */
  private giveBrokerPasswords(site: Site): void {
    for (const user of usersOf(site)) {
      // one that is there and cannot be read stays: a new one would lock the board out without a word
      if (user.kind === 'controller' && !this.db.credentials.has(site.id, ownerOf(user.controller), BROKER_PASSWORD)) {
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
