import { controllerOf, rolesOf, type Site, asItStands } from '../site'
import { planPins, type PinPlan, type PlanOptions } from './planPins'

/** Writes a plan into a draft of the site. Locks stay as they are. */
export function writePlan(site: Site, plan: PinPlan): void {
  const controller = controllerOf(site, plan.controller)
  if (!controller || plan.kind !== 'planned') return
  for (const pin of plan.pins) if (!pin.locked) controller.pins[pin.role] = { pin: pin.label, locked: false }
}

/**
 * Plans all free roles of a controller and writes the plan. The plan is worked out on the plain document: through a
 * draft it
 * takes four times as long.
 */
export function planAndWrite(site: Site, controllerId: string, options: PlanOptions = {}): void {
  writePlan(site, planPins(asItStands(site), controllerId, options))
}

/**
 * Plans only the given roles anew; every other role stays where it is, as if it were locked. Where that cannot be, all
 * unlocked roles are planned.
 */
export function replanRoles(site: Site, controllerId: string, roles: readonly string[]): void {
  const controller = controllerOf(site, controllerId)
  if (!controller) return
  const plain = asItStands(site)
  const others = rolesOf(plain, controllerId).filter((role) => !roles.includes(role.id) && controller.pins[role.id])
  const held = {
    ...plain,
    controllers: plain.controllers.map((candidate) =>
      candidate.id === controller.id
        ? {
            ...candidate,
            pins: Object.fromEntries(others.map((role) => [role.id, { ...candidate.pins[role.id]!, locked: true }])),
          }
        : candidate,
    ),
  }
  const plan = planPins(held, controllerId)
  if (plan.kind !== 'planned') return planAndWrite(site, controllerId)
  for (const pin of plan.pins)
    if (roles.includes(pin.role)) controller.pins[pin.role] = { pin: pin.label, locked: false }
}
