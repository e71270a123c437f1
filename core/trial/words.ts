import type { Source } from '../device'
import { topLevel, type Channel, type Point } from '../site'
import type { Spoken } from '../voice'

/** The value of a point that a spoken command stands for. */
export function spokenValue(channel: Channel, point: Point, spoken: Spoken): number {
  if (spoken.action === 'level')
    return point.min + Math.floor((spoken.level * (point.max - point.min)) / topLevel(channel))
  return ['off', 'close', 'stop', 'down'].includes(spoken.action) ? point.min : point.max
}

/** Where a change came from, as a person says it. */
export const SOURCE_WORDS: Readonly<Record<Source, string>> = {
  power: 'at power-up',
  wall: 'by wall switch',
  remote: 'by remote',
  app: 'by phone',
  hub: 'by hub',
  nearby: 'by nearby command',
  serial: 'by serial command',
  service: 'by the app service',
  limit: 'by time limit',
  rule: 'by rule',
  schedule: 'by schedule',
  watch: 'by hub watch',
  contact: 'by position contact',
}
