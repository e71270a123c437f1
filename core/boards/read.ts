import type { BoardProfile, GpioSpot } from './schema'

/** What a pin, as written, stands for on a board. */
export type PinReading =
  | { kind: 'spot'; spot: GpioSpot; /** the other pin that the same words could mean */ otherwise?: GpioSpot }
  | { kind: 'hidden'; gpio: number; why: string }
  | { kind: 'unknown' }

/** The pins of a board; of a boxed one each says what it is wired to inside. */
export function gpioSpots({ left, right, boxed, own }: BoardProfile): GpioSpot[] {
  const onHeader = [...left, ...right].filter((spot) => spot.kind === 'gpio')
  const spots = [...onHeader, ...buttonOffHeader(onHeader, own)]
  if (!boxed) return spots
  const inside = (gpio: number) =>
    boxed.relays.includes(gpio) ? 'relay' : boxed.switches.includes(gpio) ? 'switch' : 'other'
  return spots.map((spot) => ({ ...spot, inBox: inside(spot.gpio) }))
}

/** The board's own button, where its pin is not brought out: it can be read all the same. */
function buttonOffHeader(onHeader: readonly GpioSpot[], own: BoardProfile['own']): GpioSpot[] {
  const button = own?.button
  if (!button || onHeader.some(({ gpio }) => gpio === button.gpio)) return []
  return [
    {
      kind: 'gpio',
      label: button.label,
      gpio: button.gpio,
      can: ['input', 'pull-up', 'interrupt'],
      usedBy: ['button'],
      startLevel: {
        level: button.pressed === 'low' ? 'high' : 'low',
        otherwise: 'the board waits for programming instead of starting',
      },
    },
  ]
}

/** Whether a pin of a box leads to what a role needs: a relay, or a switch terminal or its own button. */
export function reaches({ inBox, usedBy }: GpioSpot, role: 'output' | 'input'): boolean {
  if (inBox === undefined) return true
  return role === 'output' ? inBox === 'relay' : inBox === 'switch' || usedBy?.includes('button') === true
}

export const spotOf = (board: BoardProfile, gpio: number): GpioSpot | undefined =>
  gpioSpots(board).find((spot) => spot.gpio === gpio)

/**
 * Reads a pin as the maker wrote it. A board label comes first ("D5"), then "GPIO14" or "GP14", then a bare number,
 * which is a GPIO number. A bare number that also stands in a label of another pin ("4" where D4 is GPIO 2) carries
 * both.
 */
export function readPin(board: BoardProfile, written: string): PinReading {
  const text = written.trim().toUpperCase()
  const spots = gpioSpots(board)
  const labelled = spots.find((spot) => spot.label.toUpperCase() === text)
  if (labelled) return { kind: 'spot', spot: labelled }
  const explicit = /^(?:GPIO|GP)\s*(\d{1,2})$/.exec(text)
  const bare = /^(\d{1,2})$/.exec(text)
  const number = explicit?.[1] ?? bare?.[1]
  if (number === undefined) return { kind: 'unknown' }
  const gpio = Number(number)
  const spot = spots.find((candidate) => candidate.gpio === gpio)
  const byLabel = bare
    ? spots.find((candidate) => candidate.label === `D${gpio}` && candidate.gpio !== gpio)
    : undefined
  if (spot) return byLabel ? { kind: 'spot', spot, otherwise: byLabel } : { kind: 'spot', spot }
  const hidden = board.hidden.find((pin) => pin.gpio === gpio)
  if (hidden) return { kind: 'hidden', gpio, why: hidden.why }
  return byLabel ? { kind: 'spot', spot: byLabel } : { kind: 'unknown' }
}

/** "D5 (GPIO 14)", or only the label where both are the same number. */
export function pinName(spot: GpioSpot): string {
  if (spot.label.includes('.')) return spot.label // a pin of an expander has no GPIO number of its own
  return spot.label === `D${spot.gpio}` ? `GPIO ${spot.gpio}` : `${spot.label} (GPIO ${spot.gpio})`
}
