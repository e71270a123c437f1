import type { GpioSpot } from '../boards'
import type { Controller, Input, Role } from '../site'
import { FORBIDDEN } from './assignment'

/** Why a pin is dear for a role, in the words of the explanation. */
export interface PinCost {
  readonly cost: number
  /** What speaks against the pin; empty when nothing does. */
  readonly against: readonly string[]
  /** What speaks for it. */
  readonly favour: readonly string[]
}

/**
 * Costs, dearest first. They are ranks, not physics: one danger of a higher kind outweighs any usual number of the lower
 * ones (common practice among makers: start-up duty is worse than a shared light).
 */
const COST = { startActivity: 400, wrongAtStart: 2_000, startLevel: 60, serialInUse: 1_000, serialIdle: 40, light: 15, button: 30, scarce: 4, analogueLeft: 2 } as const

/** Level at which the relay module's input rests an undriven pin: a low-active opto input pulls it up through its diode. */
export function restLevelOf(controller: Controller): 'low' | 'high' | 'free' {
  if (!controller.module) return 'free'
  return controller.module.active === 'low' ? 'high' : 'low'
}

/** Level that an input forces on its pin while its contact is closed. */
export const closedLevelOf = (input: Input): 'low' | 'high' => input.closedLevel

const forbidden = (why: string): PinCost => ({ cost: FORBIDDEN, against: [why], favour: [] })

/** What it costs to give a role to a pin. */
export function pinCost(controller: Controller, role: Role, spot: GpioSpot): PinCost {
  const against: string[] = []
  const favour: string[] = []
  let cost = 0
  const add = (points: number, why: string) => {
    cost += points
    against.push(why)
  }
  if (role.kind === 'output') {
    if (!spot.can.includes('output')) return forbidden('input only')
    if (spot.startActivity) add(COST.startActivity, `${spot.startActivity.level} at start: ${spot.startActivity.what}`)
    if (spot.startLevel) {
      const rest = restLevelOf(controller)
      if (rest !== 'free' && rest !== spot.startLevel.level) add(COST.wrongAtStart, `must be ${spot.startLevel.level} at start, the relay module rests it ${rest}`)
      else add(COST.startLevel, `must be ${spot.startLevel.level} at start`)
    }
    if (spot.can.includes('analogue')) add(COST.analogueLeft, 'could serve as analogue')
  } else {
    const { input } = role
    if (input.sense === 'analogue') {
      if (!spot.can.includes('analogue')) return forbidden('not analogue')
      if (spot.analogueNeedsRadioOff && controller.link === 'wifi') return forbidden('its analogue reading fails while the radio is on')
      favour.push('analogue')
    } else if (!spot.can.includes('input')) {
      return forbidden('no digital input')
    } else if (input.pull === 'internal') {
      if (!spot.can.includes(input.closedLevel === 'low' ? 'pull-up' : 'pull-down')) return forbidden(`no internal pull-${input.closedLevel === 'low' ? 'up' : 'down'}`)
      favour.push(`has a pull-${input.closedLevel === 'low' ? 'up' : 'down'}`)
    }
    if (spot.startLevel) {
      if (input.closedLevel !== spot.startLevel.level) add(COST.wrongAtStart, `must be ${spot.startLevel.level} at start, a closed contact holds it ${input.closedLevel}`)
      else add(COST.startLevel, `must be ${spot.startLevel.level} at start`)
    }
    // An input that has its own pull does not need a pin that could drive: leave those to the outputs.
    if (spot.can.includes('output') && input.pull !== 'internal') add(COST.scarce, 'could drive an output')
  }
  const serialLogPin = spot.usedBy?.includes('serial-log')
  if (serialLogPin && controller.serialLog) add(COST.serialInUse, 'carries the serial log')
  else if (serialLogPin) add(COST.serialIdle, 'is the programming port')
  if (spot.usedBy?.includes('serial-2')) add(COST.scarce, 'is the second serial port')
  if (spot.usedBy?.includes('light')) add(COST.light, 'carries the on-board light')
  if (spot.usedBy?.includes('button')) add(COST.button, 'carries the on-board button')
  if (!spot.startLevel && !spot.startActivity) favour.unshift('free of start-up duty')
  return { cost, against, favour }
}
