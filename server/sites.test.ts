import { afterAll, beforeAll, expect, it } from 'vitest'
import Sqlite from 'better-sqlite3'
import mqtt from 'mqtt'
import { join } from 'node:path'
import { overTheHouse, testServer, until, type TestServer } from './server.testkit'

let server: TestServer
beforeAll(async () => {
  server = await testServer()
})
afterAll(() => server.close())
const site = 'studio-corner'
const widget = `/api/sites/${site}/stand-ins/app`

it('a copy is the document alone, under a name and an id of its own', async () => {
  const made = await server.ask('POST', '/api/sites', { name: 'Studio corner', copyOf: site })
  expect(made.json).toEqual({ id: 'studio-corner-2', revision: 0 })
  const [copy, from] = await Promise.all(['studio-corner-2', site].map((id) => server.ask('GET', `/api/sites/${id}`)))
  expect(copy!.json.site).toEqual({ ...from!.json.site, id: 'studio-corner-2' })
  expect((await server.ask('POST', '/api/sites', { name: 'x', copyOf: 'nowhere' })).status).toBe(404)
})

it('a site is deleted by its name, with all that belongs to it, and a later one of its name hears nothing of it', async () => {
  await overTheHouse(server, site)
  const { broker } = (await server.ask('GET', '/api/health')).json
  const secrets = (await server.ask('POST', `/api/sites/${site}/controllers/corner/secrets`)).text
  const board = await mqtt.connectAsync(broker, {
    username: 'studio-corner.corner',
    password: /BROKER_PASSWORD "([^"]+)"/.exec(secrets)![1]!,
    protocolVersion: 4,
    reconnectPeriod: 0,
  })
  const gone = new Promise((resolve) => board.once('close', () => resolve('gone')))
  const online = { qos: 1, retain: true } as const
  await board.publishAsync('vestibule/studio-corner/corner/status', 'online', online)
  await until(async () => (await server.ask('GET', widget)).json.online.corner)
  await server.ask('POST', `${widget}/widgets/desk-lamp`, { on: true })
  expect((await server.ask('POST', `/api/sites/${site}/builds`, { controller: 'corner' })).status).toBe(201)
  await server.ask('POST', `/api/sites/${site}/test-runs`, { controller: 'corner' })
  const document = (await server.ask('GET', `/api/sites/${site}`)).json.site

  const refused = await server.ask('DELETE', `/api/sites/${site}`, { name: 'studio corner' })
  expect([refused.status, refused.json.error.message]).toEqual([
    409,
    'the site’s name is “Studio corner”: type it to delete the site',
  ])
  expect((await server.ask('DELETE', `/api/sites/${site}`, { name: 'Studio corner' })).status).toBe(200)
  expect(await gone).toBe('gone')
  expect((await server.ask('GET', `/api/sites/${site}`)).status).toBe(404)
  const db = new Sqlite(join(server.data, 'vestibule.sqlite'), { readonly: true })
  for (const table of ['edits', 'builds', 'test_runs', 'log_entries', 'credentials', 'held_values', 'trial_runs'])
    expect(db.prepare(`SELECT count(*) AS n FROM ${table} WHERE site_id = ?`).get(site), table).toEqual({ n: 0 })
  expect(db.pragma('foreign_key_check')).toEqual([])
  db.close()

  expect((await server.ask('POST', '/api/sites', { site: document })).status).toBe(201)
  await until(async () => (await server.ask('GET', '/api/health')).json.ok)
  await new Promise((resolve) => setTimeout(resolve, 200))
  expect((await server.ask('GET', widget)).json).toMatchObject({
    values: expect.objectContaining({ 'desk-lamp': 0 }),
    online: {},
  })
})

it('the door tells of each site what stands in it, what is open, what runs on its boards, and its last test', async () => {
  const { sites } = (await server.ask('GET', '/api/door')).json
  const pottery = sites.find(({ id }: { id: string }) => id === 'fernhollow')
  expect(pottery).toMatchObject({
    rooms: 5,
    volts: 230,
    lastTest: { controller: 'Throwing', items: 58, done: 58, failed: 1 },
  })
  expect(pottery.controllers.find(({ id }: { id: string }) => id === 'throwing')).toMatchObject({
    channels: 6,
    state: 'flashed',
  })
  expect(pottery.controllers.find(({ id }: { id: string }) => id === 'yard')).toMatchObject({ state: 'none' })
  const findings = (await server.ask('GET', '/api/sites/before-review/findings')).json.findings
  const open = (severity: string) =>
    findings.filter((one: { severity: string; accepted?: string }) => one.severity === severity && !one.accepted).length
  expect(sites.find(({ id }: { id: string }) => id === 'before-review').open).toEqual({
    danger: open('danger'),
    error: open('error'),
    warning: open('warning'),
    note: open('note'),
  })
})

it('a board that was flashed before the site changed is out of date at the door', async () => {
  const state = async () =>
    (await server.ask('GET', '/api/door')).json.sites
      .find(({ id }: { id: string }) => id === 'fernhollow')
      .controllers.find(({ id }: { id: string }) => id === 'throwing').state
  expect(await state()).toBe('flashed')
  const { revision } = (await server.ask('GET', '/api/sites/fernhollow')).json
  const patch = [{ op: 'replace', path: '/controllers/0/staggerMs', value: 170 }]
  const body = { label: 'stagger', patch }
  expect((await server.ask('PATCH', '/api/sites/fernhollow', body, { 'If-Match': `"${revision}"` })).status).toBe(200)
  expect(await state()).toBe('behind')
})

it('an example is a copy of a site that ships, under an id that is free', async () => {
  const made = await server.ask('POST', '/api/sites', { example: 'before-review' })
  expect(made.json).toEqual({ id: 'before-review-2', revision: 0 })
  expect((await server.ask('POST', '/api/sites', { example: '../package' })).status).toBe(400)
})
