import { describe, expect, it } from 'vitest'
import { channel, deed, end, image, input, outputsOf, publishedOf, set, start } from './device.testkit'
import type { TraceLine } from './trace'

/** Longest times follow the contact, not the command: what keeps asking does not stretch them. */

const up: TraceLine = { t: 0, link: 'up' }
const again = (every: number, until: number, ...words: string[]): TraceLine[] =>
  Array.from({ length: Math.floor(until / every) }, (_, i) => words.map((word) => set(every * (i + 1), word))).flat()

describe('a contact with a limit of 1000 ms', () => {
  const heater = image({ channels: [channel({ maxOnMs: 1000 })] })
  it('is not held by off and on in one instant', () =>
    expect(outputsOf(heater, [start, up, set(100, 'on'), ...again(900, 900, 'off', 'on'), end(1150)])).toEqual([
      '100:lamp=1',
      '1100:lamp=0',
    ]))
  it('never stays closed for more, whoever repeats off and on each 900 ms for ten seconds', () => {
    const moves = outputsOf(heater, [start, up, set(1, 'on'), ...again(900, 10_000, 'off', 'on'), end(12_000)])
    const times = moves.map((move) => Number(move.split(':')[0]))
    const spans = times.flatMap((t, i) => (i % 2 ? [t - times[i - 1]!] : []))
    expect(moves.length).toBeGreaterThan(8)
    expect(Math.max(...spans)).toBe(1000)
  })
  it('goes on over an opening of 99 ms, and counts anew after one of 100', () => {
    const opened = (ms: number) => [start, up, set(100, 'on'), set(600, 'off'), set(600 + ms, 'on'), end(3000)]
    expect(outputsOf(heater, opened(99)).at(-1)).toBe('1100:lamp=0')
    expect(outputsOf(heater, opened(100)).at(-1)).toBe('1700:lamp=0')
  })
  it('closes again only when it has rested after its limit, and says that it waits', () => {
    const lines = [start, up, set(100, 'on'), set(1101, 'on'), end(1300)]
    expect(outputsOf(heater, lines)).toEqual(['100:lamp=1', '1100:lamp=0', '1200:lamp=1'])
    expect(publishedOf(heater, lines)).toContain('1101 lamp/state {"on":false,"waiting":true,"source":"limit","seq":2}')
  })
  it('rests after its limit also where off came just before it', () =>
    expect(outputsOf(heater, [start, up, set(100, 'on'), set(1050, 'off'), set(1120, 'on'), end(1300)])).toEqual([
      '100:lamp=1',
      '1050:lamp=0',
      '1150:lamp=1',
    ]))
  it('asks off, and does not come on after its rest', () =>
    expect(outputsOf(heater, [start, up, set(100, 'on'), set(1101, 'on'), set(1150, 'off'), end(1300)])).toEqual([
      '100:lamp=1',
      '1100:lamp=0',
    ]))
  it('with a least time off, off and on in one instant do open it, and the on waits', () => {
    const pump = image({ channels: [channel({ maxOnMs: 1000, minOffMs: 300 })] })
    expect(outputsOf(pump, [start, up, set(400, 'on'), set(600, 'off'), set(600, 'on'), end(2000)])).toEqual([
      '400:lamp=1',
      '600:lamp=0',
      '900:lamp=1',
      '1900:lamp=0',
    ])
  })
})

describe('a motor with a running time of 3000 ms', () => {
  const shutter = image({
    channels: [
      channel({ kind: 'paired', gpios: [26, 25], patterns: [0, 1, 2], gapMs: 500, onLevel: 2, maxOnMs: 3000 }),
    ],
    points: [],
  })
  it('is not stretched by stop and a in one instant', () =>
    expect(outputsOf(shutter, [start, up, set(1000, 'a'), ...again(1500, 4500, 'stop', 'a'), end(9000)])).toEqual([
      '1000:lamp.1=1',
      '4000:lamp.1=0',
      '4500:lamp.1=1',
      '7500:lamp.1=0',
    ]))
  it('counts anew for the other direction, after the dead time', () =>
    expect(outputsOf(shutter, [start, up, set(1000, 'a'), set(3000, 'b'), end(9000)])).toEqual([
      '1000:lamp.1=1',
      '3000:lamp.1=0',
      '3500:lamp.2=1',
      '6500:lamp.2=0',
    ]))
})

describe('a fan with a limit of 1000 ms', () => {
  const fan = image({
    channels: [
      channel({ kind: 'stepped', gpios: [26, 25], patterns: [0, 1, 2], gapMs: 200, maxOnMs: 1000, takesSet: true }),
    ],
    points: [],
  })
  it('runs it across its levels: the gap between two is no rest', () =>
    expect(outputsOf(fan, [start, up, set(100, '1'), set(500, '2'), end(2000)])).toEqual([
      '100:lamp.1=1',
      '500:lamp.1=0',
      '700:lamp.2=1',
      '1100:lamp.2=0',
    ]))
})

