import { connectionsOf, wireKey } from '../core/wiring'
import { Validator } from '@seriousme/openapi-schema-validator'
import { unzipSync, strFromU8 } from 'fflate'
import { request } from 'node:http'
import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import WebSocket from 'ws'
import { acceptanceRun } from '../core/acceptance'
import type { Site } from '../core/site'
import { TIMELINE_KINDS } from '../core/trial'
import { testServer, until, type TestServer } from './server.testkit'

let server: TestServer
beforeAll(async () => {
  server = await testServer()
})
afterAll(() => server.close())

const rename = (name: string) => ({
  label: `rename to ${name}`,
  patch: [{ op: 'replace', path: '/name', value: name }],
})
const match = (revision: number) => ({ 'If-Match': `"${revision}"` })

describe('sites', () => {
  it('the demo is there when the data folder was empty', async () => {
    const { json } = await server.ask('GET', '/api/sites')
    expect(json.sites.map((s: { id: string }) => s.id)).toEqual(['fernhollow', 'studio-corner', 'before-review'])
  })
  it('an edit needs If-Match, and the right revision', async () => {
    const path = '/api/sites/studio-corner'
    expect(await server.ask('PATCH', path, rename('A'))).toMatchObject({
      status: 428,
      json: { error: { code: 'if-match-needed' } },
    })
    expect(await server.ask('PATCH', path, rename('A'), match(0))).toMatchObject({
      status: 200,
      json: { revision: 1, undo: 'rename to A', redo: null },
    })
    expect(await server.ask('PATCH', path, rename('B'), match(0))).toMatchObject({
      status: 412,
      json: { error: { message: 'the site is at revision 1, this change was made on 0: load it again' } },
    })
    const { json } = await server.ask('GET', path)
    expect([json.site.name, json.revision]).toEqual(['A', 1])
  })
  it('undo and redo walk the append-only history', async () => {
    const path = '/api/sites/studio-corner'
    await server.ask('PATCH', path, rename('C'), match(1))
    expect((await server.ask('POST', `${path}/undo`, undefined, match(2))).json).toMatchObject({
      revision: 3,
      undo: 'rename to A',
      redo: 'rename to C',
      patch: [{ op: 'replace', path: '/name', value: 'A' }],
    })
    expect((await server.ask('POST', `${path}/redo`, undefined, match(3))).json).toMatchObject({
      revision: 4,
      undo: 'rename to C',
      redo: null,
    })
    await server.ask('POST', `${path}/undo`, undefined, match(4))
    await server.ask('POST', `${path}/undo`, undefined, match(5))
    expect((await server.ask('GET', path)).json.site.name).toBe('Studio corner')
    expect(await server.ask('POST', `${path}/undo`, undefined, match(6))).toMatchObject({
      status: 409,
      json: { error: { code: 'nothing-to-undo' } },
    })
  })
  it.each([
    [
      'a patch that does not fit',
      { label: 'x', patch: [{ op: 'replace', path: '/channels/99/name', value: 'x' }] },
      422,
      /^operation 1 \(replace \/channels\/99\/name\)/,
    ],
    [
      'a document that would be wrong',
      { label: 'x', patch: [{ op: 'replace', path: '/channels/0/controller', value: 'nobody' }] },
      422,
      /^channels\[0\].controller: there is no controller "nobody"/,
    ],
    [
      'another id',
      { label: 'x', patch: [{ op: 'replace', path: '/id', value: 'other' }] },
      422,
      /^id: a site keeps its id/,
    ],
    ['a patch that is none', { label: 'x', patch: [{ op: 'explode', path: '/' }] }, 400, /^patch\[0\]/],
    ['a prototype', { label: 'x', patch: [{ op: 'add', path: '/__proto__/polluted', value: 1 }] }, 422, /./],
    ['text that is not JSON', '{"label":', 400, /^the body is not JSON$/],
  ])('refuses %s whole, in one line', async (_, body, status, message) => {
    const before = (await server.ask('GET', '/api/sites/before-review')).text
    const answer = await server.ask('PATCH', '/api/sites/before-review', body, match(0))
    expect(answer.status).toBe(status)
    expect(answer.json.error.message).toMatch(message)
    expect(answer.json.error.message).not.toContain('\n')
    expect((await server.ask('GET', '/api/sites/before-review')).text).toBe(before)
    expect(({} as { polluted?: number }).polluted).toBeUndefined()
  })
  it('a body over 5 MB is refused', async () => {
    expect(await server.ask('POST', '/api/sites', JSON.stringify({ site: 'x'.repeat(5_300_000) }))).toMatchObject({
      status: 413,
      json: { error: { code: 'too-large' } },
    })
  })
  it('an unknown place answers 404 in JSON', async () =>
    expect(await server.ask('GET', '/api/nothing')).toMatchObject({
      status: 404,
      json: { error: { message: 'there is no GET /api/nothing' } },
    }))
  it('exports what it imported', async () => {
    const text = (await server.ask('GET', '/api/sites/fernhollow/export/site')).text
    expect(text).toBe(readFileSync('demo/fernhollow.json', 'utf8'))
  })
})

