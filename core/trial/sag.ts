import { reservoirDip, supplyBudget } from '../electrics'
import type { Site } from '../site'

/** A weak supply gives so much of what it says. */
const WEAK_SHARE = 0.5
/** A coil's current is there within this long, ms (memory of usual data sheets: operate time 10 ms at most). */
const PULL_IN_MS = 10
/** µF that stand across the rail where nothing else was fitted (common practice on a board). */
const LEAST_MICROFARADS = 100
/** V that the 5 V rail may fall before a 3.3 V board starts anew: 1.1 V across its regulator (memory). */
export const BROWN_OUT_VOLTS = 0.6

/**
 * V by which a weak supply falls when so many coils of all outputs are pulled in: what it cannot give comes out of the
 * capacitors. Null: no supply is named, so that nothing can be worked out.
 */
export function sagVolts(site: Site, controllerId: string, coils: number, outputs: number): number | null {
  const controller = site.controllers.find(({ id }) => id === controllerId)
  const budget = controller && supplyBudget(site, controller)
  if (!controller || !budget) return null
  const { module, supply } = controller
  const coil = module ? (module.coilVolts / module.coilOhms) * 1_000 : 0
  // the budget counts every coil as pulled in
  const rest = Math.max(0, budget.steady - coil * outputs)
  const missing = rest + coil * coils - budget.source.milliamps * WEAK_SHARE
  return reservoirDip(missing, PULL_IN_MS, Math.max(LEAST_MICROFARADS, supply?.reservoirMicrofarads ?? 0))
}
