import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { detailOf } from '../faults'
import { checkSite } from '../findings'
import { parseSite, readSite } from '../site'
import { applied, optionsFor, worthOf } from '.'

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const pottery = parsed.value
const of = (id: string) => pottery.channels.find((channel) => channel.id === id)!

describe('what to change', () => {
  it('is ranked by hours saved, and each figure is what the changed site really has', () => {
    const found = worthOf(pottery, 'on', of('sink-heater'), 'away')
    expect(found.length).toBeGreaterThan(3)
    found.forEach(({ before, after, id }, i) => {
      const next = found[i + 1]
      if (next) expect(before! - after!).toBeGreaterThanOrEqual(next.before! - next.after! - 0.1)
      const option = optionsFor(pottery, 'on', of('sink-heater')).find((one) => one.id === id)!
      const site = applied(pottery, option)!
      expect(parseSite(site).ok).toBe(true)
      const channel = site.channels.find((one) => one.id === 'sink-heater')!
      expect(detailOf(site, 'on', channel, 'away').hours).toBeCloseTo(after!, 9)
    })
  })
  it('says what a switch takes, and what it brings', () => {
    const wall = worthOf(pottery, 'on', of('sink-heater'), 'here').find(({ id }) => id === 'wall')!
    expect(wall.buys).toEqual(['1 switch and its cable'])
    expect(wall.pins[0]).toMatch(/ of Glaze$/)
    const option = optionsFor(pottery, 'on', of('sink-heater')).find(({ id }) => id === 'wall')!
    const news = checkSite(applied(pottery, option)!).length - checkSite(pottery).length
    expect(wall.brings.length - wall.settles.length).toBe(news)
  })
  it('a battery for the router touches every channel that is worked over it', () => {
    const battery = worthOf(pottery, 'on', of('radio-socket'), 'away').find(({ id }) => id === 'battery-router')
    // its own board is without mains then, too: a router that goes on alone saves nothing there
    expect(battery?.others ?? []).toEqual([])
  })
  it('what shares a strip with the router is better off on a circuit of its own', () => {
    const strips = [{ id: 'hall', name: 'Strip in the hall', feeds: ['router', 'hub-machine'] }]
    const site = { ...pottery, failures: { rates: {}, onBattery: [], strips } }
    const found = worthOf(site, 'on', of('radio-socket'), 'away').find(({ id }) => id === 'strip-hall-router')!
    expect(found.label).toBe('Plug the router in apart from Strip in the hall')
    expect(found.after!).toBeLessThan(found.before!)
  })
  it('a lamp that comes on with the power is told to stay off', () => {
    const site = structuredClone(pottery)
    const channel = site.channels.find(({ id }) => id === 'bench-lights')!
    if ('powerUp' in channel) channel.powerUp = { policy: 'on' }
    const found = worthOf(site, 'unbidden', channel, 'here')
    expect(found[0]!.id).toBe('power-up-off')
    expect(found[0]!.after!).toBeLessThan(found[0]!.before!)
  })
})
