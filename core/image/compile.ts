import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js'
import { boardIn, type BoardProfile } from '../boards'
import { readPinOn } from '../pins'
import {
  channelsOn,
  controllerOf,
  inputRoles,
  inputsOn,
  kindOf,
  mainOf,
  outputRoles,
  powerUpOf,
  waitsAtPowerUp,
  sensorsOn,
  serialSignalOf,
  waysTo,
  type Channel,
  type Controller,
  type Input,
  type Site,
} from '../site'
import { charsOf, serialOf } from './compileLinks'
import { keysOf } from './compileKeys'
import { networkOf } from './compileNetwork'
import { rulesOf, schedulesOf, sensorOf } from './compileRules'
import { bindingsOf, groupsOf, pointsOf, watchOf } from './compileWays'
import {
  NO_INPUT,
  NO_LEVEL,
  NO_PIN,
  type PairRole,
  type ControllerImage,
  type ImageBinding,
  type ImageChannel,
  type ImageInput,
} from './types'

/** The site names no such controller, or a board that has no profile. */
export class CompileRefused extends Error {
  readonly code = 'compile-refused'
}

/** Compiles one controller of a site. Throws CompileRefused. The same site gives the same image and hash. */
export function compileController(site: Site, controllerId: string): ControllerImage {
  const controller = controllerOf(site, controllerId)
  if (!controller) throw new CompileRefused(`there is no controller "${controllerId}" in this site`)
  const board = boardIn(site, controller.board)
  if (!board)
    throw new CompileRefused(`controllers.${controller.id}.board: there is no board profile "${controller.board}"`)
  const channels = channelsOn(site, controller.id)
  const inputs = inputsOn(site, controller.id)
  const sensors = sensorsOn(site, controller.id)
  const bindings = bindingsOf(site, controller, channels, inputs)
  const network = networkOf(site, controller)
  const tables = {
    ...settingsOf(site, controller, board.id),
    ...network,
    watch: watchOf(site, channels),
    serial: serialOf(site, controller),
    line: lineOf(site, controller),
    ...(controller.modeEntity ? { modeTopic: true as const } : {}),
    ...toldOf(board),
    ...lightOf(controller, board),
    receiver: receiverOf(site, controller),
    inputs: inputs.map((input, i) => compileInput(site, controller, input, holdIsBound(bindings, i), inputs)),
    channels: channels.map((channel) => compileChannel(site, controller, channel, inputs)),
    groups: groupsOf(site, channels),
    bindings,
    keys: keysOf(site, controller, channels),
    chars: charsOf(site, controller, channels),
    points: pointsOf(site, controller, channels, sensors, network.links ?? []),
    sensors: sensors.map(sensorOf),
    rules: rulesOf(site, channels, sensors),
    schedules: schedulesOf(site, channels),
  }
  return { ...tables, hash: hashOf(tables) }
}

const holdIsBound = (bindings: readonly ImageBinding[], input: number): boolean =>
  bindings.some((binding) => binding.input === input && binding.gesture === 'hold')

/** What is told once for the whole controller; times in ms. */
const settingsOf = (site: Site, controller: Controller, board: string) => ({
  format: 'vestibule-image' as const,
  version: 2 as const,
  site: site.id as string,
  controller: controller.id as string,
  board,
  link: controller.link !== 'none',
  outage: controller.outage ?? ('local' as const),
  staggerMs: controller.staggerMs,
  storeMs: controller.storeMs,
  minReportMs: controller.minReportMs,
  heartbeatMs: controller.heartbeatS * 1000,
  sensorMs: controller.sensorS * 1000,
  seed: seedOf(`${site.id}/${controller.id}`),
  auto: {
    start: controller.auto.start === 'auto',
    hand: controller.auto.hand,
    yieldMs: controller.auto.yieldMinutes * 60_000,
  },
})

/**
 * The tables that a board runs, and as what: the coprocessor of a pair runs those of its main board, and mirrors it.
 */
export interface BoardTables {
  readonly board: string
  readonly image: ControllerImage
  readonly part: PairRole
}

export function tablesOf(site: Site, controllerId: string): BoardTables {
  const main = mainOf(site, controllerId)
  return {
    board: controllerId,
    image: compileController(site, main?.id ?? controllerId),
    part: main ? 'mirror' : 'main',
  }
}

/** All boards of a site, in order. */
export const compileSite = (site: Site): BoardTables[] =>
  site.controllers.map((controller) => tablesOf(site, controller.id))

const hashOf = (tables: object): string => bytesToHex(sha256(utf8ToBytes(JSON.stringify(tables)))).slice(0, 12)

