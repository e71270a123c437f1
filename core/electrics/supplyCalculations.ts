import type { SupplyProfile } from '../boards'
import type { Controller, SupplyPlan } from '../site'
import { figure, type Calculation } from './calculation'
import { RADIO_JOIN_MS, type StartUp, type SupplyBudget } from './budget'

/** What the lines of a budget need besides its results. */
export interface BudgetParts {
  readonly controller: Controller
  readonly plan: SupplyPlan
  readonly start: StartUp
  readonly burst: { readonly peak: number; readonly ms: number } | null
  /** mA of one coil */
  readonly coil: number
  readonly relays: number
  readonly toCoils: SupplyProfile | undefined
}

type Results = Omit<SupplyBudget, 'calculations'>
const line = (name: string, value: number, unit: string, formula: string, source: string): Calculation => ({
  name,
  value,
  unit,
  formula,
  source,
})

function coilLines({ source }: Results, { controller, coil, relays, start, toCoils }: BudgetParts): Calculation[] {
  const { module } = controller
  const all = start.oneCoil * relays
  return [
    ...(module
      ? [
          line(
            'one coil',
            coil,
            'mA',
            `I = U / R = ${module.coilVolts} V / ${module.coilOhms} Ω = ${figure(coil)} mA`,
            'Ohm’s law; coil resistance memory of usual relay data sheets',
          ),
        ]
      : []),
    ...(toCoils && toCoils.type !== 'linear'
      ? [
          line(
            'coils at the source',
            all,
            'mA',
            `I = U_out · I_out / (U_in · η) = ${toCoils.volts} V · ${figure(coil * relays)} mA / ` +
              `(${source.volts} V · ${toCoils.efficiency}) = ${figure(all)} mA`,
            'power in equals power out over efficiency',
          ),
        ]
      : []),
  ]
}

function sumLines({ source, shares, steady, peak, margin }: Results): Calculation[] {
  const added = (of: 'steady' | 'peak') => shares.map((share) => figure(share[of])).join(' + ')
  return [
    line('steady', steady, 'mA', `${added('steady')} = ${figure(steady)} mA`, 'sum'),
    line('peak', peak, 'mA', `${added('peak')} = ${figure(peak)} mA`, 'sum'),
    line(
      'headroom at peak',
      margin * 100,
      '%',
      `(${figure(source.milliamps)} − ${figure(peak)}) mA / ${figure(source.milliamps)} mA = ` +
        `${figure(margin * 100)} %; 25 % recommended`,
      'common practice',
    ),
  ]
}

const startLines = ({ controller: { staggerMs }, start }: BudgetParts): Calculation[] => [
  line(
    'all coils at once at power-up',
    start.together,
    'mA',
    `${figure(start.board)} + ${start.coils} · ${figure(start.oneCoil)} = ${figure(start.together)} mA`,
    'sum',
  ),
  line(
    `staggered by ${staggerMs} ms`,
    start.staggered,
    'mA',
    `${start.duringJoin} of ${start.coils} within the radio's ${RADIO_JOIN_MS} ms: ${figure(start.staggered)} mA`,
    'common practice',
  ),
]

const heatLines = ({ heats }: Results): Calculation[] =>
  heats.map(({ where, watts, degrees }) =>
    line(
      `heat in the ${where}`,
      watts,
      'W',
      `P = (U_in − U_out) · I = ${figure(watts)} W, about ${figure(degrees)} K above its surroundings`,
      'P = U·I; thermal resistance memory of usual data sheets',
    ),
  )

function dipLines({ burstDip }: Results, { burst, plan }: BudgetParts): Calculation[] {
  if (!burst || burstDip === null || !Number.isFinite(burstDip)) return []
  const formula =
    `ΔV = I · t / (0.8 · C) + I · ESR = ${figure(burst.peak)} mA · ${burst.ms} ms / (0.8 · ` +
    `${plan.reservoirMicrofarads} µF) + ${figure(burst.peak)} mA · 50 mΩ = ${figure(burstDip)} V`
  return [line('dip of a burst', burstDip, 'V', formula, 'charge of a capacitor; tolerance and ESR memory')]
}

/** A budget's figures, each with its formula, in the order in which a maker follows them. */
export const calculationsOf = (results: Results, parts: BudgetParts): Calculation[] => [
  ...coilLines(results, parts),
  ...sumLines(results),
  ...startLines(parts),
  ...heatLines(results),
  ...dipLines(results, parts),
]
