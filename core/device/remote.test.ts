import { describe, expect, it } from 'vitest'
import type { ControllerImage, ImageKey } from '../image'
import { encodeFrame, encodeRepeat } from '../infrared'
import { channel, deed, end, image, outputsOf, start } from './device.testkit'
import { runTrace, type TraceLine } from './trace'

/** Remote keys, nearby and serial characters (docs/behaviour.md, Commands, Infrared, Serial and nearby link). */

const key = (more: Partial<ImageKey> = {}): ImageKey => ({
  protocol: 'nec',
  address: 4,
  command: 26,
  everyMs: 0,
  ...deed('toggle'),
  ...more,
})
const nec = { protocol: 'nec', address: 4, command: 26 } as const
const ir = (t: number, more: object = {}): TraceLine => ({ t, ir: { ...nec, ...more } }) as TraceLine
const remote = (keys = [key()], more: Partial<ControllerImage> = {}): ControllerImage =>
  image({ keys, points: [], ...more })
const fan = channel({ kind: 'stepped', gpios: [1, 2], patterns: [0, 1, 2, 3], gapMs: 0 })

describe('once', () => {
  it('repeat frames are the same press', () =>
    expect(
      outputsOf(remote(), [start, ir(100), ir(208, { repeat: true }), ir(316, { repeat: true }), end(900)]),
    ).toEqual(['100:lamp=1']))
  it('the same frame within 250 ms is the same press, later it is another', () =>
    expect(outputsOf(remote(), [start, ir(100), ir(340), ir(600), end(900)])).toEqual(['100:lamp=1', '600:lamp=0']))
  it('a turned toggle bit is another press', () => {
    const rc5 = remote([key({ protocol: 'rc5', address: 4, command: 26 })])
    expect(
      outputsOf(rc5, [
        start,
        ir(100, { protocol: 'rc5', toggle: 0 }),
        ir(214, { protocol: 'rc5', toggle: 0 }),
        ir(300, { protocol: 'rc5', toggle: 1 }),
        end(900),
      ]),
    ).toEqual(['100:lamp=1', '300:lamp=0'])
  })
  it('a repeat whose press was not heard means nothing', () =>
    expect(
      outputsOf(remote(), [start, ir(100, { repeat: true }), { t: 200, ir: { protocol: 'nec-repeat' } }, end(900)]),
    ).toEqual([]))
  it('another address does nothing', () =>
    expect(outputsOf(remote(), [start, ir(100, { address: 5 }), end(900)])).toEqual([]))
})

describe('repeat(everyMs)', () => {
  it('goes up while the key is held, not more often than it says', () => {
    const lines = [
      start,
      ir(100),
      ...[208, 316, 424, 532, 640, 748].map((t): TraceLine => ({ t, ir: { protocol: 'nec-repeat' } })),
      end(900),
    ]
    expect(
      runTrace(remote([key({ ...deed('up'), everyMs: 300 })], { channels: [fan] }), lines).flatMap((one) =>
        'out' in one && one.t > 0 ? [`${one.t}:${one.out}=${one.level}`] : [],
      ),
    ).toEqual(['100:lamp.1=1', '424:lamp.1=0', '424:lamp.2=1', '748:lamp.1=1'])
  })
})

describe('from edges', () => {
  it('a frame and its repeats in one capture are one press', () =>
    expect(
      outputsOf(remote(), [start, { t: 100, edges: [...encodeFrame(nec), 40_000, ...encodeRepeat()] }, end(900)]),
    ).toEqual(['100:lamp=1']))
  it('an unknown remote can be taught by its hash', () => {
    const edges = [3400, 2600, ...[1, 0, 1, 1, 0, 0, 1].flatMap((bit) => [430, bit ? 1290 : 430]), 430]
    const heard = remote([key({ protocol: 'unknown', address: 0, command: 0 })])
    expect(outputsOf(heard, [start, { t: 100, edges }, end(200)])).toEqual([])
    const hash = 0x27c1_4a63
    const taught = remote([key({ protocol: 'unknown', address: hash >>> 16, command: hash & 0xffff })])
    expect(outputsOf(taught, [start, { t: 100, ir: { protocol: 'unknown', hash } }, end(200)])).toEqual(['100:lamp=1'])
  })
})

describe('characters', () => {
  const linked = image({
    points: [],
    serial: { baud: 9600, statusMs: 2000 },
    chars: [
      { char: 'A', source: 'serial', ...deed('on') },
      { char: 'a', source: 'serial', ...deed('off') },
    ],
    channels: [channel(), fan].map((one, i) => ({ ...one, id: ['rack', 'fan'][i]! })),
  })
  const lines = (trace: TraceLine[]): string[] =>
    runTrace(linked, trace).flatMap((one) => ('line' in one ? [`${one.t} ${one.line}`] : []))
  /** XOR of every character, worked out here on its own */
  const withSum = (text: string): string =>
    `${text}*${[...text]
      .reduce((sum, c) => sum ^ c.charCodeAt(0), 0)
      .toString(16)
      .toUpperCase()
      .padStart(2, '0')}`

  it('act by the table', () =>
    expect(outputsOf(linked, [start, { t: 100, char: 'A' }, { t: 200, char: 'a' }, end(300)])).toEqual([
      '100:rack=1',
      '200:rack=0',
    ]))
  it('a status line goes out on change and each statusMs, with its checksum', () =>
    expect(lines([start, { t: 100, char: 'A' }, end(2200)])).toEqual([
      `0 ${withSum('S rack=0 fan=0 ')}`,
      `100 ${withSum('S rack=1 fan=0 ')}`,
      `2100 ${withSum('S rack=1 fan=0 ')}`,
    ]))
  it('unknown characters are counted, not acted on', () =>
    expect(lines([start, { t: 100, char: '#' }, { t: 101, char: '?' }, end(2000)]).at(-1)).toBe(
      `2000 ${withSum('S rack=0 fan=0 ?=2 ')}`,
    ))
})
