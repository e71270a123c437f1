import { E12, preferred } from './preferred'

/** V across a status light at a few mA, red to green (common practice). */
const LIGHT_VOLTS = 2
/** Resistor before a status light: R = (V − V_LED) / I, rounded up so that the pin gives no more. V, mA → Ω. */
export const lightOhms = (volts: number, milliamps: number): number =>
  preferred((volts - LIGHT_VOLTS) / (milliamps / 1000), E12, 'up')

/** From 5 V to a 3.3 V input: 5 V · 1.8 / (1 + 1.8) = 3.21 V (Ohm's law; values of E12, common practice). */
export const DIVIDER = { seriesOhms: 1_000, groundOhms: 1_800 } as const
export const dividedVolts = (volts: number): number =>
  (volts * DIVIDER.groundOhms) / (DIVIDER.seriesOhms + DIVIDER.groundOhms)

/** Pull-ups of a two-wire bus of a metre or less (NXP UM10204, memory: 1 mA or more, under 1 µs rise at 400 pF). */
export const BUS_PULL_OHMS = 4_700
/** Pull-up of a sensor's data wire (common practice). */
export const SENSOR_PULL_OHMS = 10_000
/** The fixed half of a light sensor's divider (common practice). */
export const LIGHT_DIVIDER_OHMS = 10_000
/** What a digital input takes for low and high, as parts of its volts (memory of usual CMOS data sheets). */
export const THRESHOLD = { low: 0.3, high: 0.7 } as const

/** Longest time to take a capacitor down to 50 V after it is switched off (NEC 460.6(A), published, from memory), s. */
const DISCHARGE_S = 60
const SAFE_VOLTS = 50
/**
 * Bleed resistor across a capacitor at mains: R = t / (C · ln(U·√2 / 50 V)), a tenth of the time is taken, and E12
 * down.
 * µF, V → Ω.
 */
export const bleedOhms = (microfarads: number, volts: number): number =>
  preferred(DISCHARGE_S / 10 / (microfarads * 1e-6 * Math.log((volts * Math.SQRT2) / SAFE_VOLTS)), E12, 'down')
/** W in it while the motor runs, at worst: U²/R. */
export const bleedWatts = (ohms: number, volts: number): number => (volts * volts) / ohms
