import { topLevel, type Channel, type Point } from '../site'
import type { Spoken } from '../voice'

/** The value of a point that a spoken command stands for. */
export function spokenValue(channel: Channel, point: Point, spoken: Spoken): number {
  if (spoken.action === 'level')
    return point.min + Math.floor((spoken.level * (point.max - point.min)) / topLevel(channel))
  return ['off', 'close', 'stop', 'down'].includes(spoken.action) ? point.min : point.max
}
