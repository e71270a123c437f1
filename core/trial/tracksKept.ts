import type { LaneId, TrackEvent } from './tracks'

/** One thing that happened, with its number in the run. */
export type Kept = TrackEvent & { readonly order: number }

/** Messages are kept in so great a number; older ones are counted only. */
const MOST_MESSAGES = 60_000

/** What a run has done so far, by lane, and what of it is taken back when the run goes back. */
export class TracksKept {
  private order = 0
  readonly lanes = new Map<LaneId, Kept[]>()

  add(event: TrackEvent): void {
    const lane = this.lanes.get(event.lane)
    const kept = { ...event, order: ++this.order }
    if (!lane) return void this.lanes.set(event.lane, [kept])
    lane.push(kept)
    if (event.lane === 'message' && lane.length > MOST_MESSAGES) lane.splice(0, MOST_MESSAGES / 2)
  }

  /** The number of the last thing that happened. */
  get last(): number {
    return this.order
  }

  /** Forgets everything after the one with that number. */
  cutAfter(order: number): void {
    for (const lane of this.lanes.values()) {
      let length = lane.length
      while (length > 0 && lane[length - 1]!.order > order) length--
      lane.length = length
    }
    this.order = order
  }

  of(lane: LaneId): readonly Kept[] {
    return this.lanes.get(lane) ?? []
  }

  /** Everything of one kind of lane, with what stands behind its colon. */
  kind(kind: string): readonly (readonly [of: string, events: readonly Kept[]])[] {
    const start = `${kind}:`
    return [...this.lanes].flatMap(([lane, events]) =>
      lane.startsWith(start) ? [[lane.slice(start.length), events] as const] : [],
    )
  }

  copy(): TracksKept {
    const copied = new TracksKept()
    copied.order = this.order
    for (const [lane, events] of this.lanes) copied.lanes.set(lane, [...events])
    return copied
  }
}

/** The value of a lane at an instant: the last that it took; `before` it took any. */
export function valueAt(events: readonly Kept[], t: number, before = 0): number {
  const place = lastAt(events, t)
  const found = events[place]
  return found && 'value' in found && typeof found.value === 'number' ? found.value : before
}

/** The place of the last event at or before an instant; -1: there is none. */
export function lastAt(events: readonly { readonly t: number }[], t: number): number {
  let low = 0
  let high = events.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (events[middle]!.t <= t) low = middle + 1
    else high = middle
  }
  return low - 1
}
