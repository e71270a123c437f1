import { boardIn, moduleIn, type BoardProfile, type PartProfile, type SupplyProfile } from '../boards'
import {
  powerUpOf,
  channelsOn,
  coprocessorOf,
  loadOf,
  relaysOn,
  type Controller,
  type Site,
  type SupplyPlan,
} from '../site'
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

/**
 * A capacitor at the low end of its tolerance, and its series resistance with a short lead (memory of usual data
 * sheets).
 */
export const RESERVOIR = { tolerance: 0.2, seriesOhms: 0.05 } as const
/** ms of one of the eight time slots of a frame (GSM 05.02, published, from memory). */
const SLOT_MS = 0.577
const SLOTS = 8
/** V that a burst may take from a modem's rail (common practice: 4.0 V less 0.4 V stays above its 3.4 V). */
export const MOST_DIP_VOLTS = 0.4

/**
 * What a reservoir loses while it alone feeds a burst: ΔV = I·t / (C·(1 − 20 %)) + I·ESR. mA, ms, µF → V.
 */
export const reservoirDip = (milliamps: number, ms: number, microfarads: number): number =>
  milliamps <= 0
    ? 0
    : microfarads > 0
      ? (milliamps * ms) / (microfarads * (1 - RESERVOIR.tolerance)) + (milliamps / 1000) * RESERVOIR.seriesOhms
      : Number.POSITIVE_INFINITY

/** The least of usual capacitors that loses no more than it may, µF. */
export const reservoirFor = (milliamps: number, ms: number): number | undefined =>
  [470, 1_000, 2_200, 3_300, 4_700, 6_800, 10_000, 15_000].find(
    (microfarads) => reservoirDip(milliamps, ms, microfarads) <= MOST_DIP_VOLTS,
  )

/** W turned to heat in a linear converter: (V_in − V_out) · I. */
export const linearHeat = (inVolts: number, outVolts: number, milliamps: number): number =>
  Math.max(0, ((inVolts - outVolts) * milliamps) / 1000)

interface FittedPart {
  readonly name: string
  readonly profile: PartProfile
}

/** What a budget is worked out from: the plan with its profiles looked up. */
interface Supplied {
  readonly site: Site
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
  /** the radio of a pair, which hangs on the same supply */
  readonly coprocessor: BoardProfile | undefined
}

/** The board of a coprocessor that has no supply plan of its own. */
function radioOf(site: Site, { id }: Controller): BoardProfile | undefined {
  const radio = coprocessorOf(site, id)
  return radio && radio.supply === null ? boardIn(site, radio.board) : undefined
}

function suppliedOf(site: Site, controller: Controller): Supplied | undefined {
  const board = boardIn(site, controller.board)
  const plan = controller.supply
  const source = plan ? moduleIn(site, 'supply', plan.source) : undefined
  if (!board || !plan || !source) return undefined
  const converter = (id: string | null) => (id === null ? undefined : moduleIn(site, 'supply', id))
  return {
    site,
    controller,
    board,
    plan,
    source,
    before: { board: converter(plan.board), coils: converter(plan.coils), own: converter(plan.own) },
    parts: controller.parts.flatMap((part) => {
      const profile = moduleIn(site, 'part', part.profile)
      return profile ? [{ name: part.name, profile }] : []
    }),
    coprocessor: radioOf(site, controller),
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

/** mA that the source of the own feed gives to it, with a fifth kept back. */
function ownSupply({ source, before }: Supplied): number {
  const { own } = before
  return (own ? own.milliamps : source.milliamps) * 0.8
}

/** The hardest burst of any part: mA that the reservoir must give for ms; null: nothing bursts. */
function burstOf(supplied: Supplied): { readonly peak: number; readonly ms: number } | null {
  const bursting = supplied.parts.filter(({ profile }) => profile.burstMs > 0)
  if (bursting.length === 0) return null
  const { draw, burstMs } = bursting.reduce((a, b) => (b.profile.draw.peak > a.profile.draw.peak ? b : a)).profile
  // on a feed of its own the converter gives its share; on the common source that is already taken
  const given = supplied.before.own ? ownSupply(supplied) : 0
  return { peak: Math.max(0, draw.peak - given), ms: burstMs }
}

const dipOf = (supplied: Supplied): number | null => {
  const burst = burstOf(supplied)
  return burst && reservoirDip(burst.peak, burst.ms, supplied.plan.reservoirMicrofarads)
}

/**
 * The parts with a feed of their own, mA. Where the reservoir holds the rail through a burst, the source sees its mean
 * over the frame; where it does not, the whole of it.
 */
function ownMilliamps(supplied: Supplied): { readonly idle: number; readonly peak: number } {
  const own = supplied.parts.filter(({ profile }) => profile.rail === 'own')
  const dip = dipOf(supplied)
  const holds = supplied.plan.reservoirMicrofarads > 0 && dip !== null && dip <= MOST_DIP_VOLTS
  const part = (burstMs: number) => (burstMs > 0 && holds ? Math.min(1, burstMs / (SLOT_MS * SLOTS)) : 1)
  return {
    idle: sum(own, 'idle'),
    peak: own.reduce((total, { profile }) => total + profile.draw.peak * part(profile.burstMs), 0),
  }
}

/** Loads that hang on the controller's own source: a strike on its adapter, at the volts of the source. */
const ownLoads = ({ site, controller }: Supplied): Share[] =>
  channelsOn(site, controller.id).flatMap((channel): Share[] => {
    const load = loadOf(site, channel.load)
    if (load?.supply !== 'low-voltage' || load.feed.from !== 'controller') return []
    const milliamps = (load.watts / load.volts) * 1000
    return [{ name: load.name, steady: milliamps, peak: milliamps }]
  })

/** The same at the source, consumer by consumer. */
function sharesOf(supplied: Supplied): Share[] {
  const { source, before, relays, controller, parts, coprocessor } = supplied
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
    ...(coprocessor
      ? [share(coprocessor.name, 'board', coprocessor.drawMilliamps.idle, coprocessor.drawMilliamps.peak)]
      : []),
    ...ownLoads(supplied),
    ...(own.length ? [share(own.map(({ name }) => name).join(', '), 'own', idle, peak)] : []),
  ]
}

function startUpOf(supplied: Supplied): StartUp {
  const { source, before, controller, atPowerUp } = supplied
  const { staggerMs } = controller
  const radio = supplied.coprocessor?.drawMilliamps ?? { idle: 0, peak: 0 }
  const own = ownMilliamps(supplied)
  // what joins a network peaks with the board: the coprocessor, and the modem
  const at = (of: 'idle' | 'peak') =>
    throughConverter(source, before.board, boardMilliamps(supplied, of) + radio[of]) +
    throughConverter(source, before.own, own[of])
  const board = at('peak')
  const boardIdle = at('idle')
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
  const burst = burstOf(supplied)
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
    burst,
  }
  const coil = coilMilliamps(controller)
  const toCoils = before.coils
  return { ...budget, calculations: calculationsOf(budget, { controller, plan, start, burst, coil, relays, toCoils }) }
}
