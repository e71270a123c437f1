import { E12, ohms, preferred } from './preferred'
import { figure, type Calculation } from './calculation'

/** A small NPN transistor as a switch (memory of usual data sheets). */
export const TRANSISTOR = { gain: 100, overdrive: 5, baseVolts: 0.7, saturationVolts: 0.2 } as const

export interface BaseDrive {
  readonly coilMilliamps: number
  /** what the base must get, with overdrive */
  readonly baseMilliamps: number
  /** preferred value, rounded down so that the base gets no less */
  readonly baseOhms: number
  /** what it then gets, which the pin must give */
  readonly pinMilliamps: number
  readonly calculations: readonly Calculation[]
}

/**
 * Base resistor for a bare relay on an NPN transistor: I_B = overdrive · I_C / β, R = (V_pin − V_BE) / I_B, rounded
 * down within E12. Textbook; β and the overdrive are common practice.
 */
export function baseDrive(coilVolts: number, coilOhms: number, logicVolts: number): BaseDrive {
  const coilMilliamps = ((coilVolts - TRANSISTOR.saturationVolts) / coilOhms) * 1000
  const baseMilliamps = (TRANSISTOR.overdrive * coilMilliamps) / TRANSISTOR.gain
  const exact = (logicVolts - TRANSISTOR.baseVolts) / (baseMilliamps / 1000)
  const baseOhms = preferred(exact, E12, 'down')
  const pinMilliamps = ((logicVolts - TRANSISTOR.baseVolts) / baseOhms) * 1000
  return {
    coilMilliamps,
    baseMilliamps,
    baseOhms,
    pinMilliamps,
    calculations: baseCalculations(coilVolts, coilOhms, logicVolts, { coilMilliamps, baseMilliamps, exact, baseOhms }),
  }
}

function baseCalculations(
  coilVolts: number,
  coilOhms: number,
  logicVolts: number,
  drive: Omit<BaseDrive, 'calculations' | 'pinMilliamps'> & { readonly exact: number },
): Calculation[] {
  const source = 'textbook; gain and overdrive common practice'
  const { coilMilliamps, baseMilliamps, exact, baseOhms } = drive
  return [
    {
      name: 'coil current',
      value: coilMilliamps,
      unit: 'mA',
      formula:
        `I_C = (V − V_CE) / R = (${coilVolts} V − ${TRANSISTOR.saturationVolts} V) / ${ohms(coilOhms)} = ` +
        `${figure(coilMilliamps)} mA`,
      source,
    },
    {
      name: 'base current',
      value: baseMilliamps,
      unit: 'mA',
      formula:
        `I_B = ${TRANSISTOR.overdrive} · I_C / β = ${TRANSISTOR.overdrive} · ${figure(coilMilliamps)} mA / ` +
        `${TRANSISTOR.gain} = ${figure(baseMilliamps)} mA`,
      source,
    },
    {
      name: 'base resistor',
      value: baseOhms,
      unit: 'Ω',
      formula:
        `R = (V_pin − V_BE) / I_B = (${logicVolts} V − ${TRANSISTOR.baseVolts} V) / ` +
        `${figure(baseMilliamps)} mA = ${ohms(exact)} → ${ohms(baseOhms)} (E12, down)`,
      source,
    },
  ]
}
