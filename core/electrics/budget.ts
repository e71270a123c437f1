import type { SupplyProfile } from '../boards'
import type { Calculation } from './calculation'

/** How long a radio peaks when it joins, ms (common practice). */
export const RADIO_JOIN_MS = 500

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

/** What is drawn at power-up, mA at the source. */
export interface StartUp {
  readonly board: number
  readonly oneCoil: number
  readonly coils: number
  /** coils that pull in while the radio joins */
  readonly duringJoin: number
  readonly together: number
  readonly staggered: number
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
  /** mA that the reservoir must give, for ms; null: nothing bursts */
  readonly burst: { readonly peak: number; readonly ms: number } | null
  readonly calculations: readonly Calculation[]
}
