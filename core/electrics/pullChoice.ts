import { E12, ohms, preferred } from './preferred'
import { figure, type Calculation } from './calculation'

/** What a contact and a lead ask of a pull resistor (common practice). */
export const PULL = {
  /** least current that keeps a silver contact clean, mA */
  wettingMilliamps: 0.5,
  /** wanted when the lead is long, mA: more current against picked-up noise */
  longLeadMilliamps: 2,
  longLeadMetres: 5,
  /** pF a metre of twisted pair */
  picofaradsPerMetre: 60,
  shortLeadOhms: 10_000,
} as const

export interface PullChoice {
  readonly ohms: number
  /** the board's own pull would do */
  readonly internalDoes: boolean
  readonly calculations: readonly Calculation[]
}

/**
 * Chooses a pull for a lead: 10 kΩ for a short one, less for a long one so that wetting and noise margin hold. Metres,
 * V, kΩ.
 */
export function pullChoice(cableMetres: number, logicVolts: number, internalMostKiloohms: number): PullChoice {
  const long = cableMetres > PULL.longLeadMetres
  const wanted = long ? PULL.longLeadMilliamps : PULL.wettingMilliamps
  const exact = logicVolts / (wanted / 1000)
  const value = preferred(Math.min(PULL.shortLeadOhms, exact), E12, 'down')
  return {
    ohms: value,
    internalDoes: !long && cableMetres <= 1.5,
    calculations: [
      {
        name: 'pull resistor',
        value,
        unit: 'Ω',
        formula: `R = V / I = ${logicVolts} V / ${wanted} mA = ${ohms(exact)} → ${ohms(value)} (at most 10 kΩ; E12, down)`,
        source: SOURCE,
      },
      ...consequences(cableMetres, logicVolts, internalMostKiloohms, value),
    ],
  }
}

const SOURCE = 'common practice; Ohm’s law'

/** What a pull of `value` Ω then does, and what the board's own would do instead. */
function consequences(
  cableMetres: number,
  logicVolts: number,
  internalMostKiloohms: number,
  value: number,
): Calculation[] {
  const milliamps = (logicVolts / value) * 1000
  const picofarads = cableMetres * PULL.picofaradsPerMetre
  const riseMicroseconds = 2.2 * value * picofarads * 1e-6
  return [
    {
      name: 'wetting current',
      value: milliamps,
      unit: 'mA',
      formula: `I = V / R = ${logicVolts} V / ${ohms(value)} = ${figure(milliamps)} mA`,
      source: SOURCE,
    },
    {
      name: 'rise of the lead',
      value: riseMicroseconds,
      unit: 'µs',
      formula:
        `t = 2.2 · R · C = 2.2 · ${ohms(value)} · ${figure(picofarads)} pF = ` + `${figure(riseMicroseconds)} µs`,
      source: SOURCE,
    },
    {
      name: "board's own pull",
      value: (logicVolts / (internalMostKiloohms * 1000)) * 1000,
      unit: 'mA',
      formula:
        `I = V / R = ${logicVolts} V / ${internalMostKiloohms} kΩ = ` +
        `${figure(logicVolts / internalMostKiloohms)} mA at worst`,
      source: SOURCE,
    },
  ]
}
