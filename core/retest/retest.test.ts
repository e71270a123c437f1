import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import { testList } from '../outputs'
import { readSite, type Site } from '../site'
import { addRemoteWay, addVoiceWay } from '../ways'
import { bruteForce } from './bruteForce.testkit'
import { dueTests, NEVER_PASSED, NEW_TEST, testAgain } from '.'

// Source of the checks: brute force. Every test is played in the simulated house before and after an edit; one that the
// list leaves out must come out as before.

const bench = (): Site => {
  const site = cleanSite()
  for (const channel of site.channels) {
    addRemoteWay(site, channel)
    addVoiceWay(site, channel)
  }
  return site
}
const after = (site: Site, change: (draft: Site) => void): Site => {
  const draft = structuredClone(site)
  change(draft)
  return draft
}
const keysOf = (before: Site, now: Site): string[] =>
  testAgain(before, now, before.controllers[0]!.id).again.map(({ key }) => key)

describe('against brute force', () => {
  it('no test that is left out comes out otherwise, over random edits', () => {
    const edits = process.env['THOROUGH'] ? 1_000 : 80
    const { missed, caught, share } = bruteForce(bench(), edits, 1)
    console.log(
      `${edits} edits: ${caught} tests came out otherwise and were named; ${(share * 100).toFixed(0)} % again in the mean`,
    )
    expect(missed).toEqual([])
    expect(caught).toBeGreaterThan(0)
    expect(share).toBeLessThan(0.6)
  }, 240_000)
})

describe('what to test again', () => {
  it('nothing, when nothing has changed', () => expect(keysOf(bench(), bench())).toEqual([]))
  it('nothing, when a room, a channel’s name or a price changes', () =>
    expect(
      keysOf(
        bench(),
        after(bench(), (site) => {
          site.channels[0]!.name = 'Lamp over the bench'
          site.rooms[0]!.name = 'Corridor'
        }),
      ).filter((key) => !key.startsWith('load:')),
    ).toEqual([]))
  it('one switch’s settle time: its own tests and what its channel does at the start', () => {
    const again = testAgain(
      bench(),
      after(bench(), (site) => void (site.inputs[0]!.settleMs = 60)),
      'corner',
    ).again
    expect(again.filter(({ way }) => way !== null).map(({ way }) => way)).toEqual(['bench-lamp-wall'])
    for (const { why, channel } of again.filter(({ way }) => way !== null))
      expect([why, channel]).toEqual([['switch S1'], 'bench-lamp'])
  })
  it('a key’s code: keys, and nothing of wall, phone or hub', () => {
    const now = after(
      bench(),
      (site) => void (site.remotes[0]!.keys[0]!.code = { protocol: 'nec', address: 9, command: 77 } as never),
    )
    const kinds = new Set(keysOf(bench(), now).flatMap((key) => /alone:[^:]+:([^:]+):/.exec(key)?.[1] ?? []))
    expect([...kinds].every((way) => way.includes('remote'))).toBe(true)
    expect(kinds.size).toBeGreaterThan(0)
  })
  it('what a channel does after a power cut: tests that cut the power, and those of the whole board', () => {
    const [{ id }] = bench().channels as [Site['channels'][number]]
    const now = after(
      bench(),
      (site) => void (site.channels[0] = { ...site.channels[0]!, powerUp: { policy: 'on' } } as never),
    )
    const keys = keysOf(bench(), now)
    expect(keys.some((key) => key.startsWith(`no-load:start:${id}`))).toBe(true)
    expect(keys.filter((key) => key.startsWith(`alone:${id}:`) || key.startsWith('load:'))).toEqual([])
  })
  it('the board: everything', () => {
    const now = after(bench(), (site) => void (site.controllers[0]!.module!.active = 'high'))
    expect(keysOf(bench(), now)).toHaveLength(testList(bench(), 'corner').length)
  })
  it('a new way is new on the list', () => {
    const without = after(bench(), (site) => void (site.ways = site.ways.filter(({ kind }) => kind !== 'remote')))
    const again = testAgain(without, bench(), 'corner').again
    expect(again.find(({ way }) => way?.includes('remote'))!.why).toEqual([NEW_TEST])
  })
})

describe('what is due', () => {
  const site = bench()
  const keys = testList(site, 'corner').map(({ key }) => key)
  it('everything that never passed', () => {
    const { again, of } = dueTests(site, 'corner', new Map())
    expect([again.length, of]).toEqual([keys.length, keys.length])
    expect(again[0]!.why).toEqual([NEVER_PASSED])
  })
  it('nothing while all is as when it passed, and each test by its own run', () => {
    const passed = new Map(keys.map((key) => [key, { of: 'revision 3', site }]))
    expect(dueTests(site, 'corner', passed).again).toEqual([])
    const now = after(site, (draft) => void (draft.inputs[0]!.settleMs = 60))
    const due = dueTests(now, 'corner', passed).again.map(({ key }) => key)
    // those are made again at a later revision; the others hold from before
    for (const key of due) passed.set(key, { of: 'revision 4', site: now })
    expect(dueTests(now, 'corner', passed).again).toEqual([])
  })
  it('holds for every board of the pottery', () => {
    const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
    if (!parsed.ok) throw parsed.error
    for (const { id } of parsed.value.controllers)
      expect(testAgain(parsed.value, structuredClone(parsed.value), id).again).toEqual([])
  })
})
