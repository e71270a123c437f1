import { describe, expect, it } from 'vitest'
import type { ControllerImage, ImageChannel, ImageRule } from '../image'
import { channel, deed, end, image, outputsOf, publishedOf, set, start } from './device.testkit'
import { decimal } from './reports'
import { runTrace, weekMsOf, type TraceLine } from './trace'

/** Rules, sensors, schedules and the auto mode (docs/behaviour.md, Auto mode and rules). */

const rule = (more: Partial<ImageRule> = {}): ImageRule => ({
  sensor: 0,
  above: true,
  on: 70_000,
  off: 62_000,
  dwellMs: 0,
  staleOff: true,
  channel: 0,
  level: 0,
  ...more,
})
const humid = (more: Partial<ControllerImage> = {}, rules = [rule()]): ControllerImage =>
  image({ sensors: [{ id: 'air', deadBand: 500, staleMs: 30_000 }], rules, points: [], ...more })
const reading = (t: number, value: number): TraceLine => ({ t, sensor: 'air', value })
const up: TraceLine = { t: 1, link: 'up' }

describe('thresholds', () => {
  it('on at the on-value, off at the off-value, unchanged between', () =>
    expect(
      outputsOf(humid(), [
        start,
        reading(100, 69.9),
        reading(200, 70),
        reading(300, 65),
        reading(400, 62.001),
        reading(500, 62),
        end(600),
      ]),
    ).toEqual(['200:lamp=1', '500:lamp=0']))
  it('below: on when it falls', () =>
    expect(
      outputsOf(humid({}, [rule({ above: false, on: 30_000, off: 60_000 })]), [
        start,
        reading(100, 31),
        reading(200, 30),
        reading(300, 59),
        reading(400, 60),
        end(500),
      ]),
    ).toEqual(['200:lamp=1', '400:lamp=0']))
  it('keeps its state for dwellMs, then looks again', () =>
    expect(
      outputsOf(humid({}, [rule({ dwellMs: 5000 })]), [start, reading(100, 80), reading(1000, 50), end(9000)]),
    ).toEqual(['100:lamp=1', '5100:lamp=0']))
  it('a stepped channel goes to the level of the rule', () =>
    expect(
      outputsOf(
        humid({ channels: [channel({ kind: 'stepped', gpios: [1, 2], patterns: [0, 1, 2], gapMs: 0 })] }, [
          rule({ level: 2 }),
        ]),
        [start, reading(100, 80), end(200)],
      ),
    ).toEqual(['100:lamp.2=1']))
  it('a sensor that is too old makes its rule go off, or keep', () => {
    expect(outputsOf(humid(), [start, reading(100, 80), end(40_000)])).toEqual(['100:lamp=1', '30100:lamp=0'])
    expect(outputsOf(humid({}, [rule({ staleOff: false })]), [start, reading(100, 80), end(40_000)])).toEqual([
      '100:lamp=1',
    ])
  })
  it('staleness is said', () =>
    expect(publishedOf(humid(), [start, up, end(40_000)])).toContain('30000 log sensor air: stale'))
})

describe('sensors are reported', () => {
  it('on a change beyond the dead band, and each sensorMs', () => {
    const lines = [
      start,
      up,
      reading(100, 20),
      reading(200, 20.5),
      reading(300, 20.501),
      reading(29_000, 20.4),
      reading(58_000, 20.4),
      end(61_000),
    ]
    expect(publishedOf(humid(), lines).filter((line) => line.includes('sensor/'))).toEqual([
      '100 sensor/air 20',
      '300 sensor/air 20.501',
      '60300 sensor/air 20.4',
    ])
  })
  it.each([
    [23_400, '23.4'],
    [-500, '-0.5'],
    [0, '0'],
    [65_125, '65.125'],
    [-12_000, '-12'],
  ])('%i thousandths is %s', (value, text) => expect(decimal(value)).toBe(text))
})

