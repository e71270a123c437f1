import { topLevel, type Channel, type Point } from '../site'
import type { Spoken } from '../voice'

/** What a contact's move is called, and what a spoken word asks of a point. */

/** What a contact's move means for its kind of channel. */
export function outputWords(channel: Channel, number: string | undefined, closed: 0 | 1, level: number): string {
  switch (channel.kind) {
    case 'stepped':
      return `contact ${number} ${closed ? 'closes' : 'opens'} for level ${level}`
    case 'paired':
      return `${channel.labels[Number(number) - 1]} ${closed ? 'runs' : 'stops'}`
    case 'pulsed':
      return closed ? 'pulses' : 'rests'
    case 'feed':
      return closed ? 'gives power' : 'cuts power'
    case 'switched':
      return closed ? 'on' : 'off'
  }
}

/** The value of a point that a spoken command stands for. */
export function spokenValue(channel: Channel, point: Point, spoken: Spoken): number {
  if (spoken.action === 'level')
    return point.min + Math.floor((spoken.level * (point.max - point.min)) / topLevel(channel))
  return ['off', 'close', 'stop', 'down'].includes(spoken.action) ? point.min : point.max
}