describe('a strike', () => {
  const strike = (more = {}) =>
    image({ channels: [channel({ kind: 'pulsed', maxOnMs: 500, minOffMs: 1000, ...more })], points: [] })
  it('is refused in the instant in which the pulse ends', () =>
    expect(outputsOf(strike({ minOffMs: 0 }), [start, up, set(100, 'pulse'), set(600, 'pulse'), end(900)])).toEqual([
      '100:lamp=1',
      '600:lamp=0',
    ]))
  it('is locked out until the last millisecond, and not in it', () => {
    const pulses = (t: number) => outputsOf(strike(), [start, up, set(100, 'pulse'), set(t, 'pulse'), end(t + 10)])
    expect(pulses(1599)).toEqual(['100:lamp=1', '600:lamp=0'])
    expect(pulses(1600)).toEqual(['100:lamp=1', '600:lamp=0', '1600:lamp=1'])
  })
})

describe('one instant', () => {
  it('a press that settles acts before the messages of its instant', () => {
    const lines: TraceLine[] = [start, up, { t: 75, pin: 's1', level: 0 }, set(100, 'off'), end(300)]
    const pressed = image({
      inputs: [input()],
      bindings: [{ input: 0, gesture: 'press', ...deed('on') }],
    })
    expect(outputsOf(pressed, lines)).toEqual([])
    expect(publishedOf(pressed, lines)).toContain('100 lamp/state {"on":false,"source":"hub","seq":2}')
  })
  it('release without a press since power-up means nothing', () => {
    const bell = image({ bindings: [{ input: 0, gesture: 'release', ...deed('on') }] })
    const lines: TraceLine[] = [
      { t: 0, pin: 's1', level: 0 },
      start,
      { t: 500, pin: 's1', level: 1 },
      { t: 1000, pin: 's1', level: 0 },
      { t: 1200, pin: 's1', level: 1 },
      end(2000),
    ]
    expect(outputsOf(bell, lines)).toEqual(['1225:lamp=1'])
  })
})

describe('power-up and outages', () => {
  const held = (t: number, payload: string): TraceLine => ({
    t,
    msg: { topic: 'vestibule/studio/corner/vp/1/held', payload, retain: true },
  })
  const served = image({ outage: 'service' })
  it('a held value turns nothing on at power-up that its policy does not', () =>
    expect(outputsOf(served, [start, { t: 100, link: 'up' }, held(150, '1'), end(9000)])).toEqual([]))
  const outage: TraceLine[] = [start, { t: 100, link: 'up' }, { t: 500, link: 'down' }, { t: 900, link: 'up' }]
  it('acts after an outage, once', () =>
    expect(outputsOf(served, [...outage, held(950, '1'), held(960, '0'), end(9000)])).toEqual(['950:lamp=1']))
  it('one that changes nothing counts as its one time', () =>
    expect(outputsOf(served, [...outage, held(950, '0'), held(960, '1'), end(9000)])).toEqual([]))
  it('does not act after a hand since the link came up', () =>
    expect(outputsOf(served, [...outage, set(920, 'on'), held(950, '0'), end(9000)])).toEqual(['920:lamp=1']))
  it('a new power session is no outage', () =>
    expect(
      outputsOf(served, [
        ...outage.slice(0, 2),
        { t: 300, power: 'off' },
        { t: 400, power: 'on' },
        { t: 500, link: 'up' },
        held(550, '1'),
        end(9000),
      ]).filter((line) => line.endsWith('=1')),
    ).toEqual([]))
  it('a link that is not up carries nothing', () =>
    expect(outputsOf(image(), [start, set(100, 'on'), { t: 200, link: 'up' }, set(300, 'on'), end(400)])).toEqual([
      '300:lamp=1',
    ]))
  it('turns come in channel order, whatever asked', () => {
    const three = image({
      channels: ['a', 'b', 'c'].map((id, i) =>
        channel({ id, topic: id, gpios: [20 + i], powerUp: i === 0 ? 'wall' : 'on', takesSet: false }),
      ),
      inputs: [input({ kind: 'rocker' })],
      bindings: [{ input: 0, gesture: 'follow', ...deed('follow') }],
      points: [],
    })
    expect(outputsOf(three, [{ t: 0, pin: 's1', level: 0 }, start, end(900)])).toEqual([
      '0:b=1',
      // settled at 25 ms, before c had its turn
      '150:a=1',
      '300:c=1',
    ])
  })
  it('a hand acts at once on what waits for its turn', () => {
    const two = image({
      channels: ['lamp', 'b'].map((id, i) => channel({ id, topic: id, gpios: [20 + i], powerUp: 'on' })).reverse(),
      points: [],
      bindings: [],
    })
    expect(outputsOf(two, [start, { t: 10, link: 'up' }, set(50, 'on'), end(900)])).toEqual(['0:b=1', '50:lamp=1'])
  })
})
