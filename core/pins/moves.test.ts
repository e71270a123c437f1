import { describe, expect, it } from 'vitest'
import { fernhollow } from '../../tools/demoSites'
import { connectionsOf, solderedRoles, wireKey } from '../wiring'
import { firstPins, movesOf, planKeeping, planPins, writePlan } from '.'
import type { Site } from '../site'

/** The first controller of the demo with two of its wires at each other's pins. */
function swapped(): { site: Site; id: string; roles: [string, string] } {
  const site = structuredClone(fernhollow())
  const controller = site.controllers[0]!
  const free = Object.entries(controller.pins).filter(([role, choice]) => role.startsWith('in') && !choice.locked)
  const [[first, a], [second, b]] = free as [(typeof free)[0], (typeof free)[0]]
  ;[a.pin, b.pin] = [b.pin, a.pin]
  return { site, id: controller.id, roles: [first, second] }
}

describe('what a plan would move', () => {
  it('is each wire that it puts elsewhere, with both its pins; nothing else', () => {
    const { site, id } = swapped()
    const plan = planPins(site, id)
    const moves = movesOf(site, plan)
    expect(moves.length).toBeGreaterThan(0)
    const { pins } = site.controllers[0]!
    for (const { role, from, to } of moves) {
      expect(pins[role]!.pin).toBe(from)
      expect(to).not.toBe(from)
    }
    const after = structuredClone(site)
    writePlan(after, plan)
    const changed = Object.keys(pins).filter((role) => after.controllers[0]!.pins[role]!.pin !== pins[role]!.pin)
    expect(changed.sort()).toEqual(moves.map(({ role }) => role).sort())
    expect(movesOf(after, planPins(after, id))).toEqual([])
  })
  it('leaves what is kept, and does not lock it', () => {
    const { site, id, roles } = swapped()
    const kept = new Set(Object.keys(site.controllers[0]!.pins))
    const plan = planKeeping(site, id, kept)
    expect(movesOf(site, plan)).toEqual([])
    const after = structuredClone(site)
    writePlan(after, plan)
    expect(after).toEqual(site)
    const some = planKeeping(site, id, new Set([roles[0]]))
    expect(movesOf(site, some).map(({ role }) => role)).not.toContain(roles[0])
  })
  it('counts first pins apart', () => {
    const { site, id, roles } = swapped()
    delete site.controllers[0]!.pins[roles[0]]
    const plan = planPins(site, id)
    expect(firstPins(site, plan)).toBe(1)
    expect(movesOf(site, plan).map(({ role }) => role)).not.toContain(roles[0])
  })
})

describe('a role is soldered', () => {
  const site = fernhollow()
  const { id } = site.controllers[0]!
  const wire = connectionsOf(site, id).find(({ to }) => to === 'S1 1')!
  it('when the wire at its pin is ticked off', () => {
    const input = site.inputs.find(({ name }) => name === 'S1')!
    expect([...solderedRoles(site, id, new Set([wireKey(wire)]))]).toEqual([`in:${input.id}`])
  })
  it('not by the wires of supply and ground, which no plan moves', () => {
    const rest = connectionsOf(site, id).filter(({ colour }) => colour !== 'yellow')
    expect(solderedRoles(site, id, new Set(rest.map(wireKey))).size).toBe(0)
  })
})
