import type { ChannelHeard } from './boards'
import type { To, Turn } from './watch'

/** A report of a channel as it was heard. */
export interface Report {
  readonly controller: string
  readonly channel: string
  readonly level: number
  readonly source: string | null
  readonly seq: number | null
  /** ms */
  readonly t: number
}

function goes(to: To, level: number, known: ChannelHeard | undefined): boolean {
  if (typeof to === 'number') return level === to
  const was = known?.level
  switch (to) {
    case 'on':
      return level > 0
    case 'off':
      return level === 0
    case 'turned':
      return was === undefined || was > 0 !== level > 0
    case 'up':
      return was === undefined || level > was || (level === 0 && was > 0)
    case 'down':
      return was === undefined || level < was || was === 0
    case 'any':
      return true
  }
}

/** Does a report do what a turn asks for? A source that is not said is believed; the power turns nothing by hand. */
export function meets(turn: Turn, report: Report, known: ChannelHeard | undefined): boolean {
  if (turn.channel !== report.channel || !goes(turn.to, report.level, known)) return false
  if (report.source === null) return true
  return turn.by === null ? report.source !== 'power' : turn.by.includes(report.source)
}

/** Can a channel at this level be seen to go there? */
export function movedFrom(to: To, level: number): boolean {
  if (typeof to === 'number') return level !== to
  return to === 'on' ? level === 0 : to === 'off' || to === 'down' ? level > 0 : true
}
