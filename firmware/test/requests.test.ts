import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'
import { createServer as createHttp, type IncomingMessage, type ServerResponse } from 'node:http'
import { connect, createServer, type AddressInfo, type Socket } from 'node:net'
import { afterEach, describe, expect, it } from 'vitest'
import { channel, deed, image, input } from '../../core/device/device.testkit'
import { topicPrefix } from '../../core/topics'
import type { ControllerWires, HearRow, HookLink, HttpLink } from '../../core/wires'
import { choices } from '../../core/seeded'
import { buildHost } from '../host'
import { everyThird, THOROUGH } from './fuzz.testkit'
import { closeAll, onClose, pause, until } from './live.testkit'

// Requests (RFC 9110, RFC 9112) and calls by the firmware itself, against Node's own server and client of HTTP and
// against servers that are broken or slow.

afterEach(closeAll)

const SETTLE_MS = 25
const IMAGE = image({
  inputs: [input({ settleMs: SETTLE_MS }), input({ id: 's2', gpios: [28] })],
  channels: [
    channel(),
    channel({
      id: 'strike',
      topic: 'strike',
      kind: 'pulsed',
      gpios: [25],
      maxOnMs: 200,
      minOffMs: 100,
      activeLow: false,
    }),
  ],
  bindings: [
    { input: 0, gesture: 'press', ...deed('toggle') },
    { input: 1, gesture: 'press', ...deed('pulse', 1) },
  ],
  links: [{ id: 'store', outage: 'service', own: false, logs: false }],
  points: [
    { vp: 1, carries: 'channel', index: 0, min: 0, max: 1, reports: true },
    { vp: 2, carries: 'channel', index: 1, min: 0, max: 1, reports: true },
  ],
})
const hear = (vp: number, more: Partial<HearRow> = {}): HearRow => ({
  from: [`/rooms/${vp}`],
  pointer: null,
  to: `vp/${vp}`,
  coding: { form: 'number' },
  min: 0,
  max: 1,
  meaning: 'held',
  lasting: vp === 1,
  ...more,
})
const wiresOf = (link: HttpLink | HookLink): ControllerWires => ({
  site: IMAGE.site,
  controller: IMAGE.controller,
  prefix: topicPrefix(IMAGE.site, IMAGE.controller),
  links: [link],
})
const httpWires = (port: number, more: Partial<HttpLink> = {}): ControllerWires =>
  wiresOf({
    transport: 'http',
    id: 'store',
    place: { address: ['127.0.0.1'], port, portSecret: null, tls: false },
    headers: [['Authorization: Bearer key-0123']],
    method: 'PUT',
    says: [1, 2].map((vp) => ({
      from: `vp/${vp}/state`,
      to: [`/rooms/${vp}`],
      before: [],
      coding: { form: 'number' },
      after: [],
      qos: 0,
      retain: false,
      everyMs: 0,
    })),
    hears: [hear(1), hear(2)],
    read: { all: false, everyMs: 500 },
    ...more,
  })

interface Running {
  readonly lines: string[]
  level(pin: string, value: 0 | 1): void
  press(): Promise<number>
  outs(id: string): number
}

async function run(wires: ControllerWires, sanitize = false): Promise<Running> {
  const { program } = await buildHost(IMAGE, { wires, ...(sanitize ? { sanitize } : {}) })
  const child = spawn(program, ['live']) as ChildProcessWithoutNullStreams
  onClose(() => child.kill('SIGKILL'))
  const lines: string[] = []
  let rest = ''
  child.stdin.on('error', () => undefined)
  child.stderr.on('data', (data: Buffer) => lines.push(`stderr ${data.toString()}`))
  child.stdout.on('data', (data: Buffer) => {
    const parts = (rest + data.toString()).split('\n')
    rest = parts.pop()!
    lines.push(...parts)
  })
  const level = (pin: string, value: 0 | 1) => void child.stdin.write(`{"t":0,"pin":"${pin}","level":${value}}\n`)
  await pause(120)
  const outs = (id: string) => lines.filter((line) => line.includes(`"out":"${id}","level":1`)).length
  const moves = () => lines.filter((line) => line.includes('"out":"lamp"')).length
  const press = async () => {
    const before = moves()
    const began = performance.now()
    level('s1', 0)
    for (; moves() === before && performance.now() - began < 3000;) await new Promise(setImmediate)
    const took = performance.now() - began
    level('s1', 1)
    await pause(40)
    return took
  }
  return { lines, level, press, outs }
}

