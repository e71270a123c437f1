import { boardIn, moduleIn, pinName, type BoardProfile, type SupplyProfile } from '../boards'
import { loadAmps, ohms, pullChoice, snubberFor } from '../electrics'
import {
  channelsOn,
  contactsOf,
  inputRoles,
  inputsOn,
  loadOf,
  relaysOn,
  type Controller,
  type Input,
  type Load,
  type Site,
} from '../site'
import { readPinOn } from '../pins'

export type DeviceKind =
  'board' | 'relay-module' | 'part' | 'switch' | 'resistor' | 'load' | 'snubber' | 'supply' | 'inlet'

export interface Device {
  /** reference, as on a drawing: U1, K1, S1, R1 … */
  readonly ref: string
  readonly kind: DeviceKind
  readonly title: string
  /** what it is, for the parts list */
  readonly type: string
  readonly notes: readonly string[]
}

export type NetClass = 'ground' | 'supply' | 'signal' | 'mains'

export interface Net {
  readonly name: string
  readonly class: NetClass
  readonly nodes: readonly { readonly ref: string; readonly pin: string }[]
}

export interface Netlist {
  readonly controller: string
  readonly devices: readonly Device[]
  readonly nets: readonly Net[]
}

class Builder {
  readonly devices: Device[] = []
  private readonly nets = new Map<string, { class: NetClass; nodes: { ref: string; pin: string }[] }>()
  private counts = new Map<string, number>()

  device(letter: string, kind: DeviceKind, title: string, type: string, notes: readonly string[] = []): string {
    const number = (this.counts.get(letter) ?? 0) + 1
    this.counts.set(letter, number)
    const ref = `${letter}${number}`
    this.devices.push({ ref, kind, title, type, notes })
    return ref
  }

  join(name: string, netClass: NetClass, ref: string, pin: string): void {
    const net = this.nets.get(name) ?? { class: netClass, nodes: [] }
    this.nets.set(name, net)
    if (!net.nodes.some((node) => node.ref === ref && node.pin === pin)) net.nodes.push({ ref, pin })
  }

  done(controller: string): Netlist {
    return { controller, devices: this.devices, nets: [...this.nets].map(([name, net]) => ({ name, ...net })) }
  }
}

/** What is known while a netlist grows. */
interface Growing {
  readonly site: Site
  readonly controller: Controller
  readonly board: BoardProfile
  readonly build: Builder
  /** the board's reference */
  readonly u: string
  readonly logicNet: string
  /** the net that feeds each; without a named source it is only a name */
  readonly feeds: Record<'board' | 'coils' | 'own', string>
}

function pinOf({ site, controller }: Growing, role: string): string {
  const choice = controller.pins[role]
  const reading = choice && readPinOn(site, controller, choice.pin)
  return reading?.kind === 'spot' ? pinName(reading.spot) : `${role} (no pin)`
}

/** A feed behind its converter; without one it is the source's own rail. */
function joinFeed({ site, build, feeds }: Growing, key: keyof Growing['feeds'], id: string | null, rail: string): void {
  const converter = id === null ? undefined : moduleIn(site, 'supply', id)
  if (!converter) {
    feeds[key] = rail
    return
  }
  const c = build.device('G', 'supply', converter.name, converter.name)
  build.join(rail, 'supply', c, 'in')
  build.join('GND', 'ground', c, '−')
  build.join(feeds[key], 'supply', c, 'out')
}

function joinSource(growing: Growing, source: SupplyProfile, rail: string): void {
  const { build } = growing
  const g = build.device('G', 'supply', source.name, source.name)
  build.join('GND', 'ground', g, '−')
  build.join(rail, 'supply', g, '+')
}

function joinSupply(growing: Growing): void {
  const { site, controller, build, u, feeds, logicNet } = growing
  const plan = controller.supply
  const source = plan && moduleIn(site, 'supply', plan.source)
  if (!source) return
  const rail = `+${source.volts}V`.replace('+5V', '+5V source')
  joinSource(growing, source, rail)
  joinFeed(growing, 'board', plan.board, rail)
  build.join(feeds.board, 'supply', u, '5V in')
  if (controller.module && !plan.coilsFromLogic) joinFeed(growing, 'coils', plan.coils, rail)
  const hasOwn = controller.parts.some((part) => moduleIn(site, 'part', part.profile)?.rail === 'own')
  if (hasOwn) joinFeed(growing, 'own', plan.own, rail)
  if (plan.coilsFromLogic) feeds.coils = logicNet
}

/** The relay module's reference; null: there is none. */
function joinModule({ controller: { module }, build, feeds, logicNet }: Growing): string | null {
  if (!module) return null
  const { ways, input, active, coilVolts, coilJumper } = module
  const type = `${ways}-way relay module, ${input}, ${active}-active, ${coilVolts} V coils`
  const k = build.device('K', 'relay-module', `${ways}-way relay module`, type, [
    coilJumper === 'none' ? 'no coil-supply jumper' : `coil-supply jumper ${coilJumper}`,
  ])
  build.join('GND', 'ground', k, 'GND')
  build.join(coilJumper === 'removed' ? logicNet : feeds.coils, 'supply', k, 'VCC')
  build.join(feeds.coils, 'supply', k, coilJumper === 'none' ? 'VCC' : 'coil supply')
  return k
}

function joinInlet({ site, controller, build }: Growing): void {
  if (!channelsOn(site, controller.id).some((channel) => loadOf(site, channel.load)?.supply === 'mains')) return
  const inlet = build.device('X', 'inlet', 'Mains inlet', `mains inlet, ${site.mains.volts} V`, [
    'supply off and proved dead first',
  ])
  for (const pole of ['L', 'N', 'PE']) build.join(pole, 'mains', inlet, pole)
}

