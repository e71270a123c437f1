import type { BoardProfile, GpioSpot } from './schema'

/** What a pin, as written, stands for on a board. */
export type PinReading =
  | { kind: 'spot'; spot: GpioSpot; /** the other pin that the same words could mean */ otherwise?: GpioSpot }
  | { kind: 'hidden'; gpio: number; why: string }
  | { kind: 'unknown' }

/** The pins of a board; of a boxed one each says what it is wired to inside. */
export function gpioSpots({ left, right, boxed, own }: BoardProfile): GpioSpot[] {
  const onHeader = [...left, ...right].filter((spot) => spot.kind === 'gpio')
  const spots = [...onHeader, ...buttonOffHeader(onHeader, own), ...toldSpots(boxed)]
  if (!boxed) return spots
  const inside = (gpio: number) =>
    boxed.relays.includes(gpio) || gpio >= FIRST_TOLD_GPIO
      ? 'relay'
      : boxed.switches.includes(gpio)
        ? 'switch'
        : 'other'
  return spots.map((spot) => ({ ...spot, inBox: inside(spot.gpio) }))
}

/** GPIO numbers from here on stand for relays that are told over the serial line, in the order of their frames. */
export const FIRST_TOLD_GPIO = 90

/** Relays of a box that are told by frames: outputs that are no pins. */
const toldSpots = (boxed: BoardProfile['boxed']): GpioSpot[] =>
  (boxed?.relaysBy === 'serial' ? (boxed.frames?.relays ?? []) : []).map((_, at) => ({
    kind: 'gpio',
    label: `K${at + 1}`,
    gpio: FIRST_TOLD_GPIO + at,
    can: ['output'],
  }))

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

/** "D5 (GPIO 14)": what is printed on the board comes first, since it is what the eye finds there. */
export function pinName(spot: GpioSpot): string {
  if (spot.label.includes('.') || spot.gpio >= FIRST_TOLD_GPIO) return spot.label // a pin of an expander has no GPIO number of its own
  return `${spot.label} (GPIO ${spot.gpio})`
}