const listening = async (server: ReturnType<typeof createServer>): Promise<number> => {
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  return (server.address() as AddressInfo).port
}

/** A store on Node's own server: what it holds, and what it was asked. */
async function store(answer?: (request: IncomingMessage, response: ServerResponse) => boolean) {
  const values: Record<string, string> = { '/rooms/1': '0', '/rooms/2': '0' }
  const asked: string[] = []
  const connections = new Set<Socket>()
  const server = createHttp((request, response) => {
    let body = ''
    request.on('data', (data: Buffer) => (body += data.toString()))
    request.on('end', () => {
      asked.push(`${request.method} ${request.url} ${body} ${request.headers.authorization ?? ''}`.trim())
      if (answer?.(request, response)) return
      if (request.method === 'PUT') values[request.url!] = body
      response.end(request.method === 'PUT' ? '' : values[request.url!])
    })
  })
  server.on('connection', (socket) => connections.add(socket))
  const port = await listening(server)
  onClose(() => {
    server.closeAllConnections()
    server.close()
  })
  return { values, asked, connections, port, server }
}

describe('a store that is asked', () => {
  it('is written when something changes, read again and again over one connection, and what changes there acts', async () => {
    const { values, asked, connections, port } = await store()
    const board = await run(httpWires(port))
    await until(() => asked.some((line) => line.startsWith('PUT /rooms/1 0')), 'the full state is written')
    expect(asked[0]).toBe('GET /rooms/1  Bearer key-0123')
    await board.press()
    await until(() => values['/rooms/1'] === '1', 'a press is written')
    values['/rooms/1'] = '0'
    const before = board.lines.length
    await until(() => board.lines.slice(before).some((line) => line.includes('"out":"lamp","level":0')), 'it is read')
    await pause(600)
    // keep-alive (RFC 9112, 9.3): all this over one connection
    expect(connections.size).toBe(1)
  }, 30_000)
  it('never pulses a strike by what it holds, says again or changes to', async () => {
    const { values, port, asked } = await store()
    values['/rooms/2'] = '1'
    const board = await run(httpWires(port))
    await until(() => asked.length > 4, 'it reads')
    for (const value of ['0', '1', '0', '1']) {
      values['/rooms/2'] = value
      await pause(600)
    }
    expect(board.outs('strike')).toBe(0)
    board.level('s2', 0)
    await until(() => board.outs('strike') === 1, 'a finger does')
  }, 30_000)
  it('answers in chunks, with trailers, and with a document of many points (RFC 9112, 7.1; RFC 6901)', async () => {
    const { port } = await store((request, response) => {
      if (request.method !== 'GET') return false
      response.setHeader('Trailer', 'X-Sum')
      for (const part of ['{"rooms":{"a~b":', '[', '1,', '{"x/y":1}', ']}', '}']) response.write(part)
      response.addTrailers({ 'X-Sum': '1' })
      response.end()
      return true
    })
    const pointer = '/rooms/a~0b/1/x~1y'
    const hears = [hear(1, { from: ['/all'], pointer })]
    const board = await run(httpWires(port, { hears, read: { all: true, everyMs: 500 } }))
    await until(
      () => board.lines.some((line) => line.includes('"status","payload":"online"') || line.includes('status')),
      'up',
    )
    // the first time that the link comes up there was no outage: the service's value does not act
    expect(board.outs('lamp')).toBe(0)
    expect(board.lines.some((line) => line.includes('note'))).toBe(false)
  }, 30_000)
  it.each([
    [301, /answered 301/],
    [401, /refused \(401\)/],
    [404, /answered 404/],
    [500, /answered 500/],
  ])(
    'that answers %i is no store, and nothing is fetched from elsewhere',
    async (status, note) => {
      const { port, asked } = await store((_, response) => {
        response.writeHead(status, { Location: '/elsewhere' })
        response.end('no')
        return true
      })
      const board = await run(httpWires(port))
      await until(() => board.lines.some((line) => note.test(line)), 'it says so')
      expect(asked.every((line) => line.startsWith('GET /rooms/1'))).toBe(true)
      expect(await board.press()).toBeLessThan(SETTLE_MS + 150)
    },
    30_000,
  )
  it('that has too many requests (RFC 6585, 4) is given time, and nothing is lost', async () => {
    let busy = true
    const { port, values } = await store((request, response) => {
      if (request.method !== 'PUT' || !busy) return false
      response.writeHead(429)
      response.end()
      return true
    })
    const board = await run(httpWires(port))
    await until(() => board.lines.some((line) => line.includes('too many requests')), 'it waits')
    await board.press()
    busy = false
    await until(() => values['/rooms/1'] === '1', 'the last value is written', 9000)
  }, 30_000)
  it('that gives a reading that is no number changes nothing', async () => {
    const { port, values } = await store()
    const board = await run(httpWires(port))
    await pause(700)
    for (const value of ['warm', '', '1e9', '-', '1.5', '9'.repeat(400)]) {
      values['/rooms/1'] = value
      await pause(600)
    }
    expect(board.outs('lamp')).toBe(0)
  }, 30_000)
})

