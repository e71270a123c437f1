import { boardIn, moduleIn } from '../boards'
import { contactsOf, controllerOf, inputRoles, inputsOn, loadOf, outputsOf, relaysOn, type Site } from '../site'
import { assignedPin } from '../pins'
import { ohms } from '../electrics'
import { pullChoice } from '../electrics'
import { wireColour, type Conductor } from './wireColours'

/** One wire: what is joined to what, and what to mind. */
export interface Connection {
  /** the device that is being wired */
  readonly device: string
  /** a colour to choose: a caution, local code decides */
  readonly colour: string
  readonly from: string
  readonly to: string
  readonly note: string
  readonly mains: boolean
}

/**
 * The connection list of a controller, in the order in which it is wired: supply, relay inputs, switches, then (dead)
 * mains.
 */
export function connectionsOf(site: Site, controllerId: string): Connection[] {
  const controller = controllerOf(site, controllerId)
  const board = controller && boardIn(site, controller.board)
  if (!controller || !board) return []
  const { module } = controller
  const logic = board.logicVolts === 5 ? '5V' : '3V3'
  const rows: Connection[] = []
  const wire = (device: string, conductor: Conductor, from: string, to: string, note = '', mains = false): void =>
    void rows.push({ device, colour: wireColour(site, conductor), from, to, note, mains })
  const pin = (role: string): string => `board ${assignedPin(site, controller.id, role) ?? '(no pin yet)'}`

  if (module) {
    const split = module.coilJumper === 'removed'
    wire('Relay module', 'ground', 'board GND', 'module GND', 'common ground')
    wire(
      'Relay module',
      'logic-supply',
      `board ${split ? logic : '5 V supply'}`,
      'module VCC',
      split ? `logic side at ${board.logicVolts} V` : 'logic and coil side together',
    )
    wire(
      'Relay module',
      'coil-supply',
      `${module.coilVolts} V supply`,
      'module coil supply',
      split
        ? 'coil-supply jumper removed'
        : module.coilJumper === 'fitted'
          ? 'coil-supply jumper fitted'
          : 'no jumper on this module',
    )
  }
  const relays = relaysOn(site, controller.id)
  const nameOf = ({ channel, contact }: (typeof relays)[number]) =>
    contactsOf(channel) !== null ? `${channel.name} ${contact + 1}` : channel.name
  relays.forEach((one, index) =>
    wire(
      'Relay module',
      'signal',
      pin(one.role),
      module ? `module IN${index + 1}` : `relay driver of ${nameOf(one)}`,
      `${nameOf(one)}, ${one.channel.active} closes`,
    ),
  )
  for (const input of inputsOn(site, controller.id)) {
    const pull =
      input.pull === 'internal'
        ? "the board's own pull"
        : `${input.pull === 'fitted' ? 'fit' : 'no pull: fit'} ` +
          `${ohms(pullChoice(input.cableMetres, board.logicVolts, board.internalPullKiloohms.most).ohms)}`
    inputRoles(input).forEach((role, bit) =>
      wire(
        input.name,
        'signal',
        pin(role),
        input.kind === 'selector' ? `${input.name}, bit ${bit + 1}` : `${input.name}, one side`,
        pull,
      ),
    )
    wire(
      input.name,
      input.closedLevel === 'low' ? 'ground' : 'logic-supply',
      input.closedLevel === 'low' ? 'board GND' : `board ${logic}`,
      `${input.name}, ${input.kind === 'selector' ? 'common' : 'other side'}`,
    )
  }
  for (const part of controller.parts) {
    const profile = moduleIn(site, 'part', part.profile)
    if (!profile) continue
    wire(
      part.name,
      'ground',
      'board GND',
      `${part.name} GND`,
      profile.rail === 'own' ? 'common ground with the board' : '',
    )
    wire(
      part.name,
      profile.rail === 'logic' ? 'logic-supply' : 'coil-supply',
      profile.rail === 'logic' ? `board ${logic}` : profile.rail === '5V' ? 'board 5 V' : 'its own supply',
      `${part.name} supply`,
    )
    for (const signal of profile.signals)
      wire(
        part.name,
        'signal',
        pin(`part:${part.id}:${signal.id}`),
        `${part.name} ${signal.id}`,
        signal.need.startsWith('serial') ? 'crossed: sends to receives' : '',
      )
  }
  relays.forEach(({ channel, contact }, index) => {
    const load = loadOf(site, channel.load)
    // the contacts of a regulator share the load's neutral and earth
    const { words } = outputsOf(channel)[contact]!
    const step = words && `, ${words}`
    if (!load) return
    const relay = `relay ${index + 1}`
    if (load.supply === 'low-voltage') {
      wire(
        load.name,
        'coil-supply',
        'low-voltage supply +',
        `${relay} COM`,
        `${load.name}, ${load.watts} W, a supply of its own`,
      )
      wire(load.name, 'coil-supply', `${relay} NO`, `${load.name} +`)
      wire(load.name, 'ground', 'low-voltage supply −', `${load.name} −`)
      return
    }
    const right = load.contact === 'line'
    wire(
      load.name,
      right ? 'line' : 'neutral',
      right ? 'line (L)' : 'neutral (N): not as it should be',
      `${relay} COM`,
      `${load.name}, ${load.watts} W`,
      true,
    )
    wire(
      load.name,
      'switched',
      `${relay} NO`,
      `${load.name} ${right ? 'L' : 'N'} terminal${step}`,
      load.contactor
        ? 'through the contactor’s coil; the load hangs on its contacts'
        : 'supply off and proved dead first',
      true,
    )
    if (contact > 0) return
    wire(
      load.name,
      right ? 'neutral' : 'line',
      right ? 'neutral (N)' : 'line (L)',
      `${load.name} ${right ? 'N' : 'L'} terminal`,
      '',
      true,
    )
    wire(load.name, 'earth', 'protective earth (PE)', `${load.name} PE`, 'as the load requires', true)
  })
  return rows
}
