import { boardIn, type BoardProfile, type GpioSpot } from '../boards'
import { kindOf, powerUpOf, roleName, rolesOf, type Channel, type Controller, type Role, type Site } from '../site'
import { restLevelOf } from './pinCosts'
import { readPinOn } from './controllerPins'

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

type Level = Stretch['level']
type OutputRole = Extract<Role, { kind: 'output' }>

const stretchOf =
  (closedBy: Channel['active']) =>
  (fromMs: number, toMs: number, level: Level, why: string): Stretch => ({
    fromMs,
    toMs,
    level,
    relay: level === 'pulses' ? 'may click' : level === closedBy ? 'closed' : 'open',
    why,
  })

const opposite = (level: 'low' | 'high') => (level === 'low' ? 'high' : 'low')

/** What the pin does before the firmware writes it: the chip's own doing, then where the module rests it. */
function beforeFirmware(
  controller: Controller,
  board: BoardProfile,
  { channel }: OutputRole,
  spot: GpioSpot,
): Stretch[] {
  const stretch = stretchOf(channel.active)
  const chip = spot.startActivity
  const firmware = board.firmwareAfterMs
  const chipMs = Math.min(firmware, chip?.ms ?? 0)
  const rest = restLevelOf(controller)
  const why = rest === 'free' ? 'left free: the driver’s own resistor decides' : 'the relay module rests it here'
  return [
    ...(chip && chipMs > 0 ? [stretch(0, chipMs, chip.level, chip.what)] : []),
    ...(chipMs < firmware ? [stretch(chipMs, firmware, rest === 'free' ? opposite(channel.active) : rest, why)] : []),
  ]
}

/** Whether power-up closes this contact; a stepped channel restores only the contacts of its level. */
function restores({ channel, contact }: OutputRole): boolean {
  const { policy } = powerUpOf(channel)
  const { patterns, firstLevel } = kindOf(channel)
  return (policy === 'on' || policy === 'last') && patterns(channel)[firstLevel(channel)]!.includes(contact)
}

const SAFE_WORDS: Partial<Readonly<Record<ReturnType<typeof powerUpOf>['policy'], string>>> = {
  wall: 'safe level, then as the rocker is set',
  service: 'safe level, then the service’s value',
}

/** What the firmware does with it: the safe level, and at `restoreMs` what the policy restores (null: nothing). */
function fromFirmware({ channel }: OutputRole, firmware: number, restoreMs: number | null): Stretch[] {
  const stretch = stretchOf(channel.active)
  const safe = opposite(channel.active)
  const { policy } = powerUpOf(channel)
  if (restoreMs === null)
    return [stretch(firmware, firmware + SHOWN_AFTER_MS, safe, SAFE_WORDS[policy] ?? 'safe level')]
  const why = policy === 'on' ? 'power-up: on' : 'power-up: last state, when it was on'
  return [
    ...(restoreMs > firmware ? [stretch(firmware, restoreMs, safe, 'safe level, written before the pin drives')] : []),
    stretch(restoreMs, restoreMs + SHOWN_AFTER_MS, channel.active, why),
  ]
}

/** How much of the level that stays is shown. */
const SHOWN_AFTER_MS = 300

/**
 * The level of each output from power applied to the first restore, by the board's profile: what the chip itself does
 * to the pin, then the rest level of the relay module until the firmware writes the safe level, then what the power-up
 * policy restores.
 */
export function startUpStrips(site: Site, controller: Controller): StartUpStrip[] {
  const board = boardIn(site, controller.board)
  if (!board) return []
  const firmware = board.firmwareAfterMs
  const rest = restLevelOf(controller)
  let turn = 0
  return rolesOf(site, controller.id).flatMap((role): StartUpStrip[] => {
    const written = controller.pins[role.id]?.pin
    if (role.kind !== 'output' || written === undefined) return []
    const reading = readPinOn(site, controller, written)
    if (reading.kind !== 'spot') return []
    const { spot } = reading
    const restoreMs = restores(role) ? firmware + turn++ * controller.staggerMs : null
    const stretches = [...beforeFirmware(controller, board, role, spot), ...fromFirmware(role, firmware, restoreMs)]
    return [
      {
        channel: role.channel,
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
