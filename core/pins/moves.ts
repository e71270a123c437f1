import { controllerOf, type Site } from '../site'
import { readPinOn } from './controllerPins'
import { planPins, type PinPlan } from './planPins'

/** A wire that a plan would put elsewhere. */
export interface Move {
  readonly role: string
  readonly name: string
  readonly from: string
  readonly to: string
  readonly reason: string
}

/** What a plan would move of what is placed already, in the order of the roles. */
export function movesOf(site: Site, plan: PinPlan): Move[] {
  const controller = controllerOf(site, plan.controller)
  if (!controller || plan.kind !== 'planned') return []
  return plan.pins.flatMap(({ role, name, label, gpio, reason, locked }) => {
    const from = controller.pins[role]?.pin
    if (locked || from === undefined) return []
    // a pin has several names: written another way it is no other wire
    const reading = readPinOn(site, controller, from)
    return reading.kind === 'spot' && reading.spot.gpio === gpio ? [] : [{ role, name, from, to: label, reason }]
  })
}

/** Roles that a plan gives their first pin. */
export const firstPins = (site: Site, plan: PinPlan): number => {
  const pins = controllerOf(site, plan.controller)?.pins ?? {}
  return plan.kind === 'planned' ? plan.pins.filter(({ role }) => !pins[role]).length : 0
}

/** A plan under which these roles stay where they are, as if they were locked; their own locks are not touched. */
export function planKeeping(site: Site, controllerId: string, kept: ReadonlySet<string>): PinPlan {
  const controllers = site.controllers.map((controller) => {
    if (controller.id !== controllerId) return controller
    const pins = Object.entries(controller.pins).map(([role, choice]) => [
      role,
      kept.has(role) ? { ...choice, locked: true } : choice,
    ])
    return { ...controller, pins: Object.fromEntries(pins) as typeof controller.pins }
  })
  return planPins({ ...site, controllers }, controllerId)
}
