import { difference, later } from './time'

/**
 * A fixed set of deadlines, by slot. Among deadlines of one instant the one set first fires first, so each arming takes
 * a number. Linear scans: a controller has at most about a hundred slots, and the firmware does the same without a heap.
 */
export class Timers {
  private readonly at: Uint32Array
  private readonly order: Float64Array
  private readonly armed: Uint8Array
  private armings = 0
  /** The earliest armed slot by (at, order); -1: none; -2: not known. */
  private first = -1

  constructor(slots: number) {
    this.at = new Uint32Array(slots)
    this.order = new Float64Array(slots)
    this.armed = new Uint8Array(slots)
  }

  /** Arms a slot, replacing what it held. */
  arm(slot: number, now: number, ms: number): void {
    this.at[slot] = later(now, ms)
    this.order[slot] = ++this.armings
    this.armed[slot] = 1
    if (this.first === -1) this.first = slot
    else if (this.first === slot || (this.first >= 0 && difference(this.at[slot]!, this.at[this.first]!) < 0)) this.first = -2
  }

  cancel(slot: number): void {
    if (this.armed[slot] === 0) return
    this.armed[slot] = 0
    if (this.first === slot) this.first = -2
  }

  cancelAll(): void {
    this.armed.fill(0)
    this.first = -1
  }

  isArmed(slot: number): boolean {
    return this.armed[slot] === 1
  }

  /** The slot that fires next, or -1. */
  next(): number {
    if (this.first !== -2) return this.first
    let best = -1
    for (let slot = 0; slot < this.armed.length; slot++) {
      if (this.armed[slot] === 0) continue
      if (best < 0) best = slot
      else {
        const gap = difference(this.at[slot]!, this.at[best]!)
        if (gap < 0 || (gap === 0 && this.order[slot]! < this.order[best]!)) best = slot
      }
    }
    this.first = best
    return best
  }

  deadline(slot: number): number {
    return this.at[slot]!
  }
}
