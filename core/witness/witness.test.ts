import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { testList } from '../outputs'
import { choices } from '../seeded'
import { readSite } from '../site'
import { MISTAKES } from './mistakes.testkit'
import { virtualRun } from './virtualRun.testkit'
import {
  channelsOf,
  dueAt,
  follow,
  hear,
  heardOn,
  isHeard,
  linesOf,
  oddWords,
  passes,
  standsInTheWay,
  takeInHand,
  unheard,
  verdictOf,
  type Boards,
  type Expect,
  type Heard,
  type InHand,
  type Watch,
} from '.'

// Source of the checks: what a report, a status and a log line mean by docs/behaviour.md (Topics, Commands, Power,
// Link), and for each mistake at the bench the tests that a person there would see fail.

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const site = parsed.value

describe('a whole run at a board that is right', () => {
  it.each([
    ['throwing', 58],
    ['glaze', 24],
    ['yard', 15],
    // behind a radio, whose reports know no causes
    ['drying', 26],
    ['window', 16],
  ])('of %s ticks itself', async (controller, tests) => {
    const came = await virtualRun(site, site, controller)
    expect(came).toHaveLength(tests)
    expect(came.filter(({ outcome }) => outcome === 'failed')).toEqual([])
    // a feed is let go by its hub alone, which nobody plays here
    expect(came.filter(({ outcome }) => outcome === 'not played').map(({ item }) => item.key)).toEqual(
      controller === 'window' ? ['load:load:window-spots'] : [],
    )
  })
  it('asks an eye for no more than what no report can say', async () => {
    const came = await virtualRun(site, site, 'throwing')
    expect(came.filter(({ by }) => by === 'board').length).toBeGreaterThanOrEqual(30)
  })
})

describe('a mistake makes exactly the tests fail that it spoils', () => {
  it.each(MISTAKES)('$name', async ({ flashed, loses, spoils }) => {
    const came = await virtualRun(site, flashed(site), 'throwing', loses)
    const failed = came.filter(({ outcome }) => outcome === 'failed').map(({ item }) => item.key)
    const wanted = came.map(({ item }) => item.key).filter((key) => spoils.some((one) => one.test(key)))
    expect(failed).toEqual(wanted)
    expect(failed.length).toBeGreaterThan(0)
  })
})

// ---- single clauses ----

const at = (topic: string, payload: string, t: number): Heard =>
  heardOn(site, `vestibule/fernhollow/${topic}`, payload, t)!
const state = (channel: string, on: boolean, source: string, seq: number, t: number): Heard =>
  at(`throwing/${channel}/state`, JSON.stringify({ on, source, seq }), t)

/** A test in hand, and what it makes of what is heard one after another. */
class Heareth {
  boards: Boards = {}
  hand: InHand
  constructor(hears: readonly Expect[], before: readonly Heard[] = [], more: Partial<Watch> = {}) {
    for (const one of before) this.boards = hear(this.boards, one)
    this.hand = takeInHand({ ...unheard('throwing'), hears: [...hears], ...more }, this.boards, 1_000)
  }
  says(...all: readonly Heard[]): this {
    for (const heard of all) {
      const before = this.boards
      this.boards = hear(before, heard)
      this.hand = follow(this.hand, heard, before, this.boards, {})
    }
    return this
  }
  odd = (): string[] => this.hand.odd.map((odd) => oddWords(site, this.hand, odd))
}
const flip: Expect[] = [
  { kind: 'turn', turn: { channel: 'bench-lights', to: 'turned', by: ['wall'] } },
  { kind: 'turn', turn: { channel: 'bench-lights', to: 'turned', by: ['wall'] } },
]
const off = state('bench-lights', false, 'power', 0, 500)

