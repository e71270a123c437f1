import { describe, expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import {
  announceHeld,
  appServiceFilters,
  appServiceHears,
  Broker,
  matches,
  setPoint,
  startAppService,
  widgetSends,
  widgetShows,
  type Message,
} from '.'

const site = cleanSite()
const service = site.services[0]!
const start = startAppService(service)
const report = (payload: string, topic = 'vestibule/test-bench/corner/vp/1/state'): Message => ({
  topic,
  payload,
  retain: true,
})

describe('the app-service stand-in', () => {
  it('begins with the defaults, or with what it has kept', () => {
    expect(start.values).toEqual({ 'bench-lamp': 0, 'shelf-lamp': 0 })
    expect(startAppService(service, { 'shelf-lamp': 1, gone: 5 }).values).toEqual({ 'bench-lamp': 0, 'shelf-lamp': 1 })
  })
  it('announces the value of every point, retained', () =>
    expect(announceHeld('test-bench', service, start)).toEqual(
      [1, 2].map((vp) => ({ topic: `vestibule/test-bench/corner/vp/${vp}/held`, payload: '0', retain: true })),
    ))
  it('its filters match what controllers say, and not what it says itself', () => {
    const hears = (topic: string) => appServiceFilters('test-bench').some((filter) => matches(filter, topic))
    expect(
      [
        'vestibule/test-bench/corner/status',
        'vestibule/test-bench/corner/vp/1/state',
        'vestibule/test-bench/corner/vp/1/set',
        'vestibule/test-bench/corner/vp/1/held',
        'vestibule/other/corner/status',
      ].map(hears),
    ).toEqual([true, true, false, false, false])
  })
  it('follows a report, and holds what it heard', () =>
    expect(appServiceHears('test-bench', service, start, report('1'))).toEqual({
      state: { ...start, values: { ...start.values, 'bench-lamp': 1 } },
      publish: [{ topic: 'vestibule/test-bench/corner/vp/1/held', payload: '1', retain: true }],
    }))
  it.each([
    ['a number out of range', report('2')],
    ['no number', report('on')],
    ['a fraction', report('0.5')],
    ['an unknown point', report('1', 'vestibule/test-bench/corner/vp/9/state')],
    ['another controller', report('1', 'vestibule/test-bench/nobody/vp/1/state')],
    ['another site', report('1', 'vestibule/elsewhere/corner/vp/1/state')],
    ['what it knows already', report('0')],
  ])('drops %s', (_, message) =>
    expect(appServiceHears('test-bench', service, start, message)).toEqual({ state: start, publish: [] }),
  )
  it('knows who is online', () => {
    const online = appServiceHears(
      'test-bench',
      service,
      start,
      report('online', 'vestibule/test-bench/corner/status'),
    ).state
    expect(online.online).toEqual({ corner: true })
    expect(
      appServiceHears('test-bench', service, online, report('offline', 'vestibule/test-bench/corner/status')).state
        .online,
    ).toEqual({ corner: false })
  })
  it('does not set a point that the app may only read', () => {
    const readOnly = { ...service, points: service.points.map((point) => ({ ...point, access: 'read' as const })) }
    expect(setPoint('test-bench', readOnly, start, 'bench-lamp', 1)).toEqual({ state: start, publish: [] })
  })
  it.each([
    [false, 1, true],
    [false, 0, false],
    [true, 1, false],
    [true, 0, true],
  ])('a widget inverted %s shows the value %i as %s, and sends what it shows', (inverted, value, on) => {
    const odd = {
      ...site,
      services: [{ ...service, widgets: service.widgets.map((widget) => ({ ...widget, inverted })) }],
    }
    expect(
      widgetShows(odd.services[0]!, 'bench-lamp', { ...start, values: { ...start.values, 'bench-lamp': value } })!.on,
    ).toBe(on)
    expect(widgetSends(service.points[0]!, inverted, on)).toBe(value)
  })
})

describe('the broker in memory (MQTT 3.1.1)', () => {
  const sent = new Map<string, Message[]>()
  const brokerOfNobody = () => {
    sent.clear()
    return new Broker((name, message) => sent.get(name)?.push(message))
  }
  const client = (broker: Broker, name: string, will: Message | null = null) => {
    const heard: Message[] = []
    sent.set(name, heard)
    broker.connect({ name, will })
    return heard
  }
  it('keeps a retained message for later subscribers, with its flag (3.3.1.3)', () => {
    const broker = brokerOfNobody()
    broker.publish({ topic: 'a/b', payload: '1', retain: true })
    const heard = client(broker, 'one')
    broker.subscribe('one', 'a/#')
    expect(heard).toEqual([{ topic: 'a/b', payload: '1', retain: true }])
    broker.publish({ topic: 'a/b', payload: '2', retain: true })
    expect(heard[1]).toEqual({ topic: 'a/b', payload: '2', retain: false })
  })
  it('an empty retained message forgets it (3.3.1.3)', () => {
    const broker = brokerOfNobody()
    broker.publish({ topic: 'a', payload: '1', retain: true })
    broker.publish({ topic: 'a', payload: '', retain: true })
    const heard = client(broker, 'one')
    broker.subscribe('one', 'a')
    expect(heard).toEqual([])
  })
  it('a lost client’s will goes out, once (3.1.2.5)', () => {
    const broker = brokerOfNobody()
    const heard = client(broker, 'one')
    broker.subscribe('one', '#')
    client(broker, 'two', { topic: 'two/status', payload: 'offline', retain: true })
    broker.drop('two')
    broker.drop('two')
    expect(heard).toEqual([{ topic: 'two/status', payload: 'offline', retain: false }])
  })
  it('a filter finds what begins as it does, and the level above “#” too (4.7.1.2)', () => {
    const broker = brokerOfNobody()
    broker.publish({ topic: 'a', payload: '1', retain: true })
    broker.publish({ topic: 'a/b', payload: '2', retain: true })
    broker.publish({ topic: 'ab', payload: '3', retain: true })
    const heard = client(broker, 'one')
    broker.subscribe('one', 'a/#')
    expect(heard.map(({ topic }) => topic)).toEqual(['a', 'a/b'])
  })
  it('two matching filters of one client bring a message once', () => {
    const broker = brokerOfNobody()
    const heard = client(broker, 'one')
    broker.subscribe('one', 'a/+')
    broker.subscribe('one', 'a/#')
    broker.publish({ topic: 'a/b', payload: 'x', retain: false })
    expect(heard).toHaveLength(1)
  })
})
