import { compileSite, linksOf } from '../../core/image'
import { wireOf } from '../../core/services'
import type { Point, Service, Site } from '../../core/site'
import { compileWires, FarEnd, WireRefused, type WireMessage } from '../../core/wires'
import { nameOf, StandIn, type Ground } from './standIn'

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

export interface Board {
  readonly far: FarEnd
  readonly controller: string
}

/** wishes that a service which replays has at hand */
const REPLAYED = 3

/** The stand-in of a service that boards reach over MQTT: each board is a connection, known by its login. */
export class WiredStandIn extends StandIn {
  private boards: Board[] = []
  private readonly lines = new Map<string, BoardLine>()
  /** number of the last wish: seconds since 2020, so that it rises over restarts */
  private count: number
  private readonly waiting = new Map<Point, number>()
  private readonly past = new Map<string, WireMessage[]>()

  constructor(site: Site, service: Service, ground: Ground) {
    super(site, service, ground)
    this.count = Math.floor((ground.now().getTime() - Date.UTC(2020, 0, 1)) / 1000)
    this.rewires()
  }

  protected rewires(): void {
    const before = new Map(this.boards.map((board) => [board.controller, JSON.stringify(board.far.login)]))
    this.boards = boardsOf(this.site, this.service, this.ground.reveal)
    for (const { controller, far } of this.boards)
      if (before.has(controller) && before.get(controller) !== JSON.stringify(far.login))
        this.lines.get(controller)?.cut()
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
    if (this.isTooMany(this.boards.indexOf(board)))
      return refuse(5, `one device too many: the plan allows ${this.limits.devices}`)
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
    const values = this.pointsOf(board.controller).map((point) => [nameOf(point), this.valueOf(point)] as const)
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
    if (said.kind === 'forged') return this.refused.add(`${board.controller}: ${topic} has a wrong signature`)
    this.counts()
    this.takes(board.controller, said.point!, said.value, said.text)
  }

  // ---- the phone ----

  protected brings(point: Point, value: number): void {
    const board = this.boards.find(({ controller }) => controller === point.controller)
    if (board) this.asks(board, point, value)
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

  protected cuts(): void {
    for (const line of [...this.lines.values()]) line.cut()
  }
}

/** Boards of a service by their wires, in the site's order: that is the order in which a plan counts them. */
function boardsOf(site: Site, service: Service, reveal: (secret: string) => string): Board[] {
  if (wireOf(site, service)?.transport !== 'mqtt') return []
  const images = compileSite(site)
    .filter(({ part }) => part === 'main')
    .map(({ image }) => image)
  return images.flatMap((image): Board[] => {
    if (!linksOf(image).some(({ id, own }) => !own && id === service.id)) return []
    try {
      const link = compileWires(site, image).links.find(({ id }) => id === service.id)
      return link?.transport === 'mqtt' ? [{ controller: image.controller, far: new FarEnd(link, reveal) }] : []
    } catch (error) {
      // a wire that cannot be filled in is a finding; meanwhile nobody comes
      if (error instanceof WireRefused) return []
      throw error
    }
  })
}
