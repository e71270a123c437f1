import { boardIn, gpioSpots, moduleIn, readPin, type GpioSpot, type PinReading } from '../boards'
import type { Controller, Site } from '../site'

/**
 * GPIO numbers from here on stand for pins of expanders and shift registers, in the order of the controller's parts.
 */
export const FIRST_EXPANDER_GPIO = 100

/** Pins that the parts of a controller give it, as spots: "x1.0", "x1.1" … */
export function expanderSpots(site: Site, controller: Controller): GpioSpot[] {
  let next = FIRST_EXPANDER_GPIO
  return controller.parts.flatMap((part) => {
    const gives = moduleIn(site, 'part', part.profile)?.gives
    if (!gives) return []
    return Array.from({ length: gives.pins }, (_, index): GpioSpot => ({
      kind: 'gpio',
      label: `${part.id}.${index}`,
      gpio: next++,
      can: [...gives.can],
    }))
  })
}

export const isExpanderPin = (spot: GpioSpot): boolean => spot.gpio >= FIRST_EXPANDER_GPIO

/** Every pin that a role of this controller could have: the board's own first, then those of its expanders. */
export function spotsOf(site: Site, controller: Controller): GpioSpot[] {
  const board = boardIn(site, controller.board)
  return board ? [...gpioSpots(board), ...expanderSpots(site, controller)] : []
}

/** Reads a pin as written on this controller: a pin of an expander by its name, else a pin of the board. */
export function readPinOn(site: Site, controller: Controller, written: string): PinReading {
  const onExpander = expanderSpots(site, controller).find(
    (spot) => spot.label.toUpperCase() === written.trim().toUpperCase(),
  )
  if (onExpander) return { kind: 'spot', spot: onExpander }
  const board = boardIn(site, controller.board)
  return board ? readPin(board, written) : { kind: 'unknown' }
}