describe('who may ask', () => {
  const raw = (headers: Record<string, string>) =>
    new Promise<number>((resolve, reject) => {
      const asked = request(`${server.url}/api/health`, { headers }, (response) => {
        response.resume()
        resolve(response.statusCode!)
      })
      asked.on('error', reject)
      asked.end()
    })
  it('a rebound host name is refused', async () => expect(await raw({ Host: 'rebound.example' })).toBe(403))
  it('a page of another origin is refused', async () =>
    expect(await raw({ Origin: 'https://elsewhere.example' })).toBe(403))
  it('our own origin is served', async () => expect(await raw({ Origin: server.url })).toBe(200))
  it('a live channel from another origin is refused', async () => {
    const socket = new WebSocket(`${server.url.replace('http', 'ws')}/api/live?site=fernhollow`, {
      origin: 'https://elsewhere.example',
    })
    expect(
      await new Promise((resolve) => {
        socket.on('error', () => resolve('refused'))
        socket.on('open', () => resolve('open'))
      }),
    ).toBe('refused')
  })
})

describe('OpenAPI', () => {
  // @seriousme/openapi-schema-validator is an independent validator of the OpenAPI specification.
  it('the document is valid 3.1 and covers every route of the health check', async () => {
    const { json } = await server.ask('GET', '/api/openapi.json')
    const result = await new Validator().validate(json)
    expect(result.errors ?? []).toEqual([])
    expect(result.valid).toBe(true)
    expect(Object.keys(json.paths)).toContain('/api/sites/{site}')
    expect(json.paths['/api/sites/{site}'].patch.parameters).toContainEqual(
      expect.objectContaining({ name: 'If-Match', in: 'header' }),
    )
  })
  it('health tells of store, broker and stand-ins', async () => {
    const { json } = await server.ask('GET', '/api/health')
    expect(json).toMatchObject({ ok: true, own: true, sites: 3 })
    await until(async () =>
      (await server.ask('GET', '/api/health')).json.standIns.every((s: { connected: boolean }) => s.connected),
    )
  })
})

