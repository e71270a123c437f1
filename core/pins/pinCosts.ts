import { reaches, type Capability, type GpioSpot, type SignalNeed } from '../boards'
import type { Controller, Input, Role } from '../site'
import { FORBIDDEN } from './assignment'
import { isExpanderPin } from './controllerPins'

/** Why a pin is dear for a role, in the words of the explanation. */
export interface PinCost {
  readonly cost: number
  /** What speaks against the pin; empty when nothing does. */
  readonly against: readonly string[]
  /** What speaks for it. */
  readonly favour: readonly string[]
}

/**
 * Costs, dearest first. They are ranks, not physics: one danger of a higher kind outweighs any usual number of the
 * lower ones (common practice among makers: start-up duty is worse than a shared light).
 */
const COST = {
  wrongAtStart: 2_000,
  serialInUse: 1_000,
  startActivity: 400,
  startLevel: 60,
  serialIdle: 40,
  button: 30,
  light: 15,
  expander: 6,
  scarce: 4,
  analogueLeft: 2,
} as const

/**
 * Level at which the relay module's input rests an undriven pin: a low-active opto input pulls it up through its diode.
 */
export function restLevelOf(controller: Controller): 'low' | 'high' | 'free' {
  if (!controller.module) return 'free'
  return controller.module.active === 'low' ? 'high' : 'low'
}

/** What a signal needs of a pin, and whether only the board's own pins will do. */
const NEEDS: Record<SignalNeed, { capability: Capability; native: boolean; words: string }> = {
  output: { capability: 'output', native: false, words: 'output' },
  input: { capability: 'input', native: false, words: 'input' },
  'input-pull-up': { capability: 'pull-up', native: false, words: 'input with a pull-up' },
  analogue: { capability: 'analogue', native: true, words: 'analogue' },
  pwm: { capability: 'pwm', native: true, words: 'PWM' },
  interrupt: { capability: 'interrupt', native: true, words: 'interrupt' },
  'serial-tx': { capability: 'output', native: true, words: 'serial' },
  'serial-rx': { capability: 'input', native: true, words: 'serial' },
  'i2c-sda': { capability: 'output', native: true, words: 'I2C' },
  'i2c-scl': { capability: 'output', native: true, words: 'I2C' },
}

class Bill {
  cost = 0
  readonly against: string[] = []
  readonly favour: string[] = []
  add(points: number, why: string): void {
    this.cost += points
    this.against.push(why)
  }
  forbid(why: string): PinCost {
    return { cost: FORBIDDEN, against: [why], favour: [] }
  }
}

/** What it costs to give a role to a pin. */
export function pinCost(controller: Controller, role: Role, spot: GpioSpot): PinCost {
  const bill = new Bill()
  if (controller.statusLight && spot.usedBy?.includes('light')) return bill.forbid('carries the status light')
  const refused =
    role.kind === 'output'
      ? outputCost(bill, controller, role.channel.active, spot)
      : role.kind === 'input'
        ? inputCost(bill, controller, role.input, spot)
        : signalCost(bill, controller, role.signal.need, spot)
  if (refused) return refused
  const drives = role.kind === 'output' || (role.kind === 'signal' && NEEDS[role.signal.need].capability === 'output')
  const serialRole = role.kind === 'signal' && role.signal.need.startsWith('serial')
  if (spot.usedBy?.includes('serial-log')) {
    if (controller.serialLog) bill.add(COST.serialInUse, 'carries the serial log')
    else bill.add(COST.serialIdle, 'is the programming port')
  }
  if (spot.usedBy?.includes('serial-2') && !serialRole) bill.add(COST.scarce, 'is the second serial port')
  if (spot.usedBy?.includes('light')) bill.add(COST.light, 'carries the on-board light')
  if (spot.usedBy?.includes('button')) bill.add(COST.button, 'carries the on-board button')
  if (isExpanderPin(spot)) bill.add(COST.expander, 'is reached through an expander')
  else if (drives && spot.can.includes('analogue')) bill.add(COST.analogueLeft, 'could serve as analogue')
  if (!spot.startLevel && !spot.startActivity) bill.favour.unshift('free of start-up duty')
  return { cost: bill.cost, against: bill.against, favour: bill.favour }
}

