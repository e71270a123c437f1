import { boardIn, pinName, type BoardProfile, type GpioSpot } from '../boards'
import { controllerOf, roleName, rolesOf, type Controller, type Role, type Site } from '../site'
import { FORBIDDEN } from './assignment'
import { assignWithPairs, type PairDemand } from './pairedAssignment'
import { pinCost, type PinCost } from './pinCosts'
import { smallestConflict } from './smallestConflict'
import { readPinOn, pinsOf } from './controllerPins'

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
  | {
      readonly kind: 'planned'
      readonly controller: string
      readonly board: string
      readonly pins: readonly PlannedPin[]
      readonly cost: number
    }
  | {
      readonly kind: 'impossible'
      readonly controller: string
      readonly board: string
      readonly reason: string
      /** the smallest set of roles that cannot stand together */ readonly roles: readonly string[]
    }

export interface PlanOptions {
  /** Keep what is already soldered: a wire is moved only when that mends more than MOVE_COST. */
  readonly keepSoldered?: boolean
}

/**
 * Room for the tie-break: on equal cost the pin nearer to the head of its row wins, so that a plan is always the same.
 */
const TIE = 10_000
/** What moving a soldered wire costs, in the points of pinCosts: more than a preference, less than a danger. */
export const MOVE_COST = 50

/** A demand is one or more roles that share a pin: the parts of an I2C bus hang on the same two wires. */
interface Demand {
  readonly roles: readonly Role[]
}

/** What a plan is made on: roles that share a pin, the pins that are left, and what each costs there. */
interface Table {
  readonly controller: Controller
  readonly demands: readonly Demand[]
  readonly spots: readonly GpioSpot[]
  /** by demand, pin and role that shares it */
  readonly bills: readonly (readonly (readonly PinCost[])[])[]
  readonly costs: readonly (readonly number[])[]
}

/** The pin that each role is wired to now. */
function solderedPins(site: Site, controller: Controller, roles: readonly Role[]): Map<string, number> {
  return new Map(
    roles.flatMap((role) => {
      const reading = controller.pins[role.id] && readPinOn(site, controller, controller.pins[role.id]!.pin)
      return reading?.kind === 'spot' ? [[role.id, reading.spot.gpio] as const] : []
    }),
  )
}

/** `soldered`: wires whose move costs; empty: none does. */
function tableOf(
  controller: Controller,
  roles: readonly Role[],
  spots: readonly GpioSpot[],
  soldered: ReadonlyMap<string, number>,
): Table {
  const demands = demandsOf(roles)
  const bills = demands.map(({ roles: sharing }) =>
    spots.map((spot) => sharing.map((role) => pinCost(controller, role, spot))),
  )
  const costs = demands.map(({ roles: sharing }, row) =>
    spots.map((spot, position) => {
      const own = bills[row]![position]!.reduce((sum, bill) => sum + bill.cost, 0)
      const moved = sharing.some((role) => soldered.has(role.id) && soldered.get(role.id) !== spot.gpio)
      return (own + (moved ? MOVE_COST : 0)) * TIE + position
    }),
  )
  return { controller, demands, spots, bills, costs }
}

/** Where a role went: its pin, the bill for it, and the pins left over that would have cost the same. */
interface Chosen {
  readonly spot: GpioSpot
  readonly own: PinCost
  readonly equal: readonly GpioSpot[]
}

function chosenPins({ demands, spots, bills }: Table, columns: readonly number[]): Map<string, Chosen> {
  const unused = spots.map((_, column) => column).filter((column) => !columns.includes(column))
  return new Map(
    demands.flatMap(({ roles }, row) =>
      roles.map((role, k) => {
        const column = columns[row]!
        const own = bills[row]![column]![k]!
        const equal = unused.filter((other) => bills[row]![other]![k]!.cost === own.cost).map((other) => spots[other]!)
        return [role.id, { spot: spots[column]!, own, equal }] as const
      }),
    ),
  )
}

function plannedPin(
  controller: Controller,
  role: Role,
  fixed: GpioSpot | undefined,
  chosen: Chosen | undefined,
): PlannedPin {
  const spot = fixed ?? chosen!.spot
  return {
    role: role.id,
    name: roleName(role),
    label: spot.label,
    gpio: spot.gpio,
    locked: fixed !== undefined,
    cost: chosen?.own.cost ?? pinCost(controller, role, spot).cost,
    reason: chosen ? whyThis(spot, chosen.own, chosen.equal) : lockedReason(controller, role, spot),
  }
}

/**
 * Assigns every role of a controller to a pin at least total cost, over the board's pins and those of its expanders.
 * Locked pins are left where they are and taken from the rest; the two pins of a serial port or an I2C bus are taken
 * together. Precedence: 1 locks · 2 what is forbidden · 3 least sum of costs · 4 the order of the rows.
 */
export function planPins(site: Site, controllerId: string, options: PlanOptions = {}): PinPlan {
  const controller = controllerOf(site, controllerId)
  const board = controller && boardIn(site, controller.board)
  const of = { controller: controllerId, board: controller?.board ?? '' }
  if (!controller || !board)
    return { kind: 'impossible', ...of, reason: `there is no board profile "${of.board || controllerId}"`, roles: [] }
  const roles = rolesOf(site, controller.id)
  const locked = lockedSpots(site, controller, roles)
  const taken = new Set([...locked.values()].map((spot) => spot.gpio))
  const spots = pinsOf(site, controller).filter((spot) => !taken.has(spot.gpio))
  const free = roles.filter((role) => !locked.has(role.id))
  const soldered = options.keepSoldered ? solderedPins(site, controller, roles) : new Map<string, number>()
  const table = tableOf(controller, free, spots, soldered)
  const answer = assignWithPairs(table.costs, spots.length, pairDemands(board, table.demands, spots), TIE)
  if (answer.kind === 'impossible') {
    const stuck = stuckRoles(table.demands, table.costs, answer.pair, answer.rows)
    const reason = whyImpossible(controller, stuck, spots, taken.size)
    return { kind: 'impossible', ...of, reason, roles: stuck.map((role) => role.id) }
  }
  const chosen = chosenPins(table, answer.columns)
  const pins = roles.map((role) => plannedPin(controller, role, locked.get(role.id), chosen.get(role.id)))
  return { kind: 'planned', ...of, pins, cost: pins.reduce((sum, pin) => sum + pin.cost, 0) }
}

