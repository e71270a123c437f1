import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http'
import type { Socket } from 'node:net'
import type { RequestStandIn } from './requests'

/** No value of a point is longer. */
const LONGEST_BODY = 8_192
/** A request that is not whole by then is given up, ms. */
const WHOLE_MS = 10_000

/** Boards that ask and write by requests (HTTP/1.1): each is for the service that knows its path and its key. */
export class RequestDoor {
  private readonly server: Server

  constructor(private readonly standIns: () => readonly RequestStandIn[]) {
    this.server = createServer({ requestTimeout: WHOLE_MS, keepAliveTimeout: 30_000 }, (request, response) => {
      void this.serves(request, response).catch(() => request.socket.destroy())
    })
    this.server.on('clientError', (_error, socket) => socket.destroy())
  }

  greets(socket: Socket): void {
    this.server.emit('connection', socket)
    socket.resume()
  }

  private async serves(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const body = await bodyOf(request)
    if (body === null) return void response.writeHead(413).end()
    const headers = Object.fromEntries(
      Object.entries(request.headers).map(([name, value]) => [name, Array.isArray(value) ? value[0] : value]),
    )
    const asked = { method: request.method ?? '', path: request.url ?? '', headers, body }
    const scored = this.standIns().map((one) => ({ one, score: one.knows(asked) }))
    const best = scored.reduce((a, b) => (b.score > a.score ? b : a), { one: scored[0]?.one, score: 0 })
    if (!best.one || best.score === 0) return void response.writeHead(404).end()
    const { slowMs } = best.one.faults
    if (slowMs > 0) await new Promise((resolve) => setTimeout(resolve, slowMs))
    const answer = best.one.answers(asked)
    if (!answer) return void request.socket.destroy()
    const type = answer.body.startsWith('{') ? 'application/json' : 'text/plain'
    response.writeHead(answer.status, answer.body ? { 'Content-Type': type } : {}).end(answer.body)
  }
}

/** Null: it is too long. */
async function bodyOf(request: IncomingMessage): Promise<string | null> {
  const parts: Buffer[] = []
  let length = 0
  for await (const part of request as AsyncIterable<Buffer>) {
    length += part.length
    if (length > LONGEST_BODY) return null
    parts.push(part)
  }
  return Buffer.concat(parts).toString()
}
