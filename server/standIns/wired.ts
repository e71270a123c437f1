import { compileSite, linksOf } from '../../core/image'
import { holderOf, serviceKindIn, wireOf } from '../../core/services'
import type { Limits, Point, Service, Site } from '../../core/site'
import { setPoint, startAppService, widgetSends, type AppServiceState } from '../../core/trial'
import { compileWires, FarEnd, type WireMessage } from '../../core/wires'
import { NO_FAULTS, type Faults, type StandInPage } from '../../core/api'
import type { Database } from '../db'
import type { Live } from '../live'
import { Notes } from './notes'
import { recognise, tablesSaid } from './recognise'

/** A board that stands at the door: what is written to it, and an end to it. */
export interface BoardLine {
  /** topics that it has asked to hear */
  readonly hearing: Set<string>
  say(message: WireMessage, retain: boolean): void
  cut(): void
}

/** Why somebody is turned away; return codes of MQTT 3.1.1, 3.2.2.3. */
export interface Refused {
  readonly code: 2 | 3 | 4 | 5
  readonly why: string
}

interface Board {
  readonly far: FarEnd
  readonly controller: string
}

const TELL_MS = 5
/** wishes that a service which replays has at hand */
const REPLAYED = 3

/**
 * A service with a wire of its own, as a small stand-in: it holds points with their last values, knows its boards by
 * the credentials that the sheet names, refuses what a real one refuses, and counts what is used of the plan.
 */
export class WiredStandIn {
  private state: AppServiceState
  private service: Service
  private boards: Board[] = []
  private readonly lines = new Map<string, BoardLine>()
  private readonly refused: Notes
  private readonly heard: Notes
  /** when each point's last value came, ms */
  private readonly cameAt = new Map<string, number>()
  private used = { day: 0, month: 0, dayOf: '', monthOf: '' }
  /** number of the last wish: ms since 2020, so that it rises over restarts */
  private count: number
  private telling: NodeJS.Timeout | null = null
  private readonly waiting = new Map<Point, number>()
  private readonly past = new Map<string, WireMessage[]>()
  faults: Faults = NO_FAULTS

  constructor(
    private site: Site,
    service: Service,
    private readonly db: Database,
    private readonly live: Live,
    private readonly reveal: (secret: string) => string,
    private readonly now: () => Date,
  ) {
    this.service = service
    this.refused = new Notes(now, () => this.tell())
    this.heard = new Notes(now, () => this.tell())
    this.count = Math.floor((now().getTime() - Date.UTC(2020, 0, 1)) / 1000)
    this.state = startAppService(service, db.heldValues.all(site.id, service.id))
    this.follow(site)
  }

  /** The document, or a credential, has changed. Boards whose login is another now are cut. */
  follow(site: Site): void {
    const service = holderOf(site, this.service.id)?.service
    if (!service) return
    this.site = site
    this.service = service
    const { online } = this.state
    this.state = { ...startAppService(service, this.db.heldValues.all(site.id, service.id)), online }
    const before = new Map(this.boards.map((board) => [board.controller, JSON.stringify(board.far.login)]))
    this.boards = boardsOf(site, service, this.reveal)
    for (const { controller, far } of this.boards)
      if (before.has(controller) && before.get(controller) !== JSON.stringify(far.login))
        this.lines.get(controller)?.cut()
  }

  get id(): string {
    return this.service.id
  }

  get values(): AppServiceState {
    return this.state
  }

  // ---- boards at the door ----

  /** How much of a login is of this service: the whole, the user, the password, the client id, or nothing. */
  knows(client: string, user: string, password: string): number {
    const score = ({ far: { login } }: Board): number => {
      const [isUser, isPassword] = [user !== '' && login.user === user, password !== '' && login.password === password]
      return isUser && isPassword ? 4 : isUser ? 3 : isPassword ? 2 : login.client === client ? 1 : 0
    }
    return Math.max(0, ...this.boards.map(score))
  }

  /** Somebody came with a login that no service knows. */
  turnsAway(client: string, user: string): void {
    this.refused.add(`${client || user || 'a board'}: an id that is not known`)
  }

