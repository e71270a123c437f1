import { baseDrive, ohms } from '../electrics'
import { contactsOf, type Relay, type RelayModule } from '../site'
import type { Terminal } from './circuit'
import { pinAt, type Growing } from './growing'

/** The relays: on a module as bought, or bare ones with what drives them. */

export const relayName = ({ channel, contact }: Relay): string =>
  contactsOf(channel) !== null ? `${channel.name} ${contact + 1}` : channel.name

/** Gives the terminal of a relay's contact. */
export type ContactAt = (relay: Relay, contact: 'COM' | 'NO' | 'NC') => Terminal

/** Supply of a module: one row where the jumper, or its lack, joins logic and coil side; two where they are parted. */
function moduleSupply(
  { build, ground, logic, feeds }: Growing,
  a: string,
  { coilJumper, coilVolts }: RelayModule,
): void {
  build.wire(['GND', 'ground'], ground, { ref: a, pin: 'GND' }, 'ground', { note: 'common ground' })
  const { coils } = feeds
  if (coilJumper === 'removed') {
    build.wire([logic.net, 'supply'], logic.at, { ref: a, pin: 'VCC' }, 'logic-supply', {
      note: `logic side at ${logic.volts} V; coil-supply jumper removed`,
    })
    build.wire([coils.net, 'supply'], coils.at, { ref: a, pin: 'coil supply' }, 'coil-supply', {
      note: `${coilVolts} V coils`,
    })
    return
  }
  const note =
    coilJumper === 'fitted'
      ? 'coil-supply jumper fitted: it feeds logic and coils, nothing else goes to its supply pins'
      : 'no jumper on this module: one supply for logic and coils, and never the board’s logic pin as well'
  build.wire([coils.net, 'supply'], coils.at, { ref: a, pin: 'VCC' }, 'coil-supply', {
    note: `${coilVolts} V coils; ${note}`,
  })
}

function moduleRelays(growing: Growing, module: RelayModule, relays: readonly Relay[]): ContactAt {
  const { build } = growing
  const words = `${module.ways}-way relay module`
  const type = `${words}, ${module.input}, ${module.active}-active, ${module.coilVolts} V coils`
  const jumper = module.coilJumper === 'none' ? 'no coil-supply jumper' : `coil-supply jumper ${module.coilJumper}`
  const a = build.device('A', 'relay-module', words, type, { notes: [jumper] })
  build.under(`${a} ${words}`)
  moduleSupply(growing, a, module)
  for (const one of relays) {
    const note = `${relayName(one)}, ${one.channel.active} closes`
    const from = pinAt(growing, one.role)
    build.wire([`out ${one.role.slice(4)}`, 'signal'], from, { ref: a, pin: `IN${one.relay}` }, 'signal', {
      note,
      role: one.role,
    })
    build.contact(`K${one.relay}`, relayName(one))
  }
  return ({ relay }, contact) => ({ ref: a, pin: `K${relay} ${contact}` })
}

/** A coil of its own: on a transistor with its resistors and diode, or as it is, whatever a finding says to it. */
function bareRelay(growing: Growing, module: RelayModule, one: Relay): void {
  const { build, board, ground, feeds } = growing
  const { coilVolts, coilOhms, driver, contactAmps } = module
  const k = build.device('K', 'relay', relayName(one), `relay, ${coilVolts} V coil, ${coilOhms} Ω, ${contactAmps} A`, {
    wish: `K${one.relay}`,
  })
  build.under(`${k} ${relayName(one)}`)
  build.contact(k, relayName(one))
  const pin = pinAt(growing, one.role)
  const signal = [`out ${one.role.slice(4)}`, 'signal'] as const
  const low: Terminal = { ref: k, pin: 'coil −' }
  const high: Terminal = { ref: k, pin: 'coil +' }
  if (driver === 'none') {
    build.wire(signal, pin, high, 'signal', { note: 'no driver: see finding D04', role: one.role })
    build.wire(['GND', 'ground'], ground, low, 'ground')
    return
  }
  const base = ohms(baseDrive(coilVolts, coilOhms, board.logicVolts).baseOhms)
  const r = build.device('R', 'resistor', base, `resistor ${base}`)
  const hold = build.device('R', 'resistor', '10 kΩ', 'resistor 10 kΩ', {
    notes: ['keeps it off while the board starts'],
  })
  const q = build.device('Q', 'transistor', `drives ${k}`, 'NPN transistor, 500 mA or more')
  build.wire(signal, pin, { ref: r, pin: '1' }, 'signal', { note: `${relayName(one)}, high closes`, role: one.role })
  build.wire([`base ${q}`, 'signal'], { ref: r, pin: '2' }, { ref: q, pin: 'B' }, 'signal')
  build.wire([`base ${q}`, 'signal'], { ref: q, pin: 'B' }, { ref: hold, pin: '1' }, 'signal')
  build.wire(['GND', 'ground'], ground, { ref: hold, pin: '2' }, 'ground')
  build.wire(['GND', 'ground'], ground, { ref: q, pin: 'E' }, 'ground')
  build.wire([`coil ${k}`, 'signal'], { ref: q, pin: 'C' }, low, 'signal')
  build.wire([feeds.coils.net, 'supply'], feeds.coils.at, high, 'coil-supply', { note: `${coilVolts} V coil` })
  if (driver !== 'transistor-and-diode') return
  const v = build.device('V', 'diode', `across the coil of ${k}`, 'diode, 1 A, 100 V or more')
  build.wire([`coil ${k}`, 'signal'], low, { ref: v, pin: 'A' }, 'signal')
  build.wire([feeds.coils.net, 'supply'], high, { ref: v, pin: 'K' }, 'coil-supply', {
    note: 'the ring towards the supply',
  })
}

/** Relays that nobody has named stand in the list all the same: their pin, and their contacts with what hangs there. */
function unnamedRelay(growing: Growing, one: Relay): void {
  const { build } = growing
  const notes = ['name the module on the bench: nothing of it is checked']
  const k = build.device('K', 'relay', relayName(one), 'relay with its driver, not named yet', {
    notes,
    wish: `K${one.relay}`,
  })
  build.under(`${k} ${relayName(one)}`)
  build.contact(k, relayName(one))
  const note = `${relayName(one)}, ${one.channel.active} closes; through a driver, never straight to a coil`
  const pin = pinAt(growing, one.role)
  build.wire([`out ${one.role.slice(4)}`, 'signal'], pin, { ref: k, pin: 'driver' }, 'signal', { note, role: one.role })
}

/** Wires what drives the contacts, and says where they are. */
export function wireRelays(growing: Growing, relays: readonly Relay[]): ContactAt {
  const { module } = growing.controller
  if (module?.driver === 'module') return moduleRelays(growing, module, relays)
  for (const one of relays) growing.build.reserve(`K${one.relay}`)
  for (const one of relays)
    if (module) bareRelay(growing, module, one)
    else unnamedRelay(growing, one)
  return ({ relay }, contact) => ({ ref: `K${relay}`, pin: contact })
}
