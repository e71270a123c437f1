import type { RelayModule } from '../site'
import { E12, ohms } from './preferred'
import { figure, type Calculation } from './calculation'

/**
 * The input of an opto relay module: opto LED, indicator LED and a resistor in series, from the logic supply to the pin
 * of a low-active one, from the pin to ground of a high-active one. Common practice: 1 kΩ; an infrared LED (about
 * 1.15 V at 1 mA) and a red indicator (about 1.75 V at 1 mA). On many modules the indicator stands elsewhere and the
 * opto LED alone is in the chain. Until somebody has looked, the worst case is taken for each question: both LEDs for
 * pulling in, the opto's alone for letting go. The data sheet of the part in hand decides.
 */
export const OPTO = {
  resistorOhms: 1_000,
  /** V at which the opto's LED alone begins to conduct visibly. */
  kneeVolts: 1.0,
  /** V of both LEDs in series. */
  bothKneeVolts: 2.5,
  /**
   * Current transfer ratio of the opto and gain of the transistor behind it: the least that usual data sheets promise,
   * and what usual parts have (memory).
   */
  least: { transfer: 0.5, gain: 100 },
  usual: { transfer: 1, gain: 250 },
  /** Diode law of each LED: saturation current (A) and emission coefficient, fitted to the volts above. */
  opto: { saturationAmps: 5.3e-14, emission: 1.88 },
  indicator: { saturationAmps: 2.0e-18, emission: 2.0 },
  thermalVolts: 0.02585, // kT/q at 300 K
} as const

export type ChainLeds = 'opto' | 'both'

/**
 * mA of LED current that hold a coil in: I_LED = I_coil / (β · CTR). A 71 mA coil asks for 1.43 mA of the least parts,
 * and for 0.29 mA of usual ones.
 */
export function pullInMilliamps({ coilVolts, coilOhms }: RelayModule, parts: 'least' | 'usual'): number {
  const { transfer, gain } = OPTO[parts]
  return ((coilVolts / coilOhms) * 1000) / (gain * transfer)
}

/** V across the LEDs at a current in A: V = n·Vt·ln(I/Is + 1) for each (Shockley). */
const ledVolts = (amps: number, leds: ChainLeds): number =>
  (leds === 'both' ? [OPTO.opto, OPTO.indicator] : [OPTO.opto]).reduce(
    (sum, led) => sum + led.emission * OPTO.thermalVolts * Math.log(amps / led.saturationAmps + 1),
    0,
  )

/** mA through the chain for V across it, by bisection: R·I + V(I) rises with I. */
export function chainMilliamps(volts: number, leds: ChainLeds, resistorOhms: number = OPTO.resistorOhms): number {
  if (volts <= 0) return 0
  let low = 0
  let high = volts / resistorOhms
  for (let i = 0; i < 60; i++) {
    const amps = (low + high) / 2
    if (amps * resistorOhms + ledVolts(amps, leds) > volts) high = amps
    else low = amps
  }
  return low * 1000
}

export interface OptoChain {
  /** V across the chain with the pin high ("off"). */
  readonly offVolts: number
  /** mA still flowing then. */
  readonly offMilliamps: number
  /** mA with the pin low ("on"). */
  readonly onMilliamps: number
  /** V between what is left across the chain and the knee; negative: it conducts when told off. */
  readonly releaseMarginVolts: number
}

/** V that light the chain when it is told on: the pin's own for a high-active input, whatever the jumper. */
const litVolts = ({ active, coilJumper, coilVolts }: RelayModule, logicVolts: number): number =>
  active === 'high' || coilJumper === 'removed' ? logicVolts : coilVolts

/** Works the chain out. With the pin told off, V falls to supply − logic, or to nothing. Volts, mA. */
export function optoChain(module: RelayModule, logicVolts: number): OptoChain {
  const lit = litVolts(module, logicVolts)
  const offVolts = module.active === 'high' ? 0 : Math.max(0, lit - logicVolts)
  const knee = module.chain === 'both' ? OPTO.bothKneeVolts : OPTO.kneeVolts
  return {
    offVolts,
    offMilliamps: chainMilliamps(offVolts, module.chain ?? 'opto', module.inputOhms),
    onMilliamps: chainMilliamps(lit, module.chain ?? 'both', module.inputOhms),
    releaseMarginVolts: knee - offVolts,
  }
}

/** The largest resistor of E12 with which the chain gives these mA; null: these volts do not reach it with any. */
export function chainOhms(module: RelayModule, logicVolts: number, milliamps: number): number | null {
  const lit = litVolts(module, logicVolts)
  const values = E12.flatMap((step) => [step * 100, step * 1000])
  const fitting = values.filter((value) => chainMilliamps(lit, module.chain ?? 'both', value) >= milliamps)
  return fitting.length > 0 ? Math.max(...fitting) : null
}

const line = (name: string, value: number, unit: string, formula: string): Calculation => ({
  name,
  value,
  unit,
  formula,
  source: 'common practice; diode law (Shockley)',
})

/** The chain with its formulas, jumper as fitted. */
export function optoCalculations(module: RelayModule, logicVolts: number): Calculation[] {
  const { offVolts, offMilliamps, onMilliamps, releaseMarginVolts } = optoChain(module, logicVolts)
  const supply = litVolts(module, logicVolts)
  const resistor = ohms(module.inputOhms)
  const ledsOn = supply - (onMilliamps / 1000) * module.inputOhms
  const ledsOff = offVolts - (offMilliamps / 1000) * module.inputOhms
  const current = (volts: number, leds: string, drop: number, milliamps: number) =>
    `I = (V − ${leds}) / R = (${figure(volts)} V − ${figure(drop)} V) / ${resistor} = ${figure(milliamps)} mA`
  const left =
    module.active === 'high'
      ? 'V = V_low = 0 V'
      : `V = V_supply − V_high = ${supply} V − ${logicVolts} V = ${figure(offVolts)} V`
  const margin = `${figure(releaseMarginVolts + offVolts)} V − ${figure(offVolts)} V = ${figure(releaseMarginVolts)} V`
  return [
    line('LED current, on', onMilliamps, 'mA', current(supply, 'V_LED', ledsOn, onMilliamps)),
    line('left across the chain, off', offVolts, 'V', left),
    line('LED current, off', offMilliamps, 'mA', current(offVolts, 'V_opto', ledsOff, offMilliamps)),
    line('release margin', releaseMarginVolts, 'V', `V_knee − V = ${margin}`),
    holdingLine(module),
  ]
}

function holdingLine(module: RelayModule): Calculation {
  const { transfer, gain } = OPTO.least
  const [least, usual] = [pullInMilliamps(module, 'least'), pullInMilliamps(module, 'usual')]
  const coil = figure((module.coilVolts / module.coilOhms) * 1000)
  return {
    name: 'LED current that holds the coil',
    value: least,
    unit: 'mA',
    formula:
      `I = I_coil / (β · CTR) = ${coil} mA / (${gain} · ${transfer}) = ${figure(least)} mA at worst, ` +
      `${figure(usual)} mA with usual parts`,
    source: 'gain and transfer ratio memory of usual data sheets',
  }
}
