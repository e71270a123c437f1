import mqtt from 'mqtt'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { LogEntry } from '../core/api'
import { testServer, until, type TestServer } from './server.testkit'

// A board that leaves is locked out: its password opens nothing any more, what it said is no longer so, and the next
// one has to be let in.

let server: TestServer
beforeAll(async () => {
  server = await testServer()
})
afterAll(() => server.close())

const PATH = '/api/sites/studio-corner'
const password = async (): Promise<string> =>
  /BROKER_PASSWORD "([^"]+)"/.exec((await server.ask('POST', `${PATH}/controllers/corner/secrets`)).text)![1]!
const connect = (secret: string) =>
  mqtt.connectAsync(server.brokerUrl, { username: 'studio-corner.corner', password: secret, reconnectPeriod: 0 })
const board = async () =>
  (
    (await server.ask('GET', `${PATH}/boards`)).json as {
      boards: { controller: string; state: string; joined: boolean; refused: { why: string } | null }[]
    }
  ).boards[0]!

describe('a board in another’s place', () => {
  it('gets in with the new password alone, and only while its door is open', async () => {
    const old = await password()
    const client = await connect(old)
    await client.publishAsync('vestibule/studio-corner/corner/status', 'online', { retain: true, qos: 1 })
    await until(async () => (await board()).state === 'online')
    expect(await board()).toMatchObject({ joined: true })

    const cut = new Promise<void>((resolve) => client.once('close', () => resolve()))
    const answer = await server.ask('POST', `${PATH}/boards/corner/replacement`, { why: 'died' })
    expect(answer.status, answer.text).toBe(200)
    await cut
    await expect(connect(old)).rejects.toMatchObject({ code: 5 })
    expect(await board()).toMatchObject({ state: 'never', joined: false })

    const now = await password() // who takes the secrets opens the door
    expect(now).not.toBe(old)
    await server.ask('PUT', `${PATH}/boards/corner/door`, { minutes: 0 })
    await expect(connect(now)).rejects.toMatchObject({ code: 5 })
    // however often it knocks: it waits for its door, and not for having knocked
    for (let knocks = 0; knocks < 8; knocks++) await expect(connect(now)).rejects.toMatchObject({ code: 5 })
    await until(async () => (await board()).refused?.why === 'its door is closed')
    await server.ask('PUT', `${PATH}/boards/corner/door`, { minutes: 5 })
    await (await connect(now)).endAsync()
  })
  it('a radio joins for its main board, and comes back with its door closed', async () => {
    const site = '/api/sites/fernhollow'
    const file = (await server.ask('POST', `${site}/controllers/drying-radio/secrets`)).text
    const named = (what: string) => new RegExp(`BROKER_${what} "([^"]+)"`).exec(file)![1]!
    const login = { username: named('USER'), password: named('PASSWORD'), reconnectPeriod: 0 }
    const radio = await mqtt.connectAsync(server.brokerUrl, login)
    await radio.publishAsync('vestibule/fernhollow/drying/status', 'online', { retain: true, qos: 1 })
    const rows = async () =>
      (
        (await server.ask('GET', `${site}/boards`)).json as {
          boards: { controller: string; state: string; joined: boolean }[]
        }
      ).boards
    await until(async () => (await rows()).find(({ controller }) => controller === 'drying')?.state === 'online')
    for (const id of ['drying', 'drying-radio'])
      expect((await rows()).find(({ controller }) => controller === id)).toMatchObject({
        joined: true,
        state: 'online',
      })
    await radio.endAsync()
    await server.ask('PUT', `${site}/boards/drying-radio/door`, { minutes: 0 })
    await (await mqtt.connectAsync(server.brokerUrl, login)).endAsync()
  })
  it('is in the logbook, and one that is given away loses its own credentials', async () => {
    await server.ask('PUT', `${PATH}/credentials`, { key: 'app/board-key/corner', value: 'board-key-0123456789' })
    const answer = await server.ask('POST', `${PATH}/boards/corner/replacement`, { why: 'gone' })
    expect((answer.json as { deleted: number }).deleted).toBe(1)
    const { entries } = (await server.ask('GET', `${PATH}/log`)).json as { entries: LogEntry[] }
    expect(entries.map(({ text }) => text).join('\n')).toMatch(
      /Corner is given away: it is locked out, 1 of its credentials/,
    )
    expect(entries.map(({ text }) => text).join('\n')).toMatch(/Corner died: it is locked out by a new password/)
  })
  it('is tested for what was unplugged: each wire once, no load, fewer tests than the list', async () => {
    const answer = await server.ask('GET', '/api/sites/fernhollow/controllers/throwing/new-board-tests')
    const { again, of } = answer.json as { again: { key: string; why: string[] }[]; of: number }
    expect(of).toBe(58)
    expect(again.length).toBeLessThan(of / 2)
    const why = again.flatMap((test) => test.why)
    expect(new Set(why).size).toBe(why.length)
    for (const thing of [
      'the wire to S1',
      'the wire to R1',
      'the receiver of Throwing remote',
      'the line of Nearby link',
    ])
      expect(why).toContain(thing)
    for (const channel of ['Bench lights', 'Radio socket', 'Clay-dust fan'])
      expect(why).toContain(`the wire to the relay of ${channel}`)
    expect(again.some(({ key }) => key.startsWith('load:'))).toBe(false)
  })
})
