import { afterEach, describe, expect, it } from 'vitest'
import { lampFanStrike } from '../core/outputs/kinds.testkit'
import { THOROUGH } from '../firmware/test/fuzz.testkit'
import { accept, acceptanceTable } from './acceptance'
import { startLive, type LiveRun } from './live'

// The acceptance of a small site, and that it can fail: with a cut wire, and with a key that is another by now.

const runs: LiveRun[] = []
afterEach(async () => {
  for (const run of runs.splice(0)) await run.close()
})
const started = async (site: Parameters<typeof startLive>[0]): Promise<LiveRun> => {
  const run = await startLive(site, 0)
  runs.push(run)
  return run
}

describe('live acceptance', () => {
  // a run of all tests plays the second only; by itself this file plays both
  it.runIf(THOROUGH)(
    'passes every way, screen and outage of a site with a service and a hub',
    async () => {
      const site = lampFanStrike(['broker', 'datapoint'])
      const rows = await accept(site, await started(site))
      expect(rows.filter(({ result }) => result !== 'passed')).toEqual([])
      expect(rows.map(({ way }) => way)).toContain('Datapoint app service back: shown')
      // three ways each, two screens of lamp and fan, an outage of each
      expect(rows.length).toBe(9 + 4 + 2 + 1)
      expect(acceptanceTable(rows)).toMatch(/16 passed, 0 failed, 0 skipped\n$/)
    },
    180_000,
  )

  it('fails a switch whose wire is cut, and a service that holds another key', async () => {
    const site = lampFanStrike(['datapoint'])
    site.channels = site.channels.filter(({ id }) => id !== 'strike')
    site.ways = site.ways.filter(({ channel }) => channel !== 'strike')
    const run = await started(site)
    // what is compiled has the old key
    while ((await run.state()).phase !== 'on') await new Promise((resolve) => setTimeout(resolve, 100))
    const cut: LiveRun = {
      ...run,
      ask: (method, path, body) =>
        (body as { pin?: string } | undefined)?.pin === 'lamp-button'
          ? Promise.resolve({ ok: true })
          : run.ask(method, path, body),
    }
    await run.ask('PUT', '/credentials', { key: 'datapoint/board-key/box', value: 'another-key-0123456789' })
    const rows = await accept(site, cut, { changeMs: 1_200, returnMs: 1_500 })
    const failed = rows.filter(({ result }) => result === 'failed').map(({ channel, way }) => `${channel} ${way}`)
    expect(failed).toContain('Lamp by Lamp button')
    expect(failed).toContain('Lamp on Datapoint app service')
    expect(failed).toContain('Fan shown on Datapoint app service')
    expect(failed).not.toContain('Fan by Fan button')
  }, 300_000)
})
