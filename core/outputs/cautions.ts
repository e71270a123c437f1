import { loadOf, type Site } from '../site'

/** Cautions for work on mains, in the order in which they matter (common practice; local code decides). */
export const MAINS_CAUTIONS: readonly string[] = [
  'Mains can kill. Switch the supply off, lock it off, and prove it dead before you open a box.',
  'Let a licensed electrician do or check the mains side where your law asks for one. Local code ' +
    'decides, not this sheet.',
  'Line goes through the contact, never neutral. Covers are on before power is.',
]

/** Whether somebody who wires a controller may meet mains: a load that nobody has named counts as one on mains. */
export const hasMains = (site: Site, controller: string): boolean =>
  site.channels.some(
    (channel) => channel.controller === controller && loadOf(site, channel.load)?.supply !== 'low-voltage',
  )