  /** Lets a board in, or says why not. */
  enters(client: string, user: string, password: string, line: BoardLine): Board | Refused {
    const refuse = (code: Refused['code'], why: string): Refused => {
      this.refused.add(`${client || 'a board'}: ${why}`)
      return { code, why }
    }
    if (this.faults.stopped) return refuse(3, 'the service is stopped')
    const board = this.boards.find(({ far: { login } }) => login.user === user && login.password === password)
    if (password === '' || !board) return refuse(4, 'wrong or missing key')
    if (board.far.login.client !== client) return refuse(2, `the client id is not ${board.far.login.client}`)
    const { devices } = this.limits
    if (devices !== null && this.boards.indexOf(board) >= devices)
      return refuse(5, `one device too many: the plan allows ${devices}`)
    if (this.overQuota()) return refuse(3, 'the plan’s messages are used up')
    this.lines.get(board.controller)?.cut()
    this.lines.set(board.controller, line)
    this.online(board.controller, true)
    return board
  }

  leaves(board: Board, line: BoardLine): void {
    if (this.lines.get(board.controller) !== line) return
    this.lines.delete(board.controller)
    this.waiting.clear()
    this.online(board.controller, false)
  }

  /** A board has asked to hear a topic; false: it is none of its own. */
  hears(board: Board, filter: string, line: BoardLine): boolean {
    if (!board.far.heard.includes(filter)) {
      this.refused.add(`${board.controller}: asked for ${filter}, which is not its own`)
      return false
    }
    line.hearing.add(filter)
    const last = board.far.lastCount(this.count)
    if (last?.topic === filter) line.say(last, true)
    this.asksLate(board, filter)
    const values = this.pointsOf(board).map((point) => [nameOf(point), this.valueOf(point)] as const)
    for (const message of board.far.held(values)) if (message.topic === filter) this.sends(board, message, true)
    // a service that plays old wishes again does it when a board comes back
    if (this.faults.replay)
      for (const message of this.past.get(board.controller) ?? [])
        if (message.topic === filter) line.say(message, false)
    return true
  }

  /** A board says something. */
  says(board: Board, topic: string, payload: string): void {
    if (this.faults.lose && this.counts() % 3 === 0) return
    const said = board.far.says(topic, payload)
    if (said.kind === 'status') return this.online(board.controller, said.text === 'online')
    if (said.kind === 'log') return this.logs(board.controller, said.text)
    if (said.kind === 'unknown') return this.refused.add(`${board.controller}: ${topic} is no id of its own`)
    this.counts()
    const point = this.pointsOf(board).find((candidate) => nameOf(candidate) === said.point)
    if (!point) return
    if (said.value === undefined || said.value < point.min || said.value > point.max)
      return this.refused.add(
        `${board.controller}: ${point.name} ${said.text.slice(0, 40)} is not within ${point.min} to ${point.max}`,
      )
    const at = this.now().getTime()
    const { updateMs } = this.limits
    const before = this.cameAt.get(point.id)
    // clocks on both sides, and a network between: a twentieth early is no offence
    if (updateMs !== null && before !== undefined && at - before < updateMs * 0.95)
      return this.refused.add(`${board.controller}: ${point.name} comes faster than every ${updateMs} ms`)
    this.cameAt.set(point.id, at)
    this.take(point, said.value)
    this.heard.add(`${board.controller}: ${point.name} is ${said.value}`)
  }

  // ---- the phone ----

  /** A person touches a widget. False: there is no such widget, or it only shows. */
  touch(widgetId: string, on: boolean, value?: number): boolean {
    const widget = this.service.widgets.find((candidate) => candidate.id === widgetId)
    const point = this.service.points.find((candidate) => candidate.id === widget?.point)
    if (!widget || !point || widget.kind === 'value' || widget.kind === 'gauge') return false
    const wish = value ?? widgetSends(point, widget.inverted, on)
    const before = this.state
    const { state } = setPoint(this.site.id, this.service, this.state, point.id, wish)
    if (state === before) return false
    this.take(point, state.values[point.id] ?? wish)
    const board = this.boards.find(({ controller }) => controller === point.controller)
    if (board) this.asks(board, point, state.values[point.id] ?? wish)
    return true
  }

  /** A wish that came while the board was saying hello goes out when it listens. */
  private asksLate(board: Board, filter: string): void {
    for (const [point, value] of this.waiting) {
      if (point.controller !== board.controller || board.far.wish(nameOf(point), value, 0)?.topic !== filter) continue
      this.waiting.delete(point)
      this.asks(board, point, value)
    }
  }

