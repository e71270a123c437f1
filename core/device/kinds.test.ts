import { describe, expect, it } from 'vitest'
import type { ControllerImage } from '../image'
import { channel, deed, end, image, input, outputsOf, publishedOf, set, start } from './device.testkit'
import { runTrace, type TraceLine } from './trace'

/** Pulsed, paired and feeding channels, and groups (docs/behaviour.md, Channels and Commands). */

const press = (t: number, pin = 's1', held = 60): TraceLine[] => [
  { t, pin, level: 0 },
  { t: t + held, pin, level: 1 },
]
const up: TraceLine = { t: 1, link: 'up' }

describe('pulsed', () => {
  const strike = (more = {}, inputs = [input()]): ControllerImage =>
    image({
      inputs,
      channels: [channel({ kind: 'pulsed', maxOnMs: 500, minOffMs: 2000, ...more })],
      bindings: [{ input: 0, gesture: 'press', ...deed('pulse') }],
    })
  const door = strike({ contact: 1, contactMeansClosed: true }, [
    input(),
    input({ id: 'door', kind: 'contact', gpios: [25] }),
  ])

  it('closes for pulseMs', () =>
    expect(outputsOf(strike(), [start, ...press(100), end(5000)])).toEqual(['125:lamp=1', '625:lamp=0']))
  it('a pulse while one runs, or before lockoutMs since its end, is refused and said', () => {
    const lines = [start, up, set(100, 'pulse'), set(300, 'pulse'), set(1000, 'pulse'), set(2700, 'pulse'), end(4000)]
    expect(outputsOf(strike(), lines)).toEqual(['100:lamp=1', '600:lamp=0', '2700:lamp=1', '3200:lamp=0'])
    expect(publishedOf(strike(), lines).filter((line) => line.includes(' log lamp'))).toEqual([
      '300 log lamp: pulse running',
      '1000 log lamp: locked out',
    ])
  })
  it('without a contact it says idle and pulsing', () =>
    expect(
      publishedOf(strike(), [start, up, set(100, 'pulse'), end(1000)]).filter((line) => line.includes('lamp/state')),
    ).toEqual([
      '1 lamp/state {"state":"idle","source":"power","seq":0}',
      '100 lamp/state {"state":"pulsing","source":"hub","seq":1}',
      '600 lamp/state {"state":"idle","source":"limit","seq":2}',
    ]))
  it('without a contact open and close are refused', () =>
    expect(publishedOf(strike(), [start, up, set(100, 'open'), end(1000)])).toContain(
      '100 log set lamp: not understood',
    ))
  it('with a contact the state is the door', () => {
    const lines: TraceLine[] = [
      start,
      { t: 0, pin: 'door', level: 0 },
      { t: 50, link: 'up' },
      { t: 3000, pin: 'door', level: 1 },
      end(4000),
    ]
    expect(publishedOf(door, lines).filter((line) => line.includes('lamp/state'))).toEqual([
      '50 lamp/state {"state":"closed","source":"contact","seq":1}',
      '3025 lamp/state {"state":"open","source":"contact","seq":2}',
    ])
  })
  it('open pulses only a closed door: a repeated open does not close it', () => {
    const closed: TraceLine[] = [start, up, { t: 0, pin: 'door', level: 0 }].sort((a, b) => a.t - b.t) as TraceLine[]
    expect(outputsOf(door, [...closed, set(100, 'open'), end(1000)])).toEqual(['100:lamp=1', '600:lamp=0'])
    expect(outputsOf(door, [start, up, set(100, 'open'), end(1000)])).toEqual([])
    expect(outputsOf(door, [start, up, set(100, 'close'), end(1000)])).toEqual(['100:lamp=1', '600:lamp=0'])
  })
  it('an open before the contact has settled is refused', () =>
    expect(publishedOf(door, [start, up, set(10, 'open'), end(100)])).toContain('10 log lamp: position not known'))
  it('a retained command never pulses', () =>
    expect(outputsOf(strike(), [start, up, set(100, 'pulse', true), end(1000)])).toEqual([]))
  it('what a service holds never pulses, whoever wins an outage', () => {
    const served = { ...strike(), outage: 'service' as const }
    expect(
      outputsOf(served, [
        start,
        up,
        { t: 50, msg: { topic: 'vestibule/studio/corner/vp/1/held', payload: '1', retain: true } },
        end(9000),
      ]),
    ).toEqual([])
  })
  it('never acts at power-up', () =>
    expect(
      outputsOf(strike(), [start, ...press(100), { t: 200, power: 'off' }, { t: 300, power: 'on' }, end(5000)]),
    ).toEqual(['125:lamp=1', '300:lamp=0']))
})

