import { describe, expect, it } from 'vitest'
import type { ControllerImage, ImageChannel } from '../image'
import { createDevice } from './device'
import { readTrace, runTrace, writeOutputs } from './trace'
import { channel, deed, end, image, input, outputsOf, publishedOf, set, start } from './device.testkit'
import type { TraceLine } from './trace'

describe('settling', () => {
  it('counts a level once it has held for settleMs', () => {
    expect(
      outputsOf(image(), [
        start,
        { t: 100, pin: 's1', level: 0 },
        { t: 110, pin: 's1', level: 1 },
        { t: 115, pin: 's1', level: 0 },
        end(500),
      ]),
    ).toEqual(['140:lamp=1'])
  })
  it('ignores a level shorter than settleMs', () => {
    expect(
      outputsOf(image(), [start, { t: 100, pin: 's1', level: 0 }, { t: 124, pin: 's1', level: 1 }, end(500)]),
    ).toEqual([])
  })
  it('eager: the first edge counts at once, later ones are ignored, then the level is read again', () => {
    const eager = image({
      inputs: [input({ settle: 'eager', kind: 'rocker' })],
      bindings: [{ input: 0, gesture: 'flip', ...deed('toggle', 0) }],
    })
    expect(
      outputsOf(eager, [
        start,
        { t: 100, pin: 's1', level: 0 },
        { t: 105, pin: 's1', level: 1 },
        { t: 110, pin: 's1', level: 0 },
        end(300),
      ]),
    ).toEqual(['100:lamp=1'])
    expect(
      outputsOf(eager, [start, { t: 100, pin: 's1', level: 0 }, { t: 105, pin: 's1', level: 1 }, end(300)]),
    ).toEqual(['100:lamp=1', '125:lamp=0'])
  })
  it('learns the first settled level and fires nothing', () => {
    expect(outputsOf(image(), [{ t: 0, pin: 's1', level: 0 }, end(500)])).toEqual([])
  })
})

describe('gestures', () => {
  it('press waits for the release when a hold is bound on the same input', () => {
    const both = image({
      inputs: [input({ holdMs: 800 })],
      channels: [channel(), channel({ id: 'all', topic: 'all' })],
      bindings: [
        { input: 0, gesture: 'press', ...deed('toggle', 0) },
        { input: 0, gesture: 'hold', ...deed('toggle', 1) },
      ],
    })
    expect(
      outputsOf(both, [start, { t: 100, pin: 's1', level: 0 }, { t: 400, pin: 's1', level: 1 }, end(3000)]),
    ).toEqual(['425:lamp=1'])
    expect(
      outputsOf(both, [start, { t: 100, pin: 's1', level: 0 }, { t: 1400, pin: 's1', level: 1 }, end(3000)]),
    ).toEqual(['925:all=1'])
  })
  it('a rocker flips on either edge', () => {
    const rocker = image({
      inputs: [input({ kind: 'rocker' })],
      bindings: [{ input: 0, gesture: 'flip', ...deed('toggle', 0) }],
    })
    expect(
      outputsOf(rocker, [start, { t: 100, pin: 's1', level: 0 }, { t: 900, pin: 's1', level: 1 }, end(3000)]),
    ).toEqual(['125:lamp=1', '925:lamp=0'])
  })
  it('follow makes the level the state, and power-up wall applies what was learned', () => {
    const follow = image({
      inputs: [input({ kind: 'rocker' })],
      channels: [channel({ powerUp: 'wall' })],
      bindings: [{ input: 0, gesture: 'follow', ...deed('follow', 0) }],
    })
    expect(
      outputsOf(follow, [start, { t: 0, pin: 's1', level: 0 }, { t: 900, pin: 's1', level: 1 }, end(3000)]),
    ).toEqual(['25:lamp=1', '925:lamp=0'])
  })
})

