import { spawn, type ChildProcess, type ChildProcessWithoutNullStreams } from 'node:child_process'
import { existsSync } from 'node:fs'
import { createServer, type AddressInfo, type Socket } from 'node:net'
import { generate, parser, type Packet } from 'mqtt-packet'
import { afterEach, describe, expect, it } from 'vitest'
import { image, channel, input, deed } from '../../core/device/device.testkit'
import { choices } from '../../core/seeded'
import { buildHost } from '../host'
import { everyThird, THOROUGH } from './fuzz.testkit'
import { closeAll, mosquitto, onClose, pause, until } from './live.testkit'

// Our own client of MQTT 3.1.1 against an independent broker and its command-line clients, and against servers that are
// broken, hostile or slow: whatever they do, a press acts.

afterEach(closeAll)

const SETTLE_MS = 25
const IMAGE = image({
  inputs: [input({ settleMs: SETTLE_MS })],
  channels: [channel()],
  bindings: [{ input: 0, gesture: 'press', ...deed('toggle') }],
})

interface Running {
  readonly child: ChildProcess
  readonly lines: string[]
  level(value: 0 | 1): void
  /** ms from the finger to the relay, as this machine's clock sees it */
  press(): Promise<number>
}

async function run(port: number, sanitize = false): Promise<Running> {
  const { program } = await buildHost(IMAGE, sanitize ? { sanitize } : {})
  const child = spawn(program, ['live', '127.0.0.1', String(port)]) as ChildProcessWithoutNullStreams
  onClose(() => child.kill('SIGKILL'))
  const lines: string[] = []
  let rest = ''
  let heard: ((line: string) => void) | null = null
  child.stderr.on('data', (data: Buffer) => lines.push(`stderr ${data.toString()}`))
  child.stdout.on('data', (data: Buffer) => {
    const parts = (rest + data.toString()).split('\n')
    rest = parts.pop()!
    for (const part of parts) {
      lines.push(part)
      heard?.(part)
    }
  })
  child.stdin.on('error', () => undefined)
  const level = (value: 0 | 1) => void child.stdin.write(`{"t":0,"pin":"s1","level":${value}}\n`)
  await until(() => lines.some((line) => line.includes('"link":"joining"')), 'it starts')
  await pause(60) // the first level is learned, and fires nothing
  const press = async (): Promise<number> => {
    const began = performance.now()
    const moved = new Promise<number>((resolve) => {
      heard = (line) => line.includes('"out":"lamp"') && resolve(performance.now() - began)
    })
    level(0)
    const took = await Promise.race([moved, pause(3000).then(() => Number.NaN)])
    heard = null
    level(1)
    await pause(40)
    return took
  }
  return { child, lines, level, press }
}

/** A server of a test's own; `speak` is what it does with each caller. */
async function server(speak: (socket: Socket) => void): Promise<number> {
  const sockets = new Set<Socket>()
  const listener = createServer((socket) => {
    sockets.add(socket)
    socket.on('error', () => undefined)
    speak(socket)
  })
  await new Promise<void>((resolve) => listener.listen(0, '127.0.0.1', resolve))
  onClose(() => {
    for (const socket of sockets) socket.destroy()
    listener.close()
  })
  return (listener.address() as AddressInfo).port
}

const CONNACK = Buffer.from([0x20, 2, 0, 0])

