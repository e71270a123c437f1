import { randomBytes } from 'node:crypto'
import { wiredHolders, wireOf } from '../core/services'
import { speaksAs, type Service, type Site } from '../core/site'
import type { Faults, RigPaired, StandInPage } from '../core/api'
import { NO_FAULTS } from '../core/api'
import { startBroker, type BrokerOptions, type RunningBroker } from './broker/broker'
import { nameOfUser, usersOf, type BrokerUser } from './broker/rights'
import type { Database } from './db'
import type { Live } from './live'
import { addressOf } from './secretAddress'
import { SiteBoards } from './boards/siteBoards'
import { Rig, rigFolder, type RigGround } from './rig'
import { AppServiceStandIn, type BrokerLogin } from './standIns/appService'
import { ServiceDoor } from './standIns/door'
import { HubStandIn } from './standIns/hub'
import { RequestStandIn } from './standIns/requests'
import { WiredStandIn } from './standIns/wired'

/** The port of the services' stand-ins is somebody else's. */
export class DoorPortTaken extends Error {
  constructor(port: number) {
    super(`service port ${port} is taken: choose another with --service-port, or 0 for any that is free`)
  }
}

/** Compiling five boards takes its time. */
const RIG_DOOR_MINUTES = 10

/** Credential that opens the broker for a controller, and for the hub. */
export const BROKER_PASSWORD = 'broker password'
/** Users whose passwords are kept: boards and hubs come back with them. */
type StoredUser = Exclude<BrokerUser, { kind: 'service' | 'listener' }>
const ownerOf = (user: StoredUser): string =>
  user.kind === 'controller' ? `controller ${user.controller}` : 'hub of the house'

/**
 * The broker and the stand-ins around it: one app service a site. `VESTIBULE_BROKER_URL` points the stand-ins to a
 * broker of the house instead, and no broker is started here.
 */
