import mqtt, { type IClientOptions, type MqttClient } from 'mqtt'
import { connect, type Socket } from 'node:net'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { seeded } from '../../core/seeded'
import { startBroker, type RunningBroker } from './broker'
import { LIMITS } from './limits'
import { Frames, LARGEST_PACKET } from './line'

/** Clients that mean harm, or are merely broken: each hurts itself at most. The client that drives them is mqtt.js. */

const passwords = new Map([
  ['studio.corner', 'corner password'],
  ['studio.kiln', 'kiln password'],
  ['studio.@hub', 'hub password'],
  ['studio.@service', 'service password'],
  ['garden.corner', 'garden password'],
])
const troubles: unknown[] = []
const listen = (error: unknown) => void troubles.push(error)
let broker: RunningBroker
const open: (MqttClient | Socket)[] = []

beforeAll(() => {
  process.on('uncaughtException', listen)
  process.on('unhandledRejection', listen)
})
afterAll(() => {
  process.off('uncaughtException', listen)
  process.off('unhandledRejection', listen)
  expect(troubles).toEqual([])
})
beforeEach(async () => {
  broker = await startBroker({
    address: '127.0.0.1',
    port: 0,
    tls: null,
    passwordOf: (user) =>
      passwords.get(`${user.site}.${user.kind === 'controller' ? user.controller : `@${user.kind}`}`),
    trouble: listen,
    connectMs: 300,
  })
})
afterEach(async () => {
  for (const one of open.splice(0))
    if ('endAsync' in one) await one.endAsync(true)
    else one.destroy()
  await broker.close()
})

const join = (username: string, more: IClientOptions = {}): Promise<MqttClient> =>
  new Promise((resolve, reject) => {
    const client = mqtt.connect(broker.url, {
      username,
      password: passwords.get(username) ?? '',
      reconnectPeriod: 0,
      protocolVersion: 4,
      ...more,
    })
    open.push(client)
    client.once('connect', () => resolve(client))
    client.once('error', reject)
    client.once('close', () => reject(new Error('closed')))
    client.on('error', () => undefined)
  })
/** The board of before, with the session that it left; what waits for it comes at once. */
const boardAgain = (): MqttClient => {
  const client = mqtt.connect(broker.url, {
    clientId: 'board',
    clean: false,
    username: 'studio.corner',
    password: 'corner password',
    protocolVersion: 4,
  })
  open.push(client)
  return client
}
const raw = (): Promise<Socket> =>
  new Promise((resolve) => {
    const socket = connect(broker.port, '127.0.0.1', () => resolve(socket))
    socket.on('error', () => undefined)
    open.push(socket)
  })
const closed = (one: Socket | MqttClient, ms = 5_000): Promise<boolean> =>
  new Promise((resolve) => {
    one.once('close', () => resolve(true))
    if ('resume' in one) one.resume()
    setTimeout(() => resolve(false), ms)
  })
const heard = (client: MqttClient): string[] => {
  const lines: string[] = []
  client.on('message', (topic, payload) => lines.push(`${topic} ${payload.toString()}`))
  return lines
}
const soon = async (holds: () => boolean): Promise<void> => {
  for (let i = 0; i < 400 && !holds(); i++) await new Promise((resolve) => setTimeout(resolve, 10))
  expect(holds()).toBe(true)
}

