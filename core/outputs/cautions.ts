import { touchesMains } from '../electrics'
import { channelsOn, controllerOf, loadOf, type Channel, type Site } from '../site'

/** Cautions for work on mains, in the order in which they matter (common practice; local code decides). */
export const MAINS_CAUTIONS: readonly string[] = [
  'Mains can kill. Switch the supply off, lock it off, and prove it dead before you open a box.',
  'Let a licensed electrician do or check the mains side where your law asks for one. Local code ' +
    'decides, not this sheet.',
  'A breaker and a fuse that suit the wire, and a residual-current device before it all. Line goes through the contact, ' +
    'never neutral.',
  'Capacitors hold their charge after the supply is off: wait, empty them, and prove them dead too.',
  'Earth and continuity are proved before power. Covers are on before power is.',
  'Remotely switched equipment can start unexpectedly: stand clear of doors, gates and motors, and lock them off before you ' +
    'reach in.',
]

/** Whether somebody who wires a controller may meet mains: a load that nobody has named counts as one on mains. */
export function hasMains(site: Site, controllerId: string): boolean {
  const controller = controllerOf(site, controllerId)
  return controller !== undefined && touchesMains(site, controller)
}

/** Something that a person can be caught in: a door, a shutter, a motor. */
const moves = (site: Site, channel: Channel): boolean =>
  channel.kind === 'paired' ||
  (channel.kind === 'pulsed' && channel.door !== null) ||
  loadOf(site, channel.load)?.type === 'motor'

/**
 * What stands at the head of every paper about a controller: the cautions for mains where it may be met, the one about
 * what starts unexpectedly where only doors and motors are.
 */
export function cautionsFor(site: Site, controllerId: string): readonly string[] {
  if (hasMains(site, controllerId)) return MAINS_CAUTIONS
  return channelsOn(site, controllerId).some((channel) => moves(site, channel)) ? MAINS_CAUTIONS.slice(-1) : []
}
