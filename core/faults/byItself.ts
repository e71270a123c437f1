import { powerUpOf, type Channel } from '../site'
import { all, any, NEVER, not, type Formula } from './formula'
import type { HouseFormulas } from './houseFormulas'
import type { Moved, Stands } from './inputsMove'
import { endsSoon } from './question'

/**
 * It comes on or moves with nobody asking, while something has failed or when it works again. `moved`: from level 0.
 */
export function movesByItself(
  formulas: HouseFormulas,
  channel: Channel,
  moved: readonly Moved[],
  stands: Stands,
): Formula {
  return any([
    formulas.lit(channel, 0),
    // what stays as it is told comes on when a dead load works again; a pulse is over by then
    ...moved.flatMap(({ when, level }) =>
      level > 0 ? [endsSoon(channel) ? all([when, formulas.lit(channel, level)]) : when] : [],
    ),
    comesOnWithPower(formulas, channel, stands) ? not(formulas.works(`board:${channel.controller}`)) : NEVER,
  ])
}

/** What a channel that was off does when its board has power again (docs/behaviour.md, Power). */
function comesOnWithPower({ site }: HouseFormulas, channel: Channel, stands: Stands): boolean {
  const { policy } = powerUpOf(channel)
  if (policy === 'on') return true
  if (policy !== 'wall') return false
  return site.ways.some(
    (way) =>
      way.kind === 'wall' &&
      way.channel === channel.id &&
      (stands[way.input] ?? 0) > 0 &&
      way.bindings.some(({ gesture }) => gesture === 'follow' || gesture === 'select'),
  )
}

/** Its limit has passed, the board has opened, and it is on still. */
export const staysOn = (formulas: HouseFormulas, channel: Channel): Formula => formulas.lit(channel, 0)