describe('a client id belongs to its user', () => {
  it('another user with the same id takes over neither the session nor what waits in it', async () => {
    const first = await join('studio.corner', { clientId: 'board', clean: false })
    await first.subscribeAsync('vestibule/studio/corner/+/set', { qos: 1 })
    const other = await join('garden.corner', { clientId: 'board', clean: false })
    expect(first.connected && other.connected).toBe(true)
    const lines = heard(other)
    await first.endAsync(true)
    const hub = await join('studio.@hub')
    await hub.publishAsync('vestibule/studio/corner/lamp/set', 'on', { qos: 1 })
    await other.endAsync(true)
    const again = await join('garden.corner', { clientId: 'board', clean: false })
    const more = heard(again)
    await new Promise((resolve) => setTimeout(resolve, 100))
    expect([...lines, ...more]).toEqual([])
    // its own gets it
    const back = boardAgain()
    const own = heard(back)
    await soon(() => own.length > 0)
    expect(own).toEqual(['vestibule/studio/corner/lamp/set on'])
  })
  it('the same user with the same id takes its own over (MQTT 3.1.1, 3.1.4-2)', async () => {
    const first = await join('studio.corner', { clientId: 'board' })
    const gone = closed(first)
    await join('studio.corner', { clientId: 'board' })
    expect(await gone).toBe(true)
    await soon(() => broker.connections() === 1)
  })
})

describe('limits', () => {
  it('a packet that announces more than may be is not waited for', async () => {
    const socket = await raw()
    socket.write(Buffer.from([0x10, 0xff, 0xff, 0xff, 0x7f]))
    expect(await closed(socket, 200)).toBe(true)
    const client = await join('studio.corner')
    const gone = closed(client)
    client.publish('vestibule/studio/corner/log', Buffer.alloc(LARGEST_PACKET + 1))
    expect(await gone).toBe(true)
  })
  it('whoever does not say who it is, or a byte at a time, is sent away in time', async () => {
    const [silent, slow] = [await raw(), await raw()]
    const bytes = Buffer.from([0x10, 0x60, 0, 4, 0x4d, 0x51])
    let i = 0
    const timer = setInterval(() => slow.write(bytes.subarray(i % 6, (i++ % 6) + 1)), 50)
    expect(await Promise.all([closed(silent, 2000), closed(slow, 2000)])).toEqual([true, true])
    clearInterval(timer)
  })
  it('one address knocks so often and no more, and who is known comes in again when they are gone', async () => {
    const sockets = await Promise.all(Array.from({ length: LIMITS.knocking + 10 }, raw))
    const gone = await Promise.all(sockets.map((socket) => closed(socket, 100)))
    expect(gone.filter(Boolean)).toHaveLength(10)
    await Promise.all(sockets.map((socket) => closed(socket, 1000)))
    await join('studio.corner')
  })
  it('one user has so many connections, and so many sessions that last', async () => {
    for (let i = 0; i < LIMITS.ofUser; i++) await join('studio.corner', { clientId: `board ${i}`, clean: false })
    await expect(join('studio.corner', { clientId: 'one more' })).rejects.toMatchObject({ code: 3 })
    await join('studio.kiln')
    for (const client of open) if ('endAsync' in client) await client.endAsync(true)
    await expect(join('studio.corner', { clientId: 'another that lasts', clean: false })).rejects.toMatchObject({
      code: 3,
    })
    await join('studio.corner', { clientId: 'board 0', clean: false })
  })
  it('a client id as long as a page is refused (return code 2)', async () => {
    await expect(join('studio.corner', { clientId: 'x'.repeat(LIMITS.clientId + 1) })).rejects.toMatchObject({
      code: 2,
    })
  })
  it('so many filters, so many retained values', async () => {
    const hub = await join('studio.@hub')
    const granted = await Promise.all(
      Array.from({ length: LIMITS.filters + 5 }, (_, i) =>
        hub.subscribeAsync(`vestibule/studio/corner/lamp-${i}/state`).then(
          () => true,
          () => false,
        ),
      ),
    )
    expect(granted.filter(Boolean)).toHaveLength(LIMITS.filters)
    const board = await join('studio.corner')
    const gone = closed(board, 20_000)
    for (let i = 0; i <= LIMITS.retained; i++)
      board.publish(`vestibule/studio/corner/lamp-${i}/state`, '{}', { retain: true })
    expect(await gone).toBe(true)
    const watching = await join('studio.@hub')
    const lines = heard(watching)
    await watching.subscribeAsync('vestibule/studio/#')
    await soon(() => lines.length >= LIMITS.retained)
    expect(lines).toHaveLength(LIMITS.retained)
    // one that is taken back makes room, and one that is there may change
    const again = await join('studio.corner')
    await again.publishAsync('vestibule/studio/corner/lamp-0/state', '', { retain: true, qos: 1 })
    await again.publishAsync('vestibule/studio/corner/new/state', '{}', { retain: true, qos: 1 })
    await again.publishAsync('vestibule/studio/corner/new/state', '{"on":true}', { retain: true, qos: 1 })
    expect(again.connected).toBe(true)
  }, 30_000)
  it('a queue has an end: what waits for a board that is away does not grow for ever', async () => {
    const board = await join('studio.corner', { clientId: 'board', clean: false })
    await board.subscribeAsync('vestibule/studio/corner/+/set', { qos: 1 })
    await board.endAsync(true)
    const hub = await join('studio.@hub')
    for (let i = 0; i < LIMITS.queued + 200; i++)
      await hub.publishAsync('vestibule/studio/corner/lamp/set', `${i}`, { qos: 1 })
    const back = boardAgain()
    const lines = heard(back)
    await soon(() => lines.length >= LIMITS.queued)
    expect(lines).toHaveLength(LIMITS.queued)
    // and then there is room again
    await hub.publishAsync('vestibule/studio/corner/lamp/set', 'after', { qos: 1 })
    await soon(() => lines.length > LIMITS.queued)
  }, 30_000)
})

