import { boardIn, moduleIn, type BoardProfile, type PartProfile } from '../boards'
import { ohms, pullChoice } from '../electrics'
import { assignedPin } from '../pins'
import {
  contactsOf,
  controllerOf,
  inputRoles,
  inputsOn,
  loadOf,
  outputsOf,
  relaysOn,
  type Controller,
  type Input,
  type Load,
  type Site,
} from '../site'
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

/** A wire before its colour is chosen; what is not mains is said by its conductor. */
interface Wire {
  /** null: no colour can be said */
  readonly conductor: Conductor | null
  readonly from: string
  readonly to: string
  readonly note?: string
  readonly mains?: true
}

/** The board as its wires name it. */
interface Wired {
  readonly site: Site
  readonly controller: Controller
  readonly board: BoardProfile
  /** the label of its logic supply */
  readonly logic: string
}
type Relay = ReturnType<typeof relaysOn>[number]

const pinOf = ({ site, controller }: Wired, role: string): string =>
  `board ${assignedPin(site, controller.id, role) ?? '(no pin yet)'}`
const nameOf = ({ channel, contact }: Relay): string =>
  contactsOf(channel) !== null ? `${channel.name} ${contact + 1}` : channel.name

const JUMPER_WORDS = {
  removed: 'coil-supply jumper removed',
  fitted: 'coil-supply jumper fitted',
  none: 'no jumper on this module',
}

function moduleWires({ controller: { module }, board, logic }: Wired): Wire[] {
  if (!module) return []
  const split = module.coilJumper === 'removed'
  return [
    { conductor: 'ground', from: 'board GND', to: 'module GND', note: 'common ground' },
    {
      conductor: 'logic-supply',
      from: `board ${split ? logic : '5 V supply'}`,
      to: 'module VCC',
      note: split ? `logic side at ${board.logicVolts} V` : 'logic and coil side together',
    },
    {
      conductor: 'coil-supply',
      from: `${module.coilVolts} V supply`,
      to: 'module coil supply',
      note: JUMPER_WORDS[module.coilJumper],
    },
  ]
}

const relayWires = (wired: Wired, relays: readonly Relay[]): Wire[] =>
  relays.map((one, index) => ({
    conductor: 'signal',
    from: pinOf(wired, one.role),
    to: wired.controller.module ? `module IN${index + 1}` : `relay driver of ${nameOf(one)}`,
    note: `${nameOf(one)}, ${one.channel.active} closes`,
  }))

function pullWords({ board }: Wired, input: Input): string {
  if (input.pull === 'internal') return "the board's own pull"
  const choice = pullChoice(input.cableMetres, board.logicVolts, board.internalPullKiloohms.most)
  return `${input.pull === 'fitted' ? 'fit' : 'no pull: fit'} ${ohms(choice.ohms)}`
}

function switchWires(wired: Wired, input: Input): Wire[] {
  const note = pullWords(wired, input)
  const low = input.closedLevel === 'low'
  const several = input.kind === 'selector'
  return [
    ...inputRoles(input).map((role, bit): Wire => ({
      conductor: 'signal',
      from: pinOf(wired, role),
      to: several ? `${input.name}, bit ${bit + 1}` : `${input.name}, one side`,
      note,
    })),
    {
      conductor: low ? 'ground' : 'logic-supply',
      from: low ? 'board GND' : `board ${wired.logic}`,
      to: `${input.name}, ${several ? 'common' : 'other side'}`,
    },
  ]
}

const railWords = ({ logic }: Wired, rail: PartProfile['rail']): string =>
  ({ logic: `board ${logic}`, '5V': 'board 5 V', own: 'its own supply' })[rail]

