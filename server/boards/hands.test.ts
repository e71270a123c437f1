import { readFileSync } from 'node:fs'
import { afterEach, describe, expect, it, vi } from 'vitest'
import type { HandRow } from '../../core/api'
import { readSite } from '../../core/site'
import type { Watch } from '../../core/witness'
import { until } from '../server.testkit'
import { TestsInHand, type HandsGround } from './hands'

const parsed = readSite(readFileSync('demo/studio-corner.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const site = parsed.value
const KEY = 'alone:desk-lamp:desk-lamp-remote:hold'
const watch: Watch = {
  controller: 'corner',
  hears: [{ kind: 'still', channel: site.channels[0]!.id, ms: 60 }],
  also: [],
  eye: { asks: 'Did the relay click?', about: null, shows: true },
}

/** A run of one test, and what its pages were told. */
function oneTest(): { hands: TestsInHand; told: HandRow[] } {
  const told: HandRow[] = []
  const ground = {
    db: {
      sites: { get: () => ({ site }) },
      logbook: {
        run: () => ({ siteId: site.id, controller: 'corner', items: [{ key: KEY, stage: 'alone', outcome: 'open' }] }),
        watches: () => new Map([[KEY, watch]]),
      },
    },
    live: { tell: ({ hand }: { hand: HandRow }) => void told.push(hand) },
    house: { boards: () => ({ boards: {}, lastBeat: null, screens: [], followed: () => () => undefined }) },
  }
  return { hands: new TestsInHand(ground as unknown as HandsGround), told }
}

afterEach(() => vi.useRealTimers())

describe('a step that time alone ends', () => {
  it('ends, though its timer rang before the clock said so', async () => {
    const { hands, told } = oneTest()
    // the clock stands a moment before the step is due, while timers go on
    vi.useFakeTimers({ toFake: ['Date'], now: 1_000 })
    hands.take(1, KEY, 'tab', false)
    vi.setSystemTime(1_059)
    await new Promise((resolve) => setTimeout(resolve, 150))
    expect(told.at(-1)!.lines.map(({ state }) => state)).toEqual(['waiting'])
    vi.setSystemTime(1_061)
    vi.useRealTimers()
    await until(() => told.at(-1)!.lines.every(({ state }) => state === 'heard'), 2_000)
    hands.close()
  })
})