describe('a subscriber that never reads', () => {
  it('is cut off, and nobody waits for it: all 10,000 messages reach the other at once', async () => {
    const slow = await join('studio.@hub', { clientId: 'slow' })
    await slow.subscribeAsync('vestibule/studio/corner/log')
    const gone = new Promise<boolean>((resolve) => slow.once('close', () => resolve(true)))
    ;(slow.stream as Socket).pause()
    const reader = await join('studio.@hub', { clientId: 'reader' })
    await reader.subscribeAsync('vestibule/studio/corner/log')
    let count = 0
    reader.on('message', () => count++)
    const board = await join('studio.corner')
    const payload = Buffer.alloc(1_000, 'x')
    const began = performance.now()
    for (let i = 0; i < 10_000; i++) {
      board.publish('vestibule/studio/corner/log', payload)
      if (i % 500 === 0) await new Promise((resolve) => setTimeout(resolve, 1))
    }
    await soon(() => broker.connections() === 2)
    for (let i = 0; i < 1_000 && count < 10_000; i++) await new Promise((resolve) => setTimeout(resolve, 10))
    expect(count).toBe(10_000)
    expect(performance.now() - began).toBeLessThan(10_000)
    ;(slow.stream as Socket).resume()
    expect(await gone).toBe(true)
  }, 30_000)
  it('nor one that never acknowledges', async () => {
    const socket = await raw()
    const text = (value: string) => Buffer.concat([Buffer.from([0, value.length]), Buffer.from(value)])
    const packet = (kind: number, body: Buffer) => Buffer.concat([Buffer.from([kind, body.length]), body])
    const login = Buffer.concat([
      text('MQTT'),
      Buffer.from([4, 0xc0, 0, 0]), // not clean, user and password, no keep-alive
      ...['mute', 'studio.@hub', 'hub password'].map(text),
    ])
    socket.write(packet(0x10, login))
    const filter = Buffer.concat([Buffer.from([0, 1]), text('vestibule/studio/corner/log'), Buffer.from([1])])
    socket.write(packet(0x82, filter))
    const gone = closed(socket, 20_000)
    const board = await join('studio.corner')
    for (let i = 0; i < LIMITS.queued + 100; i++)
      await board.publishAsync('vestibule/studio/corner/log', `${i}`, { qos: 1 })
    expect(await gone).toBe(true)
    expect(board.connected).toBe(true)
  }, 30_000)
})

