import { boardIn, moduleIn, type SupplyProfile } from '../boards'
import { powerUpOf, channelsOn, relaysOn, type Controller, type Site } from '../site'
import { optoChain } from './optoDrive'
import { figure, type Calculation } from './calculation'

/** Keep a quarter in hand (common practice). */
export const MARGIN = 0.25

/** How long a radio peaks when it joins, ms (common practice). */
const RADIO_JOIN_MS = 500

/** One piece of the stacked bar: what a consumer draws from the source, mA at the source's volts. */
export interface Share {
  readonly name: string
  readonly steady: number
  readonly peak: number
}

export interface Heat {
  readonly where: string
  readonly watts: number
  readonly degrees: number
}

export interface SupplyBudget {
  readonly source: SupplyProfile
  readonly shares: readonly Share[]
  /** mA at the source: with every relay on and the radio idle; and with everything at its peak at once */
  readonly steady: number
  readonly peak: number
  /** mA when all coils pull in together at power-up, and when they are staggered */
  readonly startTogether: number
  readonly startStaggered: number
  /** part of the source that is left at the peak; negative: it is not enough */
  readonly margin: number
  readonly heats: readonly Heat[]
  /** V that the rail of a bursting part falls, with its reservoir; null: nothing bursts */
  readonly burstDip: number | null
  readonly calculations: readonly Calculation[]
}

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

