import type { BoardHereRow, LiveMessage, StrangerRow } from '../../core/api'
import { CompileRefused, compileSite, linksOf } from '../../core/image'
import { mainOf, speaksAs, type Site } from '../../core/site'
import {
  hear,
  heardOn,
  hubLevels,
  isNew,
  pointLevels,
  startsAnew,
  strangerOn,
  type BoardHeard,
  type Boards,
  type ChannelHeard,
  type Heard,
  type Screens,
} from '../../core/witness'
import type { Database } from '../db'
import type { Live } from '../live'
import type { BrokerLogin } from '../standIns/appService'
import { runsWhich } from '../standIns/recognise'
import { Listener } from './listener'

/** Screens are told no more often than that, ms. */
const TELL_MS = 150
/** Strangers that are kept. */
const STRANGERS = 20

export interface BoardsGround {
  readonly db: Database
  readonly live: Live
  readonly login: () => BrokerLogin
  readonly now: () => Date
  readonly trouble: (error: unknown) => void
  /** what the hub's stand-in shows, by "hub/entity" */
  readonly hubShows: () => Readonly<Record<string, number | null>>
}

/** Hears something with the boards as they were before it and as they are with it. */
export type Follower = (heard: Heard, before: Boards, after: Boards) => void

/** Which boards of a site are here, by what they say on the broker and to the stand-ins of services. */
export class SiteBoards {
  boards: Boards
  screens: Screens = {}
  lastBeat: number | null = null
  private readonly strangers = new Map<string, StrangerRow>()
  private readonly refused = new Map<string, { at: string; why: string }>()
  private readonly listener: Listener
  private readonly stopLive: () => void
  private readonly followers = new Set<Follower>()
  private readonly serviceOnline = new Map<string, boolean>()
  private telling: NodeJS.Timeout | null = null

  constructor(
    private site: Site,
    private readonly ground: BoardsGround,
  ) {
    this.boards = ground.db.boards.heard(site.id)
    this.listener = new Listener(
      site.id,
      ground.login,
      (topic, payload) => this.onTopic(topic, payload),
      (up) => this.hears({ t: this.t(), kind: 'broker', up }),
      ground.trouble,
    )
    this.stopLive = ground.live.listen((message) => message.site === this.site.id && this.onLive(message))
  }

  /** The board is another: what the old one said of itself counts no more. */
  forget(controller: string): void {
    this.boards = Object.fromEntries(Object.entries(this.boards).filter(([id]) => id !== controller))
    this.refused.delete(controller)
    this.tell()
  }

  follow(site: Site): void {
    this.site = site
  }

  followed(follower: Follower): () => void {
    this.followers.add(follower)
    return () => this.followers.delete(follower)
  }

  private t = (): number => this.ground.now().getTime()

  // ---- what is heard ----

  private onTopic(topic: string, payload: string): void {
    const stranger = strangerOn(this.site, topic)
    if (stranger !== undefined) return this.stranger(stranger, `speaks on ${topic.slice(0, 80)}`)
    const heard = heardOn(this.site, topic, payload, this.t())
    if (heard) this.hears(heard)
  }

  /** Stand-ins of services, and of the hub, tell all screens of what they show. */
  private onLive(message: LiveMessage): void {
    if (message.kind === 'points') {
      this.showsAll(message.service, pointLevels(this.site, message.service, message.values))
      for (const [controller, online] of Object.entries(message.online))
        this.byService(controller, message.service, online)
    } else if (message.kind === 'hub')
      for (const [hub, levels] of Object.entries(hubLevels(this.site, this.ground.hubShows())))
        this.showsAll(hub, levels)
  }

  private showsAll(holder: string, levels: Readonly<Record<string, number>>): void {
    for (const [channel, level] of Object.entries(levels)) {
      if (this.screens[`${holder}/${channel}`] === level) continue
      this.screens = { ...this.screens, [`${holder}/${channel}`]: level }
      this.hears({ t: this.t(), kind: 'screen', holder, channel, level })
    }
  }

  /** A board that does not speak on the site's own topics is here when its service says so. */
  private byService(controller: string, service: string, online: boolean): void {
    const key = `${service}/${controller}`
    if (this.speaksItself(controller) || this.serviceOnline.get(key) === online) return
    this.serviceOnline.set(key, online)
    this.hears({ t: this.t(), kind: 'status', controller, online })
  }

  private readonly own = new WeakMap<Site, Speakers>()
  /** What is said on the topics of the site itself, by the tables. */
  private speakers(): Speakers {
    const known = this.own.get(this.site) ?? speakersOf(this.site)
    this.own.set(this.site, known)
    return known
  }
  private speaksItself = (controller: string): boolean => this.speakers().controllers.has(controller)

  /** A board has said a point's value to a service: all that is heard of a channel that has no topic of its own. */
  saidPoint(controller: string, service: string, point: string, value: number): void {
    for (const [channel, level] of Object.entries(pointLevels(this.site, service, { [point]: value })))
      if (!this.speakers().channels.has(channel))
        this.hears({
          t: this.t(),
          kind: 'state',
          controller,
          channel,
          level,
          source: null,
          seq: null,
          mode: null,
          waiting: false,
        })
  }

  saidLog(controller: string, text: string): void {
    if (!this.speaksItself(controller)) this.hears({ t: this.t(), kind: 'log', controller, text })
  }

  private hears(heard: Heard): void {
    const before = this.boards
    if (heard.kind === 'beat') this.lastBeat = heard.t
    if ('controller' in heard) {
      this.boards = hear(before, heard)
      this.keep(heard, before)
    }
    for (const follower of this.followers) follower(heard, before, this.boards)
    this.tell()
  }