function lockedSpots(site: Site, controller: Controller, roles: readonly Role[]): Map<string, GpioSpot> {
  const locked = new Map<string, GpioSpot>()
  for (const role of roles) {
    const choice = controller.pins[role.id]
    if (!choice?.locked) continue
    const reading = readPinOn(site, controller, choice.pin)
    if (reading.kind === 'spot') locked.set(role.id, reading.spot)
  }
  return locked
}

const needOf = (role: Role | undefined): string => (role?.kind === 'signal' ? role.signal.need : '')

/** One demand a role; the data lines of all I2C parts are one demand, and so are their clocks. */
function demandsOf(roles: readonly Role[]): Demand[] {
  const bus = (need: string) => roles.filter((role) => needOf(role) === need)
  const single = roles.filter((role) => !needOf(role).startsWith('i2c')).map((role): Demand => ({ roles: [role] }))
  return [...single, ...['i2c-sda', 'i2c-scl'].flatMap((need) => (bus(need).length ? [{ roles: bus(need) }] : []))]
}

/** Demands that go in pairs. On a board whose pins are a matrix any two will do, so there is nothing to bind. */
function pairDemands(board: BoardProfile, demands: readonly Demand[], spots: readonly GpioSpot[]): PairDemand[] {
  const { pairs } = board
  if (pairs === 'matrix') return []
  const column = (gpio: number) => spots.findIndex((spot) => spot.gpio === gpio)
  const candidates = (kind: 'serial' | 'i2c') =>
    pairs
      .filter((pair) => pair.kind === kind)
      .map((pair) => [column(pair.first), column(pair.second)] as const)
      .filter(([a, b]) => a >= 0 && b >= 0)
  const rowOf = (fits: (role: Role) => boolean) => demands.findIndex(({ roles }) => roles.some(fits))
  const found: PairDemand[] = []
  for (const [row, { roles }] of demands.entries()) {
    const role = roles[0]
    if (role?.kind !== 'signal' || role.signal.need !== 'serial-tx') continue
    const partner = rowOf(
      (other) => other.kind === 'signal' && other.part.id === role.part.id && other.signal.need === 'serial-rx',
    )
    if (partner >= 0) found.push({ rows: [row, partner], candidates: candidates('serial') })
  }
  const data = rowOf((role) => needOf(role) === 'i2c-sda')
  const clock = rowOf((role) => needOf(role) === 'i2c-scl')
  if (data >= 0 && clock >= 0) found.push({ rows: [data, clock], candidates: candidates('i2c') })
  return found
}

function stuckRoles(
  demands: readonly Demand[],
  costs: readonly (readonly number[])[],
  pair: number,
  rows: readonly number[],
): Role[] {
  const allowed = costs.map((row) => new Set(row.flatMap((cost, column) => (cost < FORBIDDEN ? [column] : []))))
  const conflict = pair < 0 ? smallestConflict(allowed) : null
  return (conflict ?? rows).flatMap((row) => demands[row]!.roles)
}

const list = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`

const troublesOf = (against: readonly string[]): string[] => against.filter((why) => !why.startsWith('could '))

function whyThis(spot: GpioSpot, own: PinCost, equal: readonly GpioSpot[]): string {
  const parts = [own.favour.length ? list(own.favour) : 'the best that is left']
  const troubles = troublesOf(own.against)
  if (troubles.length) parts.push(`but ${list(troubles)}`)
  const alternatives =
    equal.length === 0
      ? ''
      : equal.length <= 3
        ? `; ${list(equal.map((other) => other.label))} equally good`
        : `; ${equal.length} others equally good`
  return `${pinName(spot)}: ${parts.join(', ')}${alternatives}`
}

function lockedReason(controller: Controller, role: Role, spot: GpioSpot): string {
  const troubles = troublesOf(pinCost(controller, role, spot).against)
  return `${pinName(spot)}: locked by you${troubles.length ? `, though it ${list(troubles)}` : ''}`
}

function whyImpossible(
  controller: Controller,
  roles: readonly Role[],
  spots: readonly GpioSpot[],
  lockedCount: number,
): string {
  const able = spots.filter((spot) => roles.some((role) => pinCost(controller, role, spot).cost < FORBIDDEN))
  const inPair = roles.length > 0 && roles.every((role) => /^(serial|i2c)/.test(needOf(role)))
  const where = inPair
    ? 'no free pair of pins can carry them'
    : able.length
      ? `only ${able.length} can carry them (${list(able.map((spot) => spot.label))})`
      : 'no free pin can carry any of them'
  const hint = lockedCount ? `; ${lockedCount} ${lockedCount === 1 ? 'pin is' : 'pins are'} locked` : ''
  return (
    `${roles.length} ${roles.length === 1 ? 'role needs a pin' : 'roles need pins'} ` +
    `(${list(roles.map(roleName))}), ${where}${hint}`
  )
}
