import TinyQueue from 'tinyqueue'
import type { DeviceEvent } from '../device'
import type { PartId } from '../parts'
import type { Message } from './broker'

/** What comes by itself, as plain data: a run can be copied in the middle of it. `controller`: in the house's list. */
export type Happening =
  | { readonly kind: 'serviceHears'; readonly service: number; readonly message: Message }
  | { readonly kind: 'hubHears'; readonly message: Message }
  | { readonly kind: 'beat'; readonly everyMs: number }
  | {
      readonly kind: 'told'
      readonly controller: number
      readonly event: DeviceEvent
      /** what was on its way when the board lost its power does not arrive */ readonly boots: number
    }
  | { readonly kind: 'joined'; readonly controller: number; readonly link: number }
  | { readonly kind: 'linksLost'; readonly controller: number }
  /** the supply has sagged */
  | { readonly kind: 'restarts'; readonly controller: number }
  | { readonly kind: 'doorMoves'; readonly contact: string }
  | { readonly kind: 'returns'; readonly part: PartId; readonly turn: number }
  | { readonly kind: 'curve'; readonly sensor: string; readonly turn: number }

interface Due {
  readonly at: number
  readonly order: number
  readonly what: Happening
}

const sooner = (a: Due, b: Due): number => a.at - b.at || a.order - b.order

/** What is to happen, by its instant; of one instant, what was put in first comes first. Times are the world's, ms. */
export class EventQueue {
  private order = 0
  private queue = new TinyQueue<Due>([], sooner)

  put(at: number, what: Happening): void {
    this.queue.push({ at, order: ++this.order, what })
  }

  /** The next instant; Infinity: nothing waits. */
  get next(): number {
    return this.queue.peek()?.at ?? Infinity
  }

  /** Runs what is due by now, but nothing that this puts in for the same instant. */
  runUpTo(now: number, run: (what: Happening) => void): void {
    const last = this.order
    for (let due = this.queue.peek(); due && due.at <= now && due.order <= last; due = this.queue.peek()) {
      this.queue.pop()
      run(due.what)
    }
  }

  copy(): EventQueue {
    const copied = new EventQueue()
    copied.order = this.order
    copied.queue = new TinyQueue<Due>([...this.queue.data], sooner)
    return copied
  }
}
