import { describe, expect, it } from 'vitest'
import { circuitOf } from '../../../core/wiring'
import { demo } from '../view.testkit'
import { litBy, litStyle } from './litWires'

const circuit = circuitOf(demo('fernhollow'), 'throwing')

describe('what is picked on the wiring', () => {
  it('a part lights each of its nets, and no other', () => {
    const { nets, refs } = litBy(circuit, { kind: 'part', ref: 'S1' })
    expect(refs).toEqual(['S1'])
    expect(nets.length).toBe(2)
    for (const { name, nodes } of circuit.nets)
      expect(nets.includes(name), name).toBe(nodes.some(({ ref }) => ref === 'S1'))
  })
  it('a wire lights the parts at its ends', () => {
    const net = circuit.nets.find(({ nodes }) => nodes.some(({ ref, pin }) => ref === 'A1' && pin === 'IN1'))!
    expect([...litBy(circuit, { kind: 'wire', net: net.name }).refs].sort()).toEqual(['A1', 'U1'])
  })
  it('nothing picked leaves the drawing as it is', () => expect(litStyle(circuit, null)).toBe(''))
  it('a name with a quote cannot leave its rule', () => {
    const named = { ...circuit, nets: [{ ...circuit.nets[0]!, name: 'a"]{}b' }] }
    expect(litStyle(named, { kind: 'wire', net: 'a"]{}b' })).toContain('[data-net="a\\"]{}b"]')
  })
})
