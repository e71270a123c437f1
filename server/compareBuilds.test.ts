import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AnswerOf } from '../core/api'
import type { Site } from '../core/site'
import { testServer, type TestServer } from './server.testkit'

let server: TestServer
beforeAll(async () => {
  server = await testServer()
})
afterAll(() => server.close())

const PATH = '/api/sites/studio-corner'
const built = async (): Promise<number> => {
  const answer = await server.ask('POST', `${PATH}/builds`, { controller: 'corner', despiteFindings: true })
  expect(answer.status, answer.text).toBe(201)
  return (answer.json as { build: { id: number } }).build.id
}
async function change(path: (site: Site) => string, value: unknown): Promise<void> {
  const { site, revision } = (await server.ask('GET', PATH)).json as { site: Site; revision: number }
  const patch = [{ op: 'replace', path: path(site), value }]
  const answer = await server.ask('PATCH', PATH, { label: 'a change', patch }, { 'If-Match': `"${revision}"` })
  expect(answer.status, answer.text).toBe(200)
}
const compared = async (a: number, b: number) =>
  (await server.ask('GET', `/api/builds/${a}/against/${b}`)).json as AnswerOf<'compareBuilds'>

describe('two builds compared', () => {
  it('say what a maker would, which tests it touches, and the lines of the tables', async () => {
    const first = await built()
    await change((site) => `/channels/${site.channels.findIndex(({ id }) => id === 'desk-lamp')}/maxOnMs`, 60_000)
    const second = await built()
    const page = await compared(first, second)
    expect(page.changes.map(({ what }) => what).join()).toMatch(/Desk lamp/)
    expect(page.again.length).toBeGreaterThan(0)
    expect(page.again.length).toBeLessThan(page.of)
    // a limit that was not there is a test that was not there
    expect(page.again.some(({ key }) => key.includes('limit:desk-lamp'))).toBe(true)
    expect(page.tables.some(({ sign, line }) => sign === '+' && line.includes('60000'))).toBe(true)
    // whichever way round they are asked for
    expect(await compared(second, first)).toEqual(page)
    expect(await compared(second, second)).toMatchObject({ changes: [], tables: [], again: [] })
  })
  it('of the demo: three power-up policies, their tests, in words', async () => {
    const { builds } = (await server.ask('GET', '/api/sites/fernhollow/builds')).json as {
      builds: { id: number; controller: string }[]
    }
    const [second, first] = builds.filter(({ controller }) => controller === 'throwing')
    const page = await compared(first!.id, second!.id)
    expect(page.changes.map(({ what }) => what)).toEqual([
      'channel Bench lights, after a power cut: off → as it was',
      'channel Shelf lights, after a power cut: off → as it was',
      'channel Clay-dust fan, after a power cut: off → as its switch stands',
    ])
    for (const channel of ['bench-lights', 'shelf-lights', 'clay-dust-fan'])
      expect(page.again.some(({ key }) => key.startsWith(`no-load:start:${channel}`))).toBe(true)
    expect(page.again.some(({ key }) => key.startsWith('no-load:start:wedging-lamp'))).toBe(false)
  })
  it('are of one controller', async () => {
    const own = await built()
    const { builds } = (await server.ask('GET', '/api/sites/fernhollow/builds')).json as { builds: { id: number }[] }
    expect((await server.ask('GET', `/api/builds/${own}/against/${builds[0]!.id}`)).status).toBe(409)
  })
})