describe('a report counts for a test in hand', () => {
  it('by its channel, its source, and where it goes', () => {
    const heard = new Heareth(flip, [off]).says(
      state('bench-lights', true, 'wall', 1, 2_000),
      state('bench-lights', false, 'wall', 2, 3_000),
    )
    expect(isHeard(heard.hand)).toBe(true)
    expect(verdictOf(heard.hand, null, null)).toEqual({ outcome: 'passed', by: 'board' })
    expect(linesOf(site, heard.hand)[0]).toEqual({
      state: 'heard',
      text: 'Bench lights on, by wall switch',
      detail: 'seq 1',
    })
  })
  it('not where it only repeats what was said before', () => {
    const heard = new Heareth(flip, [state('bench-lights', true, 'wall', 4, 500)]).says(
      state('bench-lights', true, 'wall', 4, 2_000),
    )
    expect(heard.hand.done).toHaveLength(0)
  })
  it('not by another cause, which it says', () => {
    const heard = new Heareth(flip, [off]).says(state('bench-lights', true, 'remote', 1, 2_000))
    expect(heard.hand.done).toHaveLength(0)
    expect(heard.odd()).toEqual(['Heard: Bench lights on, by remote. This step waits for another cause.'])
  })
  it('another channel that the hand moved holds the outcome for a person', () => {
    const heard = new Heareth(flip, [off, state('shelf-lights', false, 'power', 0, 500)]).says(
      state('shelf-lights', true, 'wall', 1, 2_000),
      state('bench-lights', true, 'wall', 1, 2_100),
      state('bench-lights', false, 'wall', 2, 3_000),
    )
    expect(isHeard(heard.hand)).toBe(true)
    expect(verdictOf(heard.hand, null, null)).toBeNull()
    expect(heard.odd()[0]).toMatch(/Shelf lights on, by wall switch: that is not Bench lights/)
  })
  it('unless the same switch works it too', () => {
    const heard = new Heareth(flip, [off], { also: ['shelf-lights'] }).says(
      state('shelf-lights', true, 'wall', 1, 2_000),
    )
    expect(heard.odd()).toEqual([])
  })
  it('and one that was lost on the way is missed by its number', () => {
    const heard = new Heareth(flip, [off]).says(state('bench-lights', true, 'wall', 3, 2_000))
    expect(heard.odd()).toEqual(['2 reports are missing before seq 3.'])
  })
  it('a channel that is there already is to be moved first', () => {
    const on: Expect = { kind: 'turn', turn: { channel: 'bench-lights', to: 'on', by: ['nearby'] } }
    const heard = new Heareth([on], [state('bench-lights', true, 'wall', 1, 500)])
    expect(standsInTheWay(heard.hand, heard.boards)).toEqual({ channel: 'bench-lights', level: 1 })
  })
})

describe('what must not come', () => {
  const once: Expect[] = [flip[0]!, { kind: 'still', channel: 'bench-lights', ms: 3_000 }]
  it('a second change of a key that acts once fails the test by itself', () => {
    const heard = new Heareth(once, [off]).says(
      state('bench-lights', true, 'wall', 1, 2_000),
      state('bench-lights', false, 'wall', 2, 2_400),
    )
    expect(verdictOf(heard.hand, null, null)).toMatchObject({
      outcome: 'failed',
      by: 'board',
      breach: { kind: 'again' },
    })
  })
  it('silence for its time passes it', () => {
    const { hand, boards } = new Heareth(once, [off]).says(state('bench-lights', true, 'wall', 1, 2_000))
    expect(dueAt(hand, null)).toBe(5_000)
    expect(isHeard(passes(hand, boards, null, 4_999))).toBe(false)
    expect(isHeard(passes(hand, boards, null, 5_000))).toBe(true)
  })
})

