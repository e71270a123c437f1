import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { FANS, PARTS } from '../boards'
import { choices, type Choices } from '../seeded'
import { circuitOf, connectionsOf } from '../wiring'
import {
  newFeed,
  newInput,
  newPaired,
  newStepped,
  newSwitched,
  optoModule,
  readSite,
  type Load,
  type Site,
} from '../site'
import { labelsOf, pagesOf, wiringSheet } from '.'
import { netsOfDrawing, netsOfList, netsOfNetlist, netsOfPages, partsOf, type Nets } from './pages.testkit'
import { bench, hang, part, SETUPS } from './setups.testkit'

/**
 * Who wires a controller reads the list, the drawing, the netlist, the parts list and the labels. Here they are read
 * back, each by itself, and held against each other and against the wiring that a set-up must have (common practice of
 * the trade, in docs/decisions.md).
 */

const boxOf = (site: Site): string => site.controllers[0]!.id
/** Whether these terminals, and of the things named no others, are joined: on the list and on the netlist. */
function joined(site: Site, ...terminals: string[]): void {
  for (const nets of [netsOfList(site, boxOf(site)), netsOfNetlist(site, boxOf(site))])
    expect(nets.find((net) => net.includes(terminals[0]!)) ?? []).toEqual(expect.arrayContaining(terminals))
}
function apart(site: Site, ...terminals: string[]): void {
  for (const nets of [netsOfList(site, boxOf(site)), netsOfNetlist(site, boxOf(site))]) {
    const at = terminals.map((one) => nets.findIndex((net) => net.includes(one)))
    expect(at, `each of ${terminals.join(', ')} stands somewhere`).not.toContain(-1)
    expect(new Set(at).size, `${terminals.join(' and ')} are not joined`).toBe(terminals.length)
  }
}
/** Every terminal that current reaches from one, through the contacts of the relays that are closed, or at rest. */
function reached(site: Site, from: string, closed: readonly string[]): Set<string> {
  const nets = netsOfNetlist(site, boxOf(site)).map((net) => [...net])
  const contacts = nets.flat().flatMap((one) => /^(.*(K\d+)) COM$/.exec(one) ?? [])
  const bridges: (readonly [string, string])[] = []
  for (let i = 0; i < contacts.length; i += 3)
    bridges.push([contacts[i]!, `${contacts[i + 1]!} ${closed.includes(contacts[i + 2]!) ? 'NO' : 'NC'}`])
  const found = new Set([from])
  for (let size = 0; size !== found.size;) {
    size = found.size
    for (const net of nets) if (net.some((one) => found.has(one))) for (const one of net) found.add(one)
    for (const [a, b] of bridges) if (found.has(a) || found.has(b)) found.add(a).add(b)
  }
  return found
}
const stands = (nets: Nets, terminal: RegExp): boolean => nets.some((net) => net.some((one) => terminal.test(one)))
const typesOf = (site: Site): string[] => circuitOf(site, boxOf(site)).devices.map(({ type }) => type)