  private asks(board: Board, point: Point, value: number): void {
    const topic = board.far.wish(nameOf(point), value, 0)?.topic
    const line = this.lines.get(board.controller)
    if (line && topic !== undefined && !line.hearing.has(topic)) return void this.waiting.set(point, value)
    this.count++
    const message = board.far.wish(nameOf(point), value, this.count)
    if (!message) return
    this.past.set(board.controller, [...(this.past.get(board.controller) ?? []), message].slice(-REPLAYED))
    this.sends(board, message, false)
    if (this.faults.replay) setTimeout(() => this.lines.get(board.controller)?.say(message, false), 300).unref()
  }

  private sends(board: Board, message: WireMessage, retain: boolean): void {
    const line = this.lines.get(board.controller)
    if (!line || (this.counts() % 3 === 0 && this.faults.lose)) return
    line.say(message, retain)
  }

  setFaults(faults: Faults): void {
    this.faults = faults
    if (faults.stopped) for (const line of [...this.lines.values()]) line.cut()
    this.tell()
  }

  /** What the stand-in's page shows. */
  page(): StandInPage {
    const { day, month } = this.today()
    return {
      values: { ...this.state.values },
      online: { ...this.state.online },
      refused: this.refused.all(),
      heard: this.heard.all(),
      used: { day, month },
      allowed: { day: this.limits.messagesDay, month: this.limits.messagesMonth },
      faults: { ...this.faults },
      wired: true,
    }
  }

  close(): void {
    if (this.telling) clearTimeout(this.telling)
    for (const line of [...this.lines.values()]) line.cut()
  }

  // ---- within ----

  private get limits(): Limits {
    return serviceKindIn(this.site, this.service.kind)!.limits
  }

  private pointsOf({ controller }: Board): Point[] {
    return this.service.points.filter((point) => point.controller === controller)
  }

  private valueOf(point: Point): number {
    return this.state.values[point.id] ?? point.default
  }

  private today() {
    const date = this.now().toISOString()
    if (this.used.dayOf !== date.slice(0, 10)) this.used = { ...this.used, day: 0, dayOf: date.slice(0, 10) }
    if (this.used.monthOf !== date.slice(0, 7)) this.used = { ...this.used, month: 0, monthOf: date.slice(0, 7) }
    return this.used
  }

  /** A message of the plan. */
  private counts(): number {
    const used = this.today()
    used.month++
    used.day++
    if (this.overQuota()) for (const line of [...this.lines.values()]) line.cut()
    return used.month
  }

  private overQuota(): boolean {
    const { messagesDay, messagesMonth } = this.limits
    const { day, month } = this.today()
    return (messagesDay !== null && day > messagesDay) || (messagesMonth !== null && month > messagesMonth)
  }

  private logs(controller: string, text: string): void {
    const hash = tablesSaid(text)
    if (hash !== undefined) recognise(this.db, this.site, controller, hash, this.now().toISOString())
    this.heard.add(`${controller} says: ${text}`)
  }

  private online(controller: string, online: boolean): void {
    this.state = { ...this.state, online: { ...this.state.online, [controller]: online } }
    this.tell()
  }

  private take(point: Point, value: number): void {
    if (Number.isInteger(value)) this.db.heldValues.put(this.site.id, this.service.id, point.id, value)
    this.state = { ...this.state, values: { ...this.state.values, [point.id]: value } }
    this.tell()
  }

  /** Screens are told once for all that comes in a moment: a busy service says a thousand things a second. */
  private tell(): void {
    this.telling ??= setTimeout(() => {
      this.telling = null
      this.tellNow()
    }, TELL_MS).unref()
  }

  private tellNow(): void {
    const { values, online } = this.state
    const about = { site: this.site.id, service: this.service.id }
    this.live.tell({ kind: 'points', ...about, values: { ...values }, online: { ...online } })
    this.live.tell({ kind: 'standIn', ...about })
  }
}

const nameOf = (point: Point): string => `vp/${point.vp}`

/** Boards of a service by their wires, in the site's order: that is the order in which a plan counts them. */
function boardsOf(site: Site, service: Service, reveal: (secret: string) => string): Board[] {
  if (wireOf(site, service)?.transport !== 'mqtt') return []
  const images = compileSite(site)
    .filter(({ part }) => part === 'main')
    .map(({ image }) => image)
  return images.flatMap((image): Board[] => {
    if (!linksOf(image).some(({ id, own }) => !own && id === service.id)) return []
    const link = compileWires(site, image).links.find((one) => one.transport === 'mqtt' && one.id === service.id)
    return link?.transport === 'mqtt' ? [{ controller: image.controller, far: new FarEnd(link, reveal) }] : []
  })
}

export type { Board }