describe.skipIf(!existsSync('/usr/bin/mosquitto_sub'))('against an independent broker and its clients', () => {
  const sub = (port: number, topic: string): string[] => {
    const child = spawn('mosquitto_sub', ['-p', String(port), '-t', topic, '-F', '%t %r %q %p'])
    onClose(() => child.kill('SIGKILL'))
    const lines: string[] = []
    child.stdout.on('data', (data: Buffer) => lines.push(...data.toString().trim().split('\n')))
    return lines
  }
  const pub = (port: number, ...words: string[]) => {
    const child = spawn('mosquitto_pub', ['-p', String(port), ...words])
    return new Promise((resolve) => child.on('exit', resolve))
  }
  it('states arrive retained, commands act, a retained one does not, and the will speaks when it is gone', async () => {
    const broker = mosquitto()
    await pause(300)
    const heard = sub(broker.port, 'vestibule/studio/corner/#')
    const board = await run(broker.port)
    await until(() => heard.some((line) => line.includes('/log') && line.includes('tables')), 'it says its tables')
    expect(heard.some((line) => line.startsWith('vestibule/studio/corner/status'))).toBe(true)
    await pub(broker.port, '-t', 'vestibule/studio/corner/lamp/set', '-m', 'on', '-q', '1')
    await until(() => board.lines.some((line) => line.includes('"out":"lamp","level":1')), 'the lamp is on')
    await until(() => heard.some((line) => line.includes('lamp/state') && line.includes('"on":true')), 'and it says so')
    // a later subscriber hears the state as retained (3.3.1.3)
    const late = sub(broker.port, 'vestibule/studio/corner/lamp/state')
    await until(() => late.some((line) => / 1 \d \{"on":true/.test(line)), 'the state is retained')
    await pub(broker.port, '-t', 'vestibule/studio/corner/lamp/set', '-m', 'off', '-r')
    await pause(300)
    board.child.kill('SIGKILL')
    await until(() => heard.some((line) => line.endsWith('offline')), 'the will speaks (3.1.2.5)')
    const again = await run(broker.port)
    await until(() => again.lines.some((line) => line.includes('retained, ignored')), 'what is retained is refused')
  }, 60_000)
  it('a broker that restarts is found again, and 500 commands in a row lose none', async () => {
    const broker = mosquitto()
    await pause(300)
    const board = await run(broker.port)
    await until(() => board.lines.some((line) => line.includes('tables')), 'it is up')
    broker.kill()
    await until(() => board.lines.some((line) => line.includes('closed by the other end')), 'it notices')
    expect(await board.press()).toBeLessThan(200)
    broker.start()
    await until(() => board.lines.filter((line) => line.includes('tables')).length === 2, 'it is back', 20_000)
    const child = spawn('mosquitto_pub', [
      ...['-p', String(broker.port), '-t', 'vestibule/studio/corner/lamp/set'],
      ...['-q', '1', '-l'],
    ])
    child.stdin.end('toggle\n'.repeat(500))
    // the state's seq counts each change: one press before, and 500 commands
    const seq = (): number => {
      const last = board.lines.filter((line) => line.includes('lamp/state')).at(-1) ?? ''
      return Number(/seq\\":(\d+)/.exec(last)?.[1])
    }
    await until(() => seq() >= 501, 'all are worked off', 20_000)
    expect(seq()).toBe(501)
  }, 60_000)
})

describe('what a client must keep (MQTT 3.1.1)', () => {
  const first = async (
    speak: (packet: Packet, socket: Socket) => void,
  ): Promise<{ packets: Packet[]; board: Running }> => {
    const packets: Packet[] = []
    const port = await server((socket) => {
      const reader = parser({ protocolVersion: 4 })
      reader.on('packet', (packet) => {
        packets.push(packet)
        speak(packet, socket)
      })
      socket.on('data', (data) => reader.parse(data))
    })
    return { packets, board: await run(port) }
  }
  const greets = (packet: Packet, socket: Socket): void => {
    if (packet.cmd === 'connect') socket.write(CONNACK)
  }
  it('3.1: greets first, once, with a clean session, its id and a retained will of QoS 1', async () => {
    const { packets } = await first(greets)
    await until(() => packets.length > 1, 'it speaks')
    expect(packets[0]).toMatchObject({
      cmd: 'connect',
      protocolId: 'MQTT',
      protocolVersion: 4,
      clean: true,
      clientId: 'studio.corner',
      keepalive: 15,
      will: { topic: 'vestibule/studio/corner/status', retain: true, qos: 1 },
    })
    expect(packets.filter(({ cmd }) => cmd === 'connect')).toHaveLength(1)
  })
  it('[MQTT-3.2.0-1], 3.2.2: says nothing more before it is let in, and goes where it is refused', async () => {
    const { packets, board } = await first((packet, socket) => {
      if (packet.cmd === 'connect') socket.write(Buffer.from([0x20, 2, 0, 5]))
    })
    await until(() => board.lines.some((line) => line.includes('refused: not authorised')), 'it says why')
    expect(packets.every(({ cmd }) => cmd === 'connect')).toBe(true)
  })
  it('4.3.2, [MQTT-4.6.0-1]: one message of QoS 1 is on its way at a time, in order, each with an id of its own', async () => {
    const ids: number[] = []
    let [open, most] = [0, 0]
    const { packets } = await first((packet, socket) => {
      greets(packet, socket)
      if (packet.cmd !== 'publish') return
      ids.push(packet.messageId!)
      most = Math.max(most, ++open)
      setTimeout(() => {
        open--
        socket.write(generate({ cmd: 'puback', messageId: packet.messageId! }))
      }, 60)
    })
    await until(() => packets.filter(({ cmd }) => cmd === 'publish').length >= 4, 'all are said')
    expect(most).toBe(1)
    expect(ids.every((id) => id > 0)).toBe(true)
    expect(new Set(ids).size).toBe(ids.length)
  })
  it('3.3.4: a message of QoS 1 is acknowledged, and one sent again acts no second time', async () => {
    const set = (dup: boolean): Buffer =>
      generate({
        cmd: 'publish',
        topic: 'vestibule/studio/corner/lamp/set',
        payload: 'toggle',
        qos: 1,
        messageId: 77,
        dup,
        retain: false,
      })
    const { packets, board } = await first((packet, socket) => {
      greets(packet, socket)
      if (packet.cmd === 'publish') socket.write(generate({ cmd: 'puback', messageId: packet.messageId! }))
      if (packet.cmd === 'subscribe' && packet.subscriptions[0]!.topic.endsWith('corner/+/set')) {
        socket.write(generate({ cmd: 'suback', messageId: packet.messageId!, granted: [1] }))
        socket.write(set(false))
        socket.write(set(true))
      }
    })
    await until(() => packets.filter((packet) => packet.cmd === 'puback').length === 2, 'both are acknowledged')
    expect(packets.filter((p) => p.cmd === 'puback').every((p) => p.messageId === 77)).toBe(true)
    await pause(100)
    expect(board.lines.filter((line) => line.includes('"out":"lamp","level":1'))).toHaveLength(1)
  })
  it('3.1.2.10, 3.12: pings before its keep-alive is over, and gives up a server that does not answer', async () => {
    const { packets, board } = await first((packet, socket) => {
      greets(packet, socket)
      if (packet.cmd === 'publish') socket.write(generate({ cmd: 'puback', messageId: packet.messageId! }))
    })
    await until(() => packets.some(({ cmd }) => cmd === 'pingreq'), 'it pings', 12_000)
    await until(() => board.lines.some((line) => line.includes('no word from the other end')), 'it gives up', 20_000)
  }, 40_000)
})

/** Servers that no client should meet. */
const HOSTILE: Record<string, (socket: Socket) => void> = {
  'says nothing': () => undefined,
  'closes at once': (socket) => void socket.destroy(),
  'lets in and then says nothing': (socket) => void socket.once('data', () => socket.write(CONNACK)),
  'gives a byte a second': (socket) => {
    const bytes = [...CONNACK, 0x30, 40, 0, 36, ...Buffer.from('vestibule/studio/corner/lamp/set'.padEnd(36, 'x'))]
    const timer = setInterval(() => {
      if (bytes.length > 0) socket.write(Buffer.from([bytes.shift()!]))
    }, 1000)
    socket.on('close', () => clearInterval(timer))
  },
  'sends a packet of 200 megabytes': (socket) => {
    socket.once('data', () => {
      socket.write(CONNACK)
      socket.write(Buffer.from([0x30, 0xff, 0xff, 0xff, 0x5f]))
      const timer = setInterval(() => socket.write(Buffer.alloc(60_000, 0x41)), 5)
      socket.on('close', () => clearInterval(timer))
    })
  },
  'floods with messages': (socket) => {
    socket.once('data', () => {
      socket.write(CONNACK)
      const message = generate({
        cmd: 'publish',
        topic: 'a/b',
        payload: 'x'.repeat(50),
        qos: 0,
        retain: false,
        dup: false,
      })
      const many = Buffer.concat(Array.from({ length: 200 }, () => message))
      const timer = setInterval(() => socket.write(many), 2)
      socket.on('close', () => clearInterval(timer))
    })
  },
  'half closes': (socket) => void socket.once('data', () => (socket.write(CONNACK), socket.end())),
  'answers with another protocol': (socket) => void socket.write('HTTP/1.1 400 Bad Request\r\n\r\n'),
  'never acknowledges and refuses to read': (socket) => {
    socket.once('data', () => {
      socket.write(CONNACK)
      socket.pause()
    })
  },
}

const CONNECTIONS = THOROUGH ? 400 : 50

describe('a press acts, whatever the server does', () => {
  it.each(everyThird(Object.keys(HOSTILE)))(
    '%s',
    async (name) => {
      const port = await server(HOSTILE[name]!)
      const board = await run(port)
      const took: number[] = []
      for (let i = 0; i < 12; i++) took.push(await board.press())
      took.sort((a, b) => a - b)
      console.log(
        `${name}: press to output ${took[6]!.toFixed(1)} ms in the middle, ${took.at(-1)!.toFixed(1)} at most`,
      )
      // settle + 1 ms on a quiet machine (docs/benchmarks.md); one press of all may meet a busy one
      expect(took[6]!).toBeLessThan(SETTLE_MS + 15)
      expect(took.at(-2)!).toBeLessThan(SETTLE_MS + 150)
    },
    30_000,
  )

  it(`random bytes for an answer, ${CONNECTIONS} connections: it neither stops nor missteps`, async () => {
    const random = choices(99)
    let callers = 0
    const port = await server((socket) => {
      callers++
      const begins = random.chance(0.7) ? [...CONNACK] : []
      const kinds = [0x30, 0x32, 0x34, 0x36, 0x40, 0x90, 0xd0, 0x20, 0x10, 0x00, 0xf0]
      const bytes = Array.from({ length: random.whole(0, 80) }, () => random.whole(0, 255))
      const packet = random.chance(0.7)
        ? [random.pick(kinds), random.chance(0.8) ? bytes.length : random.whole(0, 255)]
        : []
      socket.once('data', () => socket.end(Buffer.from([...begins, ...packet, ...bytes])))
    })
    // each is powered off and on again as fast as it fails
    const boards = await Promise.all(Array.from({ length: 4 }, () => run(port, true)))
    for (let round = 0; callers < CONNECTIONS && round < 4000; round++) {
      for (const { child } of boards) child.stdin!.write('{"t":0,"power":"off"}\n{"t":1,"power":"on"}\n')
      await pause(8)
    }
    for (const { child, lines } of boards) {
      expect(child.exitCode).toBeNull()
      expect(lines.filter((line) => line.startsWith('stderr'))).toEqual([])
    }
    console.log(`${callers} connections answered with random bytes, under the sanitizers`)
    expect(callers).toBeGreaterThanOrEqual(CONNECTIONS)
  }, 120_000)
})