describe('who is let in no more is cut at once', () => {
  it('removed, or with another password; its will speaks', async () => {
    const hub = await join('studio.@hub')
    const lines = heard(hub)
    await hub.subscribeAsync('vestibule/studio/+/status')
    const will = {
      topic: 'vestibule/studio/corner/status',
      payload: Buffer.from('offline'),
      qos: 1 as const,
      retain: true,
    }
    const board = await join('studio.corner', { will })
    const kiln = await join('studio.kiln')
    const gone = Promise.all([closed(board), closed(kiln)])
    passwords.set('studio.corner', 'another')
    passwords.delete('studio.kiln')
    broker.recheck('garden')
    expect(board.connected).toBe(true)
    broker.recheck('studio')
    expect(await gone).toEqual([true, true])
    expect(hub.connected).toBe(true)
    await soon(() => lines.length === 1)
    expect(lines).toEqual(['vestibule/studio/corner/status offline'])
    expect(broker.connections()).toBe(1)
    passwords.set('studio.corner', 'corner password').set('studio.kiln', 'kiln password')
  })
  it('what it had retained is forgotten, and nothing else', async () => {
    const board = await join('studio.corner')
    const kiln = await join('studio.kiln')
    await board.publishAsync('vestibule/studio/corner/lamp/state', '{}', { retain: true, qos: 1 })
    await kiln.publishAsync('vestibule/studio/kiln/heat/state', '{}', { retain: true, qos: 1 })
    broker.forget('vestibule/studio/corner/')
    const hub = await join('studio.@hub')
    const lines = heard(hub)
    await hub.subscribeAsync('vestibule/studio/#')
    await new Promise((resolve) => setTimeout(resolve, 100))
    expect(lines).toEqual(['vestibule/studio/kiln/heat/state {}'])
  })
})

describe('what is no MQTT at all', () => {
  it('500 connections of random bytes, some of them after a right login', async () => {
    const random = seeded(11)
    const bytes = () =>
      Buffer.from(Array.from({ length: 1 + Math.floor(random() * 200) }, () => Math.floor(random() * 256)))
    for (let i = 0; i < 25; i++)
      await Promise.all(
        Array.from({ length: LIMITS.knocking }, async () => {
          const socket = await raw()
          socket.write(bytes())
          socket.end(bytes())
          await closed(socket, 2000)
        }),
      )
    for (let i = 0; i < 20; i++) {
      const client = await join('studio.corner')
      const gone = closed(client, 1000)
      ;(client.stream as Socket).write(Buffer.concat([Buffer.from([0xf0, 0x05]), bytes()]))
      await gone
    }
    await join('studio.corner')
  }, 60_000)
})

describe('the frames of a connection', () => {
  it('are followed whatever the pieces (MQTT 3.1.1, 2.2.3: examples of table 2.4)', () => {
    const packets = [0, 127, 128, 16_383, 16_384, 65_536].map((length) => {
      const head = [0x30]
      for (let rest = length; ; rest = Math.floor(rest / 128)) {
        head.push((rest % 128) | (rest >= 128 ? 0x80 : 0))
        if (rest < 128) break
      }
      return Buffer.concat([Buffer.from(head), Buffer.alloc(length, 0xff)])
    })
    const all = Buffer.concat(packets)
    for (const piece of [1, 2, 7, 1000, all.length]) {
      const frames = new Frames(LARGEST_PACKET)
      let taken = true
      for (let i = 0; i < all.length; i += piece) taken &&= frames.take(all.subarray(i, i + piece))
      expect(taken).toBe(true)
      expect(frames.take(Buffer.from([0x30, 0x81, 0x80, 0x04]))).toBe(false) // 65,537
    }
  })
  it('a length of five bytes is none', () =>
    expect(new Frames(2 ** 30).take(Buffer.from([0x30, 0x80, 0x80, 0x80, 0x80, 0x01]))).toBe(false))
})
