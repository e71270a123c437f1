import type { ControllerImage, ImageChannel } from '../image'
import { outputName } from '../site'
import { difference } from './time'
import type { TraceLine } from './trace'
import type { DeviceOutput } from './types'

/**
 * What must not happen to anybody, whatever the tables and the trace: judged by the contacts alone, from the words of
 * docs/behaviour.md, so that it holds for any engine.
 */

/** A contact that was open for less has not been open (docs/behaviour.md, Limits), ms. */
const REST_MS = 100

interface Movement {
  /** ms since the trace began */
  readonly t: number
  readonly contact: number
  readonly closed: boolean
}

/** The movements of a channel's contacts from a power-up until the power goes: then a coil lets go by itself. */
interface Session {
  readonly from: number
  to: number
  readonly movements: Movement[]
}

function sessionsOf(
  channel: ImageChannel,
  trace: readonly TraceLine[],
  outputs: readonly DeviceOutput[],
): readonly Session[] {
  const start = trace[0]!.t
  const end = difference(trace.at(-1)!.t, start)
  const since = (t: number) => difference(t, start)
  const powers = trace.flatMap((line) => ('power' in line ? [{ t: since(line.t), on: line.power === 'on' }] : []))
  const sessions: Session[] = [{ from: 0, to: end, movements: [] }]
  let powered = !powers.some(({ t }) => t === 0)
  for (const { t, on } of powers) {
    if (on && !powered) sessions.push({ from: t, to: end, movements: [] })
    if (!on && powered) sessions.at(-1)!.to = t
    powered = on
  }
  const names = channel.gpios.map((_, contact) => outputName(channel, contact))
  for (const output of outputs) {
    if (!('out' in output) || !names.includes(output.out)) continue
    const t = since(output.t)
    const session = sessions.filter(({ from }) => from <= t).at(-1)!
    session.movements.push({ t, contact: names.indexOf(output.out), closed: output.level === 1 })
  }
  return sessions
}

/** Spans in which some contact was closed, in ms. */
function closedSpans({ movements, to: end }: Session): { from: number; to: number }[] {
  const spans: { from: number; to: number }[] = []
  const closed = new Set<number>()
  for (const { t, contact, closed: closes } of movements) {
    const before = closed.size
    if (closes) closed.add(contact)
    else closed.delete(contact)
    if (before === 0 && closed.size > 0) spans.push({ from: t, to: end })
    if (before > 0 && closed.size === 0) spans.at(-1)!.to = t
  }
  // opened and closed in one instant: it never moved
  return spans.filter(({ from, to }) => to > from)
}

/** "Limits follow the contact": never closed for longer, an opening of less than REST_MS being none. */
function limitHolds(channel: ImageChannel, session: Session): string[] {
  if (channel.maxOnMs === 0 || channel.kind === 'pulsed') return []
  const wrong: string[] = []
  let run: { from: number; to: number } | null = null
  for (const span of closedSpans(session)) {
    const goesOn: boolean = run !== null && span.from - run.to < REST_MS
    if (goesOn && run!.to - run!.from >= channel.maxOnMs) wrong.push(`closed ${span.from - run!.to} ms after its limit`)
    run = goesOn ? { from: run!.from, to: span.to } : span
    if (run.to - run.from > channel.maxOnMs) wrong.push(`closed for ${run.to - run.from} ms, limit ${channel.maxOnMs}`)
  }
  return wrong
}

/** A pulse is as long as it is told. */
const pulsesHold = (channel: ImageChannel, session: Session): string[] =>
  channel.kind !== 'pulsed'
    ? []
    : closedSpans(session)
        .filter(({ from, to }) => to - from > channel.maxOnMs)
        .map(({ from, to }) => `pulse of ${to - from} ms, ${channel.maxOnMs} told`)

/** "Never both", and dead time between different directions, also from power-up. */
function directionsHold(channel: ImageChannel, session: Session): string[] {
  if (channel.kind !== 'paired') return []
  const wrong: string[] = []
  const closed = [false, false]
  const openedAt = [session.from, session.from]
  for (const { t, contact, closed: closes } of session.movements) {
    closed[contact] = closes
    if (!closes) openedAt[contact] = t
    else if (closed[1 - contact]) wrong.push('both directions closed')
    else if (t - openedAt[1 - contact]! < channel.gapMs) wrong.push(`dead time of ${t - openedAt[1 - contact]!} ms`)
  }
  return wrong
}

/** minOffMs from each opening, and from power-up. */
function leastOffHolds(channel: ImageChannel, session: Session): string[] {
  if (channel.minOffMs === 0 || channel.kind !== 'switched') return []
  const wrong: string[] = []
  let openedAt = session.from
  for (const { t, closed } of session.movements)
    if (!closed) openedAt = t
    else if (t - openedAt < channel.minOffMs) wrong.push(`off for ${t - openedAt} ms, at least ${channel.minOffMs}`)
  return wrong
}

/** Everything wrong with what a controller did, in words; empty: nothing. */
export function dangersOf(
  image: ControllerImage,
  trace: readonly TraceLine[],
  outputs: readonly DeviceOutput[],
): string[] {
  return image.channels.flatMap((channel) =>
    sessionsOf(channel, trace, outputs).flatMap((session) =>
      [
        ...limitHolds(channel, session),
        ...pulsesHold(channel, session),
        ...directionsHold(channel, session),
        ...leastOffHolds(channel, session),
      ].map((what) => `${channel.id}: ${what}`),
    ),
  )
}

/** Contacts that close by themselves, by output name: none of these may, whatever the network says. */
export const closings = (outputs: readonly DeviceOutput[]): ReadonlySet<string> =>
  new Set(outputs.flatMap((output) => ('out' in output && output.level === 1 ? [output.out] : [])))

/** A trace without what a person, a sensor or a clock does: what is left only remembers, repeats or comes and goes. */
export const unasked = (trace: readonly TraceLine[]): TraceLine[] =>
  trace.flatMap((line): TraceLine[] => {
    if ('pin' in line || 'ir' in line || 'edges' in line || 'char' in line || 'sensor' in line || 'clock' in line)
      return []
    // whatever was asked comes again, as a broker keeps it
    if ('msg' in line) return [{ ...line, msg: { ...line.msg, retain: true } }]
    return [line]
  })
