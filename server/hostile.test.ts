import Sqlite from 'better-sqlite3'
import mqtt from 'mqtt'
import { connect } from 'node:net'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { overTheHouse, testServer, type TestServer } from './server.testkit'

/** What anybody can send must stop nobody: after each attack the same process answers, and what was kept is there. */

let server: TestServer
const troubles: unknown[] = []
const listen = (error: unknown) => void troubles.push(error)
beforeAll(async () => {
  process.on('uncaughtException', listen)
  process.on('unhandledRejection', listen)
  server = await testServer()
})
afterAll(async () => {
  await server.close()
  process.off('uncaughtException', listen)
  process.off('unhandledRejection', listen)
  expect(troubles).toEqual([])
})

const port = (): number => Number(new URL(server.url).port)
const alive = async (): Promise<void> => expect((await server.ask('GET', '/api/health')).status).toBe(200)

/** Sends raw bytes and gives what comes back until the other end closes, or for a moment. */
const raw = (text: string, reset = false): Promise<string> =>
  new Promise((resolve) => {
    let heard = ''
    const socket = connect(port(), '127.0.0.1', () => {
      socket.write(text)
      if (reset) setTimeout(() => socket.resetAndDestroy(), 5)
    })
    socket.on('data', (data) => (heard += data.toString()))
    socket.on('error', () => undefined)
    socket.on('close', () => resolve(heard))
    setTimeout(() => socket.destroy(), 500)
  })
const upgrade = (path: string, more = ''): string =>
  `GET ${path} HTTP/1.1\r\nHost: 127.0.0.1:${port()}\r\nConnection: Upgrade\r\nUpgrade: websocket\r\n` +
  `Sec-WebSocket-Version: 13\r\nSec-WebSocket-Key: dGhlIHNhbXBsZSBub25jZQ==\r\n${more}\r\n`

describe('requests to take a connection over', () => {
  it.each(['//', '///', '/\\', '//:::', 'http://', '*', '/api/live', '/api/live?site=', '/api/elsewhere?site=a'])(
    'to %s: refused',
    async (path) => {
      expect(await raw(upgrade(path))).toMatch(/^HTTP\/1.1 40[03]/)
      await alive()
    },
  )
  it('from a foreign page: refused', async () => {
    expect(await raw(upgrade('//', 'Origin: http://elsewhere.example\r\n'))).toMatch(/^HTTP\/1.1 403/)
    await alive()
  })
  it('reset in the middle, fifty times', async () => {
    await Promise.all(
      Array.from({ length: 50 }, (_, i) => raw(upgrade(i % 2 ? '/api/live?site=fernhollow' : '//'), true)),
    )
    await alive()
  })
})

describe('patches', () => {
  const tag = async () => ({ 'If-Match': `"${(await server.ask('GET', '/api/sites/studio-corner')).json.revision}"` })
  const send = async (patch: unknown[]) =>
    server.ask('PATCH', '/api/sites/studio-corner', { label: 'attack', patch }, await tag())
  const before = async () => (await server.ask('GET', '/api/sites/studio-corner')).text

  it('23 copies that double what they copy: refused, in a moment, with nothing changed', async () => {
    const document = await before()
    const began = performance.now()
    const answer = await send(
      Array.from({ length: 23 }, (_, i) => ({ op: 'copy', from: '/channels', path: `/channels/0/x${i}` })),
    )
    expect(answer.status).toBe(422)
    expect(answer.json.error.message).toMatch(/copies more than 4 MB/)
    expect(performance.now() - began).toBeLessThan(8_000)
    expect(await before()).toBe(document)
  })
  it.each([
    [{ op: 'replace', path: '/channels/-1', value: {} }, /"-1" is no place in a list/],
    [{ op: 'replace', path: '/channels/01', value: {} }, /"01" is no place in a list/],
    [{ op: 'replace', path: '/channels/1e0', value: {} }, /"1e0" is no place in a list/],
    [{ op: 'remove', path: '/channels/-' }, /"-" is no place in a list/],
    [{ op: 'add', path: '/channels/999', value: {} }, /the list ends before 999/],
    [{ op: 'move', from: '/channels/-1', path: '/channels/0' }, /"-1" is no place in a list/],
    [{ op: 'replace', path: '', value: {} }, /not edited in one piece/],
    [{ op: 'remove', path: '' }, /not edited in one piece/],
    [{ op: 'add', path: 'channels/0', value: {} }, /a path begins with "\/"/],
    [{ op: 'add', path: '/__proto__/x', value: 1 }, /"__proto__" is no field/],
    [{ op: 'replace', path: '/channels/0/nobody/knows', value: 1 }, /operation 1/],
    [{ op: 'test', path: '/channels/0/name', value: 'nobody' }, /operation 1/],
  ])('%j: refused in one line', async (operation, why) => {
    const document = await before()
    const answer = await send([operation])
    expect(answer.status).toBe(422)
    expect(answer.json.error.message).toMatch(why)
    expect(await before()).toBe(document)
  })
  it.each(['""', '"x"', '" 1"', 'W/"1"', '"1e0"', '"0x0"'])('If-Match %s is no revision', async (header) => {
    const body = { label: 'attack', patch: [{ op: 'test', path: '/id', value: 'studio-corner' }] }
    expect((await server.ask('PATCH', '/api/sites/studio-corner', body, { 'If-Match': header })).status).toBe(428)
  })
})

