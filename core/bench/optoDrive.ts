import type { RelayModule } from '../site'

/**
 * The input of a low-active opto relay module: opto LED, indicator LED and a resistor in series from the logic supply
 * to the pin. Values are common practice: 1 kΩ, about 1.2 V for the opto's infrared LED and 1.8 V for a red indicator
 * at working current; the pair begins to conduct visibly near 1.6 V in all. The data sheet of the part in hand decides.
 */
export const OPTO = { resistorOhms: 1_000, forwardVolts: 3.0, kneeVolts: 1.6 } as const

export interface OptoChain {
  /** V across the chain with the pin high ("off"). */
  readonly offVolts: number
  /** mA still flowing then, by the straight line from the knee. */
  readonly offMilliamps: number
  /** mA with the pin low ("on"). */
  readonly onMilliamps: number
  /** V between what is left across the chain and the knee; negative: it conducts when told off. */
  readonly releaseMarginVolts: number
}

/** Works the chain out. I = (V − Vf) / R with the pin low; with the pin high V falls to supply − logic. Volts, mA. */
export function optoChain(module: RelayModule, logicVolts: number): OptoChain {
  const supply = module.coilJumper === 'removed' ? logicVolts : module.coilVolts
  const offVolts = Math.max(0, supply - logicVolts)
  const through = (volts: number, forward: number) => Math.max(0, ((volts - forward) / OPTO.resistorOhms) * 1000)
  return { offVolts, offMilliamps: through(offVolts, OPTO.kneeVolts), onMilliamps: through(supply, OPTO.forwardVolts), releaseMarginVolts: OPTO.kneeVolts - offVolts }
}
