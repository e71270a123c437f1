import { boardIn, type GpioSpot } from '../boards'
import { kindOf, powerUpOf, roleName, rolesOf, type Channel, type Controller, type Site } from '../site'
import { restLevelOf } from './pinCosts'
import { isExpanderPin, readPinOn } from './controllerPins'

export interface Stretch {
  readonly fromMs: number
  readonly toMs: number
  readonly level: 'low' | 'high' | 'pulses'
  /** what the relay does meanwhile */
  readonly relay: 'open' | 'closed' | 'may click'
  readonly why: string
}

export interface StartUpStrip {
  readonly channel: Channel
  readonly name: string
  readonly role: string
  readonly spot: GpioSpot
  readonly stretches: readonly Stretch[]
  /** what the relay module rests the pin at keeps the board from starting (P03) */
  readonly heldWrong: boolean
  /** the relay may close before it is told to */
  readonly clicks: boolean
}

/**
 * The level of each output from power applied to the first restore, by the board's profile: what the chip itself does
 * to the pin, then the rest level of the relay module until the firmware writes the safe level, then what the power-up
 * policy restores.
 */
export function startUpStrips(site: Site, controller: Controller): StartUpStrip[] {
  const board = boardIn(site, controller.board)
  if (!board) return []
  let turn = 0
  return rolesOf(site, controller.id).flatMap((role): StartUpStrip[] => {
    if (role.kind !== 'output') return []
    const written = controller.pins[role.id]?.pin
    const reading = written === undefined ? undefined : readPinOn(site, controller, written)
    if (reading?.kind !== 'spot') return []
    const { spot } = reading
    const { channel } = role
    const kind = kindOf(channel)
    const closedBy = channel.active
    const relay = (level: 'low' | 'high' | 'pulses') =>
      level === 'pulses' ? ('may click' as const) : level === closedBy ? ('closed' as const) : ('open' as const)
    const stretch = (fromMs: number, toMs: number, level: Stretch['level'], why: string): Stretch => ({
      fromMs,
      toMs,
      level,
      relay: relay(level),
      why,
    })
    const rest = restLevelOf(controller)
    const resting = rest === 'free' ? (closedBy === 'low' ? 'high' : 'low') : rest
    const firmware = board.firmwareAfterMs
    const chip = isExpanderPin(spot) ? undefined : spot.startActivity
    const chipMs = Math.min(firmware, chip?.ms ?? 0)
    const safe = closedBy === 'low' ? 'high' : 'low'
    const { policy } = powerUpOf(channel)
    // a stepped channel restores only the contacts of its level
    const restores =
      (policy === 'on' || policy === 'last') && kind.patterns(channel)[kind.firstLevel(channel)]!.includes(role.contact)
    const restoreMs = firmware + (restores ? turn++ * controller.staggerMs : 0)
    const end = Math.max(restoreMs, firmware) + 300
    const stretches = [
      ...(chip && chipMs > 0 ? [stretch(0, chipMs, chip.level, chip.what)] : []),
      ...(chipMs < firmware
        ? [
            stretch(
              chipMs,
              firmware,
              resting,
              rest === 'free' ? 'left free: the driver’s own resistor decides' : 'the relay module rests it here',
            ),
          ]
        : []),
      ...(restores
        ? [
            ...(restoreMs > firmware
              ? [stretch(firmware, restoreMs, safe, 'safe level, written before the pin drives')]
              : []),
            stretch(restoreMs, end, closedBy, policy === 'on' ? 'power-up: on' : 'power-up: as it was, when it was on'),
          ]
        : [
            stretch(
              firmware,
              end,
              safe,
              policy === 'wall'
                ? 'safe level; then as the rocker stands'
                : policy === 'service'
                  ? 'safe level; then the service’s value'
                  : 'safe level',
            ),
          ]),
    ]
    return [
      {
        channel,
        name: roleName(role),
        role: role.id,
        spot,
        stretches,
        heldWrong: spot.startLevel !== undefined && rest !== 'free' && rest !== spot.startLevel.level,
        clicks: stretches.some((one) => one.fromMs < firmware && one.relay !== 'open'),
      },
    ]
  })
}
