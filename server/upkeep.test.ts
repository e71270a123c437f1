import ICAL from 'ical.js'
import mqtt from 'mqtt'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { logFile } from '../core/outputs'
import type { LogEntry, UpkeepRow } from '../core/api'
import { restore, startServer, tryBackup } from '.'
import { TEST_OPTIONS, testServer, until, type TestServer } from './server.testkit'

let server: TestServer
beforeAll(async () => {
  server = await testServer()
})
afterAll(() => server.close())

const PATH = '/api/sites/studio-corner'
const items = async (): Promise<UpkeepRow[]> =>
  ((await server.ask('GET', `${PATH}/upkeep`)).json as { items: UpkeepRow[] }).items
const entries = async (path = PATH): Promise<LogEntry[]> =>
  ((await server.ask('GET', `${path}/log`)).json as { entries: LogEntry[] }).entries

describe('upkeep', () => {
  it('counts operations from the numbers of the reports, over gaps and starts', async () => {
    const secrets = (await server.ask('POST', `${PATH}/controllers/corner/secrets`)).text
    const password = /BROKER_PASSWORD "([^"]+)"/.exec(secrets)![1]!
    const board = await mqtt.connectAsync(server.brokerUrl, { username: 'studio-corner.corner', password })
    const says = (seq: number, on: boolean, source: string) =>
      board.publishAsync('vestibule/studio-corner/corner/desk-lamp/state', JSON.stringify({ on, source, seq }), {
        retain: true,
        qos: 1,
      })
    await board.publishAsync('vestibule/studio-corner/corner/status', 'online', { retain: true, qos: 1 })
    await says(1, true, 'wall')
    await says(2, false, 'wall')
    await says(2, false, 'wall') // a full report repeats what was said
    await says(7, true, 'app') // four were lost on their way
    await says(1, true, 'power') // and its power was gone
    const counted = async () => (await items()).find(({ id }) => id === 'contact:desk-lamp')!.detail
    // 1 + 1 + 5 + 1 changes are four operations
    await until(async () => (await counted()).startsWith('4 operations'))
    await board.endAsync()
  })
  it('writes down what was done, and asks for it later again', async () => {
    const before = (await items()).find(({ kind }) => kind === 'protection')!
    const done = await server.ask('POST', `${PATH}/upkeep/${encodeURIComponent(before.id)}`)
    expect(done.status, done.text).toBe(200)
    const after = (await items()).find(({ id }) => id === before.id)!
    expect(after.last).not.toBeNull()
    expect(after.due! >= before.due!).toBe(true)
    expect((await entries())[0]!.text).toBe(`done: ${before.what}`)
    expect((await server.ask('POST', `${PATH}/upkeep/contact:desk-lamp`)).status).toBe(404)
  })
  it('gives a calendar that another program reads', async () => {
    const text = (await server.ask('GET', `${PATH}/upkeep.ics`)).text
    const found = new ICAL.Component(ICAL.parse(text) as unknown[]).getAllSubcomponents('vevent')
    expect(found).toHaveLength((await items()).filter(({ due }) => due !== null).length)
  })
})

describe('the log', () => {
  it('is corrected by a later entry, never silently', async () => {
    const write = (body: object) => server.ask('POST', `${PATH}/log`, { kind: 'note', controller: null, ...body })
    await write({ text: 'relay 2 clicks twice' })
    const wrong = (await entries())[0]!
    expect((await write({ text: 'it was relay 1', corrects: wrong.id })).status).toBe(201)
    const [right, ...rest] = await entries()
    expect(right).toMatchObject({ text: 'it was relay 1', corrects: wrong.id })
    expect(rest).toContainEqual(wrong)
    expect((await write({ text: 'no such', corrects: 999_999 })).status).toBe(404)
  })
  it('comes back from its file into another site, once', async () => {
    const lines = (await entries()).map(({ controller, ...line }) => ({ ...line, controller }))
    const file = JSON.parse(logFile('Studio corner', lines, 'json')) as object
    const { id } = (await server.ask('POST', '/api/sites', { name: 'Elsewhere' })).json as { id: string }
    const first = await server.ask('POST', `/api/sites/${id}/log/import`, file)
    expect(first.json).toEqual({ came: lines.length, known: 0 })
    const again = await server.ask('POST', `/api/sites/${id}/log/import`, file)
    expect(again.json).toEqual({ came: 0, known: lines.length })
    const came = await entries(`/api/sites/${id}`)
    expect(came.map(({ at, kind, text }) => ({ at, kind, text }))).toEqual(
      lines.map(({ at, kind, text }) => ({ at, kind, text })),
    )
    // what corrects what is known by the new numbers
    const right = came.find(({ text }) => text === 'it was relay 1')!
    expect(came.find((one) => one.id === right.corrects)!.text).toBe('relay 2 clicks twice')
  })
  it('is refused whole where a line is none', async () => {
    const body = {
      format: 'vestibule-log',
      version: 1,
      site: 'x',
      entries: [{ at: 'yesterday', controller: null, kind: 'note', text: 'a' }],
    }
    expect((await server.ask('POST', `${PATH}/log/import`, body)).status).toBe(400)
  })
})

describe('a backup from the page', () => {
  it('is taken while edits go on, tried by restoring, and equal elsewhere', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'vestibule-elsewhere-'))
    let edits = true
    const editing = (async () => {
      for (let at = 0; edits; at++)
        await server.ask('POST', `${PATH}/log`, { kind: 'note', controller: null, text: `note ${at}` })
    })()
    const answer = await fetch(`${server.url}/api/backup`, { method: 'POST' })
    const kept = (await entries()).length
    edits = false
    await editing
    expect(answer.status).toBe(200)
    const file = join(folder, 'backup')
    writeFileSync(file, Buffer.from(await answer.arrayBuffer()))
    const tried = JSON.parse(answer.headers.get('X-Tried')!) as { sites: number; entries: number }
    expect(tryBackup(file)).toEqual(tried)
    const data = join(folder, 'data')
    restore(file, data)
    const other = await startServer({ ...TEST_OPTIONS, dataFolder: data })
    const ask = async (path: string) =>
      (await (await fetch(other.url + path)).json()) as { site: unknown; entries: LogEntry[] }
    expect((await ask(PATH)).site).toEqual(((await server.ask('GET', PATH)).json as { site: unknown }).site)
    const there = (await ask(`${PATH}/log`)).entries
    // what was acknowledged before the backup is in it, and nothing that is not here
    expect(there.length).toBeGreaterThan(0)
    expect(there.length).toBeLessThanOrEqual(kept + 1)
    expect(await entries()).toEqual(expect.arrayContaining(there))
    await other.close()
    rmSync(folder, { recursive: true, force: true })
  })
})