describe('bodies', () => {
  it.each([
    ['brackets', '['.repeat(2_400_000) + ']'.repeat(2_400_000)],
    ['brackets that never close', '['.repeat(4_900_000)],
    ['braces', '{"a":'.repeat(700_000) + '1' + '}'.repeat(700_000)],
    [
      'a patch of brackets',
      `{"label":"x","patch":[{"op":"add","path":"/rooms/0","value":${'['.repeat(9000)}${']'.repeat(9000)}}]}`,
    ],
  ])('of %s are refused before they are read, and hold up nobody', async (_, body) => {
    const began = performance.now()
    const answer = await server.ask('PATCH', '/api/sites/studio-corner', body, { 'If-Match': '"0"' })
    expect([answer.status, answer.json.error.message]).toEqual([400, 'the body is nested deeper than any document'])
    // read whole they held it up for many seconds
    expect(performance.now() - began).toBeLessThan(4_000)
    await alive()
  })
  it('with brackets in their words are read', async () => {
    const site = {
      ...(await server.ask('GET', '/api/sites/studio-corner')).json.site,
      id: 'brackets',
      name: '['.repeat(60),
    }
    expect((await server.ask('POST', '/api/sites', { site })).status).toBe(201)
  })
})

const until = async (holds: () => Promise<boolean>): Promise<void> => {
  for (let i = 0; i < 200; i++) {
    if (await holds()) return
    await new Promise((resolve) => setTimeout(resolve, 50))
  }
  throw new Error('never came true')
}

describe('a store that cannot write', () => {
  it('locked while an edit and a value arrive: said in one line, not acknowledged, and the process goes on', async () => {
    const other = new Sqlite(join(server.data, 'vestibule.sqlite'))
    const { revision } = (await server.ask('GET', '/api/sites/studio-corner')).json
    const patch = [{ op: 'replace', path: '/name', value: 'Studio corner, once more' }]
    const edit = () =>
      server.ask('PATCH', '/api/sites/studio-corner', { label: 'name', patch }, { 'If-Match': `"${revision}"` })
    other.exec('BEGIN EXCLUSIVE')
    try {
      const answer = await edit()
      expect(answer.status).toBe(503)
      expect(answer.json.error.message).toMatch(/^not saved: another program holds the store/)
    } finally {
      other.exec('ROLLBACK')
      other.close()
    }
    await alive()
    await until(async () => (await edit()).status === 200)
  }, 60_000)
})

describe('a value that arrives over MQTT while the store cannot write', () => {
  it('is not taken, stops nothing, and is kept when the store can', async () => {
    await overTheHouse(server, 'studio-corner')
    const { broker } = (await server.ask('GET', '/api/health')).json
    const secrets = (await server.ask('POST', '/api/sites/studio-corner/controllers/corner/secrets')).text
    const client = await mqtt.connectAsync(broker, {
      username: 'studio-corner.corner',
      password: /BROKER_PASSWORD "([^"]+)"/.exec(secrets)![1]!,
      protocolVersion: 4,
    })
    const value = async () => (await server.ask('GET', '/api/sites/studio-corner/stand-ins/app')).json.values
    const { services } = (await server.ask('GET', '/api/sites/studio-corner')).json.site
    const point = services[0].points[0]
    const before = (await value())[point.id]
    const next = before === point.max ? point.min : point.max
    const topic = `vestibule/studio-corner/corner/vp/${point.vp}/state`
    const other = new Sqlite(join(server.data, 'vestibule.sqlite'))
    other.exec('BEGIN EXCLUSIVE')
    try {
      await client.publishAsync(topic, String(next), { qos: 1, retain: true })
      await new Promise((resolve) => setTimeout(resolve, 1500))
      expect((await value())[point.id]).toBe(before)
      await alive()
    } finally {
      other.exec('ROLLBACK')
      other.close()
    }
    // what was not acknowledged comes again by itself
    await until(async () => (await value())[point.id] === next)
    await client.endAsync(true)
    expect(new Sqlite(join(server.data, 'vestibule.sqlite')).prepare('SELECT * FROM held_values').all()).toEqual(
      expect.arrayContaining([expect.objectContaining({ value: next })]),
    )
  }, 60_000)
})

describe('strangers at the broker', () => {
  it('are turned away without a word of why, and the broker stays', async () => {
    const { broker } = (await server.ask('GET', '/api/health')).json
    for (const [username, password] of [
      ['nobody', 'x'],
      ['studio-corner.corner', ''],
      ['', ''],
    ] as const) {
      const client = mqtt.connect(broker, { username, password, reconnectPeriod: 0, protocolVersion: 4 })
      const error = await new Promise<Error>((resolve) => client.on('error', resolve))
      expect(error.message).toMatch(/[Nn]ot authorized/)
      await client.endAsync(true)
    }
    await alive()
  })
})