describe('switched', () => {
  it('switches off by itself after maxOnMs, which a repeated on does not stretch', () => {
    expect(
      outputsOf(image({ channels: [channel({ maxOnMs: 1000 })] }), [
        start,
        { t: 10, link: 'up' },
        set(100, 'on'),
        set(900, 'on'),
        end(5000),
      ]),
    ).toEqual(['100:lamp=1', '1100:lamp=0'])
  })
  it('a turn-on asked within minOffMs waits; asking off cancels the wait', () => {
    const slow = image({ channels: [channel({ minOffMs: 3000 })] })
    expect(
      outputsOf(slow, [start, { t: 1, link: 'up' }, set(4000, 'on'), set(5000, 'off'), set(5500, 'on'), end(20_000)]),
    ).toEqual(['4000:lamp=1', '5000:lamp=0', '8000:lamp=1'])
    expect(
      outputsOf(slow, [
        start,
        { t: 1, link: 'up' },
        set(4000, 'on'),
        set(5000, 'off'),
        set(5500, 'on'),
        set(6000, 'off'),
        end(20_000),
      ]),
    ).toEqual(['4000:lamp=1', '5000:lamp=0'])
  })
})

describe('stepped', () => {
  // a capacitor regulator of three contacts: 1 · 2 · 1+2 · 3, contact 3 never with another
  const fan = (more: Partial<ImageChannel> = {}) =>
    image({
      channels: [
        channel({
          kind: 'stepped',
          id: 'fan',
          topic: 'fan',
          gpios: [1, 2, 3],
          patterns: [0, 1, 2, 3, 4],
          gapMs: 30,
          ...more,
        }),
      ],
      inputs: [input()],
      bindings: [{ input: 0, gesture: 'press', ...deed('up', 0) }],
      points: [{ vp: 5, carries: 'channel', index: 0, min: 0, max: 100, reports: true }],
    })
  const tell = (t: number, payload: string): TraceLine => ({
    t,
    msg: { topic: 'vestibule/studio/corner/fan/set', payload, retain: false },
  })
  const up: TraceLine = { t: 1, link: 'up' }
  describe('with a point for on and off, and a second one for the level', () => {
    const both = (more: Partial<ImageChannel> = {}) => ({
      ...fan(more),
      points: [
        { vp: 1, carries: 'channel' as const, index: 0, min: 0, max: 1, reports: true },
        { vp: 2, carries: 'channel' as const, index: 0, min: 0, max: 4, reports: true },
      ],
    })
    const value = (t: number, vp: number, payload: string, held = false): TraceLine => ({
      t,
      msg: { topic: `vestibule/studio/corner/vp/${vp}/${held ? 'held' : 'set'}`, payload, retain: held },
    })
    const shown = (lines: TraceLine[], more = {}) =>
      publishedOf(both(more), [start, up, ...lines, end(9000)]).filter((line) => /vp\/\d\/state/.test(line))
    it('the level’s point sets a level, and the other shows its greatest while anything is on', () =>
      expect(shown([value(1000, 2, '2'), value(2000, 2, '0')])).toEqual([
        '1 vp/1/state 0',
        '1 vp/2/state 0',
        '1000 vp/1/state 1',
        '1000 vp/2/state 2',
        '2000 vp/1/state 0',
        '2000 vp/2/state 0',
      ]))
    it('anything but 0 on the first is on, at the last level', () =>
      expect(
        shown([value(1000, 2, '3'), value(2000, 1, '0'), value(3000, 1, '1')]).filter((line) => line.includes('vp/2')),
      ).toEqual(['1 vp/2/state 0', '1000 vp/2/state 3', '2000 vp/2/state 0', '3000 vp/2/state 3']))
    it('what the service holds at power-up is on, at the last level', () =>
      expect(
        outputsOf(both({ powerUp: 'service', waitMs: 5000, onLevel: 2 }), [
          start,
          up,
          value(500, 1, '1', true),
          end(4000),
        ]),
      ).toEqual(['500:fan.2=1']))
  })
  it('opens what must open, waits the gap, then closes', () =>
    expect(outputsOf(fan(), [start, up, tell(100, '3'), tell(1000, '4'), end(2000)]).slice(-7 + 2)).toEqual([
      '100:fan.1=1',
      '100:fan.2=1',
      '1000:fan.1=0',
      '1000:fan.2=0',
      '1030:fan.3=1',
    ]))
  it('a change of mind during the gap closes nothing in between', () =>
    expect(outputsOf(fan(), [start, up, tell(100, '1'), tell(1000, '4'), tell(1010, '2'), end(2000)])).toEqual([
      '100:fan.1=1',
      '1000:fan.1=0',
      '1030:fan.2=1',
    ]))
  it('off and on again within the gap waits for its end', () =>
    expect(outputsOf(fan(), [start, up, tell(100, '4'), tell(1000, 'off'), tell(1010, 'on'), end(2000)])).toEqual([
      '100:fan.3=1',
      '1000:fan.3=0',
      '1030:fan.3=1',
    ]))
  it('on returns to the last level; up and down clamp, or wrap', () => {
    const levels = (img: ControllerImage, ...words: string[]) => {
      const published = publishedOf(img, [
        start,
        up,
        ...words.map((word, i) => tell(1000 * (i + 1), word)),
        end(60_000),
      ])
      return published
        .flatMap((line) => {
          const level = /fan\/state .*"level":(\d)/.exec(line)?.[1]
          return level === undefined ? [] : [Number(level)]
        })
        .slice(1)
    }
    expect(levels(fan(), '3', 'off', 'on', 'up', 'up', 'down')).toEqual([3, 0, 3, 4, 4, 3])
    expect(levels(fan({ wrap: true }), '4', 'up', 'down', 'toggle', 'toggle')).toEqual([4, 0, 4, 0, 4])
    expect(levels(fan({ onLevel: 2 }), 'on')).toEqual([2])
  })
  it('a slider of 0–100 % is the level that covers it, and comes back in its own units', () => {
    const point = (t: number, payload: string): TraceLine => ({
      t,
      msg: { topic: 'vestibule/studio/corner/vp/5/set', payload, retain: false },
    })
    expect(
      publishedOf(fan(), [
        start,
        up,
        point(1000, '1'),
        point(2000, '26'),
        point(3000, '100'),
        point(4000, '0'),
        end(9000),
      ])
        .filter((line) => line.includes('vp/5/state'))
        .map((line) => line.split(' ')[2]),
    ).toEqual(['0', '25', '50', '100', '0'])
  })
  it('remembers its last level over a power cut, whatever its policy', () => {
    const outputs = runTrace(fan(), [
      start,
      up,
      tell(100, '3'),
      tell(5000, 'off'),
      { t: 9000, power: 'off' },
      { t: 9500, power: 'on' },
      { t: 9600, link: 'up' },
      tell(9700, 'on'),
      end(20_000),
    ])
    expect(outputs.flatMap((o) => ('store' in o ? [o.store] : []))).toEqual(['fan=0,3'])
    expect(outputs.flatMap((o) => ('out' in o && o.t >= 9700 && o.level ? [o.out] : []))).toEqual(['fan.1', 'fan.2'])
  })
})

