import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { channelOf, readSite, type Site } from '../site'
import { libraryFor, readScenario, runScenario, type Scenario } from '.'

// Sources of the checks: the words of docs/behaviour.md by which each scenario of the library expects what it expects;
// and for each a site with the mistake that it is there to find.

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const pottery = parsed.value
const library = libraryFor(pottery)
const read = (text: string): Scenario => {
  const answer = readScenario(text)
  if (!answer.ok) throw new Error(answer.message)
  return answer.scenario
}
const scenarioOf = (id: string): Scenario => read(library.find((one) => one.id === id)!.text)
const pottered = (change: (draft: Site) => void): Site => produce(pottery, change)

describe('the library on the pottery', () => {
  it('has what the pottery can be tried with', () =>
    expect(library.map(({ id }) => id)).toEqual([
      'first-power-up',
      'power-cut-at-night',
      'router-reboot',
      'broker-restart',
      'hub-update',
      'service-away-for-a-day',
      'fast-presses',
      'stuck-button',
      'repeat-storm',
      'two-people-at-once',
      'replayed-messages',
      'month-of-heartbeats',
      'door-with-a-slow-leaf',
      'fan-walk',
    ]))
  it.each(library.map(({ id }) => id))(
    '%s passes',
    (id) => expect(runScenario(pottery, scenarioOf(id)).broken).toBeNull(),
    180_000,
  )
})

const unwired =
  (input: string) =>
  (draft: Site): void => {
    draft.ways = draft.ways.filter((way) => way.kind !== 'wall' || way.input !== input)
  }

describe('each scenario finds the mistake that it is there for', () => {
  const MISTAKES: readonly (readonly [id: string, mistake: string, change: (draft: Site) => void, what: RegExp])[] = [
    [
      'first-power-up',
      'a socket comes on with the power',
      (draft) => {
        Object.assign(channelOf(draft, 'radio-socket')!, { powerUp: { policy: 'on' } })
      },
      /Radio socket is on/,
    ],
    [
      'power-cut-at-night',
      'the lights are not remembered',
      (draft) => {
        Object.assign(channelOf(draft, 'bench-lights')!, { powerUp: { policy: 'off' } })
      },
      /Bench lights is off/,
    ],
    ['router-reboot', 'a switch is wired to nothing', unwired('s2'), /Shelf lights is off/],
    ['broker-restart', 'a switch is wired to nothing', unwired('s1'), /Bench lights is off/],
    ['hub-update', 'a switch is wired to nothing', unwired('s3'), /Wedging lamp is off/],
    [
      'service-away-for-a-day',
      'the service wins after an outage',
      (draft) => {
        for (const one of [...draft.controllers, ...draft.services]) one.outage = 'service'
      },
      /is off/,
    ],
    [
      'fast-presses',
      'it settles longer than a press lasts',
      (draft) => {
        for (const input of draft.inputs) if (input.id === 's3') input.settleMs = 150
      },
      /Wedging lamp is off/,
    ],
    [
      'stuck-button',
      'a hold turns it off again',
      (draft) => {
        const way = draft.ways.find((one) => one.kind === 'wall' && one.input === 's3')
        if (way?.kind === 'wall') way.bindings.push({ gesture: 'hold', action: 'off' })
      },
      /Wedging lamp is off/,
    ],
    [
      'two-people-at-once',
      'a controller that never reports to the phone',
      (draft) => {
        for (const way of draft.ways) if (way.kind === 'app') way.feedback = 'silent'
      },
      /the phone shows another state/,
    ],
    [
      'repeat-storm',
      'the key repeats while it is held',
      (draft) => {
        for (const remote of draft.remotes)
          for (const key of remote.keys) key.repeat = { policy: 'repeat', everyMs: 400 }
      },
      /closes for the 2\. time/,
    ],
    [
      'month-of-heartbeats',
      'a light is switched by the clock',
      (draft) => {
        Object.assign(channelOf(draft, 'shelf-lights')!, { powerUp: { policy: 'on' } })
      },
      /Shelf lights closes/,
    ],
    [
      'door-with-a-slow-leaf',
      'a lockout that is shorter than the leaf takes',
      (draft) => {
        for (const channel of draft.channels) if (channel.kind === 'pulsed') channel.lockoutMs = 1_000
      },
      /Shutter opener closes for the 2\. time/,
    ],
    [
      'fan-walk',
      'a level has the contacts of another',
      (draft) => {
        const fan = draft.channels.find(
          (channel) =>
            channel.kind === 'stepped' && draft.ways.some((way) => way.kind === 'hub' && way.channel === channel.id),
        )
        if (fan?.kind === 'stepped') fan.patterns.pop()
      },
      /is (off|at level)/,
    ],
  ]
  it.each(MISTAKES)(
    '%s: %s',
    (id, _, change, what) => {
      // two hands in one instant race: who is first is drawn, and some draws hide the mistake
      const site = pottered(change)
      const played = (seed: number): string | undefined => runScenario(site, scenarioOf(id), { seed }).broken?.what
      const broken = [1, 2, 3, 4, 5, 6, 7, 8].reduce<string | undefined>(
        (found, seed) => found ?? played(seed),
        undefined,
      )
      expect(broken).toMatch(what)
    },
    180_000,
  )
})

describe('a run', () => {
  it('is the same bytes for the same site and scenario', () => {
    const hash = (): string =>
      createHash('sha256')
        .update(runScenario(pottery, scenarioOf('power-cut-at-night')).moves.join('\n'))
        .digest('hex')
    expect(hash()).toBe(hash())
  })
  it('says when, and what', () => {
    const text =
      'scenario: Dark\nsteps:\n  - { at: 5 s, do: { rock: S9 } }\n  - { after: 1 s, expect: { channel: Yard lights, is: off }, within: 2 s }\n'
    expect(runScenario(pottery, read(text)).broken).toEqual({ t: 8_000, what: 'Yard lights is on' })
  })
  it('ends at once where something happens that never should', () => {
    const text =
      'scenario: Dark\nsteps:\n  - { at: 5 s, do: { rock: S9 } }\nuntil: 1 h\nnever:\n  - { channel: Yard lights, onLongerThan: 10 s }\n'
    const run = runScenario(pottery, read(text))
    expect(run.broken?.what).toBe('Yard lights is on for longer than 10 s')
    expect(run.t).toBeLessThan(3_600_000)
  })
})

describe('a text that is no scenario', () => {
  it.each([
    [
      'scenario: A\nsteps:\n  - at: soon\n    do: { rock: S1 }\n',
      'line 3: steps, at: a time is a number with ms, s, min, h or d',
    ],
    [
      'scenario: A\nsteps:\n  - at: 1 s\n    do: { kick: S1 }\n',
      'line 4: steps, do is none of the forms that a scenario knows (docs/formats.md)',
    ],
    ['scenario: A\nsteps: [', /^line 2: /],
    ['steps:\n  - { at: 1 s }\n', /^line 1: scenario: /],
    [
      'scenario: A\nsteps:\n  - { at: 1 s, after: 2 s }\n',
      'line 3: steps: a step is at a time or after the one before',
    ],
  ])('%j', (text, message) => {
    const answer = readScenario(text)
    expect(answer.ok).toBe(false)
    if (answer.ok) return
    if (typeof message === 'string') expect(answer.message).toBe(message)
    else expect(answer.message).toMatch(message)
  })
  it('names what the site does not have', () =>
    expect(() => runScenario(pottery, read('scenario: A\nsteps:\n  - { at: 1 s, do: { rock: S99 } }\n'))).toThrow(
      'there is no switch "S99" in this site',
    ))
})
