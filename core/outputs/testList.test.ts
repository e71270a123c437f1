import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { produce } from 'immer'
import { controllerOf, readSite } from '../site'
import { addGroupEntity } from '../ways'
import { stageCautions, testList } from '.'

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const site = parsed.value
const lines = (controller: string, of = site): string[] =>
  testList(of, controller).map(({ stage, action, expected }) => `${stage}: ${action} → ${expected}`)

/** What a list asks for, in the words of the person who goes through it. */
const ASKED: [what: string, controller: string, line: RegExp][] = [
  ['both presses of a toggle', 'throwing', /^alone: Press S3 twice, a second apart → .* on, and off at the second/],
  ['a held key', 'throwing', /Hold “Bench lights” .* → Bench lights: one change/],
  ['a held key that repeats', 'throwing', /Hold “Clay-dust fan up” .* → it acts again every 400 ms/],
  ['all levels, from a screen', 'throwing', /through all its levels, 0 to 4 → each level’s contacts and no others/],
  ['all detents', 'throwing', /Turn R1 through all its positions → .*: off, level 1, level 2, level 3, level 4/],
  [
    'all off, and what it spares',
    'throwing',
    /“All off” → .*Clay-dust fan: off; Bench lights: no change; no door moves/,
  ],
  ['a schedule', 'throwing', /Radio off in the evening: .*21:30.* → Radio socket: off/],
  [
    'a threshold, both ways and without a reading',
    'drying',
    /above 70 %, then below 62 %, then above 70 % again; then unplug it → .*: on, off, on; without a reading off/,
  ],
  ['modes', 'drying', /character D on Drying line → its rules run again/],
  [
    '“last”, with the step that makes it so',
    'throwing',
    /Turn Bench lights on, and wait 3 s; turn the power off .* on again/,
  ],
  ['“last”, off', 'throwing', /Turn Bench lights off, and wait 3 s; turn the power off .* still off/],
  [
    'the network',
    'throwing',
    /^no-load: Switch the router off.* → still worked: Bench lights by S1, .*; screens say offline/,
  ],
  ['power-up without network', 'throwing', /With the router off: turn the power off/],
  ['the winner', 'throwing', /Press one switch and tap another .* → .* the switch’s state stays/],
  ['the broker', 'throwing', /Stop the broker/],
  ['the hub', 'throwing', /Stop the hub, work a switch/],
  ['the service', 'throwing', /Cut App service off/],
  ['the line of a pair', 'drying', /Unplug the serial line between Drying and Drying radio/],
  ['a coprocessor’s own', 'drying-radio', /Compare the tables that both report at the start → the same/],
  [
    'a feed whose hub is gone',
    'window',
    /Stop the hub; after 15 s work Window switch; .* → Window switch works the power/,
  ],
  ['a door that stays shut', 'window', /Press Shutter opener on a screen; .*restart the broker → .*: no second pulse/],
]

describe('a test list asks for', () => {
  it.each(ASKED)('%s', (_, controller, line) => expect(lines(controller)).toContainEqual(expect.stringMatching(line)))
  it('a group that the hub works', () => {
    const scene = produce(site, (draft) => addGroupEntity(draft, draft.groups[0]!))
    const controller = site.channels.find(({ id }) => site.groups[0]!.members.includes(id))!.controller
    expect(lines(controller, scene)).toContainEqual(expect.stringMatching(/on, then off, from the hub/))
  })
})

describe('a test list', () => {
  it('does not ask that a detached feed moves: that is what must not happen', () => {
    const feed = lines('window').filter((line) => line.startsWith('alone: With the hub running: Press Window switch'))
    expect(feed).toEqual([expect.stringContaining('Window spots: still on; the hub turns its lamps over')])
  })
  it('of a board whose program has no network asks nothing over one, and says so', () => {
    const without = produce(site, (draft) => {
      controllerOf(draft, 'yard')!.parts = []
    })
    const of = lines('yard', without)
    expect(of.filter((line) => /phone|hub|router|broker|Say “/.test(line))).toEqual([])
    expect(of).toContainEqual(expect.stringMatching(/^alone: Press Key switch → /))
    expect(stageCautions(without, 'yard', 'alone').join(' ')).toMatch(/no network: .* stay untested/)
    expect(stageCautions(site, 'glaze', 'alone').join(' ')).not.toMatch(/no network/)
  })
  it('has its own key for each line', () =>
    site.controllers.forEach(({ id }) => {
      const keys = testList(site, id).map(({ key }) => key)
      expect(new Set(keys).size).toBe(keys.length)
    }))
  it('tries each channel with its load once, after all else', () =>
    expect(testList(site, 'throwing').filter(({ stage }) => stage === 'load')).toHaveLength(6))
})
