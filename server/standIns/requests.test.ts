import { connect } from 'node:net'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { StandInPage } from '../../core/api'
import { SERVICE_KINDS } from '../../core/services'
import { intoServer, lampFanStrike } from '../kinds.testkit'
import { testServer, until, type TestServer } from '../server.testkit'

// What a stand-in that is asked demands and refuses, with an independent client (fetch) as the board. The key is what
// the secrets file of the board says, and nothing else.

let server: TestServer
let site: string
let at: string
let key: string
beforeEach(async () => {
  server = await testServer({ seed: false })
  site = await intoServer(server, lampFanStrike(['room-store']))
  const file = (await server.ask('POST', `/api/sites/${site}/controllers/box/secrets`)).text
  const named = (macro: string) => new RegExp(`VESTIBULE_ROOM_STORE_${macro} "?([^"\n]+)"?`).exec(file)![1]!
  at = `http://${named('HOST')}:${named('PORT')}`
  key = named('STORE_KEY')
})
afterEach(() => server.close())

const page = async () => (await server.ask('GET', `/api/sites/${site}/stand-ins/room-store`)).json as StandInPage
const refused = async (text: RegExp) => until(async () => (await page()).refused.some((line) => text.test(line.text)))
const ask = (method: string, path: string, body?: string, bearer = key) =>
  fetch(at + path, {
    method,
    headers: { Authorization: `Bearer ${bearer}` },
    ...(body === undefined ? {} : { body }),
  })
const faults = (more: Partial<StandInPage['faults']>) =>
  server.ask('PUT', `/api/sites/${site}/stand-ins/room-store/faults`, {
    ...{ stopped: false, slowMs: 0, lose: false, replay: false },
    ...more,
  })
/** Changes a limit of the plan. */
async function limit(name: string, value: number): Promise<void> {
  const { revision } = (await server.ask('GET', `/api/sites/${site}`)).json as { revision: number }
  const kind = structuredClone(SERVICE_KINDS.find(({ id }) => id === 'room-store')!)
  const profile = { ...kind, limits: { ...kind.limits, [name]: value } }
  const patch = [{ op: 'add', path: '/profiles/services/-', value: profile }]
  const tag = { 'If-Match': `"${revision}"` }
  const answer = await server.ask('PATCH', `/api/sites/${site}`, { label: 'a limit', patch }, tag)
  expect(answer.status, answer.text).toBe(200)
}

describe('a stand-in that is asked', () => {
  it('takes what a board writes, and tells it when it reads', async () => {
    expect((await ask('PUT', '/rooms/box/lamp', '1')).status).toBe(204)
    expect(await (await ask('GET', '/rooms/box')).json()).toEqual({ lamp: 1, fan: 0, strike: 0 })
    expect((await page()).values['lamp']).toBe(1)
    expect((await page()).online).toEqual({ box: true })
  })

  it.each([
    ['a wrong key', 'PUT', '/rooms/box/lamp', '1', 'guess-0123456789', 401, /wrong or missing key/],
    ['no key', 'GET', '/rooms/box', undefined, '', 401, /wrong or missing key/],
    ['a value out of range', 'PUT', '/rooms/box/fan', '9', null, 422, /Fan 9 is not within 0 to 4/],
    ['no value at all', 'PUT', '/rooms/box/fan', 'off', null, 422, /Fan off is not within/],
  ])('refuses %s, and its page says so', async (_, method, path, body, bearer, status, text) => {
    expect((await ask(method, path, body, bearer ?? key)).status).toBe(status)
    await refused(text)
    expect((await page()).values['fan']).toBe(0)
  })

  it('knows no id and no method but its own', async () => {
    expect((await ask('PUT', '/rooms/box/attic', '1')).status).toBe(404)
    expect((await ask('DELETE', '/rooms/box/lamp')).status).toBe(404)
    expect((await ask('PUT', '/rooms/box/lamp', 'x'.repeat(9_000))).status).toBe(413)
  })

  it('takes no value that comes faster than the plan allows, and no more requests than it has', async () => {
    await limit('updateMs', 5_000)
    expect((await ask('PUT', '/rooms/box/lamp', '1')).status).toBe(204)
    expect((await ask('PUT', '/rooms/box/lamp', '0')).status).toBe(429)
    await refused(/Lamp comes faster than every 5000 ms/)
  })

  it('has a plan that is used up', async () => {
    await limit('messagesDay', 2)
    const statuses = []
    for (let i = 0; i < 4; i++) statuses.push((await ask('GET', '/rooms/box')).status)
    expect(statuses).toEqual([200, 200, 429, 429])
    await refused(/messages are used up/)
  })

  it('answers nobody while it is stopped, late while it is slow, and not each third while it loses', async () => {
    await faults({ stopped: true })
    await expect(ask('GET', '/rooms/box')).rejects.toThrow()
    await faults({ slowMs: 400 })
    const before = Date.now()
    expect((await ask('GET', '/rooms/box')).status).toBe(200)
    expect(Date.now() - before).toBeGreaterThanOrEqual(390)
    await faults({ lose: true })
    const came = []
    for (let i = 0; i < 6; i++)
      came.push(
        await ask('GET', '/rooms/box').then(
          () => true,
          () => false,
        ),
      )
    expect(came.filter(Boolean)).toHaveLength(4)
  })
})

describe('a bridge that calls', () => {
  it('has nobody to call while no board runs, and says so', async () => {
    const bell = lampFanStrike(['web-hook'], 'Bell')
    const other = await intoServer(server, { ...bell, id: 'bell' as typeof bell.id })
    const touch = await server.ask('POST', `/api/sites/${other}/stand-ins/web-hook/widgets/lamp`, { on: true })
    expect(touch.status, touch.text).toBe(200)
    await until(async () => {
      const { refused: lines } = (await server.ask('GET', `/api/sites/${other}/stand-ins/web-hook`)).json as StandInPage
      return lines.some(({ text }) => /does not run, so nobody can call it/.test(text))
    })
  })
})

describe('the door of the services', () => {
  it('tells MQTT from HTTP, and ends what is neither', async () => {
    const { hostname, port } = new URL(at)
    const ended = await new Promise<boolean>((resolve) => {
      const socket = connect({ host: hostname, port: Number(port) }, () => socket.write('\0\0nonsense\r\n\r\n'))
      socket.on('close', () => resolve(true))
      socket.on('error', () => resolve(true))
      socket.resume()
    })
    expect(ended).toBe(true)
    expect((await ask('GET', '/rooms/box')).status).toBe(200)
  })
})
