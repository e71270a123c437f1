import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { decodeValue, encodeValue } from './coding'
import { createWires } from './engine'
import type { DeviceWord, WireEvent } from './events'
import { valueAt } from './pointer'
import type { Coding, ControllerWires, HearRow, HttpLink, MqttLink } from './types'

// The engine against the words of docs/wires.md, clause by clause, and its parts against other programs (JSON.parse).

const PREFIX = 'vestibule/house/box/'
const number: Coding = { form: 'number' }
const hear = (more: Partial<HearRow> = {}): HearRow => ({
  from: ['ask/1'],
  pointer: null,
  to: 'vp/1',
  coding: number,
  min: 0,
  max: 1,
  meaning: 'wish',
  lasting: true,
  ...more,
})
const mqtt = (more: Partial<MqttLink> = {}): MqttLink => ({
  transport: 'mqtt',
  id: 'app',
  place: { address: ['here'], port: 1883, portSecret: null, tls: false },
  client: ['box'],
  user: [],
  password: [],
  keepAliveS: 60,
  status: null,
  log: null,
  sign: null,
  says: [
    {
      from: 'vp/1/state',
      to: ['is/', { secret: 'app/key' }],
      before: ['{"v":'],
      coding: number,
      after: ['}'],
      qos: 1,
      retain: false,
      everyMs: 0,
    },
  ],
  hears: [hear(), hear({ from: ['kept/1'], meaning: 'held' })],
  count: null,
  ...more,
})
const engineOf = (link: MqttLink | HttpLink) => {
  const wires: ControllerWires = { site: 'house', controller: 'box', prefix: PREFIX, links: [link] }
  const engine = createWires(wires, () => 'K')
  const heard = (topic: string, payload: string, stale = false): DeviceWord[] =>
    engine.event(1, { kind: 'heard', link: 0, topic, payload, stale } satisfies WireEvent)
  const told = (words: DeviceWord[]): string[] =>
    words.map((word) =>
      word.kind === 'link' ? `link ${word.up}` : `${word.topic.slice(PREFIX.length)} ${word.payload}`,
    )
  const done = () => engine.takeActions().map(({ what }) => what)
  return {
    engine,
    heard: (topic: string, payload: string, stale = false) => told(heard(topic, payload, stale)),
    told,
    done,
  }
}

describe('a wire over MQTT', () => {
  it('carries nothing before its connection stands', () => {
    const { engine, heard } = engineOf(mqtt())
    expect(heard('ask/1', '1')).toEqual([])
    engine.event(1, { kind: 'open', link: 0, open: true })
    expect(heard('ask/1', '1')).toEqual(['vp/1/set 1'])
    expect(heard('kept/1', '0')).toEqual(['vp/1/held 0'])
    expect(heard('elsewhere', '1')).toEqual([])
  })
  it('says a point under its topic, with its secret filled in, between what stands around the value', () => {
    const { engine, done } = engineOf(mqtt())
    engine.event(1, { kind: 'open', link: 0, open: true })
    engine.says(2, 0, `${PREFIX}vp/1/state`, '1', true)
    engine.says(2, 0, `${PREFIX}lamp/state`, '{"on":true}', true)
    expect(done()).toEqual([{ say: { topic: 'is/K', payload: '{"v":1}', qos: 1, retain: false } }])
  })
  it('holds back what comes faster than the plan allows, and the last value goes out', () => {
    const { says } = mqtt()
    const { engine, done } = engineOf(mqtt({ says: says.map((row) => ({ ...row, everyMs: 1000 })) }))
    engine.event(1, { kind: 'open', link: 0, open: true })
    for (const [t, value] of [
      [10, '1'],
      [20, '0'],
      [900, '1'],
    ] as const)
      engine.says(t, 0, `${PREFIX}vp/1/state`, value, true)
    expect(done()).toHaveLength(1)
    expect(engine.nextDeadline()).toBe(1010)
    engine.tick(1010)
    expect(done()).toEqual([{ say: { topic: 'is/K', payload: '{"v":1}', qos: 1, retain: false } }])
  })
  describe('with numbers on its wishes', () => {
    const counted = () => engineOf(mqtt({ count: { topic: ['count'], pointer: null } }))
    it('takes none before the service has said its last one, and each once', () => {
      const { engine, heard, done } = counted()
      engine.event(1, { kind: 'open', link: 0, open: true })
      expect(heard('ask/1', '1 8')).toEqual([])
      expect(heard('count', '7')).toEqual([])
      expect(heard('ask/1', '1 8')).toEqual(['vp/1/set 1'])
      expect(heard('ask/1', '1 8')).toEqual([])
      expect(heard('ask/1', '0 9')).toEqual(['vp/1/set 0'])
      expect(heard('ask/1', '1 8')).toEqual([])
      expect(done().filter((what) => 'note' in what)).toHaveLength(3)
    })
    it('takes nothing of before an outage, and no number that is none', () => {
      const { engine, heard } = counted()
      engine.event(1, { kind: 'open', link: 0, open: true })
      heard('count', '7')
      heard('ask/1', '1 8')
      engine.event(2, { kind: 'open', link: 0, open: false })
      engine.event(3, { kind: 'open', link: 0, open: true })
      expect(heard('ask/1', '1 9')).toEqual([])
      // even one that says less than it did
      heard('count', '2')
      for (const payload of ['1 3', '1 8', '1', '1 x', '1 99999999999', '1 -9', ''])
        expect(heard('ask/1', payload)).toEqual([])
      expect(heard('ask/1', '1 9')).toEqual(['vp/1/set 1'])
    })
    it('what is retained or sent again is handed on as such, so that the controller refuses it', () => {
      const { engine } = counted()
      engine.event(1, { kind: 'open', link: 0, open: true })
      engine.event(1, { kind: 'heard', link: 0, topic: 'count', payload: '1', stale: true })
      const [word] = engine.event(1, { kind: 'heard', link: 0, topic: 'ask/1', payload: '1 2', stale: true })
      expect(word).toMatchObject({ retain: true })
    })
  })
})