describe('selector', () => {
  const knob = (powerUp: ImageChannel['powerUp'] = 'off') =>
    image({
      inputs: [input({ id: 'r1', kind: 'selector', gpios: [1, 2], table: [0, 1, 2, 255] })],
      channels: [
        channel({ kind: 'stepped', id: 'fan', topic: 'fan', gpios: [1, 2], patterns: [0, 1, 2], gapMs: 0, powerUp }),
      ],
      bindings: [{ input: 0, gesture: 'select', ...deed('level', 0) }],
      points: [],
    })
  it('settles its contacts as one code', () =>
    expect(
      outputsOf(knob(), [
        start,
        { t: 100, pin: 'r1.1', level: 0 },
        { t: 110, pin: 'r1.1', level: 1 },
        { t: 115, pin: 'r1.2', level: 0 },
        end(500),
      ]),
    ).toEqual(['140:fan.2=1']))
  it('a code that is not in the table keeps the level and is reported', () => {
    const lines: TraceLine[] = [
      start,
      { t: 1, link: 'up' },
      { t: 100, pin: 'r1.1', level: 0 },
      { t: 500, pin: 'r1.2', level: 0 },
      end(900),
    ]
    expect(outputsOf(knob(), lines)).toEqual(['125:fan.1=1'])
    expect(publishedOf(knob(), lines)).toContain('525 log selector r1: no level for code 3')
  })
  it('power-up wall takes where it stands', () =>
    expect(outputsOf(knob('wall'), [{ t: 0, pin: 'r1.2', level: 0 }, end(500)])).toEqual(['25:fan.2=1']))
})

