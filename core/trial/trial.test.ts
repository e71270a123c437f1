import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import type { Site } from '../site'
import { matches, setPoint, startAppService, World, type TrialAction } from '.'

const widget: TrialAction = { kind: 'widget', service: 'app', widget: 'bench-lamp', on: true }
const press = (world: World, at: number) => {
  world.advance(at)
  world.act({ kind: 'press', input: 's1' })
  world.advance(at + 100)
  world.act({ kind: 'release', input: 's1' })
  world.advance(at + 200)
}
const lamp = (world: World) => world.snapshot().channels[0]!
const verdicts = (world: World) =>
  world
    .snapshot()
    .timeline.filter((entry) => entry.kind === 'verdict')
    .map((entry) => entry.text)
const started = (site: Site = cleanSite()) => {
  const world = World.begin(site)
  world.advance(2000)
  return world
}

describe('the house', () => {
  it('a press lights the lamp, and phone and hub come to believe it', () => {
    const world = started()
    press(world, 3000)
    expect(lamp(world)).toMatchObject({ level: 1, source: 'wall' })
    expect(world.snapshot().widgets['app/bench-lamp']).toEqual({ on: true, value: 1, reachable: true, asked: null })
    expect(world.snapshot().hub['hub/bench-lamp']).toBe(1)
  })
  it('the phone and the hub work it too', () => {
    const world = started()
    world.act(widget)
    world.advance(2500)
    expect(lamp(world)).toMatchObject({ level: 1, source: 'app' })
    world.act({ kind: 'hub', hub: 'hub', entity: 'bench-lamp', command: 'off' })
    world.advance(3000)
    expect(lamp(world)).toMatchObject({ level: 0, source: 'hub' })
  })
  it(
    'with Wi-Fi gone the wall still works, the phone believes the old state, and is told when it is ' +
      'back: the wall wins',
    () => {
      const world = started()
      world.act({ kind: 'break', what: 'wifi', broken: true })
      press(world, 4000)
      expect(lamp(world).level).toBe(1)
      expect(world.snapshot().widgets['app/bench-lamp']).toEqual({ on: false, value: 0, reachable: false, asked: null })
      world.advance(6000)
      world.act({ kind: 'break', what: 'wifi', broken: false })
      world.advance(60_000)
      expect(world.snapshot().widgets['app/bench-lamp']).toEqual({ on: true, value: 1, reachable: true, asked: null })
      expect(verdicts(world)).toEqual(['Bench lamp: the wall won (on); the app still showed off from before'])
    },
  )
  it('a verdict says that the app had said something only when somebody had touched it meanwhile', () => {
    const world = started()
    press(world, 3000)
    world.act({ kind: 'break', what: 'wifi', broken: true })
    world.act({ kind: 'widget', service: 'app', widget: 'bench-lamp', on: false })
    world.advance(6000)
    world.act({ kind: 'break', what: 'wifi', broken: false })
    world.advance(60_000)
    // nobody was at the wall during the outage
    expect(verdicts(world)).toEqual(['Bench lamp: the controller won (on); the app had said off during the outage'])
  })
  it('with the outage won by the service, the app has its way', () => {
    const world = started(
      produce(cleanSite(), (draft) => {
        draft.controllers[0]!.outage = 'service'
      }),
    )
    world.advance(8000)
    world.act({ kind: 'break', what: 'wifi', broken: true })
    press(world, 9000)
    world.advance(12_000)
    world.act({ kind: 'break', what: 'wifi', broken: false })
    world.advance(90_000)
    expect(lamp(world)).toMatchObject({ level: 0, source: 'service' })
    expect(verdicts(world)).toEqual(['Bench lamp: the app service won (off); the wall had said on during the outage'])
  })
  it('a turn-on that waits for its least time off is seen to wait, by phone and hub, until it is done', () => {
    const world = started(
      produce(cleanSite(), (draft) => {
        const [channel] = draft.channels
        if (channel!.kind === 'switched') channel!.minOffMs = 60_000
      }),
    )
    const waits = () => {
      const { channels, hubWaits, widgets } = world.snapshot()
      return [channels[0]!.waiting, hubWaits, widgets['app/bench-lamp']!.asked]
    }
    world.advance(3000)
    expect(waits()).toEqual([false, [], null])
    world.act(widget)
    world.advance(5000)
    expect(lamp(world).level).toBe(0)
    expect(waits()).toEqual([true, ['hub/bench-lamp'], 1])
    world.advance(70_000)
    expect(lamp(world).level).toBe(1)
    expect(waits()).toEqual([false, [], null])
  })
  it('with the broker gone the phone works over its own link, and the hub does not', () => {
    const world = started()
    world.act({ kind: 'break', what: 'broker', broken: true })
    world.act({ kind: 'hub', hub: 'hub', entity: 'bench-lamp', command: 'on' })
    world.advance(5000)
    expect(lamp(world).level).toBe(0)
    world.act(widget)
    world.advance(6000)
    expect(lamp(world)).toMatchObject({ level: 1, source: 'app' })
  })
  it('with broker and service gone nothing but the wall works', () => {
    const world = started()
    world.act({ kind: 'break', what: 'broker', broken: true })
    world.act({ kind: 'break', what: 'service:app', broken: true })
    world.act(widget)
    world.act({ kind: 'hub', hub: 'hub', entity: 'bench-lamp', command: 'on' })
    world.advance(5000)
    expect(lamp(world).level).toBe(0)
    press(world, 6000)
    expect(lamp(world).level).toBe(1)
  })
  it('with its power gone the lamp is dark, and afterwards off by policy', () => {
    const world = started()
    press(world, 3000)
    world.act({ kind: 'break', what: 'power:corner', broken: true })
    world.advance(4000)
    expect(lamp(world)).toMatchObject({ level: 0, powered: false })
    expect(world.snapshot().widgets['app/bench-lamp']!.reachable).toBe(false)
    world.act({ kind: 'break', what: 'power:corner', broken: false })
    world.advance(9000)
    expect(lamp(world)).toMatchObject({ level: 0, powered: true })
  })
  it('is the same however it is advanced', () => {
    const play = (step: number) => {
      const world = started()
      press(world, 3000)
      world.act({ kind: 'break', what: 'wifi', broken: true })
      for (let t = 3300; t < 40_000; t += step) world.advance(t)
      world.advance(40_000)
      world.act({ kind: 'break', what: 'wifi', broken: false })
      world.advance(140_000)
      return world.snapshot()
    }
    expect(play(1)).toEqual(play(7919))
  })
})

describe('topic filters (MQTT 3.1.1, 4.7)', () => {
  it.each([
    ['a/+/c', 'a/b/c', true],
    ['a/+', 'a/b/c', false],
    ['a/#', 'a/b/c', true],
    ['a/#', 'a', true],
    ['+/+', '/finance', true],
    ['+', '/finance', false],
    ['a/b', 'a/b', true],
    ['a/b', 'a', false],
  ])('%s on %s: %s', (filter, topic, expected) => expect(matches(filter, topic)).toBe(expected))
})

it('the service clamps a value and sends it as a command and as the value held', () => {
  const service = cleanSite().services[0]!
  const step = setPoint('test-bench', service, startAppService(service), 'bench-lamp', 7)
  expect(step.publish).toEqual([
    { topic: 'vestibule/test-bench/corner/vp/1/set', payload: '1', retain: false },
    { topic: 'vestibule/test-bench/corner/vp/1/held', payload: '1', retain: true },
  ])
})
