import { difference, later } from './time'

/**
 * A fixed set of deadlines, by slot. Among deadlines of one instant the one set first fires first. The armed ones are
 * kept in their order: a controller has a hundred slots and more, but seldom more than twenty of them are armed.
 */
export class Timers {
  private readonly at: Uint32Array
  private readonly armed: Uint8Array
  /** armed slots, the next one to fire first */
  private readonly queue: number[] = []

  /** `gestures`: so many slots, the first, are of inputs */
  constructor(
    slots: number,
    private readonly gestures: number,
  ) {
    this.at = new Uint32Array(slots)
    this.armed = new Uint8Array(slots)
  }

  copy(): Timers {
    const copied = new Timers(this.at.length, this.gestures)
    copied.at.set(this.at)
    copied.armed.set(this.armed)
    copied.queue.push(...this.queue)
    return copied
  }

  /** Arms a slot, replacing what it held. */
  arm(slot: number, now: number, ms: number): void {
    this.cancel(slot)
    const { queue } = this
    const at = later(now, ms)
    this.at[slot] = at
    this.armed[slot] = 1
    // behind all that fire before it or in the same instant: those were set first
    let place = queue.length
    while (place > 0 && difference(this.at[queue[place - 1]!]!, at) > 0) place--
    queue.push(slot)
    for (let i = queue.length - 1; i > place; i--) queue[i] = queue[i - 1]!
    queue[place] = slot
  }

  cancel(slot: number): void {
    if (this.armed[slot] === 0) return
    this.armed[slot] = 0
    const { queue } = this
    for (let i = queue.indexOf(slot); i < queue.length - 1; i++) queue[i] = queue[i + 1]!
    queue.pop()
  }

  cancelAll(): void {
    this.armed.fill(0)
    this.queue.length = 0
  }

  isArmed(slot: number): boolean {
    return this.armed[slot] === 1
  }

  /** The slot that fires next, or -1. */
  next(): number {
    return this.queue.length > 0 ? this.queue[0]! : -1
  }

  /** The first gesture (a slot below `gestures`) that is due at `now`, or -1. */
  dueGesture(now: number): number {
    for (const slot of this.queue) {
      if (difference(this.at[slot]!, now) > 0) return -1
      if (slot < this.gestures) return slot
    }
    return -1
  }

  deadline(slot: number): number {
    return this.at[slot]!
  }
}