/** A 32-bit seed that differs between controllers and is never 0, which xorshift cannot leave. */
const seedOf = (text: string): number => Number.parseInt(bytesToHex(sha256(utf8ToBytes(text))).slice(0, 8), 16) || 1

function gpioOf(site: Site, controller: Controller, role: string): number {
  const choice = controller.pins[role]
  if (!choice) return NO_PIN
  const reading = readPinOn(site, controller, choice.pin)
  return reading.kind === 'spot' ? reading.spot.gpio : NO_PIN
}

/** The first infrared receiver among the controller's parts; its role is named as in `site/lookups`. */
function receiverOf(site: Site, controller: Controller): number {
  const part = controller.parts.find((candidate) => candidate.profile === 'infrared-receiver')
  return part ? gpioOf(site, controller, `part:${part.id}:out`) : NO_PIN
}

const bytesOf = (frame: string): number[] => frame.split(' ').map((byte) => Number.parseInt(byte, 16))

/** Frames for the relays of a box that a second chip works. */
function toldOf({ boxed }: BoardProfile): Pick<ControllerImage, 'told'> {
  if (boxed?.relaysBy !== 'serial' || !boxed.frames) return {}
  const { baud, relays } = boxed.frames
  return { told: { baud, relays: relays.map(({ off, on }) => ({ off: bytesOf(off), on: bytesOf(on) })) } }
}

/** The board's own light, where it shows the link. */
function lightOf({ statusLight, link }: Controller, { own }: BoardProfile): Pick<ControllerImage, 'light'> {
  const light = own?.light
  if (!statusLight || !light || link === 'none') return {}
  return { light: { gpio: light.gpio, lit: light.lit === 'high' ? 1 : 0 } }
}

/** The pins of the part that carries the controller's link: a modem has a line of its own. */
function lineOf(site: Site, controller: Controller): ControllerImage['line'] {
  const pin = (need: 'serial-tx' | 'serial-rx'): number => {
    const role = serialSignalOf(site, controller, need)
    return role ? gpioOf(site, controller, role.id) : NO_PIN
  }
  return { sends: pin('serial-tx'), hears: pin('serial-rx') }
}

function compileInput(
  site: Site,
  controller: Controller,
  input: Input,
  isHeld: boolean,
  inputs: readonly Input[],
): ImageInput {
  const gate = input.kind === 'selector' && input.gate ? inputs.findIndex(({ id }) => id === input.gate) : -1
  return {
    id: input.id,
    gpios: inputRoles(input).map((role) => gpioOf(site, controller, role)),
    kind: input.kind,
    pull: input.pull !== 'internal' ? 'none' : input.closedLevel === 'low' ? 'up' : 'down',
    analogue: input.sense === 'analogue',
    closedLevel: input.closedLevel === 'low' ? 0 : 1,
    settle: input.settle,
    settleMs: input.settleMs,
    holdMs: input.kind === 'momentary' && isHeld ? input.holdMs : 0,
    table: input.kind === 'selector' ? input.table.map((level) => level ?? NO_LEVEL) : [],
    ...(gate < 0 ? {} : { gate }),
  }
}

const maskOf = (contacts: readonly number[]): number => contacts.reduce((mask, contact) => mask | (1 << contact), 0)

function compileChannel(site: Site, controller: Controller, channel: Channel, inputs: readonly Input[]): ImageChannel {
  const hubWay = waysTo(site, channel.id).find((way) => way.kind === 'hub')
  const entity = hubWay && site.hubs.find((hub) => hub.id === hubWay.hub)?.entities.find((e) => e.id === hubWay.entity)
  const powerUp = powerUpOf(channel)
  const kind = kindOf(channel)
  const position = kind.position(channel)
  const { gapMs, maxOnMs, minOffMs } = kind.timing(channel)
  const contact = position?.input ? inputs.findIndex((input) => input.id === position.input) : -1
  return {
    kind: channel.kind,
    id: channel.id,
    topic: entity?.topic ?? channel.id,
    gpios: outputRoles(channel).map((role) => gpioOf(site, controller, role)),
    patterns: kind.patterns(channel).map(maskOf),
    gapMs,
    wrap: kind.wraps(channel),
    onLevel: kind.firstLevel(channel),
    activeLow: channel.active === 'low',
    maxOnMs,
    minOffMs,
    powerUp: powerUp.policy,
    waitMs: waitsAtPowerUp(powerUp) ? powerUp.waitMs : 0,
    otherwise: waitsAtPowerUp(powerUp) ? (powerUp.otherwise ?? 'off') : 'off',
    takesSet: hubWay !== undefined,
    reports: hubWay === undefined || hubWay.feedback === 'reports',
    essential: channel.essential,
    contact: contact < 0 ? NO_INPUT : contact,
    contactMeansClosed: position?.closedMeans === 'closed',
  }
}
