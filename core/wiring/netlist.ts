import { boardIn, moduleIn, pinName } from '../boards'
import { contactsOf, channelsOn, inputRoles, inputsOn, loadOf, relaysOn, type Controller, type Site } from '../site'
import { ohms } from '../electrics'
import { pullChoice } from '../electrics'
import { snubberFor, loadAmps } from '../electrics'
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
  const pinOf = (role: string): string => {
    const choice = controller.pins[role]
    const reading = choice && readPinOn(site, controller, choice.pin)
    return reading?.kind === 'spot' ? pinName(reading.spot) : `${role} (no pin)`
  }

  // supply
  const plan = controller.supply
  const source = plan && moduleIn(site, 'supply', plan.source)
  // Without a converter a feed is the source's own rail; without a named source it is only a name.
  const feeds = { board: 'board feed', coils: 'coil feed', own: 'own feed' }
  if (source && plan) {
    const rail = `+${source.volts}V`.replace('+5V', '+5V source')
    const g = build.device('G', 'supply', source.name, source.name)
    build.join('GND', 'ground', g, '−')
    build.join(rail, 'supply', g, '+')
    const feed = (key: keyof typeof feeds): void => {
      const id = plan[key]
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
    feed('board')
    build.join(feeds.board, 'supply', u, '5V in')
    if (controller.module && !plan.coilsFromLogic) feed('coils')
    if (controller.parts.some((part) => moduleIn(site, 'part', part.profile)?.rail === 'own')) feed('own')
    if (plan.coilsFromLogic) feeds.coils = logicNet
  }

  // relay module
  const channels = channelsOn(site, controller.id)
  const { module } = controller
  const k = module
    ? build.device(
        'K',
        'relay-module',
        `${module.ways}-way relay module`,
        `${module.ways}-way relay module, ${module.input}, ${module.active}-active, ${module.coilVolts} V coils`,
        [module.coilJumper === 'none' ? 'no coil-supply jumper' : `coil-supply jumper ${module.coilJumper}`],
      )
    : null
  if (k && module) {
    build.join('GND', 'ground', k, 'GND')
    build.join(module.coilJumper === 'removed' ? logicNet : feeds.coils, 'supply', k, 'VCC')
    build.join(feeds.coils, 'supply', k, module.coilJumper === 'none' ? 'VCC' : 'coil supply')
  }
  const hasMains = channels.some((channel) => loadOf(site, channel.load)?.supply === 'mains')
  const inlet = hasMains
    ? build.device('X', 'inlet', 'Mains inlet', `mains inlet, ${site.mains.volts} V`, [
        'supply off and proved dead first',
      ])
    : null
  if (inlet) for (const pole of ['L', 'N', 'PE']) build.join(pole, 'mains', inlet, pole)
  const loads = new Map<string, string>()
  relaysOn(site, controller.id).forEach(({ channel, contact, role }, index) => {
    const step = contactsOf(channel) !== null ? ` ${contact + 1}` : ''
    const signal = `out ${channel.id}${step}`
    build.join(signal, 'signal', u, pinOf(role))
    if (k) build.join(signal, 'signal', k, `IN${index + 1}`)
    const load = loadOf(site, channel.load)
    if (!load || !k) return
    const e =
      loads.get(channel.id) ??
      build.device(
        'E',
        'load',
        load.name,
        `${load.name}, ${load.watts} W`,
        load.contactor ? ['through a contactor'] : [],
      )
    loads.set(channel.id, e)
    const mains = load.supply === 'mains'
    const [fed, other] = mains ? (load.contact === 'line' ? ['L', 'N'] : ['N', 'L']) : ['load +', 'load −']
    build.join(fed!, mains ? 'mains' : 'supply', k, `${index + 1} COM`)
    build.join(`switched ${channel.id}${step}`, mains ? 'mains' : 'supply', k, `${index + 1} NO`)
    build.join(`switched ${channel.id}${step}`, mains ? 'mains' : 'supply', e, `${mains ? fed! : '+'}${step}`)
    build.join(other!, mains ? 'mains' : 'ground', e, mains ? other! : '−')
    if (mains) build.join('PE', 'mains', e, 'PE')
    if (load.suppression === 'snubber' && contact === 0) {
      const z = build.device('Z', 'snubber', `snubber of ${load.name}`, snubberFor(loadAmps(site, load)).words)
      build.join(fed!, 'mains', z, '1')
      build.join(`switched ${channel.id}${step}`, 'mains', z, '2')
    }
  })

  // switches
  for (const input of inputsOn(site, controller.id)) {
    const s = build.device(
      'S',
      'switch',
      input.name,
      input.kind === 'momentary'
        ? 'push switch'
        : input.kind === 'rocker'
          ? 'rocker'
          : input.kind === 'contact'
            ? 'position contact'
            : `selector, ${input.bits} contacts`,
      input.pull === 'internal' ? ["board's own pull"] : [],
    )
    const common = input.kind === 'selector' ? 'common' : '2'
    if (input.closedLevel === 'low') build.join('GND', 'ground', s, common)
    else build.join(logicNet, 'supply', s, common)
    for (const [bit, role] of inputRoles(input).entries()) {
      const signal = `in ${role.slice(3)}`
      build.join(signal, 'signal', u, pinOf(role))
      build.join(signal, 'signal', s, input.kind === 'selector' ? `bit ${bit + 1}` : '1')
      if (input.pull === 'internal') continue
      const value = ohms(pullChoice(input.cableMetres, board.logicVolts, board.internalPullKiloohms.most).ohms)
      const r = build.device('R', 'resistor', value, `resistor ${value}`)
      build.join(signal, 'signal', r, '1')
      if (input.closedLevel === 'low') build.join(logicNet, 'supply', r, '2')
      else build.join('GND', 'ground', r, '2')
    }
  }

  // parts
  for (const part of controller.parts) {
    const profile = moduleIn(site, 'part', part.profile)
    if (!profile) continue
    const p = build.device('A', 'part', part.name, profile.name)
    build.join('GND', 'ground', p, 'GND')
    build.join(
      profile.rail === 'logic' ? logicNet : profile.rail === '5V' ? feeds.board : feeds.own,
      'supply',
      p,
      'supply',
    )
    for (const signal of profile.signals) {
      const net = signal.need.startsWith('i2c') ? signal.need : `${part.id} ${signal.id}`
      build.join(net, 'signal', u, pinOf(`part:${part.id}:${signal.id}`))
      build.join(net, 'signal', p, signal.id)
    }
  }
  return build.done(controller.id)
}