describe('paired', () => {
  const shutter = (more = {}): ControllerImage =>
    image({
      inputs: [input()],
      channels: [
        channel({
          kind: 'paired',
          gpios: [26, 25],
          patterns: [0, 1, 2],
          gapMs: 500,
          onLevel: 2,
          maxOnMs: 3000,
          ...more,
        }),
      ],
      bindings: [{ input: 0, gesture: 'press', ...deed('toggle') }],
    })
  it('never both on, with dead time between', () =>
    expect(outputsOf(shutter(), [start, up, set(1000, 'a'), set(2000, 'b'), set(3000, 'stop'), end(9000)])).toEqual([
      '1000:lamp.1=1',
      '2000:lamp.1=0',
      '2500:lamp.2=1',
      '3000:lamp.2=0',
    ]))
  it('dead time also runs from power-up: nobody knows how long the power was away', () =>
    expect(outputsOf(shutter(), [start, up, set(100, 'b'), end(900)])).toEqual(['500:lamp.2=1']))
  it('the direction that ran last may run on at once', () =>
    expect(outputsOf(shutter(), [start, up, set(1000, 'a'), set(1400, 'stop'), set(1450, 'a'), end(1500)])).toEqual([
      '1000:lamp.1=1',
      '1400:lamp.1=0',
      '1450:lamp.1=1',
    ]))
  it('stops by itself after its running time, which counts from the closing', () =>
    expect(outputsOf(shutter(), [start, up, set(1000, 'a'), set(1200, 'b'), end(9000)])).toEqual([
      '1000:lamp.1=1',
      '1200:lamp.1=0',
      '1700:lamp.2=1',
      '4700:lamp.2=0',
    ]))
  it('one button: a, stop, b, stop', () =>
    expect(
      outputsOf(shutter({ maxOnMs: 0 }), [
        start,
        ...press(1000),
        ...press(2000),
        ...press(3000),
        ...press(4000),
        end(9000),
      ]),
    ).toEqual(['1025:lamp.1=1', '2025:lamp.1=0', '3025:lamp.2=1', '4025:lamp.2=0']))
  it('says a, b, stop', () =>
    expect(publishedOf(shutter(), [start, up, set(100, 'b'), end(200)])).toContain(
      '100 lamp/state {"state":"b","source":"hub","seq":1}',
    ))
  it('a point runs 0 stop, 1 a, 2 b', () =>
    expect(
      outputsOf({ ...shutter(), points: [{ vp: 1, carries: 'channel', index: 0, min: 0, max: 2, reports: true }] }, [
        start,
        up,
        { t: 700, msg: { topic: 'vestibule/studio/corner/vp/1/set', payload: '2', retain: false } },
        end(800),
      ]),
    ).toEqual(['700:lamp.2=1']))
})

