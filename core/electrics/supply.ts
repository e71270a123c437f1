import { boardIn, moduleIn, type BoardProfile, type PartProfile, type SupplyProfile } from '../boards'
import { powerUpOf, channelsOn, relaysOn, type Controller, type Site, type SupplyPlan } from '../site'
import { RADIO_JOIN_MS, type Heat, type Share, type StartUp, type SupplyBudget } from './budget'
import { optoChain } from './optoDrive'
import { calculationsOf } from './supplyCalculations'

/** Keep a quarter in hand (common practice). */
export const MARGIN = 0.25

/** mA drawn from the source for mA at a rail, through a converter or straight. */
function throughConverter(source: SupplyProfile, converter: SupplyProfile | undefined, milliamps: number): number {
  if (!converter) return milliamps
  // A linear converter passes its current on; a switching one passes its power on, less its losses.
  return converter.type === 'linear' ? milliamps : (milliamps * converter.volts) / (source.volts * converter.efficiency)
}

/** A coil pulls in with its full current at once; opto LEDs and transistors come on top (worked in their own files). */
const coilMilliamps = (controller: Controller): number =>
  controller.module ? (controller.module.coilVolts / controller.module.coilOhms) * 1000 : 0

/** ΔV = I·t/C: what a reservoir loses while it alone feeds a burst. mA, ms, µF → V. */
export const reservoirDip = (milliamps: number, ms: number, microfarads: number): number =>
  microfarads > 0 ? (milliamps * ms) / microfarads : Number.POSITIVE_INFINITY

/** W turned to heat in a linear converter: (V_in − V_out) · I. */
export const linearHeat = (inVolts: number, outVolts: number, milliamps: number): number =>
  Math.max(0, ((inVolts - outVolts) * milliamps) / 1000)

interface FittedPart {
  readonly name: string
  readonly profile: PartProfile
}

/** What a budget is worked out from: the plan with its profiles looked up. */
interface Supplied {
  readonly controller: Controller
  readonly board: BoardProfile
  readonly plan: SupplyPlan
  readonly source: SupplyProfile
  /** the converter before each; undefined: fed straight from the source */
  readonly before: Readonly<Record<'board' | 'coils' | 'own', SupplyProfile | undefined>>
  readonly parts: readonly FittedPart[]
  readonly relays: number
  /** channels that act at power-up */
  readonly atPowerUp: number
}

function suppliedOf(site: Site, controller: Controller): Supplied | undefined {
  const board = boardIn(site, controller.board)
  const plan = controller.supply
  const source = plan ? moduleIn(site, 'supply', plan.source) : undefined
  if (!board || !plan || !source) return undefined
  const converter = (id: string | null) => (id === null ? undefined : moduleIn(site, 'supply', id))
  return {
    controller,
    board,
    plan,
    source,
    before: { board: converter(plan.board), coils: converter(plan.coils), own: converter(plan.own) },
    parts: controller.parts.flatMap((part) => {
      const profile = moduleIn(site, 'part', part.profile)
      return profile ? [{ name: part.name, profile }] : []
    }),
    relays: relaysOn(site, controller.id).length,
    atPowerUp: channelsOn(site, controller.id).filter((channel) => powerUpOf(channel).policy !== 'off').length,
  }
}

const sum = (parts: readonly FittedPart[], of: 'idle' | 'peak'): number =>
  parts.reduce((total, { profile }) => total + profile.draw[of], 0)

/** mA that the board feeds: itself, the inputs of the relay module, and the parts on its rails. */
function boardMilliamps({ controller: { module }, board, parts, relays }: Supplied, of: 'idle' | 'peak'): number {
  const oneInput = !module ? 0 : module.input === 'opto' ? optoChain(module, board.logicVolts).onMilliamps : 2
  const onBoard = parts.filter(({ profile }) => profile.rail !== 'own')
  return board.drawMilliamps[of] + oneInput * relays + sum(onBoard, of)
}

/** The parts with a feed of their own, mA; a burst goes through the reservoir where there is one. */
function ownMilliamps({ plan, parts }: Supplied): { readonly idle: number; readonly peak: number } {
  const own = parts.filter(({ profile }) => profile.rail === 'own')
  const bursting = own.filter(({ profile }) => profile.burstMs > 0)
  const even = own.filter(({ profile }) => profile.burstMs === 0)
  // With a reservoir the source sees a burst's mean: the modem sends in one of eight slots of its frame.
  const part = plan.reservoirMicrofarads > 0 ? 1 / 8 : 1
  return { idle: sum(own, 'idle'), peak: sum(bursting, 'peak') * part + sum(even, 'peak') }
}

