import TinyQueue from 'tinyqueue'

interface Due {
  readonly at: number
  readonly order: number
  readonly run: () => void
}

/** What is to happen, by its instant; of one instant, what was put in first comes first. Times are the world's, ms. */
export class EventQueue {
  private order = 0
  private readonly queue = new TinyQueue<Due>([], (a, b) => a.at - b.at || a.order - b.order)

  put(at: number, run: () => void): void {
    this.queue.push({ at, order: ++this.order, run })
  }

  /** The next instant; Infinity: nothing waits. */
  get next(): number {
    return this.queue.peek()?.at ?? Infinity
  }

  /** Runs what is due by now, but nothing that this puts in for the same instant. */
  runUpTo(now: number): void {
    const last = this.order
    for (let due = this.queue.peek(); due && due.at <= now && due.order <= last; due = this.queue.peek()) {
      this.queue.pop()
      due.run()
    }
  }
}