describe('builds and the logbook', () => {
  it('is refused while a danger is open, and says which', async () => {
    expect(await server.ask('POST', '/api/sites/before-review/builds', { controller: 'corner' })).toMatchObject({
      status: 409,
      json: { error: { code: 'findings-open', message: expect.stringContaining('D01') } },
    })
  })
  it('a build, its flash and a change: T04 tells that the board is behind', async () => {
    const built = await server.ask('POST', '/api/sites/studio-corner/builds', { controller: 'corner' })
    expect(built.status).toBe(201)
    const { build, files } = built.json
    expect(files.map((f: { name: string }) => f.name)).toContain('firmware/image.h')
    await server.ask('POST', `/api/builds/${build.id}/flashes`, { boardPackage: '3.1.2', note: '' })
    // credentials that are not typed yet are no matter of the build
    const ids = async () =>
      (await server.ask('GET', '/api/sites/studio-corner/findings')).json.findings
        .filter((f: { id: string }) => !f.id.startsWith('C'))
        .map((f: { id: string }) => f.id)
    expect(await ids()).toEqual([])
    const revision = (await server.ask('GET', '/api/sites/studio-corner')).json.revision
    await server.ask(
      'PATCH',
      '/api/sites/studio-corner',
      { label: 'limit', patch: [{ op: 'replace', path: '/channels/0/maxOnMs', value: 60000 }] },
      match(revision),
    )
    expect(await ids()).toEqual(['T04'])
    expect((await server.ask('GET', '/api/sites/studio-corner/builds')).json.boards[0].changes).toEqual([
      { kind: 'changed', what: 'channel Desk lamp, longest time on: none → 60 s' },
    ])
  })
  it('the archive holds the files, and the same build gives the same bytes', async () => {
    const { json } = await server.ask('GET', '/api/sites/fernhollow/builds')
    const zip = async () =>
      new Uint8Array(await (await fetch(`${server.url}/api/builds/${json.builds[0].id}/zip`)).arrayBuffer())
    const [one, two] = [await zip(), await zip()]
    expect(Buffer.from(one).equals(Buffer.from(two))).toBe(true)
    expect(strFromU8(unzipSync(one)['firmware/image.h']!)).toContain('namespace image')
  })
  /** The site as it is, on its board. */
  const flash = async () => {
    const built = await server.ask('POST', '/api/sites/studio-corner/builds', { controller: 'corner' })
    expect(built.status).toBe(201)
    await server.ask('POST', `/api/builds/${built.json.build.id}/flashes`, { boardPackage: '3.1.2', note: '' })
  }
  it('a test run is written down item by item, and its end is noted', async () => {
    await flash()
    const { json } = await server.ask('POST', '/api/sites/studio-corner/test-runs', { controller: 'corner' })
    const run = async () =>
      (await server.ask('GET', '/api/sites/studio-corner/log')).json.runs.find((r: { id: number }) => r.id === json.id)
    const { items } = await run()
    const write = (item: { key: string }, outcome: string, note = '') =>
      server.ask('PUT', `/api/test-runs/${json.id}/items/${encodeURIComponent(item.key)}`, { outcome, note })
    const last = items.at(-1)
    // no stage opens before the one before it
    expect(await write(last, 'passed')).toMatchObject({
      status: 409,
      json: { error: { message: '“Controller alone” is not clear yet: finish that stage first' } },
    })
    for (const item of items) await write(item, item === last ? 'failed' : 'passed', item === last ? 'lamp dark' : '')
    expect((await run()).items.at(-1)).toMatchObject({ outcome: 'failed', note: 'lamp dark' })
    const { entries } = (await server.ask('GET', '/api/sites/studio-corner/log')).json
    expect(entries.map((e: { text: string }) => e.text)).toContainEqual(
      expect.stringMatching(/^test run \d+ done: \d+ passed, 1 failed, 0 skipped$/),
    )
    expect(entries).toContainEqual(
      expect.objectContaining({ kind: 'fault', text: expect.stringContaining('lamp dark') }),
    )
  })
  it('what has passed is not due until something of it changes, and a run of what is due is short', async () => {
    const due = async () =>
      (await server.ask('GET', '/api/sites/studio-corner/controllers/corner/due-tests')).json as {
        again: { key: string; way: string | null; why: string[] }[]
        of: number
      }
    // the run of the test before this one: all passed but the last
    const first = await due()
    expect(first.again.map(({ why }) => why)).toEqual([['never passed']])
    const { site, revision } = (await server.ask('GET', '/api/sites/studio-corner')).json
    const at = site.inputs.findIndex(({ id }: { id: string }) => id === 's1')
    const patch = [{ op: 'replace', path: `/inputs/${at}/settleMs`, value: 61 }]
    const kept = await server.ask('PATCH', '/api/sites/studio-corner', { label: 'settle', patch }, match(revision))
    expect(kept.status).toBe(200)
    const { again, of } = await due()
    expect(again.length).toBeLessThan(of)
    expect(again.filter(({ way }) => way !== null).map(({ why }) => why)).toEqual([['switch S1']])
    // the board still has what was tested: only what is tested with the new tables counts for them
    await flash()
    const run = await server.ask('POST', '/api/sites/studio-corner/test-runs', {
      controller: 'corner',
      only: again.map(({ key }) => key),
    })
    const { runs } = (await server.ask('GET', '/api/sites/studio-corner/log')).json
    const { items } = runs.find(({ id }: { id: number }) => id === run.json.id)
    expect(items).toHaveLength(again.length)
    for (const { key } of items)
      await server.ask('PUT', `/api/test-runs/${run.json.id}/items/${encodeURIComponent(key)}`, {
        outcome: 'passed',
        note: '',
      })
    expect((await due()).again).toEqual([])
    const none = { controller: 'corner', only: ['no such test'] }
    expect((await server.ask('POST', '/api/sites/studio-corner/test-runs', none)).status).toBe(409)
  })
  it('a run of the trial is kept with every kind of line that a trial writes', async () => {
    const timeline = TIMELINE_KINDS.map((kind, i) => ({ t: i * 100, kind, text: `a line of kind ${kind}` }))
    const before = (await server.ask('GET', '/api/sites/studio-corner/log')).json.trials.length
    const kept = await server.ask('POST', '/api/sites/studio-corner/trials', { durationMs: 9_000, timeline })
    expect(kept.status).toBe(201)
    const { trials } = (await server.ask('GET', '/api/sites/studio-corner/log')).json
    expect(trials).toHaveLength(before + 1)
  })
  it('an acceptance run is kept for the tables that it was made with, and refused for others', async () => {
    const site = (await server.ask('GET', '/api/sites/studio-corner')).json.site as Site
    const { tryout: _, ...report } = acceptanceRun(site)
    const stray = { ...report, tables: { ...report.tables, corner: '000000000000' } }
    const refused = await server.ask('POST', '/api/sites/studio-corner/acceptance', { report: stray })
    expect(refused.status).toBe(409)
    expect(refused.json.error.message).toMatch(/other tables of corner: run it again/)
    expect((await server.ask('GET', '/api/sites/studio-corner/log')).json.acceptance).toBeNull()
    expect((await server.ask('POST', '/api/sites/studio-corner/acceptance', { report })).status).toBe(201)
    const { acceptance, entries } = (await server.ask('GET', '/api/sites/studio-corner/log')).json
    expect(acceptance.report).toEqual(JSON.parse(JSON.stringify(report)))
    expect(entries[0].text).toMatch(
      /^acceptance run 1 in the simulated house at revision \d+: \d+ passed, \d+ failed, \d+ skipped/,
    )
  })
  it('the demo logbook has two months: three builds, two trials, one failed lamp', async () => {
    const { entries, trials, runs } = (await server.ask('GET', '/api/sites/fernhollow/log')).json
    const count = (kind: string) => entries.filter((e: { kind: string }) => e.kind === kind).length
    expect([count('build'), count('flash'), trials.length, runs.length]).toEqual([3, 3, 2, 1])
    expect(entries).toContainEqual(
      expect.objectContaining({ kind: 'fault', text: expect.stringContaining('indicator of relay 3') }),
    )
  })
})

