import { describe, expect, it } from 'vitest'
import type { ControllerImage } from '../image'
import { end, image, outputsOf, set, start } from './device.testkit'
import { readTrace, runTrace, TraceRefused, type TraceLine } from './trace'

// By the words of the contract, More than one link: each link has its own state, retries and winner; a point belongs to
// one; reports go to those that are up; one that comes up gets its full state; local ways wait for none.

/** A hub, and two services, each of which has the lamp under the same number. */
const linked = (more: Partial<ControllerImage> = {}): ControllerImage =>
  image({
    links: [
      { id: 'house', outage: 'local', own: true, logs: true },
      { id: 'app', outage: 'service', own: false, logs: false },
      { id: 'second', outage: 'local', own: false, logs: true },
    ],
    points: [
      { vp: 1, carries: 'channel', index: 0, min: 0, max: 1, reports: true, link: 1 },
      { vp: 1, carries: 'channel', index: 0, min: 0, max: 100, reports: true, link: 2 },
    ],
    ...more,
  })
const up = (t: number, of: string): TraceLine => ({ t, link: 'up', of })
const down = (t: number, of: string): TraceLine => ({ t, link: 'down', of })
const point = (t: number, of: string, kind: 'set' | 'held', payload: string, retain = false): TraceLine => ({
  t,
  msg: { topic: `vestibule/studio/corner/vp/1/${kind}`, payload, retain },
  of,
})
/** What was said to a link from an instant on: topic and payload. */
const said = (lines: TraceLine[], of: string, from = 0): string[] =>
  runTrace(linked(), lines).flatMap((o) =>
    'pub' in o && (o.of ?? 'house') === of && o.t >= from
      ? [`${o.pub.topic.replace('vestibule/studio/corner/', '')} ${o.pub.payload}`]
      : [],
  )

describe('more than one link', () => {
  it('all join at power-up, in their order, and each tries again by itself', () => {
    const joins = (lines: TraceLine[]): string[] =>
      runTrace(linked(), lines).flatMap((o) => ('link' in o ? [`${o.of ?? 'house'}`] : []))
    expect(joins([start, end(10)])).toEqual(['house', 'app', 'second'])
    // one that fails does not disturb those that are up: first retry after 1 s ± 20 %
    expect(joins([start, up(10, 'house'), up(10, 'second'), down(20, 'app'), end(1300)])).toEqual([
      'house',
      'app',
      'second',
      'app',
    ])
  })
  it('one that comes up gets its full state and nothing of the others: own words only where they belong', () => {
    const lines = [start, up(10, 'app'), up(500, 'house'), end(600)]
    expect(said(lines, 'app')).toEqual(['status online', 'vp/1/state 0'])
    expect(said(lines, 'second')).toEqual([])
    expect(said(lines, 'house')).toEqual([
      'status online',
      'lamp/state {"on":false,"source":"power","seq":0}',
      'log tables 000000000000',
    ])
  })
  it('subscribes on each link to what it carries: only the first hears what a hub sets', () => {
    const subs = runTrace(linked(), [start, up(10, 'house'), up(10, 'app'), end(20)]).flatMap((o) =>
      'sub' in o ? [`${o.of ?? 'house'} ${o.sub.replace('vestibule/studio/corner/', '')}`] : [],
    )
    expect(subs).toEqual(['house +/set', 'house vp/+/set', 'house vp/+/held', 'app vp/+/set', 'app vp/+/held'])
  })
  it('a change is said to all that are up, to each in its own numbers', () => {
    const lines = [start, up(10, 'house'), up(10, 'app'), up(10, 'second'), set(1000, 'on'), end(1100)]
    expect(said(lines, 'house', 1000)).toEqual(['lamp/state {"on":true,"source":"hub","seq":1}'])
    expect(said(lines, 'app', 1000)).toEqual(['vp/1/state 1'])
    expect(said(lines, 'second', 1000)).toEqual(['vp/1/state 100'])
  })
  it('a point is set by its own link only, and by that one while it is up', () => {
    const on = (lines: TraceLine[]): string[] => outputsOf(linked(), [start, ...lines, end(3000)])
    expect(on([up(10, 'app'), point(100, 'app', 'set', '1')])).toEqual(['100:lamp=1'])
    expect(on([up(10, 'house'), point(100, 'app', 'set', '1')])).toEqual([])
    expect(on([up(10, 'second'), point(100, 'second', 'set', '1')])).toEqual(['100:lamp=1'])
    // 100 lies beyond the range of the app's point, and within that of the second's
    expect(on([up(10, 'app'), up(10, 'second'), point(100, 'app', 'set', '100')])).toEqual([])
    expect(on([up(10, 'app'), up(10, 'second'), point(100, 'second', 'set', '100')])).toEqual(['100:lamp=1'])
    // the hub's words come over the hub's link, whoever says them
    expect(on([up(10, 'app'), { ...set(100, 'on'), of: 'app' }])).toEqual([])
  })
  it('each outage has its own winner', () => {
    const held = (of: string): string[] =>
      outputsOf(linked(), [
        start,
        up(10, of),
        down(1000, of),
        up(4000, of),
        point(4100, of, 'held', '1', true),
        end(5000),
      ])
    expect(held('app')).toEqual(['4100:lamp=1'])
    expect(held('second')).toEqual([])
  })
  it('an outage of one does not hold back what is said to another', () => {
    const lines = [
      start,
      up(10, 'app'),
      up(10, 'second'),
      down(1000, 'app'),
      up(4000, 'app'),
      { t: 4500, pin: 's1', level: 0 as const },
      end(12_000),
    ]
    expect(said(lines, 'second', 4000)).toEqual(['vp/1/state 100'])
    // a hand has spoken, so the service's value no longer counts, and the app is told at once
    expect(said(lines, 'app', 4400)).toEqual(['vp/1/state 1'])
  })
  it('a press acts while every link is down, joining or gone', () => {
    const pressed = { t: 1000, pin: 's1', level: 0 as const }
    for (const before of [[], [up(10, 'app'), down(500, 'app')], [up(10, 'house'), up(20, 'app')]])
      expect(outputsOf(linked(), [start, ...before, pressed, end(2000)])).toEqual(['1025:lamp=1'])
  })
  it('what waits for the least time between reports still goes out when another link comes up', () => {
    const lines = [start, up(10, 'app'), { t: 1000, pin: 's1', level: 0 as const }, up(1400, 'second'), end(5000)]
    const outputs = runTrace(linked({ minReportMs: 2000 }), lines)
    const app = outputs.flatMap((o) => ('pub' in o && o.of === 'app' ? [`${o.t} ${o.pub.payload}`] : []))
    expect(app).toEqual(['10 online', '10 0', '2010 1'])
  })
  it('the log goes to the links that take it', () => {
    const lines = [start, up(10, 'house'), up(10, 'app'), up(10, 'second'), set(1000, 'nonsense'), end(1100)]
    expect(said(lines, 'house', 1000)).toEqual(['log set lamp: not understood'])
    expect(said(lines, 'second', 1000)).toEqual(['log set lamp: not understood'])
    expect(said(lines, 'app', 1000)).toEqual([])
  })
  it('a trace that was made before there was more than one speaks of the first', () => {
    const [old] = readTrace('{"t":10,"link":"up"}\n')
    expect(outputsOf(linked(), [start, old!, set(100, 'on'), end(200)])).toEqual(['100:lamp=1'])
    expect(() => runTrace(linked(), [start, up(10, 'nowhere')])).toThrow(TraceRefused)
  })
})
