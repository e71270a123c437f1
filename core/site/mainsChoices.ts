import type { Site } from './schema'

/** Mains as it comes into houses: volts, hertz and lines together, since they go together. */
export const MAINS_CHOICES: readonly (readonly [string, string, Site['mains']])[] = [
  ['230', '230 V 50 Hz, one line and neutral', { volts: 230, hertz: 50, phases: 'one' }],
  ['230/400', '230/400 V 50 Hz, three lines', { volts: 230, hertz: 50, phases: 'three' }],
  ['120/240', '120/240 V 60 Hz, split phase', { volts: 120, hertz: 60, phases: 'split' }],
  ['120', '120 V 60 Hz, one line and neutral', { volts: 120, hertz: 60, phases: 'one' }],
  ['120/208', '120/208 V 60 Hz, three lines', { volts: 120, hertz: 60, phases: 'three' }],
  ['230 at 60', '230 V 60 Hz, one line and neutral', { volts: 230, hertz: 60, phases: 'one' }],
]