describe('power', () => {
  it('writes every output safe, then turns on what the policy says, staggered', () => {
    const three = image({
      channels: ['a', 'b', 'c'].map((id) => channel({ id, topic: id, powerUp: 'on' })),
      bindings: [],
      points: [],
    })
    expect(
      runTrace(three, [start, end(1000)]).flatMap((o) => ('out' in o ? [`${o.t}:${o.out}=${o.level}`] : [])),
    ).toEqual(['0:a=0', '0:b=0', '0:c=0', '0:a=1', '150:b=1', '300:c=1'])
  })
  it('stores storeMs after the last change, only if different, and restores it', () => {
    const last = image({ channels: [channel({ powerUp: 'last' })] })
    const outputs = runTrace(last, [
      start,
      { t: 1, link: 'up' },
      set(100, 'on'),
      set(1000, 'off'),
      set(1500, 'on'),
      { t: 4000, power: 'off' },
      { t: 9000, power: 'on' },
      end(20_000),
    ])
    expect(outputs.filter((o) => 'store' in o)).toEqual([{ t: 3500, store: 'lamp=1' }])
    expect(outputs.filter((o) => 'out' in o && o.t >= 9000)).toEqual([
      { t: 9000, out: 'lamp', level: 0 },
      { t: 9000, out: 'lamp', level: 1 },
    ])
  })
  it('service: waits for the held value, else takes its second choice', () => {
    const served = image({ channels: [channel({ powerUp: 'service', waitMs: 15_000 })], outage: 'local' })
    const held: TraceLine = { t: 5000, msg: { topic: 'vestibule/studio/corner/vp/1/held', payload: '1', retain: true } }
    expect(outputsOf(served, [start, { t: 4000, link: 'up' }, held, end(60_000)])).toEqual(['5000:lamp=1'])
    expect(outputsOf(served, [start, { t: 4000, link: 'up' }, { ...held, t: 16_000 }, end(60_000)])).toEqual([])
  })
})

describe('link', () => {
  it('on up: online first, then the full state, then the subscriptions, then which tables run', () => {
    const outputs = runTrace(image(), [start, { t: 700, link: 'up' }, end(800)]).filter((o) => o.t === 700)
    expect(outputs).toEqual([
      { t: 700, pub: { topic: 'vestibule/studio/corner/status', payload: 'online', retain: true } },
      {
        t: 700,
        pub: {
          topic: 'vestibule/studio/corner/lamp/state',
          payload: '{"on":false,"source":"power","seq":0}',
          retain: true,
        },
      },
      { t: 700, pub: { topic: 'vestibule/studio/corner/vp/1/state', payload: '0', retain: true } },
      { t: 700, sub: 'vestibule/studio/corner/+/set' },
      { t: 700, sub: 'vestibule/studio/corner/vp/+/set' },
      { t: 700, sub: 'vestibule/studio/corner/vp/+/held' },
      { t: 700, pub: { topic: 'vestibule/studio/corner/log', payload: 'tables 000000000000', retain: false } },
    ])
  })
  it('retries after 1, 2, 4 … 60 s, each within ±20 %', () => {
    let t = 1
    const waits: number[] = []
    const device = createDevice(image({ inputs: [], bindings: [] }))
    device.advance(0, [{ kind: 'power', on: true }])
    for (let i = 0; i < 9; i++) {
      device.advance(t, [{ kind: 'link', up: false }])
      const at = device.nextDeadline()!
      waits.push(at - t)
      device.advance(at)
      t = at + 1
    }
    for (const [i, wait] of waits.entries()) {
      const base = Math.min(60_000, 1000 * 2 ** i)
      expect(wait).toBeGreaterThanOrEqual(base * 0.8)
      expect(wait).toBeLessThanOrEqual(base * 1.2)
    }
  })
  it('local wins: the wall change made in the dark is reported, and the held value does not act', () => {
    const lines: TraceLine[] = [
      start,
      { t: 100, link: 'up' },
      { t: 1000, link: 'down' },
      { t: 2000, pin: 's1', level: 0 },
      { t: 2100, pin: 's1', level: 1 },
      { t: 9000, link: 'up' },
      { t: 9050, msg: { topic: 'vestibule/studio/corner/vp/1/held', payload: '0', retain: true } },
      end(30_000),
    ]
    expect(outputsOf(image(), lines)).toEqual(['2025:lamp=1'])
    expect(publishedOf(image(), lines)).toContain('9000 vp/1/state 1')
  })
  it('service wins: the point is not reported until the held value has been applied', () => {
    const lines: TraceLine[] = [
      start,
      { t: 100, link: 'up' },
      { t: 6000, link: 'down' },
      { t: 7000, pin: 's1', level: 0 },
      { t: 7100, pin: 's1', level: 1 },
      { t: 9000, link: 'up' },
      { t: 9050, msg: { topic: 'vestibule/studio/corner/vp/1/held', payload: '0', retain: true } },
      end(30_000),
    ]
    const service = image({ outage: 'service' })
    expect(outputsOf(service, lines)).toEqual(['7025:lamp=1', '9050:lamp=0'])
    const published = publishedOf(service, lines).filter((line) => line.includes('vp/1/state'))
    expect(published).toEqual(['100 vp/1/state 0', '9050 vp/1/state 0'])
  })
  it('service wins only within 5 s of up', () => {
    const late: TraceLine[] = [
      start,
      { t: 100, link: 'up' },
      { t: 5101, msg: { topic: 'vestibule/studio/corner/vp/1/held', payload: '1', retain: true } },
      end(30_000),
    ]
    expect(outputsOf(image({ outage: 'service' }), late)).toEqual([])
  })
  it('reports not more often than minReportMs, and the last value always goes out', () => {
    const lines = [
      start,
      { t: 100, link: 'up' } as TraceLine,
      set(1000, 'on'),
      set(1010, 'off'),
      set(1020, 'on'),
      end(5000),
    ]
    expect(
      publishedOf(image({ minReportMs: 200, points: [] }), lines).filter((line) => line.includes('lamp/state')),
    ).toEqual([
      '100 lamp/state {"on":false,"source":"power","seq":0}',
      '1000 lamp/state {"on":true,"source":"hub","seq":1}',
      '1200 lamp/state {"on":true,"source":"hub","seq":3}',
    ])
  })
})

