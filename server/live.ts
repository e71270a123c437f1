import { EventEmitter } from 'node:events'
import type { Server } from 'node:http'
import { WebSocketServer } from 'ws'
import { LIVE_PATH, type LiveMessage } from '../core/api'
import type { Guard } from './guard'

export class Live {
  private readonly emitter = new EventEmitter().setMaxListeners(0)

  /** A listener that fails is its own business: what was kept stays kept, and the others hear of it. */
  tell(message: LiveMessage): void {
    for (const listener of this.emitter.listeners('message')) {
      try {
        listener(message)
      } catch {
        this.emitter.off('message', listener as (message: LiveMessage) => void)
      }
    }
  }

  listen(listener: (message: LiveMessage) => void): () => void {
    this.emitter.on('message', listener)
    return () => this.emitter.off('message', listener)
  }
}

/** The site that a request for live updates names; null: it is no such request, or no address at all ("//"). */
function siteAsked(address: string | undefined): string | null {
  const base = 'http://localhost'
  if (address === undefined || !URL.canParse(address, base)) return null
  const { pathname, searchParams } = new URL(address, base)
  return pathname === LIVE_PATH ? searchParams.get('site') : null
}

/** Live updates at /api/live?site=ID. The same Host and Origin checks as for requests apply before the upgrade. */
export function attachLive(server: Server, live: Live, allowed: Guard['allows']): WebSocketServer {
  const sockets = new WebSocketServer({ noServer: true, maxPayload: 1024 })
  server.on('upgrade', (request, socket, head) => {
    // a connection that is reset before it has been taken over speaks to nobody else
    socket.on('error', () => socket.destroy())
    const site = siteAsked(request.url)
    if (!site || !allowed(request.headers, request.socket.remoteAddress)) {
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