/** The supply of a controller worked out, consumer by consumer; undefined while no supply is named. */
export function supplyBudget(site: Site, controller: Controller): SupplyBudget | undefined {
  const board = boardIn(site, controller.board)
  const plan = controller.supply
  const source = plan ? moduleIn(site, 'supply', plan.source) : undefined
  if (!board || !plan || !source) return undefined
  const converter = (id: string | null) => (id === null ? undefined : moduleIn(site, 'supply', id))
  const [toBoard, toCoils, toOwn] = [converter(plan.board), converter(plan.coils), converter(plan.own)]
  const relays = relaysOn(site, controller.id).length
  const { module } = controller
  const logicMilliamps = module
    ? (module.input === 'opto' ? optoChain(module, board.logicVolts).onMilliamps : 2) * relays
    : 0
  const parts = controller.parts.flatMap((part) => {
    const profile = moduleIn(site, 'part', part.profile)
    return profile ? [{ name: part.name, profile }] : []
  })
  const onLogic = parts.filter(({ profile }) => profile.rail === 'logic')
  const onFive = parts.filter(({ profile }) => profile.rail === '5V')
  const own = parts.filter(({ profile }) => profile.rail === 'own')
  const sum = (list: typeof parts, of: 'idle' | 'peak') =>
    list.reduce((total, { profile }) => total + profile.draw[of], 0)
  const boardIdle = board.drawMilliamps.idle + logicMilliamps + sum(onLogic, 'idle') + sum(onFive, 'idle')
  const boardPeak = board.drawMilliamps.peak + logicMilliamps + sum(onLogic, 'peak') + sum(onFive, 'peak')
  const coil = coilMilliamps(controller)
  const at = (to: SupplyProfile | undefined, milliamps: number) => throughConverter(source, to, milliamps)
  const reserved = plan.reservoirMicrofarads > 0
  // With a reservoir the source sees a burst's mean: the modem sends in one of eight slots of its frame.
  const ownPeak =
    sum(
      own.filter(({ profile }) => profile.burstMs > 0),
      'peak',
    ) *
      (reserved ? 1 / 8 : 1) +
    sum(
      own.filter(({ profile }) => profile.burstMs === 0),
      'peak',
    )
  const shares: Share[] = [
    { name: 'board and logic', steady: at(toBoard, boardIdle), peak: at(toBoard, boardPeak) },
    {
      name: `${relays} ${relays === 1 ? 'coil' : 'coils'}`,
      steady: at(toCoils, coil * relays),
      peak: at(toCoils, coil * relays),
    },
    ...(own.length
      ? [
          {
            name: own.map(({ name }) => name).join(', '),
            steady: at(toOwn, sum(own, 'idle')),
            peak: at(toOwn, ownPeak),
          },
        ]
      : []),
  ]
  const steady = shares.reduce((total, share) => total + share.steady, 0)
  const peak = shares.reduce((total, share) => total + share.peak, 0)
  const atPowerUp = channelsOn(site, controller.id).filter((channel) => powerUpOf(channel).policy !== 'off').length
  const oneCoil = at(toCoils, coil)
  const boardAtStart = at(toBoard, boardPeak)
  const startTogether = boardAtStart + oneCoil * atPowerUp
  // While the radio joins it peaks; the coils that pull in meanwhile come on top, the rest only on its idle draw.
  const duringJoin =
    controller.staggerMs > 0 ? Math.min(atPowerUp, 1 + Math.floor(RADIO_JOIN_MS / controller.staggerMs)) : atPowerUp
  const startStaggered = Math.max(boardAtStart + oneCoil * duringJoin, at(toBoard, boardIdle) + oneCoil * atPowerUp)
  const bursting = parts.filter(({ profile }) => profile.burstMs > 0)
  const burst = bursting.reduce(
    (most, { profile }) => (profile.draw.peak > most.peak ? { peak: profile.draw.peak, ms: profile.burstMs } : most),
    { peak: 0, ms: 0 },
  )
  const burstDip = bursting.length ? reservoirDip(burst.peak, burst.ms, plan.reservoirMicrofarads) : null
  const heats = [
    ...[
      { where: 'converter to the board', to: toBoard, milliamps: boardIdle },
      { where: 'converter to the coils', to: toCoils, milliamps: coil * relays },
    ].flatMap(({ where, to, milliamps }) =>
      to?.type === 'linear' ? [heatOf(where, source.volts, to.volts, milliamps, to.degreesPerWatt ?? 65)] : [],
    ),
    ...(board.regulator.kind === 'linear' && board.logicVolts < (toBoard?.volts ?? source.volts)
      ? [
          heatOf(
            "board's regulator",
            toBoard?.volts ?? source.volts,
            board.logicVolts,
            boardIdle,
            board.regulator.degreesPerWatt,
          ),
        ]
      : []),
  ]
  const margin = (source.milliamps - peak) / source.milliamps
  return {
    source,
    shares,
    steady,
    peak,
    startTogether,
    startStaggered,
    margin,
    heats,
    burstDip,
    calculations: [
      ...(module
        ? [
            {
              name: 'one coil',
              value: coil,
              unit: 'mA',
              formula: `I = U / R = ${module.coilVolts} V / ${module.coilOhms} Ω = ${figure(coil)} mA`,
              source: 'Ohm’s law; coil resistance memory of usual relay data sheets',
            },
          ]
        : []),
      ...(toCoils && toCoils.type !== 'linear'
        ? [
            {
              name: 'coils at the source',
              value: oneCoil * relays,
              unit: 'mA',
              formula:
                `I = U_out · I_out / (U_in · η) = ${toCoils.volts} V · ${figure(coil * relays)} mA / ` +
                `(${source.volts} V · ${toCoils.efficiency}) = ${figure(oneCoil * relays)} mA`,
              source: 'power in equals power out over efficiency',
            },
          ]
        : []),
      {
        name: 'steady',
        value: steady,
        unit: 'mA',
        formula: `${shares.map((share) => figure(share.steady)).join(' + ')} = ${figure(steady)} mA`,
        source: 'sum',
      },
      {
        name: 'peak',
        value: peak,
        unit: 'mA',
        formula: `${shares.map((share) => figure(share.peak)).join(' + ')} = ${figure(peak)} mA`,
        source: 'sum',
      },
      {
        name: 'in hand at the peak',
        value: margin * 100,
        unit: '%',
        formula:
          `(${figure(source.milliamps)} − ${figure(peak)}) mA / ${figure(source.milliamps)} mA = ` +
          `${figure(margin * 100)} %; a quarter is wanted`,
        source: 'common practice',
      },
      {
        name: 'all coils at once at power-up',
        value: startTogether,
        unit: 'mA',
        formula: `${figure(boardAtStart)} + ${atPowerUp} · ${figure(oneCoil)} = ${figure(startTogether)} mA`,
        source: 'sum',
      },
      {
        name: `staggered by ${controller.staggerMs} ms`,
        value: startStaggered,
        unit: 'mA',
        formula: `${duringJoin} of ${atPowerUp} within the radio's ${RADIO_JOIN_MS} ms: ${figure(startStaggered)} mA`,
        source: 'common practice',
      },
      ...heats.map((heat) => ({
        name: `heat in the ${heat.where}`,
        value: heat.watts,
        unit: 'W',
        formula:
          `P = (U_in − U_out) · I = ${figure(heat.watts)} W, about ${figure(heat.degrees)} K above its ` +
          'surroundings',
        source: 'P = U·I; thermal resistance memory of usual data sheets',
      })),
      ...(burstDip !== null && Number.isFinite(burstDip)
        ? [
            {
              name: 'dip of a burst',
              value: burstDip,
              unit: 'V',
              formula:
                `ΔV = I · t / C = ${figure(burst.peak)} mA · ${burst.ms} ms / ${plan.reservoirMicrofarads} µF ` +
                `= ${figure(burstDip)} V`,
              source: 'charge of a capacitor',
            },
          ]
        : []),
    ],
  }
}

const heatOf = (where: string, inVolts: number, outVolts: number, milliamps: number, degreesPerWatt: number): Heat => {
  const watts = linearHeat(inVolts, outVolts, milliamps)
  return { where, watts, degrees: watts * degreesPerWatt }
}
