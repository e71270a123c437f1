import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import mqtt, { type MqttClient } from 'mqtt'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { StandInPage } from '../../core/api'
import { intoServer, lampFanStrike } from '../kinds.testkit'
import { testServer, until, type TestServer } from '../server.testkit'

// What a stand-in demands and refuses, with an independent client (mqtt.js) as the board. The login is what the secrets
// file of the board says, and nothing else.

let server: TestServer
let site: string
const clients: MqttClient[] = []
beforeEach(async () => {
  server = await testServer({ seed: false })
  site = await intoServer(server, lampFanStrike(['datapoint']))
})
afterEach(async () => {
  for (const client of clients.splice(0)) await client.endAsync(true)
  await server.close()
})

const page = async () => (await server.ask('GET', `/api/sites/${site}/stand-ins/datapoint`)).json as StandInPage
const secrets = async () => (await server.ask('POST', `/api/sites/${site}/controllers/box/secrets`)).text
async function login() {
  const file = await secrets()
  const named = (macro: string) => new RegExp(`VESTIBULE_DATAPOINT_${macro} "?([^"\n]+)"?`).exec(file)![1]!
  return {
    url: `mqtt://${named('ADDRESS')}:${named('PORT')}`,
    username: named('BOARD_PATTERN'),
    password: named('BOARD_KEY'),
    clientId: 'box',
  }
}
async function connect(more: Partial<Awaited<ReturnType<typeof login>>> = {}): Promise<MqttClient> {
  const { url, ...known } = { ...(await login()), ...more }
  const client = mqtt.connect(url, { ...known, protocolVersion: 4, reconnectPeriod: 0 })
  clients.push(client)
  await new Promise((resolve, reject) => client.once('connect', resolve).once('error', reject))
  return client
}
/** Changes a limit of the plan. */
async function limit(name: string, value: number): Promise<void> {
  const { site: document, revision } = (await server.ask('GET', `/api/sites/${site}`)).json
  const own = document.profiles.services.length
  const { SERVICE_KINDS } = await import('../../core/services')
  const kind = structuredClone(SERVICE_KINDS.find(({ id }) => id === 'datapoint')!)
  const patch = own
    ? [{ op: 'replace', path: `/profiles/services/0/limits/${name}`, value }]
    : [{ op: 'add', path: '/profiles/services/-', value: { ...kind, limits: { ...kind.limits, [name]: value } } }]
  const tag = { 'If-Match': `"${revision}"` }
  const answer = await server.ask('PATCH', `/api/sites/${site}`, { label: 'a limit', patch }, tag)
  expect(answer.status, answer.text).toBe(200)
}
const say = (client: MqttClient, topic: string, payload: string) => client.publishAsync(topic, payload, { qos: 1 })
const refused = async (text: RegExp) => until(async () => (await page()).refused.some((line) => text.test(line.text)))

describe('a stand-in lets a board in', () => {
  it('with the credentials of its secrets file, and shows it online', async () => {
    const client = await connect()
    expect((await page()).online).toEqual({ box: true })
    await client.endAsync()
    await until(async () => (await page()).online['box'] === false)
  })
  it.each([
    ['a wrong key', { password: 'guess-0123456789' }, 4, /wrong or missing key/],
    ['no key', { password: '' }, 4, /wrong or missing key/],
    ['another client id', { clientId: 'attic' }, 2, /the client id is not box/],
    ['nothing that it knows', { username: 'who', password: 'what', clientId: 'attic' }, 4, /an id that is not known/],
  ])('not with %s (MQTT 3.1.1, 3.2.2.3), and its page says so', async (_, more, code, text) => {
    await expect(connect(more)).rejects.toMatchObject({ code })
    await refused(text)
    expect((await page()).online['box'] ?? false).toBe(false)
  })
  it('not a device more than the plan allows', async () => {
    const two = lampFanStrike(['datapoint'], 'Two')
    const { devices } = { devices: 1 }
    await limit('devices', devices)
    await connect()
    // the second board of the site, which the plan does not cover
    const { site: document, revision } = (await server.ask('GET', `/api/sites/${site}`)).json
    const attic = { ...document.controllers[0], id: 'attic', name: 'Attic', pins: {}, parts: [] }
    const point = { ...document.services[0].points[0], id: 'attic-lamp', controller: 'attic' }
    const patch = [
      { op: 'add', path: '/controllers/-', value: attic },
      { op: 'add', path: '/services/0/points/-', value: point },
    ]
    const answer = await server.ask(
      'PATCH',
      `/api/sites/${site}`,
      { label: 'a board', patch },
      { 'If-Match': `"${revision}"` },
    )
    expect(answer.status, answer.text).toBe(200)
    await server.ask('PUT', `/api/sites/${site}/credentials`, {
      key: 'datapoint/board-key/attic',
      value: 'attic-0123456789',
    })
    await expect(connect({ clientId: 'attic', password: 'attic-0123456789' })).rejects.toMatchObject({ code: 5 })
    await refused(/one device too many: the plan allows 1/)
    expect(two.name).toBe('Two')
  })
})

