import { faultText, partsOf, type FaultKind, type PartId } from '../parts'
import { grouped, kindOf, topLevel, type Channel, type Site, type Way } from '../site'
import { lastAt, valueAt, type Kept, type TracksKept } from './tracksKept'

/** What the drawn time line shows of a stretch of a run: for each channel what was asked, what is, what is believed. */

export interface Bar {
  /** ms since the start */
  readonly from: number
  readonly to: number
  readonly value: number
  /** so many changes are too near each other to be drawn one by one; 0: none */
  readonly changes: number
}

export interface Tick {
  readonly t: number
  readonly text: string
  readonly cause: number
}

export interface BeliefLane {
  readonly way: string
  readonly who: 'hub' | 'phone'
  readonly bars: readonly Bar[]
  /** where it differs from what is, for longer than a message needs */
  readonly wrong: readonly Bar[]
}

export interface ChannelLane {
  readonly channel: string
  readonly name: string
  readonly top: number
  readonly asked: readonly Tick[]
  readonly is: readonly Bar[]
  readonly believed: readonly BeliefLane[]
  /** where another run, laid beside this one, differs */
  readonly differs: readonly Bar[]
}

/** A contact of a switch or of a relay over time. */
export interface WireLane {
  readonly id: string
  readonly name: string
  readonly bars: readonly Bar[]
}

export interface FaultBand {
  readonly part: PartId
  readonly text: string
  readonly from: number
  readonly to: number
}

export interface Lanes {
  readonly from: number
  readonly to: number
  /** the run stands here, ms */
  readonly now: number
  readonly channels: readonly ChannelLane[]
  /** inputs and contacts that change in the stretch, where they are asked for */
  readonly wires: readonly WireLane[]
  readonly faults: readonly FaultBand[]
  /** messages in each of equal pieces of the stretch */
  readonly messages: readonly number[]
}

/** The stretch, and how fine it is drawn. */
export interface Stretch {
  readonly from: number
  readonly to: number
  readonly pixels: number
  /** inputs and contacts are drawn too */
  readonly wires?: boolean
}

/** A screen may be behind for as long as a message usually needs, ms; it is wrong when it is so for longer. */
export const LAG_MS = 1_000
const PIECES = 120

interface Piece {
  readonly from: number
  readonly to: number
  readonly value: number
}

/** The stretches over which a lane keeps a value, cut to the drawn one. */
function piecesOf(events: readonly Kept[], from: number, end: number): Piece[] {
  const pieces: Piece[] = []
  let at = from
  let value = valueAt(events, from)
  const close = (t: number): void => {
    const last = pieces.at(-1)
    if (last?.value === value) pieces[pieces.length - 1] = { ...last, to: t }
    else if (t > at) pieces.push({ from: at, to: t, value })
  }
  for (let i = lastAt(events, from) + 1; i < events.length && events[i]!.t < end; i++) {
    const event = events[i]!
    if (!('value' in event) || typeof event.value !== 'number') continue
    close(event.t)
    at = event.t
    value = event.value
  }
  close(end)
  return pieces
}

/** The bars of a lane: stretches that are shorter than a pixel and follow each other are drawn as one. */
export function barsOf(events: readonly Kept[], { from, to, pixels }: Stretch, until: number): Bar[] {
  const end = Math.min(to, until)
  if (end <= from) return []
  const least = (to - from) / pixels
  const bars: Bar[] = []
  for (const piece of piecesOf(events, from, end)) {
    const last = bars.at(-1)
    const isShort = piece.to - piece.from < least
    if (isShort && last && last.changes > 0)
      bars[bars.length - 1] = {
        ...last,
        to: piece.to,
        value: Math.max(last.value, piece.value),
        changes: last.changes + 1,
      }
    else bars.push({ ...piece, changes: isShort ? 1 : 0 })
  }
  return bars
}

/** Where two lanes have different values, and for how long; stretches shorter than `leastMs` are left out. */
export function differences(a: readonly Kept[], b: readonly Kept[], from: number, to: number, leastMs = 0): Bar[] {
  const times = [from, to]
  for (const events of [a, b])
    for (let i = lastAt(events, from) + 1; i < events.length && events[i]!.t < to; i++) times.push(events[i]!.t)
  times.sort((x, y) => x - y)
  const found: Bar[] = []
  for (let i = 0; i + 1 < times.length; i++) {
    const [start, stop] = [times[i]!, times[i + 1]!]
    if (start === stop) continue
    const value = valueAt(b, start)
    if (valueAt(a, start) === value) continue
    const last = found.at(-1)
    if (last && last.to === start && last.value === value) found[found.length - 1] = { ...last, to: stop }
    else found.push({ from: start, to: stop, value, changes: 0 })
  }
  return found.filter((bar) => bar.to - bar.from >= leastMs || bar.from === from)
}