describe.each(Object.entries(SETUPS))('%s', (_, make) => {
  const site = make()
  it('list, netlist and drawing say the same, net by net; parts list and labels name the same things', async () => {
    for (const { id } of site.controllers) {
      const list = netsOfList(site, id)
      expect(netsOfNetlist(site, id)).toEqual(list)
      const drawing = await netsOfDrawing(site, id)
      expect(drawing.nets).toEqual(list)
      const circuit = circuitOf(site, id)
      const refs = circuit.devices.map(({ ref }) => ref).sort()
      expect(drawing.refs).toEqual(refs)
      expect(new Set(refs).size).toBe(refs.length)
      // every thing has a wire; every part that is not there already stands on one parts list
      for (const ref of refs) expect(stands(list, new RegExp(`^${ref} `)), ref).toBe(true)
      const bought = circuit.devices.filter(({ kind }) => kind !== 'load' && kind !== 'house').map(({ ref }) => ref)
      expect(partsOf(site, id)).toEqual(circuit.partOf === null ? bought.sort() : [])
      for (const { ref } of labelsOf(site, circuit)) expect(list.flat().some((one) => one.includes(ref))).toBe(true)
    }
  })
  it('no rail meets another, and mains meets nothing of low voltage', () => {
    for (const { id } of site.controllers) {
      const nets = netsOfList(site, id)
      const rails = [/^U1 GND$/, /^U1 3V3$/, /^G1 \+$/, /^X1 L$/, /^X1 N$/, /^X1 PE$/]
      const at = rails.flatMap((rail) => {
        const index = nets.findIndex((net) => net.some((one) => rail.test(one)))
        return index < 0 ? [] : [index]
      })
      expect(new Set(at).size).toBe(at.length)
      const rows = connectionsOf(site, id)
      const live = new Set(rows.filter(({ mains }) => mains).flatMap(({ from, to }) => [from, to]))
      for (const { from, to, mains } of rows) if (!mains) expect([from, to].some((one) => live.has(one))).toBe(false)
    }
  })
  it('cautions stand wherever mains may be, before the first row', () => {
    const sheet = wiringSheet(site, site.controllers[0]!)
    const mains = connectionsOf(site, boxOf(site)).some((row) => row.mains)
    expect(sheet.includes('Mains can kill')).toBe(mains)
    if (mains) expect(sheet.indexOf('Mains can kill')).toBeLessThan(sheet.indexOf('☐'))
  })
})

describe('a large drawing goes over two pages', () => {
  const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
  if (!parsed.ok) throw parsed.error
  const site = parsed.value
  it.each(site.controllers.map(({ id }) => id))('%s: both together say what the list says', async (id) => {
    const { nets, refs, pages } = await netsOfPages(site, id)
    expect(nets).toEqual(netsOfList(site, id))
    expect(refs).toEqual(
      circuitOf(site, id)
        .devices.map(({ ref }) => ref)
        .sort(),
    )
    expect(pages).toBe(circuitOf(site, id).devices.length > 16 ? 2 : 1)
  })
  it('no mains stands on the first, and no switch on the second', () => {
    const [low, loads] = pagesOf(circuitOf(site, 'throwing'))
    expect(low!.circuit.nets.some((net) => net.class === 'mains')).toBe(false)
    expect(loads!.circuit.devices.some(({ kind }) => kind === 'switch')).toBe(false)
    expect(loads!.circuit.devices.some(({ kind }) => kind === 'load')).toBe(true)
  })
})