describe('a power cycle', () => {
  const cut: Expect[] = [
    { kind: 'away', controller: 'throwing' },
    { kind: 'here', controller: 'throwing', restarted: true },
    { kind: 'comesUp', channel: 'bench-lights', to: 'before', afterMs: 5_000 },
  ]
  const lit = state('bench-lights', true, 'wall', 3, 500)
  const [gone, back] = [at('throwing/status', 'offline', 2_000), at('throwing/status', 'online', 8_000)]
  const after = ({ hand, boards }: Heareth) => passes(hand, boards, null, 13_000)
  it('ticks from offline, online, and the state that its policy says', () => {
    const heard = new Heareth(cut, [lit]).says(gone, back, state('bench-lights', true, 'power', 1, 8_010))
    expect(verdictOf(after(heard), null, null)).toEqual({ outcome: 'passed', by: 'board' })
    expect(heard.boards['throwing']!.restarts).toBe(1)
  })
  it('fails by itself where it comes up otherwise', () => {
    const heard = new Heareth(cut, [lit]).says(gone, back, state('bench-lights', false, 'power', 0, 8_010))
    expect(verdictOf(after(heard), null, null)).toMatchObject({ outcome: 'failed', breach: { kind: 'comesUp', is: 0 } })
  })
  it('is none where the count simply goes on: the network was gone, not the power', () => {
    const heard = new Heareth(cut, [lit]).says(gone, back, state('bench-lights', true, 'wall', 3, 8_010))
    const hand = after(heard)
    expect(verdictOf(hand, null, null)).toBeNull()
    expect(hand.done).toHaveLength(0)
    expect(hand.odd.map((odd) => oddWords(site, hand, odd))[0]).toMatch(/was never without power/)
  })
  it('a board that is up again was away, also where nobody said so', () => {
    const heard = new Heareth(cut, [lit]).says(at('throwing/log', 'tables a5baaabec224', 8_000))
    expect(heard.hand.done).toHaveLength(2)
  })
})

describe('offline steps', () => {
  it('tick after the return, from source and number', () => {
    const hears: Expect[] = [
      { kind: 'away', controller: 'throwing' },
      { kind: 'here', controller: 'throwing', restarted: false },
      {
        kind: 'all',
        turns: ['bench-lights', 'shelf-lights'].map((channel) => ({ channel, to: 'any', by: ['wall', 'remote'] })),
      },
    ]
    const heard = new Heareth(hears, [off, state('shelf-lights', false, 'power', 0, 500)]).says(
      at('throwing/status', 'offline', 2_000),
      at('throwing/status', 'online', 20_000),
      state('bench-lights', true, 'wall', 1, 20_010),
      // nobody touched it: the full report says what it said before
      state('shelf-lights', false, 'power', 0, 20_010),
    )
    expect(isHeard(heard.hand)).toBe(false)
    expect(linesOf(site, heard.hand).at(-1)).toMatchObject({ state: 'waiting', detail: '1 heard' })
    expect(isHeard(heard.says(state('shelf-lights', true, 'remote', 1, 21_000)).hand)).toBe(true)
  })
})

describe('never', () => {
  it('does a test pass by itself on what other channels say, on repeats, or on nothing', () => {
    const random = choices(11)
    const list = testList(site, 'throwing').filter(({ watch }) => watch.hears.some(({ kind }) => kind === 'turn'))
    for (const item of list) {
      const about = new Set(channelsOf(item.watch))
      const others = site.channels.filter(({ id, controller }) => controller === 'throwing' && !about.has(id))
      const heard = new Heareth(item.watch.hears, [], item.watch)
      for (let t = 2_000; t < 60_000; t += 500) {
        const other = random.pick(others)
        heard.says(state(other.id, random.chance(0.5), random.pick(['wall', 'app', 'remote', 'rule', 'limit']), t, t))
        heard.says(at('throwing/log', 'schedule: no clock', t))
        heard.hand = passes(heard.hand, heard.boards, null, t)
      }
      expect(verdictOf(heard.hand, null, null)?.outcome, item.key).not.toBe('passed')
    }
  })
  it('is anything heard that is no topic of the site, or not what it should be', () => {
    for (const [topic, payload] of [
      ['vestibule/elsewhere/throwing/status', 'online'],
      ['vestibule/fernhollow/nobody/status', 'online'],
      ['vestibule/fernhollow/throwing/nothing/state', '{"on":true}'],
      ['vestibule/fernhollow/throwing/bench-lights/state', 'on'],
      ['vestibule/fernhollow/throwing/bench-lights/state', '[1]'],
      ['vestibule/fernhollow/throwing/bench-lights/state/more', '{"on":true}'],
      ['vestibule/fernhollow/throwing/bench-lights/set', 'on'],
    ] as const)
      expect(heardOn(site, topic, payload, 0), topic).toBeUndefined()
  })
})
