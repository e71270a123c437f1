import type { GpioSpot } from '../boards'
import { THRESHOLD } from './partValues'
import { figure } from './calculation'

/** What all pulls on a pin do together. */

/** A resistor from a pin to one of the rails, Ω. */
export interface Pull {
  readonly to: 'high' | 'low'
  readonly ohms: number
  readonly what: string
}

/** The pull that the board itself has on a pin. */
export const boardPull = ({ boardPull: pull }: GpioSpot): Pull[] =>
  pull ? [{ to: pull.to, ohms: pull.ohms, what: 'the board’s own' }] : []

/** V of a pin that nothing but its pulls holds: U = V · G_up / (G_up + G_down); null: nothing holds it. */
export function pulledVolts(volts: number, pulls: readonly Pull[]): number | null {
  const conductance = (to: Pull['to']) => pulls.reduce((sum, pull) => (pull.to === to ? sum + 1 / pull.ohms : sum), 0)
  const [up, down] = [conductance('high'), conductance('low')]
  return up + down === 0 ? null : (volts * up) / (up + down)
}

/** What an input makes of it, by thresholds of 0.3 and 0.7 of its volts (memory of usual CMOS data sheets). */
export function readsAs(pinVolts: number, volts: number): 'low' | 'high' | 'either' {
  if (pinVolts <= THRESHOLD.low * volts) return 'low'
  return pinVolts >= THRESHOLD.high * volts ? 'high' : 'either'
}

/** "1.5 kΩ up against 12 kΩ down (the board’s own): 2.93 V" */
export function pullsText(volts: number, pulls: readonly Pull[]): string {
  const side = (to: Pull['to'], word: string) =>
    pulls.filter((pull) => pull.to === to).map(({ ohms, what }) => `${figure(ohms / 1000)} kΩ ${word} (${what})`)
  const parts = [...side('high', 'up'), ...side('low', 'down')]
  return `${parts.join(' against ')}: ${figure(pulledVolts(volts, pulls) ?? 0)} V`
}