describe('wires that were wrong', () => {
  it('1 a contactor: the contact works its coil, the line goes through its pole, an RC stands across the coil', () => {
    const site = SETUPS['heater with contactor']!()
    joined(site, 'A1 K1 NO', 'KM1 A1', 'Z1 1')
    joined(site, 'X1 N', 'KM1 A2', 'Z1 2', 'E1 N')
    joined(site, 'F1 2', 'A1 K1 COM', 'KM1 1')
    joined(site, 'KM1 2', 'E1 L')
    apart(site, 'A1 K1 NO', 'E1 L')
  })
  it('2 a fail-safe strike hangs on NC, held by current; a fail-secure one on NO', () => {
    const safe = SETUPS['fail-safe strike']!()
    joined(safe, 'A1 K1 NC', 'E1 +')
    expect(netsOfList(safe, boxOf(safe)).flat()).not.toContain('A1 K1 NO')
    joined(SETUPS['fail-secure strike']!(), 'A1 K1 NO', 'E1 +', 'V1 K')
    joined(safe, 'E1 −', 'V1 A')
    const held = (site: Site, closed: string[]) => reached(site, 'G2 +', closed).has('E1 +')
    expect([held(safe, []), held(safe, ['K1'])]).toEqual([true, false])
    const secure = SETUPS['fail-secure strike']!()
    expect([held(secure, []), held(secure, ['K1'])]).toEqual([false, true])
  })
  it('3 a button input gets two wires and no supply', () => {
    const site = SETUPS['button input of an opener']!()
    const list = netsOfList(site, boxOf(site))
    expect(list.filter((net) => net.some((one) => one.startsWith('E1 ')))).toEqual([
      ['A1 K1 COM', 'E1 1'],
      ['A1 K1 NO', 'E1 2'],
    ])
  })
  it('4 a transistor module of 12 V without a jumper has one supply row, and 12 V reaches no pin of the board', () => {
    const site = SETUPS['modem']!()
    expect(connectionsOf(site, boxOf(site)).filter(({ to }) => /^A1 (VCC|coil supply)$/.test(to))).toHaveLength(1)
    joined(site, 'G1 +', 'A1 VCC', 'G2 in', 'G3 in')
    apart(site, 'G1 +', 'U1 5V', 'U1 GND', 'G3 out')
  })
  it('5 a shutter: the second direction gets line only while the first relay rests; an RC at both', () => {
    const site = SETUPS['shutter']!()
    joined(site, 'F1 2', 'A1 K1 COM')
    joined(site, 'A1 K1 NC', 'A1 K2 COM')
    joined(site, 'A1 K1 NO', 'E1 up', 'Z1 1')
    joined(site, 'A1 K2 NO', 'E1 down', 'Z2 1')
    joined(site, 'X1 N', 'E1 N', 'Z1 2', 'Z2 2')
    // over all positions of both contacts: never both directions on the line, whatever the firmware does
    const both = (closed: string[]) => ['E1 up', 'E1 down'].filter((end) => reached(site, 'F1 2', closed).has(end))
    expect([both([]), both(['K1']), both(['K2']), both(['K1', 'K2'])]).toEqual([[], ['E1 up'], ['E1 down'], ['E1 up']])
  })
  it('5 a capacitor fan: a capacitor with its bleed and a snubber a contact, the last contact straight', () => {
    const site = SETUPS['capacitor fan']!()
    joined(site, 'A1 K1 NO', 'C1 1', 'R1 1', 'Z1 2')
    joined(site, 'A1 K2 NO', 'C2 1', 'R2 1', 'Z2 2')
    joined(site, 'E1 L', 'C1 2', 'R1 2', 'C2 2', 'R2 2', 'A1 K3 NO', 'Z3 2')
    joined(site, 'F1 2', 'A1 K1 COM', 'Z1 1', 'A1 K3 COM', 'Z3 1')
    expect(typesOf(site).filter((type) => type.startsWith('capacitor'))).toHaveLength(2)
  })
  it('6 a pair: a regulator of its own, EN high, a divider down to 3.3 V, and rows on both sheets', () => {
    const site = SETUPS['pair']!()
    apart(site, 'U2 3V3', 'G1 +', 'U1 GND')
    joined(site, 'G1 +', 'G2 in')
    joined(site, 'G2 out', 'U2 3V3')
    const nets = netsOfList(site, boxOf(site))
    const pull = (pin: string) => nets.find((net) => net.includes(pin))!.find((one) => /^R\d+ 1$/.test(one))!
    for (const pin of ['U2 EN', 'U2 RST']) joined(site, 'G2 out', pull(pin).replace(/1$/, '2'))
    apart(site, 'U1 D1 (GPIO 1)', 'U2 RX (GPIO 3)')
    joined(site, 'U1 D0 (GPIO 0)', 'U2 TX (GPIO 1)')
    const radio = site.controllers[1]!
    expect(connectionsOf(site, radio.id).length).toBeGreaterThan(10)
    expect(connectionsOf(site, boxOf(site))).toEqual(expect.arrayContaining(connectionsOf(site, radio.id)))
  })
  it('7 each supply has its own two poles; a shared one is one; only the controller’s own meets ground', () => {
    const site = SETUPS['loads of different supplies']!()
    apart(site, 'E1 −', 'E2 ~2', 'E4 −')
    joined(site, 'E2 ~2', 'E3 ~2')
    joined(site, 'E4 −', 'U1 GND')
    apart(site, 'E1 −', 'U1 GND')
    apart(site, 'A1 K1 COM', 'A1 K2 COM', 'A1 K4 COM')
  })
  it('7 a bare contact has no supply wire', () => {
    const site = SETUPS['long sensor cable']!()
    expect(
      netsOfList(site, boxOf(site))
        .flat()
        .filter((one) => one.startsWith('B3 '))
        .sort(),
    ).toEqual(['B3 1', 'B3 2'])
  })
  it('8 breaker, residual-current device, fuse and wire stand before the loads', () => {
    const site = SETUPS['lamp']!()
    expect(typesOf(site)).toEqual(
      expect.arrayContaining([
        'breaker, 16 A',
        'residual-current device, 30 mA',
        'fuse, 10 A, 230 V or more, in a holder',
      ]),
    )
    apart(site, 'X1 L', 'F1 2', 'QF1 L out')
    joined(site, 'F1 2', 'A1 K1 COM')
    expect(connectionsOf(site, boxOf(site)).find(({ to }) => to === 'X1 L')!.note).toBe('1.5 mm² copper')
  })
  it('a boxed module is wired by its terminals, and a switch terminal at mains potential is mains', () => {
    const site = SETUPS['boxed module behind a wall switch']!()
    joined(site, 'U1 L', 'F1 2', 'S1 2')
    joined(site, 'U1 O', 'E1 L')
    const wire = connectionsOf(site, boxOf(site)).find(({ to }) => to === 'S1 1')!
    expect(wire).toMatchObject({ from: 'U1 SW', mains: true })
    joined(SETUPS['boxed module']!(), 'U1 OUT1', 'E1 L')
  })
  it('between two lines both go through the contactor, and its coil hangs on neutral', () => {
    const site = SETUPS['a heater between two lines']!()
    joined(site, 'KM1 2', 'E1 L1')
    joined(site, 'KM1 4', 'E1 L2')
    joined(site, 'KM1 3', 'X1 L2')
    joined(site, 'KM1 A2', 'X1 N')
    apart(site, 'X1 L', 'X1 L2', 'X1 N', 'E1 L1', 'E1 L2')
    expect(typesOf(site)).toContain('breaker, 15 A, two poles that trip together')
  })
  it('a relay as the gate of another’s supply: the strip hangs on what the adapter gives', () => {
    const site = SETUPS['a strip on a supply that another relay switches']!()
    joined(site, 'E1 out +', 'A1 K1 COM')
    joined(site, 'E1 out −', 'E2 −')
    joined(site, 'E1 L', 'A1 K2 NO')
    apart(site, 'E1 out +', 'E1 L', 'E2 −', 'U1 GND')
  })
  it('an old switch stands beside the contact, from the fed line to the load', () => {
    const site = SETUPS['an old switch beside the contact']!()
    joined(site, 'S1 1', 'A1 K1 COM')
    joined(site, 'S1 2', 'A1 K1 NO', 'E1 L')
  })
  it('the board’s own button is no wire', () => {
    const site = SETUPS['the board’s own button']!()
    expect(connectionsOf(site, boxOf(site)).some(({ from, to }) => /^S\d/.test(from) || /^S\d/.test(to))).toBe(false)
  })
  it('bare relays: base resistor, pull-down and diode, the ring towards the supply', () => {
    const site = SETUPS['bare relays']!()
    joined(site, 'Q1 B', 'R1 2', 'R2 1')
    joined(site, 'Q1 C', 'K1 coil −', 'V1 A')
    joined(site, 'G1 +', 'K1 coil +', 'V1 K')
    joined(site, 'U1 GND', 'Q1 E', 'R2 2')
  })
  it('relays that nobody named stand in the list, with their pins and their loads', () => {
    const site = SETUPS['lamp']!()
    site.controllers[0]!.module = null
    joined(site, 'U1 D23 (GPIO 23)', 'K1 driver')
    joined(site, 'K1 NO', 'E1 L')
    expect(typesOf(site)).toContain('relay with its driver, not named yet')
  })
  it('a load that two channels switch is one thing with one heading, one neutral, and two contacts side by side', () => {
    const site = SETUPS['lamp']!()
    site.channels.push({ ...site.channels[0]!, id: 'second' as never, name: 'Second' })
    const rows = connectionsOf(site, boxOf(site))
    joined(site, 'A1 K1 NO', 'A1 K2 NO', 'E1 L')
    expect(rows.filter(({ to }) => to === 'E1 N')).toHaveLength(1)
    const heads = rows.map(({ device }) => device).filter((device, i, all) => device !== all[i - 1])
    expect(new Set(heads).size).toBe(heads.length)
  })
  it('a level shifter has the board on its own side: 5 V of an 8-bit board at HV, its 3.3 V pin at LV', () => {
    const site = SETUPS['modem']!()
    joined(site, 'U1 D1 (GPIO 1)', 'T1 HV rx')
    joined(site, 'B1 rx', 'T1 LV rx')
    joined(site, 'U1 3V3', 'T1 LV')
    joined(site, 'U1 5V', 'T1 HV')
    apart(site, 'T1 LV', 'T1 HV')
  })
  it('a two-wire bus is pulled up to the volts of its part, not of a 5 V board', () => {
    const site = SETUPS['modem']!()
    joined(site, 'B2 sda', 'R1 1')
    joined(site, 'U1 3V3', 'R1 2', 'B2 supply')
  })
  it('a sounder on a transistor hangs on 5 V, with a diode across it', () => {
    const site = SETUPS['pair']!()
    joined(site, 'G1 +', 'B1 +', 'V1 K')
    joined(site, 'B1 −', 'Q1 C', 'V1 A')
    apart(site, 'B1 −', 'U1 GND')
  })
  it('names: a switch that is called S6 is S6 everywhere, and another’s number is never taken', () => {
    const site = SETUPS['lamp']!()
    site.inputs[0]!.name = 'S6'
    expect(circuitOf(site, boxOf(site)).devices.find(({ kind }) => kind === 'switch')!.ref).toBe('S6')
  })
})

