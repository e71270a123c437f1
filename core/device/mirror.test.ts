import { describe, expect, it } from 'vitest'
import type { ControllerImage } from '../image'
import { channel, deed, image } from './device.testkit'
import { runTrace, type TraceLine } from './trace'
import type { DeviceOutput } from './types'

/** A pair's coprocessor: a lamp and a fan with characters, a shutter without one for "b". */
const pair: ControllerImage = image({
  link: false,
  serial: { baud: 9600, statusMs: 2000 },
  inputs: [
    {
      id: 'c1',
      gpios: [4],
      kind: 'contact',
      pull: 'up',
      analogue: false,
      closedLevel: 0,
      settle: 'settle',
      settleMs: 25,
      holdMs: 0,
      table: [],
    },
  ],
  bindings: [],
  channels: [
    channel(),
    channel({ id: 'fan', topic: 'fan', kind: 'stepped', gpios: [1, 2], patterns: [0, 1, 2] }),
    channel({ id: 'shutter', topic: 'shutter', kind: 'paired', gpios: [6, 7], patterns: [0, 1, 2] }),
    channel({ id: 'door', topic: 'door', kind: 'pulsed', gpios: [8], contact: 0, contactMeansClosed: true }),
  ],
  points: [
    { vp: 1, carries: 'channel', index: 0, min: 0, max: 1, reports: true },
    { vp: 2, carries: 'channel', index: 1, min: 0, max: 100, reports: true },
    { vp: 3, carries: 'mode', index: 0, min: 0, max: 1, reports: true },
  ],
  chars: [
    { char: 'A', source: 'serial', ...deed('on') },
    { char: 'a', source: 'serial', ...deed('off') },
    { char: 'F', source: 'serial', ...deed('level', 1, { level: 2 }) },
    { char: 'f', source: 'serial', ...deed('off', 1) },
    { char: 'U', source: 'serial', ...deed('a', 2) },
    { char: 's', source: 'serial', ...deed('stop', 2) },
    { char: 'D', source: 'serial', ...deed('pulse', 3) },
    { char: 'M', source: 'serial', action: 'auto', level: 0, on: 'controller', index: 0 },
  ],
})
const PREFIX = 'vestibule/studio/corner/'
const start: TraceLine[] = [
  { t: 0, power: 'on' },
  { t: 100, link: 'up' },
]
const summed = (text: string): string =>
  `${text}*${[...text]
    .reduce((xor, c) => xor ^ c.charCodeAt(0), 0)
    .toString(16)
    .toUpperCase()
    .padStart(2, '0')}`
const status = (
  t: number,
  values: { lamp?: number; fan?: number; shutter?: number; door?: string } = {},
  more = '',
): TraceLine => ({
  t,
  line: summed(
    `S lamp=${values.lamp ?? 0} fan=${values.fan ?? 0} shutter=${values.shutter ?? 0} ` +
      `door=${values.door ?? '0'} ${more}`,
  ),
})
const message = (t: number, topic: string, payload: string, retain = false): TraceLine => ({
  t,
  msg: { topic: `${PREFIX}${topic}`, payload, retain },
})
const words = (outputs: readonly DeviceOutput[]): string[] =>
  outputs.flatMap((o) =>
    'pub' in o
      ? [`${o.t} ${o.pub.topic.replace(PREFIX, '')} ${o.pub.payload}`]
      : 'char' in o
        ? [`${o.t} char ${o.char}`]
        : 'out' in o || 'line' in o || 'store' in o
          ? [`${o.t} acts`]
          : [],
  )
const after = (t: number, ...lines: TraceLine[]): string[] =>
  words(runTrace(pair, [...start, ...lines], 'mirror')).filter((word) => Number(word.split(' ')[0]) >= t)