/** A contact of the module between its feed and its load. `switched` is the net between the two. */
function joinContact(
  { build }: Growing,
  k: string,
  e: string,
  load: Load,
  contact: number,
  step: string,
  switched: string,
): void {
  const mains = load.supply === 'mains'
  const [fed, other] = !mains ? ['load +', 'load −'] : load.contact === 'line' ? ['L', 'N'] : ['N', 'L']
  build.join(fed!, mains ? 'mains' : 'supply', k, `${contact} COM`)
  build.join(switched, mains ? 'mains' : 'supply', k, `${contact} NO`)
  build.join(switched, mains ? 'mains' : 'supply', e, `${mains ? fed! : '+'}${step}`)
  build.join(other!, mains ? 'mains' : 'ground', e, mains ? other! : '−')
  if (mains) build.join('PE', 'mains', e, 'PE')
}

function joinSnubber({ site, build }: Growing, load: Load, switched: string): void {
  const z = build.device('Z', 'snubber', `snubber of ${load.name}`, snubberFor(loadAmps(site, load)).words)
  build.join(load.supply !== 'mains' ? 'load +' : load.contact === 'line' ? 'L' : 'N', 'mains', z, '1')
  build.join(switched, 'mains', z, '2')
}

function joinRelays(growing: Growing, k: string | null): void {
  const { site, controller, build, u } = growing
  const loads = new Map<string, string>()
  for (const [index, { channel, contact, role }] of relaysOn(site, controller.id).entries()) {
    const step = contactsOf(channel) !== null ? ` ${contact + 1}` : ''
    build.join(`out ${channel.id}${step}`, 'signal', u, pinOf(growing, role))
    if (k) build.join(`out ${channel.id}${step}`, 'signal', k, `IN${index + 1}`)
    const load = loadOf(site, channel.load)
    if (!load || !k) continue
    const notes = load.contactor ? ['through a contactor'] : []
    const e = loads.get(channel.id) ?? build.device('E', 'load', load.name, `${load.name}, ${load.watts} W`, notes)
    loads.set(channel.id, e)
    joinContact(growing, k, e, load, index + 1, step, `switched ${channel.id}${step}`)
    if (load.suppression === 'snubber' && contact === 0) joinSnubber(growing, load, `switched ${channel.id}${step}`)
  }
}

const SWITCH_WORDS: Readonly<Record<Exclude<Input['kind'], 'selector'>, string>> = {
  momentary: 'push switch',
  rocker: 'rocker',
  contact: 'position contact',
}

function joinSwitch(growing: Growing, input: Input): void {
  const { build, u, board, logicNet } = growing
  const type = input.kind === 'selector' ? `selector, ${input.bits} contacts` : SWITCH_WORDS[input.kind]
  const s = build.device('S', 'switch', input.name, type, input.pull === 'internal' ? ["board's own pull"] : [])
  const toGround = (low: boolean, ref: string, pin: string) =>
    low ? build.join('GND', 'ground', ref, pin) : build.join(logicNet, 'supply', ref, pin)
  toGround(input.closedLevel === 'low', s, input.kind === 'selector' ? 'common' : '2')
  for (const [bit, role] of inputRoles(input).entries()) {
    const signal = `in ${role.slice(3)}`
    build.join(signal, 'signal', u, pinOf(growing, role))
    build.join(signal, 'signal', s, input.kind === 'selector' ? `bit ${bit + 1}` : '1')
    if (input.pull === 'internal') continue
    const value = ohms(pullChoice(input.cableMetres, board.logicVolts, board.internalPullKiloohms.most).ohms)
    const r = build.device('R', 'resistor', value, `resistor ${value}`)
    build.join(signal, 'signal', r, '1')
    toGround(input.closedLevel !== 'low', r, '2')
  }
}

function joinParts(growing: Growing): void {
  const { site, controller, build, u, logicNet, feeds } = growing
  for (const part of controller.parts) {
    const profile = moduleIn(site, 'part', part.profile)
    if (!profile) continue
    const p = build.device('A', 'part', part.name, profile.name)
    build.join('GND', 'ground', p, 'GND')
    const rail = { logic: logicNet, '5V': feeds.board, own: feeds.own }[profile.rail]
    build.join(rail, 'supply', p, 'supply')
    for (const signal of profile.signals) {
      const net = signal.need.startsWith('i2c') ? signal.need : `${part.id} ${signal.id}`
      build.join(net, 'signal', u, pinOf(growing, `part:${part.id}:${signal.id}`))
      build.join(net, 'signal', p, signal.id)
    }
  }
}

/**
 * Everything that is joined to everything, for one controller: what the drawing, the parts list and the netlist file
 * are made from.
 */
export function netlistOf(site: Site, controller: Controller): Netlist {
  const build = new Builder()
  const board = boardIn(site, controller.board)
  if (!board) return build.done(controller.id)
  const logicNet = board.logicVolts === 5 ? '+5V' : '+3V3'
  const u = build.device('U', 'board', controller.name, board.name)
  build.join('GND', 'ground', u, 'GND')
  build.join(logicNet, 'supply', u, board.logicVolts === 5 ? '5V' : '3V3')
  const feeds = { board: 'board feed', coils: 'coil feed', own: 'own feed' }
  const growing: Growing = { site, controller, board, build, u, logicNet, feeds }
  joinSupply(growing)
  const k = joinModule(growing)
  joinInlet(growing)
  joinRelays(growing, k)
  for (const input of inputsOn(site, controller.id)) joinSwitch(growing, input)
  joinParts(growing)
  return build.done(controller.id)
}
