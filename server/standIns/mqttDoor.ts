import type { Socket } from 'node:net'
import { generate, parser, type IConnectPacket, type Packet } from 'mqtt-packet'
import type { Board, BoardLine, WiredStandIn } from './wired'

/** A board that has not said whole who it is by then is shown out (MQTT 3.1.1, 3.1.4), ms. */
const GREETING_MS = 10_000

/** Boards that speak MQTT 3.1.1: each is let in by the service that knows its login. */
export class MqttDoor {
  constructor(private readonly standIns: () => readonly WiredStandIn[]) {}

  /** A connection, with the bytes that it began with. */
  greets(socket: Socket, first: Buffer): void {
    const silent = setTimeout(() => socket.destroy(), GREETING_MS).unref()
    const packets = parser({ protocolVersion: 4 })
    let session: Session | null = null
    packets.on('packet', (packet: Packet) => {
      try {
        if (session) return session.hears(packet)
        clearTimeout(silent)
        session = packet.cmd === 'connect' ? this.lets(packet, socket) : null
        // [MQTT-3.1.0-1]: the first packet greets, or there is none
        if (!session) socket.end()
      } catch {
        socket.destroy()
      }
    })
    packets.on('error', () => socket.destroy())
    const takes = (data: Buffer) => {
      try {
        packets.parse(data)
      } catch {
        socket.destroy()
      }
    }
    socket.on('data', takes)
    socket.on('close', () => {
      clearTimeout(silent)
      session?.ends()
    })
    takes(first)
  }

  /** Finds the service that knows these credentials, and asks it. */
  private lets(packet: IConnectPacket, socket: Socket): Session | null {
    const user = packet.username ?? ''
    const password = packet.password?.toString() ?? ''
    const all = this.standIns()
    const scored = all.map((one) => ({ one, score: one.knows(packet.clientId, user, password) }))
    const best = scored.reduce((a, b) => (b.score > a.score ? b : a), {
      one: undefined as WiredStandIn | undefined,
      score: 0,
    })
    const standIn = best.one
    if (!standIn) {
      // nobody's: those that such a user could have meant say so on their page
      for (const one of all) one.turnsAway(packet.clientId, user)
      socket.write(generate({ cmd: 'connack', returnCode: 4, sessionPresent: false }))
      return null
    }
    const session = new Session(standIn, socket, packet.keepalive ?? 0)
    const entered = standIn.enters(packet.clientId, user, password, session)
    if ('why' in entered) {
      socket.write(generate({ cmd: 'connack', returnCode: entered.code, sessionPresent: false }))
      return null
    }
    session.board = entered
    session.writes({ cmd: 'connack', returnCode: 0, sessionPresent: false })
    return session
  }
}

/** One board's connection. */
class Session implements BoardLine {
  board: Board | null = null
  readonly hearing = new Set<string>()
  private silent: NodeJS.Timeout | null = null

  constructor(
    private readonly standIn: WiredStandIn,
    private readonly socket: Socket,
    private readonly keepAliveS: number,
  ) {
    this.heard()
  }

  say({ topic, payload }: { topic: string; payload: string }, retain: boolean): void {
    this.writes({ cmd: 'publish', topic, payload, qos: 0, retain, dup: false })
  }

  cut(): void {
    this.socket.destroy()
  }

  writes(packet: Packet): void {
    this.later(() => {
      if (!this.socket.destroyed) this.socket.write(generate(packet))
    })
  }

  hears(packet: Packet): void {
    this.heard()
    this.later(() => this.works(packet))
  }

  ends(): void {
    if (this.silent) clearTimeout(this.silent)
    if (this.board) this.standIn.leaves(this.board, this)
  }

  private works(packet: Packet): void {
    const { board } = this
    if (!board || this.socket.destroyed) return
    switch (packet.cmd) {
      case 'publish':
        this.standIn.says(board, packet.topic, packet.payload.toString())
        if (packet.qos === 1) this.writes({ cmd: 'puback', messageId: packet.messageId! })
        return
      case 'subscribe': {
        const granted = packet.subscriptions.map(({ topic }) => ({
          topic,
          ours: board.far.heard.includes(topic),
        }))
        // 3.8.4: the answer may come before what is heard, and here it does
        this.writes({
          cmd: 'suback',
          messageId: packet.messageId!,
          granted: granted.map(({ ours }) => (ours ? 0 : 128)),
        })
        for (const { topic } of granted) this.standIn.hears(board, topic, this)
        return
      }
      case 'pingreq':
        return this.writes({ cmd: 'pingresp' })
      case 'disconnect':
        return void this.socket.end()
      case 'unsubscribe':
        return this.writes({ cmd: 'unsuback', messageId: packet.messageId!, granted: [] })
      default:
        this.socket.destroy()
    }
  }

  /** [MQTT-3.1.2-24]: nothing for one and a half keep-alives, and the connection is ended. */
  private heard(): void {
    if (this.silent) clearTimeout(this.silent)
    if (this.keepAliveS > 0) this.silent = setTimeout(() => this.socket.destroy(), this.keepAliveS * 1500).unref()
  }

  /** A service that was made slow takes its time, in order. */
  private later(work: () => void): void {
    const { slowMs } = this.standIn.faults
    if (slowMs === 0) return work()
    setTimeout(() => {
      try {
        work()
      } catch {
        // what could not be kept is not acknowledged: it comes again with the next connection
        this.socket.destroy()
      }
    }, slowMs).unref()
  }
}