describe('a hand in auto', () => {
  const by = (hand: 'yield' | 'leave' | 'ignore'): ControllerImage =>
    humid({ auto: { start: true, hand, yieldMs: 10_000 } })
  it('yield: rules leave the channel alone for a while, then say again what they want', () =>
    expect(
      outputsOf(by('yield'), [
        start,
        up,
        reading(100, 80),
        set(1000, 'off'),
        reading(2000, 50),
        reading(3000, 80),
        end(12_000),
      ]),
    ).toEqual(['100:lamp=1', '1000:lamp=0', '11000:lamp=1']))
  it('leave: the channel goes to manual', () =>
    expect(
      outputsOf(by('leave'), [
        start,
        up,
        reading(100, 80),
        set(1000, 'off'),
        reading(20_000, 50),
        reading(21_000, 80),
        end(22_000),
      ]),
    ).toEqual(['100:lamp=1', '1000:lamp=0']))
  it('ignore: a command that turns on is refused and said', () => {
    const lines = [start, up, set(1000, 'on'), set(1500, 'toggle'), end(2000)]
    expect(outputsOf(by('ignore'), lines)).toEqual([])
    expect(publishedOf(by('ignore'), lines)).toContain('1000 log lamp: in auto, ignored')
    expect(publishedOf(by('ignore'), lines)).toContain('1500 log lamp: in auto, ignored')
  })
  it.each(['off', 'toggle'])('ignore: %s, which turns off, is never refused', (word) =>
    expect(outputsOf(by('ignore'), [start, up, reading(100, 80), set(1000, word), end(2000)])).toEqual([
      '100:lamp=1',
      '1000:lamp=0',
    ]),
  )
  it('the state says the mode', () =>
    expect(publishedOf(by('yield'), [start, up, set(1000, 'on'), end(2000)])).toContain(
      '1000 lamp/state {"on":true,"mode":"yield","source":"hub","seq":1}',
    ))
  it('auto again: the rules say again what they want', () => {
    const both = {
      ...by('leave'),
      serial: { baud: 9600, statusMs: 60_000 },
      chars: [{ char: 'A', source: 'serial' as const, ...deed('auto', 0, { on: 'controller' }) }],
    }
    expect(outputsOf(both, [start, up, reading(100, 80), set(1000, 'off'), { t: 5000, char: 'A' }, end(6000)])).toEqual(
      ['100:lamp=1', '1000:lamp=0', '5000:lamp=1'],
    )
  })
  it('the mode is stored, and comes back after a power cut', () => {
    const lines = [
      start,
      up,
      set(1000, 'on'),
      { t: 9000, power: 'off' as const },
      { t: 9100, power: 'on' as const },
      reading(9500, 80),
      end(9600),
    ]
    expect(runTrace(by('leave'), lines).filter((one) => 'store' in one)).toEqual([{ t: 3000, store: 'lamp:manual' }])
    expect(outputsOf(by('leave'), lines)).toEqual(['1000:lamp=1', '9100:lamp=0'])
  })
  it('a mode point sets and shows it', () => {
    const pointed = {
      ...by('leave'),
      points: [{ vp: 7, carries: 'mode' as const, index: 0, min: 0, max: 1, reports: true }],
    }
    expect(
      publishedOf(pointed, [
        start,
        up,
        { t: 500, msg: { topic: 'vestibule/studio/corner/vp/7/set', payload: '0', retain: false } },
        end(600),
      ]).filter((line) => line.includes('vp/7/state')),
    ).toEqual(['1 vp/7/state 1', '500 vp/7/state 0'])
  })
})