/** The same at the source, consumer by consumer. */
function sharesOf(supplied: Supplied): Share[] {
  const { source, before, relays, controller, parts } = supplied
  const share = (name: string, feed: 'board' | 'coils' | 'own', idle: number, peak: number): Share => ({
    name,
    steady: throughConverter(source, before[feed], idle),
    peak: throughConverter(source, before[feed], peak),
  })
  const coils = coilMilliamps(controller) * relays
  const own = parts.filter(({ profile }) => profile.rail === 'own')
  const { idle, peak } = ownMilliamps(supplied)
  return [
    share('board and logic', 'board', boardMilliamps(supplied, 'idle'), boardMilliamps(supplied, 'peak')),
    share(`${relays} ${relays === 1 ? 'coil' : 'coils'}`, 'coils', coils, coils),
    ...(own.length ? [share(own.map(({ name }) => name).join(', '), 'own', idle, peak)] : []),
  ]
}

function startUpOf(supplied: Supplied): StartUp {
  const { source, before, controller, atPowerUp } = supplied
  const { staggerMs } = controller
  const board = throughConverter(source, before.board, boardMilliamps(supplied, 'peak'))
  const boardIdle = throughConverter(source, before.board, boardMilliamps(supplied, 'idle'))
  const oneCoil = throughConverter(source, before.coils, coilMilliamps(controller))
  // While the radio joins it peaks; the coils that pull in meanwhile come on top, the rest only on its idle draw.
  const duringJoin = staggerMs > 0 ? Math.min(atPowerUp, 1 + Math.floor(RADIO_JOIN_MS / staggerMs)) : atPowerUp
  return {
    board,
    oneCoil,
    coils: atPowerUp,
    duringJoin,
    together: board + oneCoil * atPowerUp,
    staggered: Math.max(board + oneCoil * duringJoin, boardIdle + oneCoil * atPowerUp),
  }
}

/** The hardest burst of any part: mA for ms; null: nothing bursts. */
function burstOf(parts: readonly FittedPart[]): { readonly peak: number; readonly ms: number } | null {
  const bursting = parts.filter(({ profile }) => profile.burstMs > 0)
  if (bursting.length === 0) return null
  const { draw, burstMs } = bursting.reduce((a, b) => (b.profile.draw.peak > a.profile.draw.peak ? b : a)).profile
  return { peak: draw.peak, ms: burstMs }
}

const heatOf = (where: string, inVolts: number, outVolts: number, milliamps: number, degreesPerWatt: number): Heat => {
  const watts = linearHeat(inVolts, outVolts, milliamps)
  return { where, watts, degrees: watts * degreesPerWatt }
}

/** K/W of a linear converter without a figure of its own (memory of usual data sheets). */
const USUAL_DEGREES_PER_WATT = 65

/** Where linear converters and the board's own regulator turn what is left over into heat. */
function heatsOf(supplied: Supplied): Heat[] {
  const { source, before, board, controller, relays } = supplied
  const boardIdle = boardMilliamps(supplied, 'idle')
  const converter = (where: string, to: SupplyProfile | undefined, milliamps: number): Heat[] =>
    to?.type === 'linear'
      ? [heatOf(where, source.volts, to.volts, milliamps, to.degreesPerWatt ?? USUAL_DEGREES_PER_WATT)]
      : []
  const boardIn = before.board?.volts ?? source.volts
  const { regulator, logicVolts } = board
  return [
    ...converter('converter to the board', before.board, boardIdle),
    ...converter('converter to the coils', before.coils, coilMilliamps(controller) * relays),
    ...(regulator.kind === 'linear' && logicVolts < boardIn
      ? [heatOf("board's regulator", boardIn, logicVolts, boardIdle, regulator.degreesPerWatt)]
      : []),
  ]
}

/** The supply of a controller worked out, consumer by consumer; undefined while no supply is named. */
export function supplyBudget(site: Site, controller: Controller): SupplyBudget | undefined {
  const supplied = suppliedOf(site, controller)
  if (!supplied) return undefined
  const { source, plan, before, relays } = supplied
  const shares = sharesOf(supplied)
  const steady = shares.reduce((total, share) => total + share.steady, 0)
  const peak = shares.reduce((total, share) => total + share.peak, 0)
  const start = startUpOf(supplied)
  const burst = burstOf(supplied.parts)
  const budget = {
    source,
    shares,
    steady,
    peak,
    startTogether: start.together,
    startStaggered: start.staggered,
    margin: (source.milliamps - peak) / source.milliamps,
    heats: heatsOf(supplied),
    burstDip: burst ? reservoirDip(burst.peak, burst.ms, plan.reservoirMicrofarads) : null,
  }
  const coil = coilMilliamps(controller)
  const toCoils = before.coils
  return { ...budget, calculations: calculationsOf(budget, { controller, plan, start, burst, coil, relays, toCoils }) }
}
