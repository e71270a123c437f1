import type { Site } from '../site'

/** What a conductor is for. */
export type Conductor =
  | 'line'
  | 'neutral'
  | 'earth'
  | 'switched'
  | 'logic-supply'
  | 'coil-supply'
  | 'ground'
  | 'signal'
  | 'load-plus'
  | 'load-minus'

type Colours = Readonly<Record<Conductor, string>>

/** 230 V: mains by IEC 60445 (published, from memory). Low voltage: common practice, none of the mains colours. */
const AT_230: Colours = {
  line: 'brown',
  neutral: 'blue',
  earth: 'green-yellow',
  switched: 'brown with a marked sleeve',
  'logic-supply': 'orange',
  'coil-supply': 'red',
  ground: 'black',
  signal: 'yellow',
  'load-plus': 'violet',
  'load-minus': 'grey',
}

/**
 * 120 V: mains by NEC 200.6 and 250.119 (published, from memory), a switched line red. Low voltage: none of these, so
 * that black is line alone; blue for direct current as in machine wiring (NFPA 79, memory).
 */
const AT_120: Colours = {
  line: 'black',
  neutral: 'white',
  earth: 'green',
  switched: 'red',
  'logic-supply': 'orange',
  'coil-supply': 'blue',
  ground: 'grey',
  signal: 'yellow',
  'load-plus': 'violet',
  'load-minus': 'brown',
}

/**
 * Colours to choose, by region of the mains; one colour means one thing on a page. A caution only: local code decides,
 * and an old installation may differ.
 */
export const wireColour = (site: Site, conductor: Conductor): string =>
  (site.mains.volts === 230 ? AT_230 : AT_120)[conductor]
