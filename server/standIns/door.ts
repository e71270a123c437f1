import { createServer, type AddressInfo, type Server, type Socket } from 'node:net'
import { MqttDoor } from './mqttDoor'
import { RequestDoor } from './requestDoor'
import type { RequestStandIn } from './requests'
import type { WiredStandIn } from './wired'

/** A board that says nothing at all for so long is shown out (MQTT 3.1.1, 3.1.4), ms. */
const GREETING_MS = 10_000
const MOST_CONNECTIONS = 2_000
/** First byte of CONNECT (MQTT 3.1.1, 3.1.1); no method of HTTP begins with it (RFC 9110, 9.1). */
const CONNECT = 0x10

interface StandIns {
  readonly wired: () => readonly WiredStandIn[]
  readonly asked: () => readonly RequestStandIn[]
}

/**
 * Where boards come to the services that have a wire of their own: one port for all of them, on which a board is known
 * by its credentials. By its first byte it speaks MQTT or HTTP; what is said means something to the stand-ins only.
 */
export class ServiceDoor {
  private readonly server: Server
  private readonly sockets = new Set<Socket>()
  private readonly mqtt: MqttDoor
  private readonly requests: RequestDoor

  constructor({ wired, asked }: StandIns) {
    this.mqtt = new MqttDoor(wired)
    this.requests = new RequestDoor(asked)
    this.server = createServer((socket) => this.greets(socket))
    this.server.maxConnections = MOST_CONNECTIONS
  }

  /** Rejects with the system's error where the port is taken. */
  listen(address: string, port: number): Promise<void> {
    return new Promise((resolve, reject) => {
      this.server.once('error', reject)
      this.server.listen(port, address, () => {
        this.server.off('error', reject)
        this.server.on('error', () => undefined)
        resolve()
      })
    })
  }

  get port(): number {
    return (this.server.address() as AddressInfo | null)?.port ?? 0
  }

  close(): Promise<void> {
    for (const socket of this.sockets) socket.destroy()
    return new Promise((resolve) => this.server.close(() => resolve()))
  }

  private greets(socket: Socket): void {
    this.sockets.add(socket)
    socket.setNoDelay(true)
    socket.on('error', () => socket.destroy())
    socket.on('close', () => this.sockets.delete(socket))
    const silent = setTimeout(() => socket.destroy(), GREETING_MS).unref()
    socket.on('close', () => clearTimeout(silent))
    socket.once('data', (first: Buffer) => {
      clearTimeout(silent)
      if (first[0] === CONNECT) return this.mqtt.greets(socket, first)
      // the other protocol reads it from the beginning
      socket.pause()
      socket.unshift(first)
      this.requests.greets(socket)
    })
  }
}