describe('the coprocessor of a pair', () => {
  it('drives nothing, and says that the main board is offline until it hears it', () => {
    const outputs = runTrace(pair, [...start, { t: 1000, end: true }], 'mirror')
    expect(words(outputs)).toEqual(['100 status offline', '100 log tables 000000000000'])
    expect(outputs.flatMap((o) => ('sub' in o ? [o.sub] : []))).toEqual([
      `${PREFIX}+/set`,
      `${PREFIX}vp/+/set`,
      `${PREFIX}vp/+/held`,
    ])
  })
  it('reports everything at the first line, then what changes', () => {
    expect(
      after(500, status(500, { lamp: 1 }), status(2500, { lamp: 1 }), status(3000, { lamp: 1, fan: 2, door: '1' })),
    ).toEqual([
      '500 status online',
      '500 lamp/state {"on":true,"source":"serial","seq":1}',
      '500 vp/1/state 1',
      '500 fan/state {"on":false,"level":0,"source":"power","seq":0}',
      '500 vp/2/state 0',
      '500 shutter/state {"state":"stop","source":"power","seq":0}',
      '500 door/state {"state":"closed","source":"serial","seq":1}',
      '3000 fan/state {"on":true,"level":2,"source":"serial","seq":1}',
      '3000 vp/2/state 100',
      '3000 door/state {"state":"open","source":"serial","seq":2}',
    ])
  })
  it.each([
    ['a damaged line', 'S lamp=1 fan=0 shutter=0 door=0 *00', 'a status line was damaged'],
    ['a line without a sum', 'S lamp=1 fan=0 shutter=0 door=0 ', 'a status line was damaged'],
    ['other channels', summed('S lamp=1 fans=0 shutter=0 door=0 '), 'a status line of other tables'],
    ['Group level too high', summed('S lamp=2 fan=0 shutter=0 door=0 '), 'a status line of other tables'],
    ['a channel too many', summed('S lamp=1 fan=0 shutter=0 door=0 gate=1 '), 'a status line of other tables'],
    [
      'an unknown position where there is no contact',
      summed('S lamp=? fan=0 shutter=0 door=0 '),
      'a status line of other tables',
    ],
  ])('%s counts for nothing, and is said once', (_, line, why) => {
    expect(after(500, { t: 500, line }, { t: 900, line })).toEqual([`500 log serial: ${why}`])
  })
  it('takes a line with a count of unknown characters, and a door of which nothing is known', () => {
    expect(after(500, status(500, { door: '?' }, '?=17 '))).toContain(
      '500 door/state {"state":"unknown","source":"power","seq":0}',
    )
  })
  it('turns messages into characters of the table', () => {
    const said = (...lines: TraceLine[]) => after(600, status(500, { lamp: 1 }), ...lines)
    expect(
      said(
        message(600, 'lamp/set', 'off'),
        message(700, 'vp/1/set', '1'),
        message(800, 'vp/2/set', '100'),
        message(900, 'vp/2/set', '0'),
        message(1000, 'shutter/set', 'a'),
        message(1100, 'door/set', 'pulse'),
        message(1200, 'vp/3/set', '1'),
      ),
    ).toEqual(['600 char a', '700 char A', '800 char F', '900 char f', '1000 char U', '1100 char D', '1200 char M'])
    // the lamp is on, as the line says: a toggle is the character for off
    expect(said(message(600, 'lamp/set', 'toggle'))).toEqual(['600 char a'])
  })
  it('refuses what has no character, what is retained, and everything while the main board is silent', () => {
    expect(
      after(
        600,
        status(500),
        message(600, 'shutter/set', 'b'),
        message(610, 'vp/2/set', '50'),
        message(620, 'vp/3/set', '0'),
        message(630, 'lamp/set', 'on', true),
      ),
    ).toEqual([
      '600 log shutter: no character for it',
      '610 log fan: no character for it',
      '620 log mode: no character for it',
      '630 log set lamp: retained, ignored',
    ])
    expect(after(500, message(500, 'lamp/set', 'on'), message(510, 'vp/3/set', '1'))).toEqual([
      '500 log lamp: main board not heard',
      '510 log mode: main board not heard',
    ])
  })
  it('says offline after three periods without a line, and everything again when it is heard', () => {
    expect(after(501, status(500, { lamp: 1 }), status(9000, { lamp: 1 }), { t: 9100, end: true })).toEqual([
      '6500 status offline',
      '6500 log serial: main board not heard',
      '9000 status online',
      '9000 lamp/state {"on":true,"source":"serial","seq":1}',
      '9000 vp/1/state 1',
      '9000 fan/state {"on":false,"level":0,"source":"power","seq":0}',
      '9000 vp/2/state 0',
      '9000 shutter/state {"state":"stop","source":"power","seq":0}',
      '9000 door/state {"state":"closed","source":"serial","seq":1}',
    ])
  })
  it('an outage of the network does not forget the main board', () => {
    expect(
      after(900, status(500, { lamp: 1 }), { t: 600, link: 'down' }, status(700, { lamp: 0 }), {
        t: 900,
        link: 'up',
      })[0],
    ).toBe('900 status online')
    expect(
      after(900, status(500, { lamp: 1 }), { t: 600, link: 'down' }, status(700, { lamp: 0 }), {
        t: 900,
        link: 'up',
      })[1],
    ).toBe('900 lamp/state {"on":false,"source":"serial","seq":2}')
  })
  it('the main board itself passes lines by', () => {
    expect(
      words(runTrace({ ...pair, serial: null }, [{ t: 0, power: 'on' }, status(500, { lamp: 1 })])).filter((word) =>
        word.startsWith('500'),
      ),
    ).toEqual([])
  })
})
