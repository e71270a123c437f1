import { soon } from '../soon.testkit'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { applyOperations } from '../../core/site'
import { loadSite } from './editing'
import { Keeper } from './keeper.testkit'
import { followLive } from './live'
import { store } from './store'

/** A line that the test opens, speaks on and breaks. */
class Line {
  static made: Line[] = []
  onopen: (() => void) | null = null
  onmessage: ((event: { data: string }) => void) | null = null
  onclose: (() => void) | null = null
  readonly address: string
  constructor(address: string) {
    this.address = address
    Line.made.push(this)
  }
  close(): void {
    this.onclose?.()
  }
}

let keeper: Keeper
const name = () => store.getState().site.site?.name
/** Another tab renames the site at the server. */
const renamed = (to: string) => {
  keeper.site = applyOperations(keeper.site, [{ op: 'replace', path: '/name', value: to }])
  keeper.revision++
}

beforeEach(async () => {
  Line.made = []
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] })
  vi.stubGlobal('requestAnimationFrame', (run: () => void) => setTimeout(run))
  vi.stubGlobal('location', { protocol: 'http:', host: 'here.invalid' })
  vi.stubGlobal('WebSocket', Line)
  keeper = new Keeper()
  vi.stubGlobal('fetch', keeper.fetch)
  await store.dispatch(loadSite('test-bench'))
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

it('an edit that is heard is fetched', async () => {
  const stop = followLive('test-bench', store.dispatch)
  expect(Line.made[0]!.address).toBe('ws://here.invalid/api/live?site=test-bench')
  Line.made[0]!.onopen!()
  renamed('Heard')
  Line.made[0]!.onmessage!({ data: JSON.stringify({ kind: 'edit', revision: keeper.revision }) })
  await soon(() => expect(name()).toBe('Heard'))
  stop()
})

it('a line that comes back asks for what it missed', async () => {
  const stop = followLive('test-bench', store.dispatch)
  Line.made[0]!.onopen!()
  Line.made[0]!.onclose!()
  renamed('Missed')
  await vi.advanceTimersByTimeAsync(2_000)
  expect(Line.made).toHaveLength(2)
  expect(name()).toBe('Test bench')
  Line.made[1]!.onopen!()
  await soon(() => expect(name()).toBe('Missed'))
  stop()
})

it('the first opening asks for nothing, and a stopped line does not come back', async () => {
  const asked = vi.fn(keeper.fetch)
  vi.stubGlobal('fetch', asked)
  const stop = followLive('test-bench', store.dispatch)
  Line.made[0]!.onopen!()
  stop()
  await vi.advanceTimersByTimeAsync(10_000)
  expect([asked.mock.calls, Line.made.length]).toEqual([[], 1])
})
