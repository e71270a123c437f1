import { describe, expect, it } from 'vitest'
import { NO_LEVEL } from '../image'
import { channel, deed, end, image, input, outputsOf, publishedOf, start } from './device.testkit'
import type { TraceLine } from './trace'

/** Groups that are told by a point or a topic, scenes, and a selector behind a switch (docs/behaviour.md). */

const up: TraceLine = { t: 1, link: 'up' }
const say = (t: number, level: string, payload: string, retain = false): TraceLine => ({
  t,
  msg: { topic: `vestibule/studio/corner/${level}/set`, payload, retain },
})

describe('a group', () => {
  const fan = channel({ kind: 'stepped', id: 'fan', topic: 'fan', gpios: [1, 2], patterns: [0, 1, 2], onLevel: 1 })
  const channels = [channel(), fan, channel({ id: 'stove', topic: 'stove', essential: true })]
  const all = { id: 'evening', members: [0, 1, 2], takesSet: true }
  const point = { vp: 9, carries: 'group' as const, index: 0, min: 0, max: 1, reports: false }
  const house = image({ channels, groups: [all], points: [point], staggerMs: 0 })
  const scene = image({ channels, groups: [{ ...all, levels: [0, 2, NO_LEVEL] }], points: [point], staggerMs: 0 })

  it('takes words on its topic, and its essential members are spared by off', () =>
    expect(outputsOf(house, [start, up, say(100, 'evening', 'on'), say(900, 'evening', 'off'), end(2000)])).toEqual([
      '100:lamp=1',
      '100:fan.1=1',
      '100:stove=1',
      '900:lamp=0',
      '900:fan.1=0',
    ]))
  it('takes no retained word, and none that it does not know', () => {
    const lines = [start, up, say(100, 'evening', 'on', true), say(200, 'evening', 'pulse'), end(900)]
    expect(outputsOf(house, lines)).toEqual([])
    expect(publishedOf(house, lines).filter((line) => line.includes(' log set'))).toEqual([
      '100 log set evening: retained, ignored',
      '200 log set evening: not understood',
    ])
  })
  it('of which a channel has the topic stays unheard: the channel goes before it', () => {
    const clash = image({ channels, groups: [{ ...all, id: 'lamp' }], staggerMs: 0 })
    expect(outputsOf(clash, [start, up, say(100, 'lamp', 'on'), end(900)])).toEqual(['100:lamp=1'])
  })
  it('is worked by a point: its least value is off, all else on; what the service holds says nothing', () => {
    const held: TraceLine = {
      t: 50,
      msg: { topic: 'vestibule/studio/corner/vp/9/held', payload: '1', retain: true },
    }
    expect(outputsOf(house, [start, up, held, say(100, 'vp/9', '1'), say(900, 'vp/9', '0'), end(2000)])).toHaveLength(5)
  })
  it('with levels is a scene: on gives each member its own, 0 is off, and off is off for all', () =>
    expect(
      outputsOf(scene, [
        start,
        up,
        say(100, 'lamp', 'on'),
        say(300, 'evening', 'on'),
        say(900, 'evening', 'off'),
        end(2000),
      ]),
    ).toEqual(['100:lamp=1', '300:lamp=0', '300:fan.2=1', '300:stove=1', '900:fan.2=0']))
  it('a scene that turns off spares essential members', () => {
    const dark = image({ channels, groups: [{ ...all, levels: [0, 0, 0] }], staggerMs: 0 })
    const lines = [start, up, say(100, 'stove', 'on'), say(300, 'evening', 'on'), end(900)]
    expect(outputsOf(dark, lines)).toEqual(['100:stove=1'])
  })
})

describe('auto and manual by a hub', () => {
  const house = image({
    modeTopic: true,
    sensors: [{ id: 'air', deadBand: 0, staleMs: 60_000 }],
    rules: [{ sensor: 0, above: true, on: 20_000, off: 18_000, dwellMs: 0, staleOff: true, channel: 0, level: 0 }],
  })
  const air = (t: number, value: number): TraceLine => ({ t, sensor: 'air', value })
  it('manual keeps the rules away, auto brings them back, and the state is said', () => {
    const lines = [
      start,
      up,
      say(100, 'mode', 'manual'),
      air(200, 25),
      say(300, 'mode', 'auto'),
      air(400, 26),
      end(900),
    ]
    expect(outputsOf(house, lines)).toEqual(['300:lamp=1'])
    expect(publishedOf(house, lines).filter((line) => line.includes(' mode/state'))).toEqual([
      '1 mode/state auto',
      '100 mode/state manual',
      '300 mode/state auto',
    ])
  })
  it('takes no retained word', () =>
    expect(publishedOf(house, [start, up, say(100, 'mode', 'manual', true), end(200)])).toContain(
      '100 log set mode: retained, ignored',
    ))
})

describe('a selector behind a switch', () => {
  const rocker = input({ id: 'sw', kind: 'rocker', gpios: [20] })
  const dial = input({ id: 'dial', kind: 'selector', gpios: [21, 22], table: [0, 1, 2, NO_LEVEL], gate: 0 })
  const fan = channel({ kind: 'stepped', id: 'fan', topic: 'fan', gpios: [1, 2], patterns: [0, 1, 2], onLevel: 1 })
  const house = (more = {}) =>
    image({
      inputs: [rocker, dial],
      channels: [{ ...fan, ...more }],
      bindings: [{ input: 1, gesture: 'select', ...deed('level') }],
    })
  const turn = (t: number, bit: 1 | 2, level: 0 | 1): TraceLine => ({ t, pin: `dial.${bit}`, level })
  const rock = (t: number, closed: boolean): TraceLine => ({ t, pin: 'sw', level: closed ? 0 : 1 })

  it('starts nothing while the switch is open, and gives its level when that closes', () =>
    expect(outputsOf(house(), [start, turn(1000, 1, 0), rock(2000, true), rock(3000, false), end(4000)])).toEqual([
      '2025:fan.1=1',
      '3025:fan.1=0',
    ]))
  it('counts at once while the switch is closed', () =>
    expect(outputsOf(house(), [start, rock(1000, true), turn(2000, 2, 0), turn(3000, 2, 1), end(4000)])).toEqual([
      '2025:fan.2=1',
      '3025:fan.2=0',
    ]))
  it('leaves alone what the phone has started while it is open', () =>
    expect(outputsOf(house(), [start, up, say(500, 'fan', '2'), turn(1000, 1, 0), end(2000)])).toEqual(['500:fan.2=1']))
  it('says a code that it does not know only when its switch is closed', () => {
    const lines = [start, up, turn(1000, 1, 0), turn(1000, 2, 0), rock(2000, true), end(3000)]
    expect(publishedOf(house(), lines).filter((line) => line.includes('no level'))).toEqual([
      '2025 log selector dial: no level for code 3',
    ])
  })
  it('at power-up it counts as soon as both have settled', () => {
    const standing = [{ t: 0, pin: 'dial.1', level: 0 }, { t: 0, pin: 'sw', level: 0 }, start, end(2000)] as TraceLine[]
    expect(outputsOf(house({ powerUp: 'wall' }), standing)).toEqual(['25:fan.1=1'])
    const open = standing.filter((line) => !('pin' in line) || line.pin !== 'sw')
    expect(outputsOf(house({ powerUp: 'wall' }), open)).toEqual([])
  })
})
