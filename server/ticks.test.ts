import { existsSync } from 'node:fs'
import { afterEach, describe, expect, it } from 'vitest'
import type { HandRow, TestRun } from '../core/api'
import { testList, type TestItem } from '../core/outputs'
import { credentialsNeeded } from '../core/services'
import { controllerOf, type Site } from '../core/site'
import { MISTAKES, type Mistake } from '../core/witness/mistakes.testkit'
import { Eyes, playLines } from '../core/witness/player.testkit'
import { scriptOf } from '../core/witness/script.testkit'
import { closeAll as closeBrokers, mosquitto } from '../firmware/test/live.testkit'
import { closeAll, open } from './house.testkit'
import { LiveBench } from './liveBench.testkit'
import { testServer, type TestServer } from './server.testkit'

// The compiled firmware as a real board on an independent broker, a script's hands at its pins and at its phone, and
// the server that ticks the run by what the board says. THOROUGH=1: the whole run, and every mistake with the tests
// around it.

afterEach(async () => {
  await closeAll()
  closeBrokers()
})

const CONTROLLER = 'throwing'
/** A test of each kind, for a usual run. */
const SOME = /bench-lights-(wall|app|remote):|clay-dust-fan-wall|start:shelf-lights:on|outage:broker|^load:load:bench/
const THOROUGH = Boolean(process.env['THOROUGH'])

/** The pottery in a server of its own on an independent broker, its credentials typed, its longest rest cut short. */
async function pottery(brokerPort: number): Promise<{ server: TestServer; site: Site }> {
  const server = await testServer({ brokerUrl: `mqtt://127.0.0.1:${brokerPort}` })
  open.push(server)
  const { site, revision } = (await server.ask('GET', '/api/sites/fernhollow')).json as { site: Site; revision: number }
  const at = site.channels.findIndex(({ id }) => id === 'compressor-socket')
  const patch = [{ op: 'replace', path: `/channels/${at}/minOffMs`, value: 2_000 }]
  await server.ask('PATCH', '/api/sites/fernhollow', { label: 'a short rest', patch }, { 'If-Match': `"${revision}"` })
  for (const { key, shape, made } of credentialsNeeded(site)) {
    if (made) continue
    const value =
      ({ host: '127.0.0.1', pin: '48151623' } as Record<string, string>)[shape] ??
      `${key.replace(/[^a-z0-9]+/g, '-')}-0123456789`
    const put = await server.ask('PUT', '/api/sites/fernhollow/credentials', { key, value })
    expect(put.status, put.text).toBe(200)
  }
  return { server, site: ((await server.ask('GET', '/api/sites/fernhollow')).json as { site: Site }).site }
}

interface Came {
  readonly key: string
  readonly outcome: string
  readonly by: string | null
  readonly note: string
}

/** Plays one test of a run, and gives what became of it; what nobody told is failed by hand. */
async function plays(server: TestServer, bench: LiveBench, eyes: Eyes, run: number, item: TestItem): Promise<Came> {
  const { site } = bench
  const path = `/api/test-runs/${run}`
  const now = async () => {
    const { runs } = (await server.ask('GET', `/api/sites/${site.id}/log`)).json as { runs: TestRun[] }
    return runs.find(({ id }) => id === run)!.items.find(({ key }) => key === item.key)!
  }
  const lines = scriptOf(site, item, controllerOf(site, CONTROLLER as never)!.storeMs)!
  await playLines(site, bench, eyes, lines, async () => {
    const taken = await server.ask('PUT', `${path}/hand`, { key: item.key }, { 'X-Tab': 'hands' })
    expect(taken.status, taken.text).toBe(200)
    bench.hand = (taken.json as { hand: HandRow }).hand
  })
  if (bench.hand!.eye !== null && (await now()).outcome === 'open') await bench.sees('eye', eyes.says(item))
  for (let waited = 0; waited < 6_000 && (await now()).outcome === 'open'; waited += 250) await bench.wait(250)
  const words = [...bench.hand!.odd, ...bench.hand!.lines.map(({ state, text }) => `${state}: ${text}`)].join('; ')
  if ((await now()).outcome === 'open')
    await server.ask('PUT', `${path}/items/${encodeURIComponent(item.key)}`, {
      outcome: 'failed',
      note: words.slice(0, 500),
    })
  const { outcome, toldBy, note } = await now()
  bench.hand = null
  return { key: item.key, outcome, by: toldBy, note: note === '' ? words : note }
}

async function runs(mistake: Mistake | null, keys: (key: string) => boolean): Promise<readonly Came[]> {
  const broker = mosquitto()
  const { server, site } = await pottery(broker.port)
  const eyes = new Eyes(site)
  const bench = await LiveBench.of(server, site, mistake?.flashed(site) ?? site, CONTROLLER, eyes, broker)
  open.push(bench)
  await bench.isUp()
  const came: Came[] = []
  const list = testList(site, CONTROLLER).filter(({ key }) => keys(key))
  // where a stage may fail, the next has a run of its own: a mistake is to be seen in all the tests that it spoils
  const parts =
    mistake === null
      ? [list]
      : (['alone', 'no-load', 'load'] as const).map((one) => list.filter(({ stage }) => stage === one))
  for (const own of parts) {
    if (own.length === 0) continue
    const body = { controller: CONTROLLER, only: own.map(({ key }) => key) }
    const { id } = (await server.ask('POST', `/api/sites/${site.id}/test-runs`, body)).json as { id: number }
    for (const item of own) came.push(await plays(server, bench, eyes, id, item))
  }
  return came
}

describe.skipIf(!existsSync('/usr/sbin/mosquitto'))('a real board on an independent broker', () => {
  it(
    'ticks its run by itself, while a script plays the hands',
    async () => {
      const start = Date.now()
      const came = await runs(null, (key) => THOROUGH || SOME.test(key))
      const by = (who: string) => came.filter((one) => one.by === who).length
      console.log(
        `${came.length} tests, ${by('board')} by the board, ${by('eye')} with an eye, ${Date.now() - start} ms`,
      )
      expect(came.filter(({ outcome }) => outcome !== 'passed')).toEqual([])
      expect(by('board')).toBeGreaterThan(came.length / 3)
    },
    THOROUGH ? 1_200_000 : 300_000,
  )

  // usually one mistake, with the tests that it spoils and some that it must leave alone
  const tried = MISTAKES.filter(({ loses }) => !loses).filter((_, at) => THOROUGH || at === 2)
  it.each(tried)(
    'fails exactly what is spoilt where $name',
    async (mistake) => {
      const isSpoilt = (key: string) => mistake.spoils.some((one) => one.test(key))
      const came = await runs(
        mistake,
        (key) => isSpoilt(key) || (THOROUGH ? /-(wall|remote):|^load/ : /wedging-lamp-(wall|remote)/).test(key),
      )
      // with what was heard, where a test fails that nothing spoils
      expect(came.filter(({ key, outcome }) => outcome === 'failed' && !isSpoilt(key))).toEqual([])
      expect(came.filter(({ outcome }) => outcome === 'failed').map(({ key }) => key)).toEqual(
        came.map(({ key }) => key).filter(isSpoilt),
      )
    },
    THOROUGH ? 1_200_000 : 300_000,
  )
})