it('200 random boxes: list, netlist and parts agree, nothing throws, and no rail meets another', () => {
  const random = choices(12)
  for (let i = 0; i < 200; i++) {
    const { site, box } = bench(
      { module: random.chance(0.1) ? null : { ...optoModule(8), driver: random.pick(DRIVERS) } },
      random.pick([120, 230] as const),
    )
    for (let c = 0; c < random.whole(1, 4); c++) {
      const channel = random.pick([
        () => newSwitched(site, `C${c}`, box),
        () => newPaired(site, `C${c}`, box),
        () => newStepped(site, `C${c}`, box, random.pick(FANS)),
        () => newFeed(site, `C${c}`, box),
      ])()
      hang(site, channel, random.chance(0.1) ? null : randomLoad(random))
    }
    for (const kind of ['momentary', 'rocker', 'selector'] as const)
      if (random.chance(0.5))
        site.inputs.push(
          newInput(site, random.pick(['S1', 'K1', 'R1', 'Hall']), box, kind, { pull: random.pick(PULLS) }),
        )
    if (random.chance(0.5)) box.parts.push(part(random.pick(PARTS).id, 'Part one', [...random.pick(BETWEEN)]))
    const { id } = box
    const list = netsOfList(site, id)
    expect(netsOfNetlist(site, id)).toEqual(list)
    const refs = circuitOf(site, id).devices.map(({ ref }) => ref)
    expect(new Set(refs).size).toBe(refs.length)
    for (const ref of partsOf(site, id)) expect(refs).toContain(ref)
    const rails = ['U1 GND', 'U1 VIN', 'U1 3V3', 'X1 L', 'X1 N', 'X1 PE']
    for (const net of list) expect(net.filter((one) => rails.includes(one)).length).toBeLessThanOrEqual(1)
  }
})

const DRIVERS = ['module', 'transistor-and-diode', 'none'] as const
const PULLS = ['internal', 'fitted'] as const
const BETWEEN = [[], ['transistor'], ['divider'], ['level-shifter']] as const
const randomLoad = (random: Choices): Partial<Load> => ({
  type: random.pick(['led', 'motor', 'heater', 'coil', 'unknown'] as const),
  watts: random.whole(0, 2_000),
  supply: random.pick(['mains', 'mains', 'low-voltage', 'dry'] as const),
  current: random.pick(['dc', 'ac'] as const),
  feed: random.pick([{ from: 'own' }, { from: 'shared', name: 'One' }, { from: 'controller' }] as const),
  contact: random.pick(['line', 'neutral'] as const),
  suppression: random.pick(['none', 'snubber', 'varistor', 'diode'] as const),
  contactor: random.pick([null, 'contactor-9a', 'no-such-one']),
})
