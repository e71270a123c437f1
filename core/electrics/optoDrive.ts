import type { RelayModule } from '../site'
import { ohms } from './preferred'
import { figure, type Calculation } from './calculation'

/**
 * The input of a low-active opto relay module: opto LED, indicator LED and a resistor in series from the logic supply
 * to the pin. Common practice: 1 kΩ; an infrared LED (about 1.15 V at 1 mA) and a red indicator (about 1.75 V at 1 mA).
 * On many modules the indicator stands elsewhere and the opto LED alone is in the chain. So the worst case is taken for
 * each question: both LEDs for pulling in, the opto's alone for letting go. The data sheet of the part in hand decides.
 */
export const OPTO = {
  resistorOhms: 1_000,
  /** V at which the opto's LED alone begins to conduct visibly. */
  kneeVolts: 1.0,
  /** Least LED current at which the opto pulls its relay in, mA (common practice). */
  pullInMilliamps: 0.3,
  /** Diode law of each LED: saturation current (A) and emission coefficient, fitted to the volts above. */
  opto: { saturationAmps: 5.3e-14, emission: 1.88 },
  indicator: { saturationAmps: 2.0e-18, emission: 2.0 },
  thermalVolts: 0.02585, // kT/q at 300 K
} as const

export type ChainLeds = 'opto' | 'both'

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

/** Works the chain out. With the pin high, V falls to supply − logic. Volts, mA. */
export function optoChain(module: RelayModule, logicVolts: number): OptoChain {
  const supply = module.coilJumper === 'removed' ? logicVolts : module.coilVolts
  const offVolts = Math.max(0, supply - logicVolts)
  return {
    offVolts,
    offMilliamps: chainMilliamps(offVolts, 'opto', module.inputOhms),
    onMilliamps: chainMilliamps(supply, 'both', module.inputOhms),
    releaseMarginVolts: OPTO.kneeVolts - offVolts,
  }
}

/** The chain with its formulas, jumper as fitted. */
export function optoCalculations(module: RelayModule, logicVolts: number): Calculation[] {
  const chain = optoChain(module, logicVolts)
  const supply = module.coilJumper === 'removed' ? logicVolts : module.coilVolts
  const source = 'common practice; diode law (Shockley)'
  const resistor = ohms(module.inputOhms)
  const leds = supply - (chain.onMilliamps / 1000) * module.inputOhms
  return [
    {
      name: 'LED current, on',
      value: chain.onMilliamps,
      unit: 'mA',
      formula: `I = (V − V_LED) / R = (${supply} V − ${figure(leds)} V) / ${resistor} = ${figure(chain.onMilliamps)} mA`,
      source,
    },
    {
      name: 'left across the chain, off',
      value: chain.offVolts,
      unit: 'V',
      formula: `V = V_supply − V_high = ${supply} V − ${logicVolts} V = ${figure(chain.offVolts)} V`,
      source,
    },
    {
      name: 'LED current, off',
      value: chain.offMilliamps,
      unit: 'mA',
      formula:
        `I = (V − V_opto) / R = (${figure(chain.offVolts)} V − ` +
        `${figure(chain.offVolts - (chain.offMilliamps / 1000) * module.inputOhms)} V) / ${resistor} = ` +
        `${figure(chain.offMilliamps)} mA`,
      source,
    },
    {
      name: 'release margin',
      value: chain.releaseMarginVolts,
      unit: 'V',
      formula: `V_knee − V = ${OPTO.kneeVolts} V − ${figure(chain.offVolts)} V = ${figure(chain.releaseMarginVolts)} V`,
      source,
    },
  ]
}
