import { EventEmitter } from 'node:events'
import type { Server } from 'node:http'
import { WebSocketServer } from 'ws'
import { LIVE_PATH, type LiveMessage } from '../core/api'

export class Live {
  private readonly emitter = new EventEmitter().setMaxListeners(0)

  tell(message: LiveMessage): void {
    this.emitter.emit('message', message)
  }

  listen(listener: (message: LiveMessage) => void): () => void {
    this.emitter.on('message', listener)
    return () => this.emitter.off('message', listener)
  }
}

/** Live updates at /api/live?site=ID. The same Host and Origin checks as for requests apply before the upgrade. */
export function attachLive(
  server: Server,
  live: Live,
  allowed: (headers: { host?: string; origin?: string; authorization?: string }) => boolean,
): WebSocketServer {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: 1024 })
  server.on('upgrade', (request, socket, head) => {
    const url = new URL(request.url ?? '/', 'http://localhost')
    const site = url.searchParams.get('site')
    if (url.pathname !== LIVE_PATH || !site || !allowed(request.headers)) {
      socket.end('HTTP/1.1 403 Forbidden\r\nConnection: close\r\n\r\n')
      return
    }
    sockets.handleUpgrade(request, socket, head, (client) => {
      const stop = live.listen((message) => message.site === site && client.send(JSON.stringify(message)))
      client.on('close', stop)
      client.on('error', stop)
    })
  })
  return sockets
}