describe('feed', () => {
  const feed = (): ControllerImage =>
    image({
      watch: { watchMs: 10_000, graceMs: 5_000, steadyMs: 10_000 },
      channels: [channel({ kind: 'feed', powerUp: 'on' })],
      points: [],
    })
  /** what it did after the instant of the power-up, at which it closes */
  const later = (img: ControllerImage, lines: TraceLine[]): string[] =>
    outputsOf(img, lines).filter((one) => !one.startsWith('0:'))
  const beat = (t: number, retain = false): TraceLine => ({
    t,
    msg: { topic: 'vestibule/studio/watch', payload: 'alive', retain },
  })
  const beats = (from: number, to: number): TraceLine[] =>
    Array.from({ length: (to - from) / 5000 + 1 }, (_, i) => beat(from + i * 5000))
  const modes = (lines: TraceLine[]): string[] =>
    publishedOf(feed(), lines).flatMap((line) => {
      const match = /^(\d+) lamp\/state .*"mode":"(\w+)"/.exec(line)
      return match ? [`${match[1]} ${match[2]}`] : []
    })

  it('closes at power-up, and while the hub lives its switch only tells the hub', () => {
    const lines = [start, up, ...beats(100, 20_100), ...press(21_000), end(22_000)]
    expect(later(feed(), lines)).toEqual([]) // it closed at once, with the other outputs of the power-up
    expect(runTrace(feed(), lines).filter((one) => 'out' in one)).toEqual([
      { t: 0, out: 'lamp', level: 0 },
      { t: 0, out: 'lamp', level: 1 },
    ])
    expect(publishedOf(feed(), lines)).toContain('21025 lamp/gesture press')
  })
  it('the hub silent for watchMs and graceMs: the switch works the relay', () =>
    expect(later(feed(), [start, up, beat(100), ...press(15_090), ...press(16_000), end(20_000)])).toEqual([
      '15115:lamp=0',
      '16025:lamp=1',
    ]))
  it('the link gone: local after graceMs', () =>
    expect(
      later(feed(), [start, up, beat(100), { t: 1000, link: 'down' }, ...press(5000), ...press(6500), end(9000)]),
    ).toEqual(['6525:lamp=0']))
  it('heard again steadily for steadyMs: detached, and the relay is closed for the lamps', () => {
    const lines = [start, up, beat(100), ...press(16_000), ...beats(20_000, 40_000), end(41_000)]
    expect(later(feed(), lines)).toEqual(['16025:lamp=0', '30000:lamp=1'])
    expect(modes(lines)).toContain('30000 detached')
  })
  it('a break in the steadiness starts it anew', () =>
    expect(
      later(feed(), [start, up, beat(100), ...press(16_000), beat(20_000), beat(36_000), beat(41_000), end(47_000)]),
    ).toEqual(['16025:lamp=0', '46000:lamp=1']))
  it('a retained heartbeat says only that the hub lived once', () =>
    expect(later(feed(), [start, up, beat(100, true), ...press(6000), end(7000)])).toEqual(['6025:lamp=0']))
  it('asks for the heartbeat, which other controllers do not', () => {
    const subscriptions = (img: ControllerImage): string[] =>
      runTrace(img, [start, up, end(10)]).flatMap((one) => ('sub' in one ? [one.sub] : []))
    expect(subscriptions(feed())).toContain('vestibule/studio/watch')
    expect(subscriptions(image())).not.toContain('vestibule/studio/watch')
  })
})

describe('groups', () => {
  const hall = (action: 'on' | 'off' | 'toggle'): ControllerImage =>
    image({
      channels: [
        channel(),
        channel({ id: 'exit', topic: 'exit', gpios: [25], essential: true, powerUp: 'on' }),
        channel({ id: 'door', topic: 'door', gpios: [24], kind: 'pulsed', maxOnMs: 500 }),
      ],
      groups: [{ id: 'all', members: [0, 1, 2] }],
      points: [],
      staggerMs: 0,
      bindings: [{ input: 0, gesture: 'press', ...deed(action, 0, { on: 'group' }) }],
    })
  it('all off spares what is essential', () =>
    expect(outputsOf(hall('off'), [start, up, set(50, 'on'), ...press(100), end(300)])).toEqual([
      '0:exit=1',
      '50:lamp=1',
      '125:lamp=0',
    ]))
  it('all on acts in channel order, and never pulses a door', () =>
    expect(outputsOf(hall('on'), [start, ...press(100), end(300)])).toEqual(['0:exit=1', '125:lamp=1']))
  it('a toggle turns all off while any is on that all off would turn off', () =>
    expect(outputsOf(hall('toggle'), [start, up, set(50, 'on'), ...press(100), ...press(500), end(900)])).toEqual([
      '0:exit=1',
      '50:lamp=1',
      '125:lamp=0',
      // only what is essential is on: the others come on
      '525:lamp=1',
    ]))
})

describe('the controller itself', () => {
  it('a long hold offers to be paired', () => {
    const pairing = image({
      inputs: [input({ holdMs: 3000 })],
      bindings: [{ input: 0, gesture: 'hold', ...deed('pair', 0, { on: 'controller' }) }],
    })
    expect(
      runTrace(pairing, [start, { t: 100, pin: 's1', level: 0 }, { t: 3500, pin: 's1', level: 1 }, end(4000)]).filter(
        (one) => 'do' in one,
      ),
    ).toEqual([{ t: 3125, do: 'pair' }])
  })
})