describe('schedules', () => {
  /** 06:30 on weekdays on, 22:00 daily off */
  const timed = image({
    points: [],
    schedules: [
      { days: 0b11111, minute: 390, channel: 0, action: 'on', level: 0, catchUp: false },
      { days: 0b1111111, minute: 1320, channel: 0, action: 'off', level: 0, catchUp: false },
    ],
  })
  const clock = (t: number, text: string): TraceLine => ({ t, clock: text })
  // 2026-03-01 was a Sunday (checked with date(1))
  it('the week begins on Monday', () =>
    expect([weekMsOf('2026-03-01T00:00:00'), weekMsOf('2026-03-02T00:00:00'), weekMsOf('2024-02-29T06:30:00')]).toEqual(
      [6 * 86_400_000, 0, 3 * 86_400_000 + 390 * 60_000],
    ))
  it('acts at its minute on its days', () =>
    expect(outputsOf(timed, [start, clock(1000, '2026-03-01T06:29:00'), end(200_000_000)])).toEqual([
      '86461000:lamp=1',
      '142261000:lamp=0',
      '172861000:lamp=1',
    ]))
  it('acts when the clock is set to its very minute', () =>
    expect(outputsOf(timed, [start, clock(1000, '2026-03-02T06:30:00'), end(2000)])).toEqual(['1000:lamp=1']))
  it('without a clock it does nothing and says so', () => {
    expect(outputsOf(timed, [start, up, end(200_000_000)])).toEqual([])
    expect(publishedOf(timed, [start, up, end(10)])).toContain('1 log schedule: no clock')
  })
  describe('made up for', () => {
    const late = (more: Partial<ImageChannel> = {}) => ({
      ...timed,
      channels: [channel(more)],
      schedules: timed.schedules.map((row) => ({ ...row, catchUp: true })),
    })
    const did = (img: typeof timed, ...lines: TraceLine[]) => outputsOf(img, [start, ...lines, end(3_000_000)])
    it('when the clock becomes known: the latest of the last 24 h', () => {
      // Monday 07:00: on since 06:30
      expect(did(late(), clock(1000, '2026-03-02T07:00:00'))).toEqual(['1000:lamp=1'])
      // Monday 23:00: off since 22:00, and the morning is over
      expect(did(late(), clock(1000, '2026-03-02T23:00:00'))).toEqual([])
      expect(did(timed, clock(1000, '2026-03-02T07:00:00'))).toEqual([])
    })
    it('one that is exactly 24 h old is not, one a millisecond younger is', () => {
      const img = {
        ...late(),
        schedules: late()
          .schedules.slice(0, 1)
          .map((row) => ({ ...row, days: 0b1 })),
      }
      expect(did(img, clock(1000, '2026-03-03T06:30:00'))).toEqual([])
      expect(did(img, clock(1000, '2026-03-03T06:29:59'))).toEqual(['1000:lamp=1'])
    })
    it('when the clock jumps ahead over it; not when it is put right by a second, nor when it is set back', () => {
      const known = clock(1000, '2026-03-02T06:00:00')
      const off = { ...late(), schedules: late().schedules.slice(0, 1) }
      expect(did(off, known, clock(2000, '2026-03-02T06:45:00'))).toEqual(['2000:lamp=1'])
      const hand: TraceLine[] = [up, clock(1100, '2026-03-02T06:45:00'), set(5000, 'off')]
      // a hand has said off since: a clock that is put right makes nothing of the morning come back
      expect(did(off, known, ...hand, clock(6000, '2026-03-02T06:45:06'), clock(7000, '2026-03-02T06:40:00'))).toEqual([
        '1100:lamp=1',
        '5000:lamp=0',
      ])
    })
    it('not in manual, and that is said', () => {
      const manual = { ...late(), auto: { ...late().auto, start: false } }
      expect(publishedOf(manual, [start, up, clock(1000, '2026-03-02T07:00:00'), end(2000)])).toContain(
        '1000 log lamp: manual, schedule skipped',
      )
    })
  })
  describe('as the power-up’s policy', () => {
    const policy = (more: Partial<ImageChannel> = {}) => ({
      ...timed,
      channels: [channel({ powerUp: 'timetable', waitMs: 5_000, otherwise: 'off', ...more })],
    })
    it('gives what the last schedule gives, however old, as soon as the clock is known', () => {
      // Sunday 12:00: off since Saturday 22:00; Monday 12:00: on since 06:30
      expect(outputsOf(policy(), [start, clock(1000, '2026-03-01T12:00:00'), end(9000)])).toEqual([])
      expect(outputsOf(policy(), [start, clock(1000, '2026-03-02T12:00:00'), end(9000)])).toEqual(['1000:lamp=1'])
    })
    it('waits so long for the clock, then takes its second choice; a clock that comes later changes nothing', () => {
      const lines: TraceLine[] = [start, clock(6000, '2026-03-02T12:00:00'), end(9000)]
      expect(outputsOf(policy(), lines)).toEqual([])
      expect(outputsOf({ ...policy(), schedules: [] }, [start, clock(1000, '2026-03-02T12:00:00'), end(9000)])).toEqual(
        [],
      )
    })
    it('is not answered by what the service holds, and a hand ends the wait', () => {
      const held: TraceLine = {
        t: 500,
        msg: { topic: 'vestibule/studio/corner/vp/1/held', payload: '1', retain: true },
      }
      const points = [{ vp: 1, carries: 'channel' as const, index: 0, min: 0, max: 1, reports: true }]
      expect(outputsOf({ ...policy(), points }, [start, up, held, end(9000)])).toEqual([])
      const hand = set(800, 'on')
      expect(
        outputsOf(policy(), [start, up, hand, set(900, 'off'), clock(1000, '2026-03-02T12:00:00'), end(9000)]),
      ).toEqual(['800:lamp=1', '900:lamp=0'])
    })
  })
  it('goes on past the wrap of the millisecond count', () =>
    expect(
      outputsOf(timed, [{ t: 0xffff_f000, power: 'on' }, clock(0xffff_f100, '2026-03-02T06:29:50'), end(20_000)]),
    ).toEqual([`${(0xffff_f100 + 10_000) % 2 ** 32}:lamp=1`]))
})