  /** What is known of a board outlives the server. */
  private keep(heard: Extract<Heard, { controller: string }>, before: Boards): void {
    const { db, now } = this.ground
    const at = now().toISOString()
    const known = before[heard.controller]
    const board = this.boards[heard.controller]
    if (!board) return
    if (heard.kind === 'status' && heard.online && !this.isJoined(heard.controller))
      // a radio joins for its main board
      db.boards.joined(this.site.id, speaksAs(this.site, heard.controller), at)
    // a board that talks much must not keep the disk busy: its words alone are not worth a write
    if (heard.kind === 'status' || board.hash !== known?.hash || board.restarts !== known?.restarts)
      db.boards.putBoard(this.site.id, heard.controller, board, at)
    if (heard.kind !== 'state') return
    const was = known?.channels[heard.channel]
    if (!isNew(heard, was)) return
    db.boards.putChannel(this.site.id, heard.controller, heard.channel, heard, changesBetween(heard, was), at)
  }

  private isJoined = (controller: string): boolean =>
    this.ground.db.boards.door(this.site.id, speaksAs(this.site, controller)).joinedAt !== null

  // ---- who is not let in ----

  /** Somebody named a user of the site and was not let in. */
  turnedAway(controller: string, why: string): void {
    const at = this.ground.now().toISOString()
    if (this.site.controllers.some(({ id }) => id === controller)) this.refused.set(controller, { at, why })
    else this.stranger(controller, why)
    this.tell()
  }

  private stranger(who: string, what: string): void {
    const name = who.slice(0, 40)
    this.strangers.delete(name)
    this.strangers.set(name, { who: name, at: this.ground.now().toISOString(), what })
    for (const old of this.strangers.keys()) if (this.strangers.size > STRANGERS) this.strangers.delete(old)
    this.tell()
  }

  // ---- what is shown ----

  page(): { boards: BoardHereRow[]; strangers: StrangerRow[] } {
    const { db } = this.ground
    const [first, builds] = [db.boards.firstSeen(this.site.id), db.builds.list(this.site.id)]
    const boards = this.site.controllers.map(({ id }): BoardHereRow => {
      const board = this.boards[mainOf(this.site, id)?.id ?? id] ?? null
      const door = db.boards.door(this.site.id, speaksAs(this.site, id))
      const isOpen = door.openUntil !== null && door.openUntil > this.ground.now().toISOString()
      const refused = this.refused.get(id) ?? null
      const firstSeen = first[id] ?? null
      return {
        controller: id,
        state: stateOf(board, {
          isOpen,
          joined: door.joinedAt !== null,
          refused: refused !== null,
          seen: firstSeen !== null,
        }),
        ...factsOf(board),
        runs: board?.hash
          ? (runsWhich(this.site, builds, id, board.hash)?.replace(/^.*? runs (?=build|tables)/, '') ?? null)
          : null,
        firstSeen,
        refused: refused && board && board.online && board.since > new Date(refused.at).getTime() ? null : refused,
        openUntil: isOpen ? door.openUntil : null,
        joined: door.joinedAt !== null,
      }
    })
    return { boards, strangers: [...this.strangers.values()].reverse() }
  }

  private tell(): void {
    this.telling ??= setTimeout(() => {
      this.telling = null
      this.ground.live.tell({ kind: 'boards', site: this.site.id })
    }, TELL_MS).unref()
  }

  async close(): Promise<void> {
    if (this.telling) clearTimeout(this.telling)
    this.stopLive()
    await this.listener.close()
  }
}

interface Speakers {
  readonly controllers: ReadonlySet<string>
  readonly channels: ReadonlySet<string>
}

function speakersOf(site: Site): Speakers {
  try {
    const images = compileSite(site)
      .map(({ image }) => image)
      .filter((image) => linksOf(image).some(({ own }) => own))
    return {
      controllers: new Set(images.map(({ controller }) => controller)),
      channels: new Set(
        images.flatMap(({ channels }) => channels.filter(({ reports }) => reports).map(({ id }) => id)),
      ),
    }
  } catch (error) {
    if (error instanceof CompileRefused) return { controllers: new Set(), channels: new Set() }
    throw error
  }
}

const instant = (ms: number): string => new Date(ms).toISOString()

function stateOf(
  board: BoardHeard | null,
  { isOpen, joined, refused, seen }: { isOpen: boolean; joined: boolean; refused: boolean; seen: boolean },
): BoardHereRow['state'] {
  if (board?.online) return 'online'
  if (refused && isOpen) return 'joining'
  if (isOpen && !joined) return 'waited for'
  return board && seen ? 'offline' : 'never'
}

const factsOf = (board: BoardHeard | null) => ({
  since: board ? instant(board.since) : null,
  hash: board?.hash ?? null,
  said: board?.said?.text ?? null,
  restarts: board?.restarts ?? 0,
  keys: (board?.keys ?? []).map(({ t, ...key }) => ({ ...key, at: instant(t) })),
  bounces: { ...board?.bounces },
  signalDbm: board?.signalDbm ?? null,
  upSince: board?.upSince ? instant(board.upSince) : null,
})

/** Changes of a channel between two reports, by their numbers; a count that began again counts from nothing. */
function changesBetween(report: Pick<ChannelHeard, 'seq' | 'level' | 'source'>, was: ChannelHeard | undefined): number {
  if (!was) return report.seq ?? 0
  if (report.seq === null || was.seq === null) return report.level === was.level ? 0 : 1
  return startsAnew(report, was) && report.seq <= was.seq ? report.seq : report.seq - was.seq
}