describe('credentials', () => {
  /** a canary for each shape, so that each passes its own check */
  const canaryOf = (shape: string, i: number): string =>
    shape === 'pin'
      ? `77${i}31`
      : shape === 'host'
        ? `canary-${i}.invalid`
        : shape === 'url'
          ? `https://canary-${i}.invalid/x`
          : `canary7f3a9e${i}secret`

  it(
    'planted in every field, they stand in no answer, export, build, archive, log or live message; only ' +
      'in the secrets file that is asked for',
    async () => {
      const heard: string[] = []
      const socket = new WebSocket(`${server.url.replace('http', 'ws')}/api/live?site=fernhollow`)
      socket.on('message', (data) => heard.push(String(data)))
      await new Promise((resolve) => socket.on('open', resolve))
      const { credentials } = (await server.ask('GET', '/api/sites/fernhollow/credentials')).json as {
        credentials: { key: string; shape: string; stored: { updatedAt: string } | null; controllers: string[] }[]
      }
      const typed = credentials.filter((row) => row.stored === null)
      expect(typed.length).toBeGreaterThan(8)
      const canaries = new Map<string, string>()
      for (const [i, row] of typed.entries()) {
        canaries.set(row.key, canaryOf(row.shape, i))
        expect(
          (
            await server.ask('PUT', '/api/sites/fernhollow/credentials', {
              key: row.key,
              value: ` ${canaries.get(row.key)!}\n`.slice(row.shape === 'password' ? 1 : 0),
            })
          ).status,
        ).toBe(200)
      }
      const built = await server.ask('POST', '/api/sites/fernhollow/builds', {
        controller: 'throwing',
        despiteFindings: true,
      })
      const formats = [
        'site',
        'csv',
        'points-csv',
        'hub-yaml',
        'hub-secrets',
        'asyncapi',
        'serial-table',
        'voice',
        'infrared',
        'quota',
      ]
      const paths = [
        '/api/sites',
        '/api/sites/fernhollow',
        '/api/sites/fernhollow/credentials',
        '/api/sites/fernhollow/log',
        '/api/sites/fernhollow/findings',
        '/api/sites/fernhollow/builds',
        `/api/builds/${built.json.build.id}`,
        '/api/health',
        '/api/openapi',
        ...formats.map((format) => `/api/sites/fernhollow/export/${format}`),
      ]
      const texts = await Promise.all(paths.map(async (path) => `${path} ${(await server.ask('GET', path)).text}`))
      const zip = Buffer.from(await (await fetch(`${server.url}/api/builds/${built.json.build.id}/zip`)).arrayBuffer())
      const unzipped = Object.values(unzipSync(zip)).map((bytes) => Buffer.from(bytes).toString('utf8'))
      await until(() => heard.find((line) => line.includes('credentials')))
      socket.close()
      const leaks = [...canaries].filter(([, value]) =>
        [...texts, ...unzipped, ...heard].some((text) => text.includes(value)),
      )
      expect(leaks.map(([key]) => key)).toEqual([])
      const secrets = (await server.ask('POST', '/api/sites/fernhollow/controllers/throwing/secrets')).text
      expect(secrets).toContain(`#define VESTIBULE_WIFI_PASSWORD "${canaries.get('wifi/password')!}"`)
      expect(secrets).toContain(`#define VESTIBULE_APP_BOARD_KEY "${canaries.get('app/board-key/throwing')!}"`)
      expect(secrets).not.toContain(canaries.get('app/board-key/glaze')!)
      for (const name of readdirSync(server.data))
        for (const value of canaries.values()) expect(readFileSync(join(server.data, name)).includes(value)).toBe(false)
    },
  )
  it('what was cleaned is said, what does not fit is refused without its value', async () => {
    expect(
      (
        await server.ask('PUT', '/api/sites/fernhollow/credentials', {
          key: 'app/board-key/glaze',
          value: '  abcd efgh ijkl \n',
        })
      ).json,
    ).toEqual({ changes: ['spaces around it removed', 'spaces inside removed'] })
    const refused = await server.ask('PUT', '/api/sites/fernhollow/credentials', {
      key: 'app/board-key/glaze',
      value: 'short',
    })
    expect(refused.status).toBe(422)
    expect(refused.text).not.toContain('short"')
    expect(
      (await server.ask('PUT', '/api/sites/fernhollow/credentials', { key: 'nobody/asked', value: 'x' })).status,
    ).toBe(404)
  })
  it('one value on two devices, and one that is newer than its board, are found', async () => {
    for (const controller of ['throwing', 'glaze'])
      await server.ask('PUT', '/api/sites/fernhollow/credentials', {
        key: `app/board-key/${controller}`,
        value: 'sametoken12345',
      })
    const { findings } = (await server.ask('GET', '/api/sites/fernhollow/findings')).json as {
      findings: { id: string; where: { id: string } }[]
    }
    expect(findings.map((finding) => `${finding.id} ${finding.where.id}`)).toEqual(
      expect.arrayContaining(['C03 app/board-key/glaze', 'C07 wifi/password']),
    )
  })
  it('are forgotten when asked', async () => {
    expect(
      (await server.ask('DELETE', '/api/sites/fernhollow/credentials', { key: 'wifi/password' })).status,
    ).toBeLessThan(300)
    const { credentials } = (await server.ask('GET', '/api/sites/fernhollow/credentials')).json as {
      credentials: { key: string; stored: unknown }[]
    }
    expect(credentials.find((row) => row.key === 'wifi/password')!.stored).toBeNull()
  })
  it('the key of the store is for its owner only', () =>
    expect(statSync(join(server.data, 'credentials.key')).mode & 0o777).toBe(0o600))
})

