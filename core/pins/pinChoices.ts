import { boardIn, type GpioSpot } from '../boards'
import { controllerOf, rolesOf, type Role, type Site } from '../site'
import { FORBIDDEN } from './assignment'
import { pinCost } from './pinCosts'
import { readPinOn, pinsOf } from './controllerPins'

/** A pin as it stands for one role. */
export interface PinChoiceView {
  readonly spot: GpioSpot
  readonly possible: boolean
  readonly cost: number
  readonly against: readonly string[]
  readonly favour: readonly string[]
  /** role that has it now */
  readonly takenBy: string | null
}

/** Role on each GPIO of a controller, as written; a pin with two roles shows the first. */
export function rolesByGpio(site: Site, controllerId: string): Map<number, Role[]> {
  const controller = controllerOf(site, controllerId)
  const board = controller && boardIn(site, controller.board)
  const map = new Map<number, Role[]>()
  if (!controller || !board) return map
  for (const role of rolesOf(site, controllerId)) {
    const written = controller.pins[role.id]?.pin
    const reading = written === undefined ? undefined : readPinOn(site, controller, written)
    if (reading?.kind === 'spot') map.set(reading.spot.gpio, [...(map.get(reading.spot.gpio) ?? []), role])
  }
  return map
}

/** Every pin of the board for one role, the best first. */
export function pinChoices(site: Site, controllerId: string, roleId: string): PinChoiceView[] {
  const controller = controllerOf(site, controllerId)
  const board = controller && boardIn(site, controller.board)
  const role = rolesOf(site, controllerId).find((candidate) => candidate.id === roleId)
  if (!controller || !board || !role) return []
  const taken = rolesByGpio(site, controllerId)
  return pinsOf(site, controller)
    .map((spot) => {
      const { cost, against, favour } = pinCost(controller, role, spot)
      return {
        spot,
        possible: cost < FORBIDDEN,
        cost,
        against,
        favour,
        takenBy: taken.get(spot.gpio)?.find((other) => other.id !== roleId)?.id ?? null,
      }
    })
    .sort((a, b) => a.cost - b.cost)
}

/**
 * Puts a role on a pin by hand: locked, since somebody chose it. A role that stood there takes the old place. Changes a
 * draft.
 */
export function placeRole(site: Site, controllerId: string, roleId: string, label: string): void {
  const controller = controllerOf(site, controllerId)
  const reading = controller && readPinOn(site, controller, label)
  if (!controller || reading?.kind !== 'spot') return
  const other = rolesByGpio(site, controllerId)
    .get(reading.spot.gpio)
    ?.find((candidate) => candidate.id !== roleId)
  const old = controller.pins[roleId]
  controller.pins[roleId] = { pin: reading.spot.label, locked: true }
  if (!other) return
  if (old) controller.pins[other.id] = { pin: old.pin, locked: false }
  else delete controller.pins[other.id]
}
