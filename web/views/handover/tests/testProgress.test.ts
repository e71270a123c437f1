import { describe, expect, it } from 'vitest'
import type { Outcome, TestRun } from '../../../../core/api'
import { testList } from '../../../../core/outputs'
import { demo } from '../../view.testkit'
import { byChannel, mayAnswer, nextTest, progressWords, testsAfter } from './testProgress'

const site = demo('fernhollow')
const run = (outcome: (at: number) => Outcome): TestRun => ({
  id: 1,
  siteId: 'fernhollow',
  controller: 'throwing',
  buildId: null,
  revision: 0,
  at: '2026-01-01T00:00:00Z',
  items: testList(site, 'throwing').map(({ watch: _, ...item }, at) => ({
    ...item,
    ...{ outcome: outcome(at), note: '', at: null, heard: [], toldBy: null },
  })),
})

describe('the next test', () => {
  it('is the first that is open', () => {
    const half = run((at) => (at < 5 ? 'passed' : 'open'))
    expect(nextTest(half)).toBe(half.items[5])
    expect(testsAfter(half, half.items[5]!)[0]).toBe(half.items[6])
  })
  it('a failed one holds the next stage back, and the rest of its own goes on', () => {
    const failed = run((at) => (at === 0 ? 'failed' : 'open'))
    expect(nextTest(failed)).toBe(failed.items[1])
    const later = failed.items.find(({ stage }) => stage === 'load')!
    expect(mayAnswer(failed, later)).toBe(false)
    const alone = failed.items.filter(({ stage }) => stage === 'alone').length
    expect(nextTest(run((at) => (at === 0 ? 'failed' : at < alone ? 'passed' : 'open')))).toBeUndefined()
  })
  it('is none when all is done', () => expect(nextTest(run(() => 'passed'))).toBeUndefined())
})

describe('progress', () => {
  it('counts what is done, and says what failed', () => {
    const items = run((at) => (at < 3 ? 'passed' : at === 3 ? 'failed' : 'open')).items.slice(0, 6)
    expect(progressWords(items)).toBe('4 of 6 done, 1 failed')
    expect(progressWords(items.slice(0, 3))).toBe('3 passed')
  })
  it('stands by channel, each test once', () => {
    const { items } = run(() => 'open')
    const groups = byChannel(site, items, 'Throwing')
    expect(groups.flatMap((group) => group.items)).toHaveLength(items.length)
    expect(groups.map(({ name }) => name)).toContain('Bench lights')
    expect(groups.at(-1)!.items.length).toBeGreaterThan(0)
  })
})
