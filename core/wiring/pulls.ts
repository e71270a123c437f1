import { moduleIn, type BoardProfile, type GpioSpot, type PartProfile, type Signal } from '../boards'
import { BUS_PULL_OHMS, boardPull, LIGHT_DIVIDER_OHMS, pullChoice, SENSOR_PULL_OHMS, type Pull } from '../electrics'
import type { Input, Role, Site } from '../site'

/** The resistors that stand at a pin: the board's, the chip's, and those that are fitted. */

const fittedPull = (board: BoardProfile, input: Input): Pull => ({
  to: input.closedLevel === 'low' ? 'high' : 'low',
  ohms: pullChoice(input.cableMetres, board.logicVolts, board.internalPullKiloohms.most).ohms,
  what: 'fitted',
})

/** Pulls of an input while the firmware runs; the chip's own is taken at its weakest. */
export function pullsOfInput(board: BoardProfile, input: Input, spot: GpioSpot): Pull[] {
  const own: Pull = {
    to: input.closedLevel === 'low' ? 'high' : 'low',
    ohms: board.internalPullKiloohms.most * 1000,
    what: 'the chip’s own at its weakest',
  }
  return [
    ...boardPull(spot),
    ...(input.pull === 'fitted' ? [fittedPull(board, input)] : input.pull === 'internal' ? [own] : []),
  ]
}

/** The resistor that is fitted at a signal of a part, or that it brings along; null: none. */
function pullOfSignal(profile: PartProfile, need: Signal['need']): Pull | null {
  if (profile.rail === 'none') return null
  const what = 'fitted at the part'
  if (need.startsWith('i2c')) return { to: 'high', ohms: profile.pullOhms ?? BUS_PULL_OHMS, what }
  if (need === 'input-pull-up') return { to: 'high', ohms: profile.pullOhms ?? SENSOR_PULL_OHMS, what }
  return need === 'analogue' ? { to: 'low', ohms: LIGHT_DIVIDER_OHMS, what } : null
}

/**
 * Pulls of a role before the firmware runs: the chip's own are not on yet. Empty: nothing is fitted that would count.
 */
export function pullsAtStart(site: Site, board: BoardProfile, role: Role, spot: GpioSpot): Pull[] {
  if (role.kind === 'output') return []
  if (role.kind === 'input')
    return role.input.pull === 'fitted' ? [...boardPull(spot), fittedPull(board, role.input)] : []
  const profile = moduleIn(site, 'part', role.part.profile)
  const fitted = profile ? pullOfSignal(profile, role.signal.need) : null
  return fitted ? [...boardPull(spot), fitted] : []
}