describe('a stand-in takes', () => {
  it('a value within its range, and refuses one beyond it, one that is no number, and an id that it does not know', async () => {
    const client = await connect()
    await say(client, 'point/1/is', '1')
    expect((await page()).values['lamp']).toBe(1)
    await say(client, 'point/1/is', '7')
    await say(client, 'point/2/is', 'fast')
    await say(client, 'point/99/is', '1')
    expect((await page()).values['lamp']).toBe(1)
    await refused(/Lamp 7 is not within 0 to 1/)
    await refused(/Fan fast is not within/)
    await refused(/point\/99\/is is no id of its own/)
  })
  it('no value that comes faster than the plan allows', async () => {
    await limit('updateMs', 5_000)
    const client = await connect()
    await say(client, 'point/1/is', '1')
    await say(client, 'point/1/is', '0')
    expect((await page()).values['lamp']).toBe(1)
    await refused(/comes faster than every 5000 ms/)
  })
  it('no more messages than the plan has: then it closes, and lets nobody in', async () => {
    await limit('messagesMonth', 5)
    await limit('updateMs', 1)
    const client = await connect()
    const gone = new Promise((resolve) => client.once('close', () => resolve('gone')))
    for (let i = 0; i < 9; i++) client.publish('point/1/is', String(i % 2), { qos: 0 })
    expect(await gone).toBe('gone')
    await expect(connect()).rejects.toMatchObject({ code: 3 })
    await refused(/messages are used up/)
  })
  it('only a board’s own topics to be heard', async () => {
    const client = await connect()
    const [own] = await client.subscribeAsync('point/1/ask')
    expect(own!.qos).toBe(0)
    const stranger = await client.subscribeAsync('point/#').catch((error: Error) => error)
    expect(stranger instanceof Error ? 128 : stranger[0]!.qos).toBe(128)
  })
  it('nothing that the store cannot keep: it is not acknowledged, and the connection ends', async () => {
    const client = await connect()
    const other = new Sqlite(join(server.data, 'vestibule.sqlite'))
    other.exec('BEGIN EXCLUSIVE')
    const gone = new Promise((resolve) => client.once('close', () => resolve('gone')))
    client.publish('point/1/is', '1', { qos: 1 })
    expect(await gone).toBe('gone')
    other.exec('ROLLBACK')
    other.close()
    expect((await page()).values['lamp']).toBe(0)
    const again = await connect()
    await say(again, 'point/1/is', '1')
    expect((await page()).values['lamp']).toBe(1)
  }, 30_000)
})

describe('a wish from the phone', () => {
  it('bears a number that only rises, and the last number is said before', async () => {
    const client = await connect()
    const heard: string[] = []
    client.on('message', (topic, payload) => heard.push(`${topic} ${payload.toString()}`))
    for (const topic of ['entry/count', 'point/1/ask', 'point/1/kept']) await client.subscribeAsync(topic)
    const touch = (on: boolean) => server.ask('POST', `/api/sites/${site}/stand-ins/datapoint/widgets/lamp`, { on })
    await touch(true)
    await touch(false)
    await until(() => heard.length === 4)
    const [count, kept, first, second] = heard
    expect(kept).toBe('point/1/kept 0')
    const number = (line: string) => Number(line.split(' ').at(-1))
    expect(number(first!)).toBe(number(count!) + 1)
    expect(number(second!)).toBe(number(count!) + 2)
    expect(first).toMatch(/^point\/1\/ask 1 \d+$/)
  })
})