/** What is true of a channel over time: of a door with a position contact where it stands, else what its load does. */
export function truthOf(channel: Channel, tracks: TracksKept): readonly Kept[] {
  const position = kindOf(channel).position(channel)
  if (!position?.input) return tracks.of(`load:${channel.id}`)
  const isOpen = (closed: boolean): boolean => closed !== (position.closedMeans === 'closed')
  const events = tracks
    .of(`input:${position.input}`)
    .flatMap((event): Kept[] =>
      'value' in event && typeof event.value === 'number'
        ? [{ ...event, lane: `load:${channel.id}`, value: Number(isOpen(event.value !== 0)) }]
        : [],
    )
  const start: Kept = { t: 0, lane: `load:${channel.id}`, value: Number(isOpen(false)), cause: null, order: 0 }
  return [start, ...events]
}

function channelLane(
  ways: readonly Way[],
  channel: Channel,
  tracks: TracksKept,
  other: TracksKept | null,
  stretch: Stretch,
  now: number,
): ChannelLane {
  const { id } = channel
  const is = truthOf(channel, tracks)
  const end = Math.min(stretch.to, now)
  const hands = tracks.of('hand')
  const asked: Tick[] = []
  for (let i = lastAt(hands, stretch.from - 1) + 1; i < hands.length && hands[i]!.t <= end; i++) {
    const hand = hands[i]!
    if (hand.lane === 'hand' && hand.channels.includes(id))
      asked.push({ t: hand.t, text: hand.text, cause: hand.cause })
  }
  // a pulse is over before a screen has heard of it: nobody is wrong about it
  const isWitness = kindOf(channel).lasting || kindOf(channel).position(channel)?.input
  const believed = ways.flatMap((way): BeliefLane[] => {
    if (way.kind !== 'hub' && way.kind !== 'app') return []
    const events = tracks.of(`belief:${way.id}`)
    const first = events[0]?.t ?? Infinity
    const wrong = isWitness && first <= end ? differences(is, events, Math.max(stretch.from, first), end, LAG_MS) : []
    return [{ way: way.id, who: way.kind === 'hub' ? 'hub' : 'phone', bars: barsOf(events, stretch, now), wrong }]
  })
  const differs = other ? differences(truthOf(channel, other), is, stretch.from, end) : []
  return {
    ...{ channel: id, name: channel.name, top: topLevel(channel), asked },
    ...{ is: barsOf(is, stretch, now), believed, differs },
  }
}

function faultBands(site: Site, tracks: TracksKept, { from, to }: Stretch, now: number): FaultBand[] {
  const faults = tracks.kind('fault')
  if (faults.length === 0) return []
  const graph = partsOf(site)
  return faults.flatMap(([id, events]): FaultBand[] => {
    const part = graph.get(id as PartId)
    if (!part) return []
    return events.flatMap((event, i): FaultBand[] => {
      if (!('value' in event) || event.value === null) return []
      const band = { from: Math.max(from, event.t), to: Math.min(to, events[i + 1]?.t ?? now) }
      const text = faultText(part, event.value as FaultKind)
      return band.to >= band.from ? [{ part: part.id, text, ...band }] : []
    })
  })
}

function wireLanes(site: Site, tracks: TracksKept, stretch: Stretch, now: number): WireLane[] {
  const named = [
    ...site.inputs.map(({ id, name }) => ({ lane: `input:${id}` as const, name })),
    ...site.channels.flatMap((channel) =>
      kindOf(channel)
        .outputs(channel)
        .map((_, k, all) => ({
          lane: `contact:${channel.id}.${k}` as const,
          name: all.length > 1 ? `${channel.name}, contact ${k + 1}` : `${channel.name}, contact`,
        })),
    ),
  ]
  return named.flatMap(({ lane, name }): WireLane[] => {
    const bars = barsOf(tracks.of(lane), stretch, now)
    return bars.length > 1 || bars.some(({ value }) => value > 0) ? [{ id: lane, name, bars }] : []
  })
}

function messagesIn(tracks: TracksKept, { from, to }: Stretch): number[] {
  const counts = new Array<number>(PIECES).fill(0)
  const messages = tracks.of('message')
  for (let i = lastAt(messages, from) + 1; i < messages.length && messages[i]!.t < to; i++)
    counts[Math.floor(((messages[i]!.t - from) / (to - from)) * PIECES)]!++
  return counts
}

/** What is drawn of a stretch; `other`: a run that is laid beside it. */
export const lanesOf = (
  site: Site,
  tracks: TracksKept,
  stretch: Stretch,
  now: number,
  other: TracksKept | null = null,
): Lanes => {
  const ways = grouped(site.ways, ({ channel }) => channel as string)
  return {
    ...{ from: stretch.from, to: stretch.to, now },
    channels: site.channels.map((channel) =>
      channelLane(ways.get(channel.id) ?? [], channel, tracks, other, stretch, now),
    ),
    wires: stretch.wires ? wireLanes(site, tracks, stretch, now) : [],
    faults: faultBands(site, tracks, stretch, now),
    messages: messagesIn(tracks, stretch),
  }
}
