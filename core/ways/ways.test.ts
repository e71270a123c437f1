import { describe, expect, it } from 'vitest'
import { assignedPin, planAndWrite } from '../pins'
import { FANS } from '../boards'
import { cleanSite } from '../findings/cleanSite.testkit'
import { newController, newStepped, newSwitched, parseSite, type Channel, type Site } from '../site'
import {
  addAppWay,
  addHubWay,
  addSwitchFor,
  addWallWay,
  cellOf,
  columnFoot,
  fillColumn,
  freeVp,
  giveWallWay,
  pathOf,
  removeChannel,
  removeController,
  removeInput,
  removePart,
  removeWay,
  setInputKind,
  usualBindings,
} from '.'

const pinOf = (site: Site) => (channel: Channel, input: string) => assignedPin(site, channel.controller, `in:${input}`)
const legal = (site: Site) => expect(parseSite(site).ok).toBe(true)
const withLamps = (count: number): Site => {
  const site = cleanSite()
  for (let i = 0; i < count; i++) site.channels.push(newSwitched(site, `More ${i}`, site.controllers[0]!))
  return site
}

describe('cells', () => {
  const site = cleanSite()
  const cell = (column: 'wall' | 'app' | 'hub', of = site) => cellOf(of, of.channels[0]!, column, pinOf(of))
  it('hold the real assigned thing', () => {
    expect(cell('wall')).toMatchObject({ title: 'S1', detail: 'push, press toggle, D32 (GPIO 32)', mark: 'full' })
    expect(cell('app')).toMatchObject({ title: 'vp1', detail: 'switch, 0–1', mark: 'full' })
    expect(cell('hub')).toMatchObject({ title: 'bench-lamp', detail: 'set, state', mark: 'full' })
  })
  it('a way that never reports is a half pin, one that is not known is said so, none is an empty socket', () => {
    const other = cleanSite()
    const [app, hub] = other.ways.filter((way) => way.channel === 'bench-lamp' && way.kind !== 'wall')
    if (app?.kind === 'app') app.feedback = 'silent'
    if (hub?.kind === 'hub') hub.feedback = 'unknown'
    expect([cell('app', other).mark, cell('hub', other).mark]).toEqual(['half', 'unknown'])
    removeWay(other, app!.id)
    expect(cell('app', other)).toMatchObject({ mark: 'empty', title: '' })
  })
  it('two ways in one cell stand side by side', () => {
    const other = cleanSite()
    addWallWay(other, other.channels[0]!, other.inputs[1]!)
    expect(cell('wall', other).title).toBe('S1 + S2')
  })
  it('the foot of a column counts', () =>
    expect([columnFoot(site, 'wall'), columnFoot(site, 'app'), columnFoot(site, 'hub')]).toEqual([
      '2 inputs',
      '2 points',
      '2 entities',
    ]))
})

describe('filling a column', () => {
  it('gives every channel without a way one, and leaves the others', () => {
    const site = withLamps(5)
    expect(fillColumn(site, 'app')).toBe(5)
    expect(site.services[0]!.points.map((point) => point.vp)).toEqual([1, 2, 3, 4, 5, 6, 7])
    expect(fillColumn(site, 'app')).toBe(0)
    legal(site)
  })
  it('virtual pins are counted for each device apart', () => {
    const site = cleanSite()
    const second = newController(site, 'Second', 'dual-core-wifi-30')
    site.controllers.push(second)
    site.channels.push(newSwitched(site, 'Far lamp', second))
    fillColumn(site, 'app')
    expect(site.services[0]!.points.at(-1)).toMatchObject({ controller: 'second', vp: 1 })
    expect(freeVp(site, 'app', 'corner')).toBe(3)
  })
  it('may be narrowed to a controller, begin at a number, and choose the switch', () => {
    const site = withLamps(2)
    fillColumn(site, 'app', { fromVp: 20 })
    expect(site.services[0]!.points.slice(2).map((point) => point.vp)).toEqual([20, 21])
    expect(fillColumn(site, 'hub', { controllers: ['nobody'] })).toBe(0)
    fillColumn(site, 'wall', { inputKind: 'rocker' })
    expect(site.inputs.slice(2).map((input) => input.kind)).toEqual(['rocker', 'rocker'])
    legal(site)
  })
})

