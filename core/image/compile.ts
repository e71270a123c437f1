import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js'
import { boardIn } from '../boards'
import { readPinOn } from '../bench'
import { channelsOn, controllerOf, inputRoles, inputsOn, outputRoles, pointOf, waysTo, type Channel, type Controller, type Input, type Site, type WallWay } from '../site'
import { NO_LEVEL, NO_PIN, type ControllerImage, type ImageBinding, type ImageChannel, type ImageInput, type ImagePoint } from './types'

/** The site names no such controller, or a board that has no profile. */
export class CompileRefused extends Error {
  readonly code = 'compile-refused'
}

/** Compiles one controller of a site. Throws CompileRefused. The same site gives the same image and hash. */
export function compileController(site: Site, controllerId: string): ControllerImage {
  const controller = controllerOf(site, controllerId)
  if (!controller) throw new CompileRefused(`there is no controller "${controllerId}" in this site`)
  const board = boardIn(site, controller.board)
  if (!board) throw new CompileRefused(`controllers.${controller.id}.board: there is no board profile "${controller.board}"`)
  const channels = channelsOn(site, controller.id)
  const inputs = inputsOn(site, controller.id)
  const bindings = bindingsOf(site, channels, inputs)
  const tables = {
    format: 'vestibule-image' as const,
    version: 1 as const,
    site: site.id as string,
    controller: controller.id as string,
    board: board.id,
    link: controller.link === 'wifi',
    outage: controller.outage ?? ('local' as const),
    staggerMs: controller.staggerMs,
    storeMs: controller.storeMs,
    minReportMs: controller.minReportMs,
    heartbeatMs: controller.heartbeatS * 1000,
    seed: seedOf(`${site.id}/${controller.id}`),
    inputs: inputs.map((input, i) => compileInput(site, controller, input, bindings.some((b) => b.input === i && b.gesture === 'hold'))),
    channels: channels.map((channel) => compileChannel(site, controller, channel)),
    bindings,
    points: pointsOf(site, channels),
  }
  return { ...tables, hash: hashOf(tables) }
}

/** All controllers of a site, in order. */
export const compileSite = (site: Site): ControllerImage[] => site.controllers.map((controller) => compileController(site, controller.id))

const hashOf = (tables: object): string => bytesToHex(sha256(utf8ToBytes(JSON.stringify(tables)))).slice(0, 12)

/** A 32-bit seed that differs between controllers and is never 0, which xorshift cannot leave. */
const seedOf = (text: string): number => Number.parseInt(bytesToHex(sha256(utf8ToBytes(text))).slice(0, 8), 16) || 1

function gpioOf(site: Site, controller: Controller, role: string): number {
  const choice = controller.pins[role]
  if (!choice) return NO_PIN
  const reading = readPinOn(site, controller, choice.pin)
  return reading.kind === 'spot' ? reading.spot.gpio : NO_PIN
}

function compileInput(site: Site, controller: Controller, input: Input, holdIsBound: boolean): ImageInput {
  return {
    id: input.id,
    gpios: inputRoles(input).map((role) => gpioOf(site, controller, role)),
    kind: input.kind,
    pull: input.pull !== 'internal' ? 'none' : input.closedLevel === 'low' ? 'up' : 'down',
    analogue: input.sense === 'analogue',
    closedLevel: input.closedLevel === 'low' ? 0 : 1,
    settle: input.settle,
    settleMs: input.settleMs,
    holdMs: input.kind === 'momentary' && holdIsBound ? input.holdMs : 0,
    table: input.kind === 'selector' ? input.table.map((level) => level ?? NO_LEVEL) : [],
  }
}

function compileChannel(site: Site, controller: Controller, channel: Channel): ImageChannel {
  const hubWay = waysTo(site, channel.id).find((way) => way.kind === 'hub')
  const entity = hubWay && site.hubs.find((hub) => hub.id === hubWay.hub)?.entities.find((e) => e.id === hubWay.entity)
  const { powerUp } = channel
  return {
    kind: channel.kind,
    id: channel.id,
    topic: entity?.topic ?? channel.id,
    gpios: outputRoles(channel).map((role) => gpioOf(site, controller, role)),
    patterns: channel.kind === 'stepped' ? channel.patterns.map((contacts) => contacts.reduce((mask, contact) => mask | (1 << contact), 0)) : [0, 1],
    gapMs: channel.kind === 'stepped' ? channel.gapMs : 0,
    wrap: channel.kind === 'stepped' && channel.wrap,
    onLevel: channel.kind === 'stepped' ? channel.onLevel : 1,
    activeLow: channel.active === 'low',
    maxOnMs: channel.maxOnMs ?? 0,
    minOffMs: channel.minOffMs ?? 0,
    powerUp: powerUp.policy,
    waitMs: powerUp.policy === 'service' ? powerUp.waitMs : 0,
    otherwise: powerUp.policy === 'service' ? (powerUp.otherwise ?? 'off') : 'off',
    takesSet: hubWay !== undefined,
    reports: hubWay === undefined || hubWay.feedback === 'reports',
  }
}

/** Bindings in the order of channels, their wall ways, and the gestures within: the order in which they act. */
function bindingsOf(site: Site, channels: readonly Channel[], inputs: readonly Input[]): ImageBinding[] {
  return channels.flatMap((channel, channelIndex) =>
    waysTo(site, channel.id)
      .filter((way): way is WallWay => way.kind === 'wall')
      .flatMap((way) => {
        const input = inputs.findIndex((candidate) => candidate.id === way.input)
        return input < 0 ? [] : way.bindings.map((b): ImageBinding => ({ input, gesture: b.gesture, action: b.action, channel: channelIndex }))
      }),
  )
}

/** Points on this controller's own device; a point of another device cannot reach this board. */
function pointsOf(site: Site, channels: readonly Channel[]): ImagePoint[] {
  return channels.flatMap((channel, channelIndex) =>
    waysTo(site, channel.id).flatMap((way): ImagePoint[] => {
      if (way.kind !== 'app') return []
      const point = pointOf(site, way.service, way.point)
      if (!point || point.controller !== channel.controller) return []
      return [{ vp: point.vp, channel: channelIndex, min: point.min, max: point.max, reports: way.feedback === 'reports' && point.access !== 'write' }]
    }),
  )
}
