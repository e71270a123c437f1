import type { Aedes, Client } from 'aedes'
import { nameOfUser, type BrokerUser } from './rights'

/** What anybody may take of the broker: far above what a house needs, far below what fills a small machine. */
export const LIMITS = {
  /** connections in all */
  connections: 300,
  /** connections of one address that have not said who they are yet */
  knocking: 20,
  /** connections of one user */
  ofUser: 8,
  /** sessions of one user that last beyond their connection */
  sessionsOfUser: 8,
  /** filters of one connection */
  filters: 64,
  /** messages that wait for one session */
  queued: 1_000,
  /** retained values that one user has set */
  retained: 2_000,
  /** messages of quality 2 of one connection whose second half is missing */
  halfReceived: 20,
  /** letters of a client id (MQTT 3.1.1, 3.1.3.1, lets a server take more than 23) */
  clientId: 128,
  /** ms for saying who one is */
  connectMs: 10_000,
} as const

/** Counts by key, and never below nothing. */
class Counts {
  private readonly counts = new Map<string, number>()
  of = (key: string): number => this.counts.get(key) ?? 0
  add(key: string, by: number): void {
    const count = this.of(key) + by
    if (count > 0) this.counts.set(key, count)
    else this.counts.delete(key)
  }
}

/** Connections by address that have not said who they are yet. */
export class Knocking {
  private readonly counts = new Counts()

  /** False: this address has too many. Else the way to say that this one is known, or gone. */
  enter(address: string): false | (() => void) {
    if (this.counts.of(address) >= LIMITS.knocking) return false
    this.counts.add(address, 1)
    let counted = true
    return () => {
      if (counted) this.counts.add(address, -1)
      counted = false
    }
  }
}

/** Sets by user, each with a largest size. */
export class Kept {
  private readonly sets = new Map<string, Set<string>>()

  constructor(private readonly most: number) {}

  /** False: the user has as many as it may. */
  keep(user: BrokerUser, item: string): boolean {
    const name = nameOfUser(user)
    const set = this.sets.get(name) ?? new Set()
    this.sets.set(name, set)
    if (!set.has(item) && set.size >= this.most) return false
    set.add(item)
    return true
  }

  drop(user: BrokerUser, item: string): void {
    this.sets.get(nameOfUser(user))?.delete(item)
  }

  /** Takes out, and gives, all that fit. */
  takeOut(fits: (item: string) => boolean): string[] {
    const out: string[] = []
    for (const set of this.sets.values())
      for (const item of [...set]) if (fits(item) && set.delete(item)) out.push(item)
    return out
  }
}

interface Queues {
  outgoingEnqueue(sub: { clientId: string }, packet: unknown): Promise<void>
  outgoingEnqueueCombi(subs: { clientId: string }[], packet: unknown): Promise<void>
  outgoingClearMessageId(client: Client, packet: unknown): Promise<unknown>
}

/**
 * A session whose queue is full gets no more into it until it acknowledges; one that is there and does not is cut by
 * the library, which misses the message in the queue.
 */
export function limitQueues(aedes: Aedes): void {
  const queues = (aedes as unknown as { persistence: Queues }).persistence
  const counts = new Counts()
  const [one, many, clear] = [
    queues.outgoingEnqueue.bind(queues),
    queues.outgoingEnqueueCombi.bind(queues),
    queues.outgoingClearMessageId.bind(queues),
  ]
  const admit = (sub: { clientId: string }): boolean => {
    if (counts.of(sub.clientId) >= LIMITS.queued) return false
    counts.add(sub.clientId, 1)
    return true
  }
  queues.outgoingEnqueue = async (sub, packet) => void (admit(sub) && (await one(sub, packet)))
  queues.outgoingEnqueueCombi = (subs, packet) => many(subs.filter(admit), packet)
  queues.outgoingClearMessageId = async (client, packet) => {
    const cleared = await clear(client, packet)
    if (cleared) counts.add(client.id, -1)
    return cleared
  }
}
