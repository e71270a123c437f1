import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readSite, type Site } from '../site'
import { addHubWay } from '../ways'
import { World } from '.'

function fernhollow(): Site {
  const read = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
  if (!read.ok) throw read.error
  return read.value
}

const started = (): World => {
  const world = World.begin(fernhollow())
  world.advance(3_000)
  return world
}
const channel = (world: World, id: string) => world.snapshot().channels.find((one) => one.id === id)!
const said = (world: World, kind: string) =>
  world
    .snapshot()
    .timeline.filter((entry) => entry.kind === kind)
    .map((entry) => entry.text)

describe('every way in, in the simulated house', () => {
  it('a key of the remote works its channel, and a held key does not work it twice', () => {
    const world = started()
    world.act({ kind: 'key', remote: 'throwing-remote', key: 'bench-lights', repeat: false })
    world.advance(3_100)
    world.act({ kind: 'key', remote: 'throwing-remote', key: 'bench-lights', repeat: true })
    world.advance(4_000)
    expect(channel(world, 'bench-lights')).toMatchObject({ level: 1, source: 'remote' })
  })
  it('“all off” spares what is essential', () => {
    const world = started()
    for (const key of ['bench-lights', 'shelf-lights']) {
      world.act({ kind: 'key', remote: 'throwing-remote', key, repeat: false })
      world.advance(world.snapshot().now + 600)
    }
    world.act({ kind: 'key', remote: 'throwing-remote', key: 'all-off', repeat: false })
    world.advance(world.snapshot().now + 600)
    expect(channel(world, 'shelf-lights').level).toBe(0)
    expect(channel(world, 'bench-lights').level).toBe(1)
  })
  it('a spoken line goes the way that carries the name, and one that nobody understands is refused with its reason', () => {
    const world = started()
    world.act({ kind: 'say', text: 'turn on the wedging lamp' })
    world.advance(3_500)
    expect(channel(world, 'wedging-lamp')).toMatchObject({ level: 1, source: 'hub' })
    world.act({ kind: 'say', text: 'turn on the moon' })
    expect(said(world, 'refused').at(-1)).toMatch(/^the voice service: /)
  })
  it('without the hub a spoken line that it carries is refused, and the feed’s switch works its relay itself', () => {
    const world = started()
    world.act({ kind: 'break', what: 'hub', broken: true })
    world.act({ kind: 'say', text: 'turn on the wedging lamp' })
    world.advance(4_000)
    expect(channel(world, 'wedging-lamp').level).toBe(0)
    expect(said(world, 'refused').at(-1)).toContain('the hub is down')
    world.advance(60_000)
    expect(channel(world, 'window-spots')).toMatchObject({ level: 1, local: true })
    world.act({ kind: 'break', what: 'hub', broken: false })
    world.advance(120_000)
    expect(channel(world, 'window-spots')).toMatchObject({ level: 1, local: false })
  })
  it('a reading makes its rule act, and none for long makes it do what it does when stale', () => {
    const world = started()
    world.act({ kind: 'reading', sensor: 'booth-humidity', value: 75 })
    world.advance(4_000)
    expect(channel(world, 'booth-extractor')).toMatchObject({ level: 1, source: 'rule' })
    world.advance(400_000)
    expect(channel(world, 'booth-extractor').level).toBe(0)
    expect(world.snapshot().readings['booth-humidity']).toBeNull()
  })
  it('a character over the serial link works its channel, and the status line says so with its checksum', () => {
    const world = started()
    const line = fernhollow().links.find((link) => link.controller === 'drying')!
    world.act({ kind: 'char', link: line.id, char: 'A' })
    world.advance(6_000)
    expect(channel(world, 'rack-lights')).toMatchObject({ level: 1, source: 'serial' })
    const status = world.snapshot().lines['drying']!
    expect(status).toMatch(/^S rack-lights=1 .*\*[0-9A-F]{2}$/)
    const [words, sum] = status.split('*')
    expect([...words!].reduce((xor, c) => xor ^ c.charCodeAt(0), 0)).toBe(Number.parseInt(sum!, 16))
  })
  it('the coprocessor stands for a board without a network: the hub works it, and hears what a hand did', () => {
    const site = structuredClone(fernhollow())
    addHubWay(
      site,
      site.channels.find((one) => one.id === 'rack-lights')!,
    )
    const world = World.begin(site)
    const hub = site.hubs[0]!
    const entity = hub.entities.find((one) => one.channel === 'rack-lights')!
    const believed = () => world.snapshot().hub[`${hub.id}/${entity.id}`]
    world.advance(3_000)
    expect(believed()).toBe(0)
    world.act({ kind: 'hub', hub: hub.id, entity: entity.id, command: 'on' })
    world.advance(3_500)
    expect(channel(world, 'rack-lights')).toMatchObject({ level: 1, source: 'serial' })
    expect(believed()).toBe(1)
    // nothing is lost at the main board while the network is gone, and the coprocessor says it all when it is back
    world.act({ kind: 'break', what: 'wifi', broken: true })
    world.act({ kind: 'rock', input: 's11' })
    world.advance(5_000)
    expect(channel(world, 'rack-lights').level).toBe(0)
    world.act({ kind: 'break', what: 'wifi', broken: false })
    world.advance(12_000)
    expect(believed()).toBe(0)
    // a coprocessor without its main board says so
    world.act({ kind: 'break', what: 'power:drying', broken: true })
    world.advance(20_000)
    expect(said(world, 'said').some((text) => text.endsWith('serial: main board not heard'))).toBe(true)
  })
  it('a schedule waits for the clock, and for nothing else: a hand keeps rules away, not a timetable', () => {
    const minutes = (count: number): number => count * 60_000
    for (const [local, after] of [
      ['2026-03-02T21:29:30', 1],
      ['2026-03-02T20:55:00', 36],
    ] as const) {
      const world = started()
      world.act({ kind: 'say', text: 'turn on the radio' })
      world.advance(4_000)
      expect(channel(world, 'radio-socket').level).toBe(1)
      world.act({ kind: 'clock', local })
      world.advance(minutes(after) + 5_000)
      expect(channel(world, 'radio-socket').level, local).toBe(0)
    }
  })
})