function outputCost(bill: Bill, controller: Controller, active: 'low' | 'high', spot: GpioSpot): PinCost | null {
  if (!spot.can.includes('output')) return bill.forbid('input only')
  if (!reaches(spot, 'output')) return bill.forbid('leads to no relay of this box')
  // A pin that is held high at start leaves a low-active relay open: that is no more than a start-up duty.
  if (spot.startActivity)
    bill.add(
      spot.startActivity.level === 'high' && active === 'low' ? COST.startLevel : COST.startActivity,
      `${spot.startActivity.level === 'high' ? 'high' : 'pulses'} at start: ${spot.startActivity.what}`,
    )
  startDuty(bill, spot, restLevelOf(controller), (rest) => `the relay module rests it ${rest}`)
  return null
}

function startDuty(bill: Bill, spot: GpioSpot, held: 'low' | 'high' | 'free', says: (held: string) => string): void {
  if (!spot.startLevel) return
  if (held !== 'free' && held !== spot.startLevel.level)
    bill.add(COST.wrongAtStart, `must be ${spot.startLevel.level} at start, ${says(held)}`)
  else bill.add(COST.startLevel, `must be ${spot.startLevel.level} at start`)
}

function inputCost(bill: Bill, controller: Controller, input: Input, spot: GpioSpot): PinCost | null {
  const direction = input.closedLevel === 'low' ? 'up' : 'down'
  if (input.ofBoard && !spot.usedBy?.includes('button'))
    return bill.forbid('is not where the board’s own button stands')
  if (!reaches(spot, 'input')) return bill.forbid('leads to no switch terminal of this box')
  if (input.sense === 'analogue') {
    if (!spot.can.includes('analogue')) return bill.forbid('not analogue')
    if (spot.analogueNeedsRadioOff && controller.link === 'wifi')
      return bill.forbid('its analogue reading fails while the radio is on')
    bill.favour.push('analogue')
  } else if (!spot.can.includes('input')) {
    return bill.forbid('no digital input')
  } else if (input.pull === 'internal') {
    if (!spot.can.includes(`pull-${direction}`)) return bill.forbid(`no internal pull-${direction}`)
    if (spot.boardPull && spot.boardPull.to !== (direction === 'up' ? 'high' : 'low'))
      return bill.forbid(`the board’s own ${spot.boardPull.ohms / 1000} kΩ pulls it ${spot.boardPull.to}`)
    bill.favour.push(`has a pull-${direction}`)
  }
  startDuty(bill, spot, input.closedLevel, (held) => `a closed contact holds it ${held}`)
  // its pull is there from the first moment: open, it holds the pin the other way
  if (input.pull === 'fitted')
    startDuty(bill, spot, direction === 'up' ? 'high' : 'low', (held) => `its pull holds it ${held} while it is open`)
  // a pin that the chip drives at start works against a contact that is closed just then
  if (spot.startActivity) bill.add(COST.startLevel, `is driven at start: ${spot.startActivity.what}`)
  if (spot.glitches) bill.add(COST.startLevel, 'falls for a moment when an analogue reading begins')
  // An input that has its own pull does not need a pin that could drive: leave those to the outputs.
  if (spot.can.includes('output') && input.pull !== 'internal' && !isExpanderPin(spot))
    bill.add(COST.scarce, 'could drive an output')
  return null
}

function signalCost(bill: Bill, controller: Controller, need: SignalNeed, spot: GpioSpot): PinCost | null {
  const { capability, native, words } = NEEDS[need]
  if (native && isExpanderPin(spot)) return bill.forbid(`no ${words} through an expander`)
  if (!spot.can.includes(capability)) return bill.forbid(`no ${words}`)
  if (need === 'analogue' && spot.analogueNeedsRadioOff && controller.link === 'wifi')
    return bill.forbid('its analogue reading fails while the radio is on')
  bill.favour.push(words)
  if (capability === 'output' && spot.startActivity)
    bill.add(
      COST.startLevel,
      `${spot.startActivity.level === 'high' ? 'high' : 'pulses'} at start: ${spot.startActivity.what}`,
    )
  if (spot.glitches) bill.add(COST.startLevel, 'falls for a moment when an analogue reading begins')
  // a pull-up is there from the first moment, the firmware is not
  const pulled = need.startsWith('i2c') || need === 'input-pull-up' ? 'high' : 'free'
  startDuty(bill, spot, pulled, (held) => `its pull holds it ${held}`)
  return null
}