describe('making ways', () => {
  it('a wall way takes the first idle switch before it makes a new one', () => {
    const site = withLamps(2)
    const idle = addSwitchFor(site, site.channels[2]!, 'rocker', site.controllers[0]!)
    expect(giveWallWay(site, site.channels[2]!)).toMatchObject({
      input: idle.id,
      bindings: [{ gesture: 'flip', action: 'toggle' }],
    })
    expect(giveWallWay(site, site.channels[3]!).input).toBe('s4')
  })
  it('a stepped channel gets a slider over its levels', () => {
    const site = cleanSite()
    const fan = newStepped(site, 'Fan', site.controllers[0]!, FANS[0]!)
    site.channels.push(fan)
    addAppWay(site, fan)
    expect(site.services[0]!.points.at(-1)).toMatchObject({ min: 0, max: 4 })
    expect(site.services[0]!.widgets.at(-1)).toMatchObject({ kind: 'slider' })
    legal(site)
  })
  it.each([
    ['momentary', 'press'],
    ['rocker', 'flip'],
    ['selector', 'select'],
  ] as const)('a %s usually acts on %s', (kind, gesture) => expect(usualBindings(kind)[0]!.gesture).toBe(gesture))
  it('another kind of switch keeps its wiring, gets its own gestures, and gives its pins back', () => {
    const site = cleanSite()
    site.inputs[0]!.settleMs = 40
    setInputKind(site, 's1', 'selector')
    expect(site.inputs[0]).toMatchObject({ id: 's1', kind: 'selector', settleMs: 40, bits: 2, table: [0, 1, 2, 3] })
    expect(site.ways.find((way) => way.kind === 'wall')).toMatchObject({
      bindings: [{ gesture: 'select', action: 'level' }],
    })
    expect(site.controllers[0]!.pins['in:s1']).toBeUndefined()
    legal(site)
    setInputKind(site, 's1', 'rocker')
    expect(site.inputs[0]!.kind).toBe('rocker')
    legal(site)
  })
})

describe('taking things out leaves nothing behind', () => {
  it('a channel takes its ways, points, widgets, entities, load and pin with it; its switch stays in the wall', () => {
    const site = cleanSite()
    removeChannel(site, 'bench-lamp')
    expect([
      site.channels.length,
      site.ways.length,
      site.services[0]!.points.length,
      site.services[0]!.widgets.length,
      site.hubs[0]!.entities.length,
      site.loads.length,
      site.inputs.length,
    ]).toEqual([1, 3, 1, 1, 1, 1, 2])
    expect(site.controllers[0]!.pins['out:bench-lamp']).toBeUndefined()
    legal(site)
  })
  it('a switch takes the ways that it works', () => {
    const site = cleanSite()
    removeInput(site, 's1')
    expect(site.ways.some((way) => way.kind === 'wall' && way.channel === 'bench-lamp')).toBe(false)
    legal(site)
  })
  it('a controller takes everything that hangs on it', () => {
    const site = cleanSite()
    removeController(site, 'corner')
    expect([
      site.controllers,
      site.channels,
      site.inputs,
      site.ways,
      site.services[0]!.points,
      site.hubs[0]!.entities,
    ]).toEqual([[], [], [], [], [], []])
    legal(site)
  })
  it('an expander takes the pins that it gave', () => {
    const site = cleanSite()
    const controller = site.controllers[0]!
    controller.parts.push({
      id: 'x1' as Site['controllers'][number]['parts'][number]['id'],
      profile: 'io-expander-16',
      name: 'Expander',
    })
    planAndWrite(site, 'corner')
    controller.pins['out:bench-lamp'] = { pin: 'x1.3', locked: true }
    removePart(site, 'corner', 'x1')
    expect(Object.keys(controller.pins).sort()).toEqual(['in:s1', 'in:s2', 'out:shelf-lamp'])
    legal(site)
  })
  it('what is not there is left alone', () => {
    const site = cleanSite()
    for (const remove of [removeChannel, removeInput, removeController, removeWay]) remove(site, 'nobody')
    expect(site).toEqual(cleanSite())
  })
})

describe('the path of a way, end to end', () => {
  const site = cleanSite()
  const path = (kind: 'wall' | 'app' | 'hub', of = site) =>
    pathOf(
      of,
      of.ways.find((way) => way.kind === kind)!,
      (role) => assignedPin(of, 'corner', role),
    ).map(({ direction, text }) => `${direction === 'to' ? '→' : '←'} ${text}`)
  it('by the wall', () =>
    expect(path('wall')).toEqual([
      '→ S1, momentary: D32 (GPIO 32), closes to low',
      '→ holds 25 ms, then counts',
      '→ press: toggle',
      '→ Bench lamp: D23 (GPIO 23), low closes',
    ]))
  it('by the app', () =>
    expect(path('app')).toEqual([
      '→ switch “Bench lamp” sends 0 for off, 1 for on',
      '→ vp1: 0–1 by 1',
      '→ over App service’s own connection',
      '→ 0 is off, all above is on',
      '→ Bench lamp: D23 (GPIO 23), low closes',
      '← over App service’s own connection: 0 or 1',
    ]))
  it('by the hub', () =>
    expect(path('hub')).toEqual([
      '→ vestibule/test-bench/corner/bench-lamp/set: on, off, toggle',
      '→ Bench lamp: D23 (GPIO 23), low closes',
      '← vestibule/test-bench/corner/bench-lamp/state, retained',
    ]))
  it('of a slider of 0–100 onto four levels', () => {
    const other = cleanSite()
    const fan = newStepped(other, 'Fan', other.controllers[0]!, FANS[0]!)
    other.channels.unshift(fan)
    const way = addAppWay(other, fan)
    other.services[0]!.points.at(-1)!.max = 100
    addHubWay(other, fan)
    const lines = pathOf(other, way, () => null).map(({ text }) => text)
    expect(lines).toContain('÷ 25, rounded up → level 0–4')
    expect(lines).toContain(
      'level 0: all open, level 1: closes 1, level 2: closes 2, level 3: closes 1 and 2, level 4: closes 3; 30 ms between levels',
    )
    expect(lines.at(-1)).toContain('level × 25')
  })
})