describe('soldering', () => {
  it('is kept, said when it begins and when it is done, and only of wires that there are', async () => {
    const path = '/api/sites/studio-corner'
    const wires = connectionsOf((await server.ask('GET', path)).json.site, 'corner').map(wireKey)
    const tick = (wire: string, done = true) => server.ask('PUT', `${path}/controllers/corner/wires`, { wire, done })
    for (const wire of wires) expect((await tick(wire)).status).toBe(200)
    expect((await tick('board X|nowhere')).status).toBe(404)
    await tick(wires[0]!, false)
    const { wires: kept, entries } = (await server.ask('GET', `${path}/log`)).json as {
      wires: { wire: string }[]
      entries: { text: string }[]
    }
    expect(kept.map((row) => row.wire)).toEqual(wires.slice(1))
    expect(entries.slice(0, 2).map(({ text }) => text)).toEqual([
      `Corner is soldered: all ${wires.length} wires of its list are ticked off`,
      `soldering of Corner begun: 1 of ${wires.length} wires ticked off`,
    ])
  })
})

describe('live updates', () => {
  it('tell of an edit, to the tabs of that site only', async () => {
    const heard: string[] = []
    const sockets = ['fernhollow', 'before-review'].map((site) => {
      const socket = new WebSocket(`${server.url.replace('http', 'ws')}/api/live?site=${site}`)
      socket.on('message', (data) => heard.push(`${site} ${String(data)}`))
      return socket
    })
    await Promise.all(sockets.map((socket) => new Promise((resolve) => socket.on('open', resolve))))
    await server.ask('PATCH', '/api/sites/fernhollow', rename('Fernhollow'), match(0))
    await until(() =>
      heard.find(
        (line) =>
          line ===
          'fernhollow {"kind":"edit","site":"fernhollow","revision":1,"label":"rename to Fernhollow","tab":""}',
      ),
    )
    expect(heard.filter((line) => line.startsWith('before-review'))).toEqual([])
    sockets.forEach((socket) => socket.close())
  })
})
