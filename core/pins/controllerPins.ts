import { boardIn, gpioSpots, moduleIn, readPin, type GpioSpot, type PinReading, pinName } from '../boards'
import { controllerOf, type Controller, type Site } from '../site'

/**
 * GPIO numbers from here on stand for pins of expanders and shift registers, in the order of the controller's parts.
 */
export const FIRST_EXPANDER_GPIO = 100

/** Until the firmware sets it an expander's pin is an input, weakly high on many (memory of usual data sheets). */
const UNDRIVEN = {
  level: 'high',
  ms: 1_000,
  what: 'an input that floats high until the firmware has set the expander',
} as const
/** A shift register's outputs are whatever it woke up with. */
const UNWRITTEN = { level: 'pulses', ms: 1_000, what: 'anything until the firmware has written the register' } as const

/** Pins that the parts of a controller give it, as spots: "x1.0", "x1.1" … */
export function expanderPins(site: Site, controller: Controller): GpioSpot[] {
  let next = FIRST_EXPANDER_GPIO
  return controller.parts.flatMap((part) => {
    const gives = moduleIn(site, 'part', part.profile)?.gives
    if (!gives) return []
    return Array.from({ length: gives.pins }, (_, index): GpioSpot => ({
      kind: 'gpio',
      label: `${part.id}.${index}`,
      gpio: next++,
      // on newer ones the last pin of each half of sixteen is an output only: so it is taken to be
      can: gives.pins === 16 && index % 8 === 7 ? gives.can.filter((one) => one === 'output') : [...gives.can],
      startActivity: gives.can.includes('input') ? UNDRIVEN : UNWRITTEN,
    }))
  })
}

export const isExpanderPin = (spot: GpioSpot): boolean => spot.gpio >= FIRST_EXPANDER_GPIO

/** Every pin that a role of this controller could have: the board's own first, then those of its expanders. */
export function pinsOf(site: Site, controller: Controller): GpioSpot[] {
  const board = boardIn(site, controller.board)
  if (!board) return []
  return [...gpioSpots(board).filter((spot) => !isHeldByFlash(controller, spot)), ...expanderPins(site, controller)]
}

/** A line of the flash memory that the firmware's mode does not free. */
const isHeldByFlash = (controller: Controller, spot: GpioSpot): boolean =>
  spot.freedBy !== undefined && controller.twoLineFlash !== true

/** Reads a pin as written on this controller: a pin of an expander by its name, else a pin of the board. */
export function readPinOn(site: Site, controller: Controller, written: string): PinReading {
  const onExpander = expanderPins(site, controller).find(
    (spot) => spot.label.toUpperCase() === written.trim().toUpperCase(),
  )
  if (onExpander) return { kind: 'spot', spot: onExpander }
  const board = boardIn(site, controller.board)
  const reading: PinReading = board ? readPin(board, written) : { kind: 'unknown' }
  return reading.kind === 'spot' && isHeldByFlash(controller, reading.spot)
    ? {
        kind: 'hidden',
        gpio: reading.spot.gpio,
        why: 'is a line of the flash memory, unless its two-line mode is chosen',
      }
    : reading
}

/** The pin of a role as its controller's board reads it, or what was written; null: none is assigned. */
function assigned(site: Site, controllerId: string, role: string, say: (spot: GpioSpot) => string): string | null {
  const controller = controllerOf(site, controllerId)
  const choice = controller?.pins[role]
  if (!controller || !choice) return null
  const reading = readPinOn(site, controller, choice.pin)
  return reading.kind === 'spot' ? say(reading.spot) : choice.pin
}

/** Text of a pin as assigned: D5 (GPIO 14). */
export const assignedPin = (site: Site, controllerId: string, role: string): string | null =>
  assigned(site, controllerId, role, pinName)

/** Only what is printed on the board beside it, where there is no room for more: D5. */
export const assignedLabel = (site: Site, controllerId: string, role: string): string | null =>
  assigned(site, controllerId, role, ({ label }) => label)