const BROKEN: Record<string, (socket: Socket) => void> = {
  'says nothing': () => undefined,
  'closes at once': (socket) => void socket.destroy(),
  'gives a byte a second': (socket) => {
    const text = 'HTTP/1.1 200 OK\r\nContent-Length: 1\r\n\r\n1'.split('')
    const timer = setInterval(() => text.length && socket.write(text.shift()!), 1000)
    socket.on('close', () => clearInterval(timer))
  },
  'sends a head without end': (socket) => {
    socket.write('HTTP/1.1 200 OK\r\n')
    const timer = setInterval(() => socket.write(`X-${'a'.repeat(5000)}: 1\r\n`), 3)
    socket.on('close', () => clearInterval(timer))
  },
  'sends a body without end': (socket) => {
    socket.write('HTTP/1.1 200 OK\r\n\r\n')
    const timer = setInterval(() => socket.write('1'.repeat(50_000)), 3)
    socket.on('close', () => clearInterval(timer))
  },
  'names a length that never comes': (socket) =>
    void socket.write('HTTP/1.1 200 OK\r\nContent-Length: 99999999\r\n\r\n1'),
  'speaks another protocol': (socket) => void socket.write(Buffer.from([0x20, 2, 0, 0, 10, 10, 10])),
}

const ANSWERS = THOROUGH ? 300 : 15

describe('a press acts, whatever the store does', () => {
  it.each(everyThird(Object.keys(BROKEN)))(
    '%s',
    async (name) => {
      const sockets = new Set<Socket>()
      const server = createServer((socket) => {
        sockets.add(socket)
        socket.on('error', () => undefined)
        BROKEN[name]!(socket)
      })
      const port = await listening(server)
      onClose(() => {
        for (const socket of sockets) socket.destroy()
        server.close()
      })
      const board = await run(httpWires(port))
      const took: number[] = []
      for (let i = 0; i < 10; i++) took.push(await board.press())
      took.sort((a, b) => a - b)
      console.log(
        `${name}: press to output ${took[5]!.toFixed(1)} ms in the middle, ${took.at(-1)!.toFixed(1)} at most`,
      )
      expect(took[5]!).toBeLessThan(SETTLE_MS + 15)
      expect(took.at(-2)!).toBeLessThan(SETTLE_MS + 150)
    },
    30_000,
  )
  it(`random answers, ${ANSWERS} of them, under the sanitizers`, async () => {
    const random = choices(7)
    let answers = 0
    const server = createServer((socket) => {
      socket.on('error', () => undefined)
      socket.once('data', () => {
        answers++
        const head = random.pick(['HTTP/1.1 200 OK\r\n', 'HTTP/1.1 204 \r\n', 'HTTP/1.0 200\r\n', 'HTTP/9', ''])
        const lines = Array.from({ length: random.whole(0, 3) }, () =>
          random.pick([
            'Transfer-Encoding: chunked\r\n',
            `Content-Length: ${random.pick(['0', '1', '5', 'x', '99999999999'])}\r\n`,
            'Connection: close\r\n',
            `${String.fromCharCode(random.whole(1, 255))}\r\n`,
          ]),
        )
        const body = random.pick(['1', '1\r\n1\r\n0\r\n\r\n', 'ffffffff\r\n', 'zz\r\n', '-1\r\n', '0'])
        socket.end(Buffer.from(`${head}${lines.join('')}\r\n${body}`, 'latin1'))
      })
    })
    const port = await listening(server)
    onClose(() => server.close())
    const { program } = await buildHost(IMAGE, { wires: httpWires(port), sanitize: true })
    const child = spawn(program, ['live']) as ChildProcessWithoutNullStreams
    onClose(() => child.kill('SIGKILL'))
    let trouble = ''
    child.stderr.on('data', (data: Buffer) => (trouble += data.toString()))
    child.stdout.resume()
    for (let round = 0; answers < ANSWERS && round < 3000; round++) {
      child.stdin.write('{"t":0,"power":"off"}\n{"t":1,"power":"on"}\n')
      await pause(10)
    }
    expect(trouble).toBe('')
    expect(child.exitCode).toBeNull()
    expect(answers).toBeGreaterThanOrEqual(ANSWERS)
  }, 90_000)
})

