import type { Site } from '../site'

/** What a conductor is for. */
export type Conductor = 'line' | 'neutral' | 'earth' | 'switched' | 'logic-supply' | 'coil-supply' | 'ground' | 'signal'

/**
 * Colours to choose, by region of the mains: 230 V by IEC 60445 (brown, blue, green-yellow), 120 V by NEC 200.6 and
 * 250.119 (black, white, green); a switched line is marked. Published, from memory. Low-voltage colours are common
 * practice. A caution only: local code decides, and an old installation may differ from either.
 */
export function wireColour(site: Site, conductor: Conductor): string {
  const european = site.mains.volts === 230
  switch (conductor) {
    case 'line':
      return european ? 'brown' : 'black'
    case 'neutral':
      return european ? 'blue' : 'white'
    case 'earth':
      return european ? 'green-yellow' : 'green'
    case 'switched':
      return european ? 'brown, marked' : 'red'
    case 'logic-supply':
      return 'orange'
    case 'coil-supply':
      return 'red'
    case 'ground':
      return 'black'
    case 'signal':
      return 'yellow'
  }
}