export class House {
  private readonly standIns = new Map<string, AppServiceStandIn>()
  /** services with a wire of their own, by "site/service" */
  private readonly wired = new Map<string, WiredStandIn | RequestStandIn>()
  private readonly rigs = new Map<string, Rig>()
  private readonly hubs = new Map<string, HubStandIn>()
  private readonly heard = new Map<string, SiteBoards>()
  private readonly door = new ServiceDoor({
    wired: () => [...this.wired.values()].filter((one) => one instanceof WiredStandIn),
    asked: () => [...this.wired.values()].filter((one) => one instanceof RequestStandIn),
  })
  /** passwords of the app services' stand-ins, by site: new at each start, never stored */
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
    /** where what is compiled with secrets lies while it runs */
    private readonly dataFolder: string,
  ) {
    this.db = db
    this.live = live
    this.externalUrl = externalUrl
  }

  async start(
    options: Pick<BrokerOptions, 'address' | 'port' | 'tls' | 'slowed'> & { readonly doorPort: number },
  ): Promise<void> {
    if (!this.externalUrl)
      this.broker = await startBroker({
        ...options,
        passwordOf: (user) => this.passwordOf(user),
        isShut: (user) => this.isShut(user),
        turnedAway: (user) => this.turnedAway(user),
        trouble: this.trouble,
      })
    await this.door.listen(options.address, options.doorPort).catch((error: NodeJS.ErrnoException) => {
      throw error.code === 'EADDRINUSE' ? new DoorPortTaken(options.doorPort) : error
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
    this.followWired(site)
    this.hubs.get(site.id)?.follow(site)
    this.boards(site).follow(site)
    const standIn = this.standIns.get(site.id)
    if (standIn) return standIn.follow(site)
    // boards of the house say there which tables they run; on a broker of the house it is how its health is known
    const isQuiet = site.hubs.length === 0 && site.services.every((service) => wireOf(site, service) !== undefined)
    if (isQuiet && !this.externalUrl) return
    const login = this.loginOf({ kind: 'service', site: site.id })
    this.standIns.set(site.id, new AppServiceStandIn(site, login, this.db, this.live, this.trouble))
  }

  /** Which boards of a site are here. */
  boards(site: Site): SiteBoards {
    const known = this.heard.get(site.id)
    if (known) return known
    const boards = new SiteBoards(site, {
      db: this.db,
      live: this.live,
      login: () => this.loginOf({ kind: 'listener', site: site.id }),
      now: () => new Date(),
      trouble: this.trouble,
      hubShows: () => this.hubs.get(site.id)?.page().beliefs ?? {},
    })
    this.heard.set(site.id, boards)
    return boards
  }

  private turnedAway(user: BrokerUser): void {
    this.hubs.get(user.site)?.turnedAway(nameOfUser(user))
    if (user.kind !== 'controller') return
    this.heard
      .get(user.site)
      ?.turnedAway(user.controller, this.isShut(user) ? 'its door is closed' : 'wrong user or password')
  }

  /** A board of this site that has never joined, and whose door is closed. */
  private isShut(user: BrokerUser): boolean {
    return (
      user.kind === 'controller' &&
      this.controllers.get(user.site)?.has(user.controller) === true &&
      !this.mayJoin(user)
    )
  }

  /** For so many minutes a board that has never joined may come; 0: no longer. */
  openDoor(site: Site, controller: string, minutes: number): void {
    const until = minutes === 0 ? null : new Date(Date.now() + minutes * 60_000).toISOString()
    this.db.boards.openDoor(site.id, speaksAs(site, controller), until)
    this.live.tell({ kind: 'boards', site: site.id })
  }

  /** A board is to come back no more: another password, and whoever comes next has to be let in. */
  lockOut(site: Site, controller: string): void {
    const owner = ownerOf({ kind: 'controller', site: site.id, controller: speaksAs(site, controller) })
    const password = randomBytes(18).toString('base64url')
    this.db.credentials.put(site.id, owner, BROKER_PASSWORD, password, new Date().toISOString())
    for (const id of new Set([controller, speaksAs(site, controller)])) this.db.boards.removeBoard(site.id, id)
    this.boards(site).forget(controller)
    this.recheck(site)
    this.broker?.forget(`vestibule/${site.id}/${controller}/`)
  }

  /** One that has joined comes back whenever it likes; another only while its door is open. */
  private mayJoin({ site, controller }: Extract<BrokerUser, { kind: 'controller' }>): boolean {
    const { joinedAt, openUntil } = this.db.boards.door(site, controller)
    return joinedAt !== null || (openUntil !== null && openUntil > new Date().toISOString())
  }

  /** How a stand-in opens the broker. */
  private loginOf(user: BrokerUser): BrokerLogin {
    if (this.externalUrl) return { url: this.externalUrl }
    return {
      url: this.url,
      username: nameOfUser(user),
      password: this.passwordOf(user) ?? '',
      // our own broker, on this machine: its certificate names what boards call it
      rejectUnauthorized: false,
    }
  }

  /** The hub's stand-in, where the site has a hub without a wire of its own. */
  hub(site: Site): HubStandIn | undefined {
    if (!site.hubs.some((hub) => !wireOf(site, hub))) return undefined
    const known = this.hubs.get(site.id)
    if (known) return known
    const login = () => this.loginOf({ kind: 'hub', site: site.id })
    const hub = new HubStandIn(site, login, this.live, () => new Date())
    this.hubs.set(site.id, hub)
    return hub
  }

  /** A password may be another now: whoever came with the old one is cut. */
  recheck(site: Site): void {
    this.giveBrokerPasswords(site)
    for (const [key, wired] of this.wired) if (key.startsWith(`${site.id}/`)) wired.follow(site)
    this.rigs.get(site.id)?.recheck(this.revealOf(site.id))
    this.broker?.recheck(site.id)
  }

  /** A site is gone: nobody of it is let in, and a later one of its name hears nothing of it. */
  async leave(site: string): Promise<void> {
    const standIn = this.standIns.get(site)
    this.standIns.delete(site)
    this.rigs.get(site)?.stop()
    this.rigs.delete(site)
    const hub = this.hubs.get(site)
    this.hubs.delete(site)
    await hub?.close()
    const boards = this.heard.get(site)
    this.heard.delete(site)
    await boards?.close()
    for (const [key, wired] of this.wired) {
      if (!key.startsWith(`${site}/`)) continue
      wired.close()
      this.wired.delete(key)
    }
    this.controllers.delete(site)
    for (const kind of ['service', 'listener'] as const) this.own.delete(nameOfUser({ kind, site }))
    await standIn?.close()
    this.broker?.recheck(site)
    this.broker?.forget(`vestibule/${site}/`)
  }

  /** Services that are reached by a wire of their own. */
  private followWired(site: Site): void {
    const now = wiredHolders(site)
    for (const [key, wired] of this.wired) {
      const same = now.find(({ id }) => id === wired.id)
      if (!key.startsWith(`${site.id}/`) || (same && !this.isOther(site, same))) continue
      wired.close()
      this.wired.delete(key)
    }
    for (const service of now) {
      const key = `${site.id}/${service.id}`
      const known = this.wired.get(key)
      if (known) known.follow(site)
      else this.wired.set(key, this.newWired(site, service))
    }
  }

  private newWired(site: Site, service: Service): WiredStandIn | RequestStandIn {
    const ground = {
      ...{ db: this.db, live: this.live, reveal: this.revealOf(site.id), now: () => new Date() },
      heardPoint: (controller: string, point: string, value: number) =>
        this.heard.get(site.id)?.saidPoint(controller, service.id, point, value),
      heardLog: (controller: string, text: string) => this.heard.get(site.id)?.saidLog(controller, text),
    }
    if (wireOf(site, service)?.transport === 'mqtt') return new WiredStandIn(site, service, ground)
    const placeOf = (controller: string) => this.rigs.get(site.id)?.calledAt(controller, service.id)
    return new RequestStandIn(site, service, ground, placeOf)
  }

  /** Another transport is another stand-in. */
  private isOther(site: Site, service: Service): boolean {
    const known = this.wired.get(`${site.id}/${service.id}`)
    return known !== undefined && known instanceof WiredStandIn !== (wireOf(site, service)?.transport === 'mqtt')
  }

  /** Secrets of a site, by their keys. */
  revealOf(site: string): (secret: string) => string {
    return (secret) => {
      const { owner, name } = addressOf(secret)
      return this.db.credentials.reveal(site, owner, name) ?? ''
    }
  }

  rig(site: string): Rig {
    const known = this.rigs.get(site)
    if (known) return known
    const rig = new Rig(rigFolder(this.dataFolder, site), this.live, site)
    this.rigs.set(site, rig)
    return rig
  }

  /** Where the house is for its boards, and what opens it. */
  private rigGround(site: string): RigGround {
    const place = new URL(this.url || 'mqtt://127.0.0.1:1883')
    const tls = place.protocol === 'mqtts:'
    return {
      brokerPort: Number(place.port || (tls ? 8883 : 1883)),
      brokerTls: tls,
      doorPort: this.doorPort,
      reveal: this.revealOf(site),
      brokerPassword: (controller) => this.brokerPassword({ kind: 'controller', site, controller }) ?? '',
    }
  }

  /** Starts the firmware of every controller of a site on this machine; goes on by itself. */
  startRig(site: Site): void {
    this.hub(site)?.start()
    for (const { id } of site.controllers) this.openDoor(site, id, RIG_DOOR_MINUTES)
    void this.rig(site.id).start(site, this.rigGround(site.id)).catch(this.trouble)
  }

  /** A phone beside a board of the rig pairs it; undefined: there is none that can be paired. */
  pairBoard(site: Site, controller: string, pin: string): Promise<RigPaired> | undefined {
    return this.rig(site.id).pair(site, controller, pin, this.rigGround(site.id))
  }

  /** Firmware and hub are gone. */
  stopRig(site: string): void {
    this.rig(site).stop()
    void this.hubs.get(site)?.stop().catch(this.trouble)
  }

  /** What a service's stand-in knows; undefined: there is none. */
  page(site: string, service: string): StandInPage | undefined {
    const wired = this.wired.get(`${site}/${service}`)
    if (wired) return wired.page()
    const state = this.standIns.get(site)?.state(service)
    if (!state) return undefined
    return {
      values: { ...state.values },
      online: { ...state.online },
      refused: [],
      heard: [],
      used: { day: 0, month: 0 },
      allowed: { day: null, month: null },
      faults: NO_FAULTS,
      wired: false,
    }
  }

  /** False: there is no such widget, or it only shows. */
  touch(site: string, service: string, widget: string, on: boolean, value?: number): boolean {
    const wired = this.wired.get(`${site}/${service}`)
    if (wired) return wired.touch(widget, on, value)
    return this.standIns.get(site)?.touch(service, widget, on, value) ?? false
  }

  /** False: no stand-in of its own, so it stands and falls with the broker. */
  setFaults(site: string, service: string, faults: Faults): boolean {
    const wired = this.wired.get(`${site}/${service}`)
    wired?.setFaults(faults)
    return wired !== undefined
  }

  /** Where boards come to services with a wire. */
  get doorPort(): number {
    return this.door.port
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
    for (const rig of this.rigs.values()) rig.stop()
    await Promise.all([...this.hubs.values()].map((hub) => hub.close()))
    await Promise.all([...this.heard.values()].map((boards) => boards.close()))
    for (const wired of this.wired.values()) wired.close()
    await Promise.all([...this.standIns.values()].map((standIn) => standIn.close()))
    await this.door.close()
    await this.broker?.close()
  }

  brokerPassword(user: StoredUser): string | undefined {
    return this.db.credentials.reveal(user.site, ownerOf(user), BROKER_PASSWORD)
  }

  private passwordOf(user: BrokerUser): string | undefined {
    // a password outlives its controller, so that an undo brings both back
    const controllers = this.controllers.get(user.site)
    if (!controllers) return undefined
    if (user.kind === 'controller') return controllers.has(user.controller) ? this.brokerPassword(user) : undefined
    // a hub of the maker's own keeps its login over restarts; the stand-in of the app service needs none
    if (user.kind === 'hub') return this.brokerPassword(user)
    const name = nameOfUser(user)
    if (!this.own.has(name)) this.own.set(name, randomBytes(18).toString('base64url'))
    return this.own.get(name)
  }

  /** Every controller, and the hub, gets a password of its own the first time it is seen. */
  private giveBrokerPasswords(site: Site): void {
    for (const user of usersOf(site)) {
      if (user.kind === 'service' || user.kind === 'listener') continue
      const owner = ownerOf(user)
      // one that is there and cannot be read stays: a new one would lock the board out without a word
      if (this.db.credentials.has(site.id, owner, BROKER_PASSWORD)) continue
      const password = randomBytes(18).toString('base64url')
      this.db.credentials.put(site.id, owner, BROKER_PASSWORD, password, new Date().toISOString())
    }
  }
}