describe('values', () => {
  const codings = fc.oneof(
    fc.record({ form: fc.constant('number' as const) }),
    fc.record({
      form: fc.constant('words' as const),
      min: fc.constant(0),
      max: fc.constant(1),
      off: fc.constant('off'),
      on: fc.constant('on'),
    }),
  )
  it('come back as they were said', () =>
    fc.assert(
      fc.property(codings, fc.integer({ min: 0, max: 1 }), (coding, value) => {
        expect(decodeValue(coding, encodeValue(coding, String(value)))).toBe(String(value))
      }),
    ))
  it('come back from a range that is as wide or wider', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: -50, max: 50 }),
        fc.integer({ min: 1, max: 99 }),
        fc.integer({ min: 0, max: 900 }),
        fc.nat(99),
        (min, span, wider, at) => {
          const coding: Coding = { form: 'range', min, max: min + span, least: 0, most: span + wider }
          const value = min + (at % (span + 1))
          expect(decodeValue(coding, encodeValue(coding, String(value)))).toBe(String(value))
        },
      ),
    ))
})

describe('a place in a document (RFC 6901)', () => {
  // the examples of clause 5 that lead to a number
  const document = '{"foo":["bar","baz"],"":0,"a/b":1,"c%d":2,"e^f":3,"g|h":4,"i\\\\j":5,"k\\"l":6," ":7,"m~n":8}'
  it.each([
    ['/foo/0', 'bar'],
    ['/', '0'],
    ['/a~1b', '1'],
    ['/c%d', '2'],
    ['/e^f', '3'],
    ['/g|h', '4'],
    ['/ ', '7'],
    ['/m~0n', '8'],
  ])('%s', (pointer, value) => expect(valueAt(document, pointer)).toBe(value))
  it('is what JSON.parse finds there, in random documents', () =>
    fc.assert(
      fc.property(
        fc.dictionary(fc.stringMatching(/^[a-z]{1,4}$/), fc.jsonValue({ maxDepth: 3 }), { maxKeys: 5 }),
        fc.stringMatching(/^[a-z]{1,4}$/),
        fc.integer({ min: -999, max: 999 }),
        fc.nat(2),
        (object, key, value, indent) => {
          const whole = JSON.stringify({ ...object, [key]: value, 'zz-last': true }, null, indent)
          expect(valueAt(whole, `/${key}`)).toBe(String(value))
          expect(valueAt(whole, '/zz-last')).toBe('true')
          expect(valueAt(whole, '/not-there')).toBeUndefined()
        },
      ),
      { numRuns: 500 },
    ))
  it('never fails, whatever it is given', () =>
    fc.assert(
      fc.property(fc.string(), (text) => void valueAt(text, '/a/0/b')),
      { numRuns: 500 },
    ))
})

describe('a link of requests', () => {
  const http = (): HttpLink => ({
    transport: 'http',
    id: 'app',
    place: { address: ['here'], port: 80, portSecret: null, tls: false },
    headers: [],
    method: 'PUT',
    says: mqtt().says.map((row) => ({ ...row, before: [], after: [] })),
    hears: [
      hear({ from: ['/1'], meaning: 'held' }),
      hear({ from: ['/2'], to: 'vp/2', meaning: 'held', lasting: false }),
    ],
    read: { all: false, everyMs: 1000 },
  })
  const answer = (engine: ReturnType<typeof engineOf>, t: number, status: number, body = '') => {
    const words = engine.told(engine.engine.event(t, { kind: 'answer', link: 0, status, body }))
    engine.engine.pump(t)
    return words
  }
  it('is up when a first round was read: what is held comes as held, and never for what only moves', () => {
    const link = engineOf(http())
    link.engine.joins(1, 0)
    link.engine.pump(1)
    expect(answer(link, 2, 200, '1')).toEqual([])
    expect(answer(link, 3, 200, '1')).toEqual(['link true', 'vp/1/held 1'])
    link.engine.tick(1003)
    link.engine.pump(1003)
    expect(answer(link, 1004, 200, '0')).toEqual(['vp/1/set 0'])
    expect(answer(link, 1005, 200, '0')).toEqual([])
  })
  it.each([0, 301, 401, 404, 500])('goes down at %i', (status) => {
    const link = engineOf(http())
    link.engine.joins(1, 0)
    link.engine.pump(1)
    expect(answer(link, 2, status)).toEqual(['link false'])
  })
  it('what it has written itself is no news when it reads it', () => {
    const link = engineOf(http())
    link.engine.joins(1, 0)
    link.engine.pump(1)
    answer(link, 2, 200, '0')
    answer(link, 3, 200, '0')
    link.engine.says(10, 0, `${PREFIX}vp/1/state`, '1', true)
    link.engine.pump(10)
    answer(link, 11, 204)
    link.engine.tick(1003)
    link.engine.pump(1003)
    expect(answer(link, 1004, 200, '1')).toEqual([])
  })
})
