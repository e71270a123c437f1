import { boardIn, type BoardProfile } from '../boards'
import {
  channelsOn,
  controllerOf,
  coprocessorOf,
  inputsOn,
  loadOf,
  mainOf,
  relaysOn,
  type Channel,
  type Controller,
  type Relay,
  type Site,
} from '../site'
import { CircuitBuilder, type Circuit } from './circuit'
import { profileOf, type Feed, type FittedPart, type Growing } from './growing'
import { wireBoxedLoad, wireLoad, type Place } from './loadWires'
import { wireMains } from './mainsWires'
import { wirePair } from './pairWires'
import { isLineOf, wireBus, wirePart } from './partWires'
import { wireRelays, type ContactAt } from './relayWires'
import { wireSupply } from './supplyWires'
import { isReference, wireSwitch } from './switchWires'

/** The supply of a boxed board is inside it; whatever else hangs on it takes its logic volts. */
function boxedSupply(u: string, { logicVolts }: BoardProfile): Pick<Growing, 'feeds' | 'logic' | 'ground'> {
  const logic: Feed = { at: { ref: u, pin: '3V3' }, volts: logicVolts, net: '+3V3' }
  return { ground: { ref: u, pin: 'GND' }, logic, feeds: { source: logic, board: logic, coils: logic, own: logic } }
}

function fittedParts(site: Site, controller: Controller, build: CircuitBuilder, line: string | null): FittedPart[] {
  return controller.parts.flatMap((part): FittedPart[] => {
    const profile = profileOf(site, part)
    if (!profile || part.id === line) return []
    return [{ part, profile, ref: build.device('B', 'part', part.name, profile.name) }]
  })
}

/** Relays of one channel after another, as they stand in the document. */
const byChannel = (channels: readonly Channel[], relays: readonly Relay[]): Relay[][] =>
  channels.map((channel) => relays.filter((relay) => relay.channel.id === channel.id)).filter((list) => list.length > 0)

/** `at`: where the contacts are; null: inside a box. */
function wireLoads(growing: Growing, relays: readonly Relay[], at: ContactAt | null): void {
  const { site, controller, board, build, u } = growing
  const groups = byChannel(channelsOn(site, controller.id), relays)
  const boxed = board.boxed !== null
  const mains = boxed || groups.some(([relay]) => loadOf(site, relay!.channel.load)?.supply === 'mains')
  const points = mains ? wireMains(growing) : null
  if (boxed && points) {
    build.wire(['L', 'mains'], points.line, { ref: u, pin: 'L' }, 'line', {
      mains: true,
      note: 'the box feeds its relays itself',
    })
    build.wire(['N', 'mains'], points.neutral, { ref: u, pin: 'N' }, 'neutral', { mains: true })
  }
  const standing: Place = { supplies: new Map(), loads: new Map() }
  // a supply that another channel switches stands before what hangs on it
  const feeds = new Set(site.loads.flatMap(({ feed }) => (feed.from === 'load' ? [feed.load as string] : [])))
  const isFeed = (group: readonly Relay[]): boolean => feeds.has(group[0]!.channel.load ?? '')
  for (const group of [...groups.filter(isFeed), ...groups.filter((one) => !isFeed(one))]) {
    const load = loadOf(site, group[0]!.channel.load)
    if (boxed && points) wireBoxedLoad(growing, group, load, points)
    else if (at) wireLoad(growing, group, at, load, points, standing)
  }
}

/** K1, K2 … are the relays, on whatever they hang; and a switch whose name is a reference keeps it. */
function reserveNames(site: Site, { module }: Controller, build: CircuitBuilder): void {
  for (let k = 1; k <= (module?.ways ?? 0); k++) build.reserve(`K${k}`)
  for (const { name } of site.inputs) if (isReference(name)) build.reserve(name)
}

function grow(site: Site, controller: Controller, board: BoardProfile): { circuit: Circuit; pair: string | null } {
  const build = new CircuitBuilder()
  reserveNames(site, controller, build)
  const u = build.device('U', 'board', controller.name, board.name)
  // nobody has said that its terminals are isolated: then they are not
  if (board.boxed && board.boxed.switchesAtMains !== false) build.allLive()
  const coprocessor = coprocessorOf(site, controller.id)
  const supplied = board.boxed ? boxedSupply(u, board) : wireSupply(site, controller, board, build, u)
  const bare: Growing = { site, controller, board, build, u, parts: [], ...supplied }
  const line = coprocessor ? (controller.parts.find((part) => isLineOf(bare, part.id)) ?? null) : null
  const growing: Growing = { ...bare, parts: fittedParts(site, controller, build, line?.id ?? null) }
  const relays = relaysOn(site, controller.id)
  const at = board.boxed ? null : wireRelays(growing, relays)
  for (const input of inputsOn(site, controller.id)) wireSwitch(growing, input)
  for (const fitted of growing.parts) wirePart(growing, fitted)
  wireBus(growing)
  const pair = coprocessor ? wirePair(growing, coprocessor) : null
  wireLoads(growing, relays, at)
  return { circuit: build.done(controller.id), pair }
}

const EMPTY = { devices: [], wires: [], nets: [], contacts: [], partOf: null } as const

/** The rows of a pair alone, for the sheet of its coprocessor. */
function pairAlone({ wires, devices, nets, controller: main }: Circuit, controller: string, heading: string): Circuit {
  const own = wires.filter(({ under }) => under === heading)
  const refs = new Set(own.flatMap(({ from, to }) => [from.ref, to.ref]))
  const ends = new Set(own.flatMap(({ from, to }) => [`${from.ref}\n${from.pin}`, `${to.ref}\n${to.pin}`]))
  return {
    controller,
    devices: devices.filter(({ ref }) => refs.has(ref)),
    wires: own,
    nets: nets.flatMap((net) => {
      const nodes = net.nodes.filter(({ ref, pin }) => ends.has(`${ref}\n${pin}`))
      return nodes.length > 0 ? [{ ...net, nodes }] : []
    }),
    contacts: [],
    partOf: main,
  }
}

/**
 * Everything that is joined to everything, for one controller, in the order in which it is wired: supply, relays,
 * switches, parts, and then (dead) mains and the loads. The coprocessor of a pair is wired with its main board: of its
 * own it has the rows that the two share.
 */
export function circuitOf(site: Site, controllerId: string): Circuit {
  const main = mainOf(site, controllerId)
  const controller = main ?? controllerOf(site, controllerId)
  const board = controller && boardIn(site, controller.board)
  if (!controller || !board) return { controller: controllerId, ...EMPTY }
  const { circuit, pair } = grow(site, controller, board)
  return main && pair !== null ? pairAlone(circuit, controllerId, pair) : circuit
}