describe('a controller that is called', () => {
  const hook = async (keyInPath: boolean) => {
    // a port that is free now
    const probe = createServer()
    const port = await listening(probe)
    await new Promise((resolve) => probe.close(resolve))
    const board = await run(
      wiresOf({
        transport: 'hook',
        id: 'store',
        port,
        key: ['open-sesame'],
        keyInPath,
        hears: [1, 2].map((vp) => hear(vp, { from: [`/set/${vp}/`], meaning: 'wish' })),
        call: null,
        says: [],
      }),
    )
    const call = async (method: string, path: string, headers: Record<string, string> = {}): Promise<number> =>
      (await fetch(`http://127.0.0.1:${port}${path}`, { method, headers: { Connection: 'close', ...headers } })).status
    return { board, call, port }
  }
  it('does what a call with the key says, by GET for what lasts, by POST and once for what pulses', async () => {
    const { board, call } = await hook(true)
    expect(await call('GET', '/open-sesame/set/1/1')).toBe(200)
    await until(() => board.outs('lamp') === 1, 'the lamp comes on')
    // fetched ahead by a page, or without a mark: no door opens (RFC 9110, 9.2.1; RFC 6585, 3)
    expect(await call('GET', '/open-sesame/set/2/1')).toBe(405)
    expect(await call('POST', '/open-sesame/set/2/1')).toBe(428)
    expect(await call('POST', '/open-sesame/set/2/1', { 'Idempotency-Key': 'a' })).toBe(200)
    await until(() => board.outs('strike') === 1, 'the strike pulses')
    await pause(500)
    // sent again because its answer was lost
    expect(await call('POST', '/open-sesame/set/2/1', { 'Idempotency-Key': 'a' })).toBe(200)
    await pause(300)
    expect(board.outs('strike')).toBe(1)
    expect(await call('POST', '/open-sesame/set/1/7')).toBe(400)
    expect(await call('POST', '/open-sesame/set/9/1')).toBe(404)
    expect(await call('DELETE', '/open-sesame/set/1/1')).toBe(405)
  }, 30_000)
  it('refuses a wrong key, counts it, and slows whoever guesses: the right key too, until the time is over', async () => {
    const { board, call } = await hook(false)
    expect(await call('GET', '/set/1/1', { 'X-Key': 'open-sesam' })).toBe(403)
    expect(await call('GET', '/set/1/1', { 'X-Key': 'open-sesame' })).toBe(429)
    await pause(1100)
    expect(await call('GET', '/set/1/1', { 'X-Key': 'wrong' })).toBe(403)
    await pause(1100)
    // the second wrong one closes for two seconds
    expect(await call('GET', '/set/1/1', { 'X-Key': 'open-sesame' })).toBe(429)
    await pause(1100)
    expect(await call('GET', '/set/1/1', { 'X-Key': 'open-sesame' })).toBe(200)
    expect(board.lines.filter((line) => line.includes('a call with a wrong key'))).toHaveLength(2)
  }, 30_000)
  it('is held up by no caller that is slow, huge or speaks something else', async () => {
    const { board, port, call } = await hook(true)
    const sockets = [
      'POST /open-sesame/set/1/1 HTTP/1.1\r\nContent-Length: 99999\r\n\r\n',
      `GET /${'x'.repeat(5000)} HTTP/1.1\r\n\r\n`,
      'GET /open-sesame/set/1/1',
      '\x00\x01\x02\r\n\r\n',
    ].map((text) => {
      const socket = connect(port, '127.0.0.1')
      socket.on('error', () => undefined)
      socket.write(text)
      onClose(() => socket.destroy())
      return socket
    })
    const took: number[] = []
    for (let i = 0; i < 10; i++) took.push(await board.press())
    expect(took.sort((a, b) => a - b)[5]!).toBeLessThan(SETTLE_MS + 15)
    expect(sockets).toHaveLength(4)
    const lit = board.outs('lamp')
    expect(await call('GET', '/open-sesame/set/1/1')).toBe(200)
    await until(() => board.outs('lamp') >= lit, 'and the next is heard')
  }, 60_000)
})