function partWires(wired: Wired, part: Controller['parts'][number]): Wire[] {
  const profile = moduleIn(wired.site, 'part', part.profile)
  if (!profile) return []
  const { rail, signals } = profile
  return [
    {
      conductor: 'ground',
      from: 'board GND',
      to: `${part.name} GND`,
      note: rail === 'own' ? 'common ground with the board' : '',
    },
    {
      conductor: rail === 'logic' ? 'logic-supply' : 'coil-supply',
      from: railWords(wired, rail),
      to: `${part.name} supply`,
    },
    ...signals.map((signal): Wire => ({
      conductor: 'signal',
      from: pinOf(wired, `part:${part.id}:${signal.id}`),
      to: `${part.name} ${signal.id}`,
      note: signal.need.startsWith('serial') ? 'crossed: sends to receives' : '',
    })),
  ]
}

const lowVoltageWires = ({ name, watts }: Load, relay: string): Wire[] => [
  {
    conductor: 'coil-supply',
    from: 'low-voltage supply +',
    to: `${relay} COM`,
    note: `${name}, ${watts} W, a supply of its own`,
  },
  { conductor: 'coil-supply', from: `${relay} NO`, to: `${name} +` },
  { conductor: 'ground', from: 'low-voltage supply −', to: `${name} −` },
]

/** A mains load's wires; the contacts of a regulator share the load's other pole and its earth. */
function mainsWires(load: Load, relay: string, { channel, contact }: Relay): Wire[] {
  const right = load.contact === 'line'
  const { words } = outputsOf(channel)[contact]!
  const switched: Wire[] = [
    {
      conductor: right ? 'line' : 'neutral',
      from: right ? 'line (L)' : 'neutral (N): not as it should be',
      to: `${relay} COM`,
      note: `${load.name}, ${load.watts} W`,
      mains: true,
    },
    {
      conductor: 'switched',
      from: `${relay} NO`,
      to: `${load.name} ${right ? 'L' : 'N'} terminal${words && `, ${words}`}`,
      note: load.contactor
        ? 'through the contactor’s coil; the load hangs on its contacts'
        : 'supply off and proved dead first',
      mains: true,
    },
  ]
  if (contact > 0) return switched
  return [
    ...switched,
    {
      conductor: right ? 'neutral' : 'line',
      from: right ? 'neutral (N)' : 'line (L)',
      to: `${load.name} ${right ? 'N' : 'L'} terminal`,
      mains: true,
    },
    {
      conductor: 'earth',
      from: 'protective earth (PE)',
      to: `${load.name} PE`,
      note: 'as the load requires',
      mains: true,
    },
  ]
}

/** What nobody has named stands in the list all the same, on the safe side: it may be mains. */
const unnamedWire = ({ channel }: Relay, relay: string): Wire => ({
  conductor: null,
  from: `${relay} COM and NO`,
  to: `load of ${channel.name}, not named yet`,
  note: 'it may be mains: name it on the bench, and treat it as mains until then',
  mains: true,
})

/**
 * The connection list of a controller, in the order in which it is wired: supply, relay inputs, switches, parts, then
 * (dead) the loads.
 */
export function connectionsOf(site: Site, controllerId: string): Connection[] {
  const controller = controllerOf(site, controllerId)
  const board = controller && boardIn(site, controller.board)
  if (!controller || !board) return []
  const wired: Wired = { site, controller, board, logic: board.logicVolts === 5 ? '5V' : '3V3' }
  const relays = relaysOn(site, controller.id)
  const on = (device: string, wires: readonly Wire[]): Connection[] =>
    wires.map(({ conductor, from, to, note = '', mains = false }) => ({
      device,
      colour: conductor === null ? '' : wireColour(site, conductor),
      from,
      to,
      note,
      mains,
    }))
  return [
    ...on('Relay module', [...moduleWires(wired), ...relayWires(wired, relays)]),
    ...inputsOn(site, controller.id).flatMap((input) => on(input.name, switchWires(wired, input))),
    ...controller.parts.flatMap((part) => on(part.name, partWires(wired, part))),
    ...relays.flatMap((one, index) => {
      const load = loadOf(site, one.channel.load)
      const relay = `relay ${index + 1}`
      if (!load) return one.contact === 0 ? on(`Load of ${one.channel.name}`, [unnamedWire(one, relay)]) : []
      return on(load.name, load.supply === 'mains' ? mainsWires(load, relay, one) : lowVoltageWires(load, relay))
    }),
  ]
}