describe('messages', () => {
  it.each([
    ['a retained command', set(1000, 'on', true), 'log set lamp: retained, ignored'],
    ['a payload that is no command', set(1000, 'ON'), 'log set lamp: not understood'],
    ['a level for a switched channel', set(1000, '1'), 'log set lamp: not understood'],
    [
      'a point value out of range',
      { t: 1000, msg: { topic: 'vestibule/studio/corner/vp/1/set', payload: '2', retain: false } } as TraceLine,
      'log vp1: not understood',
    ],
    [
      'an unknown channel',
      { t: 1000, msg: { topic: 'vestibule/studio/corner/door/set', payload: 'on', retain: false } } as TraceLine,
      'log set: unknown channel',
    ],
  ])('refuses %s on the log and never acts', (_, line, expected) => {
    const lines = [start, { t: 100, link: 'up' } as TraceLine, line, end(5000)]
    expect(outputsOf(image(), lines)).toEqual([])
    expect(publishedOf(image(), lines)).toContain(`1000 ${expected}`)
  })
  it('an app value acts and comes back', () => {
    const lines: TraceLine[] = [
      start,
      { t: 100, link: 'up' },
      { t: 1000, msg: { topic: 'vestibule/studio/corner/vp/1/set', payload: '1', retain: false } },
      end(2000),
    ]
    expect(publishedOf(image(), lines).slice(-2)).toEqual([
      '1000 lamp/state {"on":true,"source":"app","seq":1}',
      '1000 vp/1/state 1',
    ])
  })
})

describe('traces', () => {
  it.each([
    ['{"t":1', 'trace line 1: not JSON'],
    ['{"t":-1,"link":"up"}', 'trace line 1: not an event of a trace'],
    ['{"t":5,"link":"up"}\n{"t":4,"link":"down"}', 'trace line 2: time runs backwards (5 to 4 ms)'],
  ])('refuses %j', (text, message) => expect(() => readTrace(text)).toThrow(message))
  it('an unknown pin is refused by name', () =>
    expect(() => runTrace(image(), [{ t: 0, pin: 's9', level: 0 }])).toThrow(
      'there is no input "s9" on controller corner',
    ))
  it('prints keys in one order', () =>
    expect(writeOutputs(runTrace(image({ link: false }), [start]))).toBe('{"t":0,"out":"lamp","level":0}\n'))
})
