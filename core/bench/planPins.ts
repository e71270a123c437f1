import { boardOf, gpioSpots, pinName, readPin, type GpioSpot } from '../boards'
import { controllerOf, roleName, rolesOf, type Controller, type Role, type Site } from '../site'
import { assign } from './assignment'
import { pinCost } from './pinCosts'

export interface PlannedPin {
  readonly role: string
  readonly name: string
  readonly label: string
  readonly gpio: number
  readonly locked: boolean
  readonly cost: number
  /** One sentence: why this pin. */
  readonly reason: string
}

export type PinPlan =
  | { readonly kind: 'planned'; readonly controller: string; readonly board: string; readonly pins: readonly PlannedPin[]; readonly cost: number }
  | { readonly kind: 'impossible'; readonly controller: string; readonly board: string; readonly reason: string; /** roles that cannot stand together */ readonly roles: readonly string[] }

/** Room for the tie-break: on equal cost the pin nearer to the head of its row wins, so that a plan is always the same. */
const TIE = 1_000

/**
 * Assigns every role of a controller to a pin at least total cost. Locked pins are left where they are and taken from the rest.
 * Precedence: 1 locks · 2 what is forbidden · 3 least sum of costs · 4 the order of the rows.
 */
export function planPins(site: Site, controllerId: string): PinPlan {
  const controller = controllerOf(site, controllerId)
  const board = controller && boardOf(controller.board)
  if (!controller || !board) return { kind: 'impossible', controller: controllerId, board: controller?.board ?? '', reason: `there is no board profile "${controller?.board ?? controllerId}"`, roles: [] }
  const roles = rolesOf(site, controller.id)
  const spots = gpioSpots(board)
  const locked = new Map<string, GpioSpot>()
  for (const role of roles) {
    const choice = controller.pins[role.id]
    if (!choice?.locked) continue
    const reading = readPin(board, choice.pin)
    if (reading.kind === 'spot') locked.set(role.id, reading.spot)
  }
  const taken = new Set([...locked.values()].map((spot) => spot.gpio))
  const freeSpots = spots.filter((spot) => !taken.has(spot.gpio))
  const freeRoles = roles.filter((role) => !locked.has(role.id))
  const costs = freeRoles.map((role) => freeSpots.map((spot, position) => pinCost(controller, role, spot).cost * TIE + position))
  const answer = assign(costs, freeSpots.length)
  if (answer.kind === 'impossible') {
    const stuck = answer.rows.map((row) => freeRoles[row]!)
    return { kind: 'impossible', controller: controller.id, board: board.id, reason: whyImpossible(stuck, answer.columns.map((column) => freeSpots[column]!), taken.size), roles: stuck.map((role) => role.id) }
  }
  const chosen = new Map(freeRoles.map((role, row) => [role.id, freeSpots[answer.columns[row]!]!]))
  const used = new Set([...chosen.values()].map((spot) => spot.gpio))
  const pins = roles.map((role): PlannedPin => {
    const fixed = locked.get(role.id)
    const spot = fixed ?? chosen.get(role.id)!
    const { cost } = pinCost(controller, role, spot)
    const reason = fixed ? lockedReason(controller, role, fixed) : whyThis(controller, role, spot, freeSpots.filter((other) => !used.has(other.gpio)))
    return { role: role.id, name: roleName(role), label: spot.label, gpio: spot.gpio, locked: fixed !== undefined, cost, reason }
  })
  return { kind: 'planned', controller: controller.id, board: board.id, pins, cost: pins.reduce((sum, pin) => sum + pin.cost, 0) }
}

const list = (words: readonly string[]): string => (words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`)

function whyThis(controller: Controller, role: Role, spot: GpioSpot, unused: readonly GpioSpot[]): string {
  const own = pinCost(controller, role, spot)
  const equal = unused.filter((other) => pinCost(controller, role, other).cost === own.cost)
  const parts = [own.favour.length ? list(own.favour) : 'the best that is left']
  const troubles = own.against.filter((why) => !why.startsWith('could '))
  if (troubles.length) parts.push(`but ${list(troubles)}`)
  const alternatives = equal.length === 0 ? '' : equal.length <= 3 ? `; ${list(equal.map((other) => other.label))} equally good` : `; ${equal.length} others equally good`
  return `${pinName(spot)}: ${parts.join(', ')}${alternatives}`
}

function lockedReason(controller: Controller, role: Role, spot: GpioSpot): string {
  const { against } = pinCost(controller, role, spot)
  const troubles = against.filter((why) => !why.startsWith('could '))
  return `${pinName(spot)}: locked by you${troubles.length ? `, though it ${list(troubles)}` : ''}`
}

function whyImpossible(roles: readonly Role[], spots: readonly GpioSpot[], lockedCount: number): string {
  const names = list(roles.map(roleName))
  const where = spots.length ? `only ${spots.length} can carry them (${list(spots.map((spot) => spot.label))})` : 'no free pin can carry any of them'
  const hint = lockedCount ? `; ${lockedCount} ${lockedCount === 1 ? 'pin is' : 'pins are'} locked` : ''
  return `${roles.length} ${roles.length === 1 ? 'role needs a pin' : 'roles need pins'} (${names}), ${where}${hint}`
}
