import type { Site } from '../site'
import { TracksKept } from './tracksKept'
import type { TrialAction, TrialSnapshot } from './types'
import { World } from './world'

/** What was done, and when; ms since the start. */
export interface Deed {
  readonly t: number
  readonly action: TrialAction
}

/** After so many events a copy of the world is kept, to go back to. */
const COPY_EACH = 400
/** So many copies at most; then every second is let go. */
const MOST_COPIES = 256
/** A long way is gone in pieces of this length, ms. */
const PIECE_MS = 600_000

interface Copy {
  readonly t: number
  readonly world: World
  /** number of the last event, and how many deeds had been done */
  readonly order: number
  readonly done: number
}

/**
 * A run: its site, its seed and what was done in it. It can go to any instant, back too; a deed that is added or taken
 * out there changes what follows, and the rest is played anew.
 */
export class Recording {
  private world: World
  private copies: Copy[] = []
  private listed: Deed[]
  private done = 0
  /** the furthest instant that was reached, ms */
  private reached = 0
  tracks = new TracksKept()

  constructor(
    private readonly site: Site,
    readonly seed = 1,
    deeds: readonly Deed[] = [],
  ) {
    this.listed = inOrder(deeds)
    this.world = this.begin()
  }

  private begin(): World {
    const world = World.begin(this.site, this.seed, { onTrack: (event) => this.tracks.add(event) })
    this.copies = []
    this.keep(world, 0)
    return world
  }

  private keep(world: World, t: number): void {
    this.copies.push({ t, world: world.copy(), order: this.tracks.last, done: this.done })
    if (this.copies.length > MOST_COPIES) this.copies = this.copies.filter((_, i) => i % 2 === 0)
  }

  get now(): number {
    return this.world.now
  }

  /** The furthest instant that was reached: what lies between here and there has been played once. */
  get end(): number {
    return this.reached
  }

  get deeds(): readonly Deed[] {
    return this.listed
  }

  snapshot(): TrialSnapshot {
    return this.world.snapshot()
  }

  /** How each link of a board stands; none: it has no power, or no link. */
  linksOf(board: string): readonly ('down' | 'joining' | 'up')[] {
    return this.world.linksOf(board)
  }

  /** The next instant at which something happens: by itself, or because it was done once; null: never. */
  nextDeadline(): number | null {
    const own = this.world.nextDeadline()
    const deed = this.listed[this.done]?.t
    return deed === undefined ? own : Math.min(deed, own ?? Infinity)
  }

  /** Plays on to an instant. */
  advance(to: number): void {
    while (this.now < to || (this.listed[this.done]?.t ?? Infinity) <= to) {
      const deed = this.listed[this.done]
      const next = Math.min(to, this.now + PIECE_MS, deed?.t ?? Infinity)
      this.world.advance(Math.max(next, this.now))
      if (deed && deed.t <= this.now) {
        this.done++
        this.world.act(deed.action)
      }
      const last = this.copies.at(-1)
      if (!last || this.tracks.last - last.order >= COPY_EACH) this.keep(this.world, this.now)
    }
    this.reached = Math.max(this.reached, this.now)
  }

  /** Does something now. What was done later, and has been gone back before, stays. */
  act(action: TrialAction): void {
    this.listed.splice(this.done, 0, { t: this.now, action })
    this.done++
    this.world.act(action)
    this.copies = this.copies.filter(({ t, done }) => t < this.now || done <= this.done)
  }

  /** Goes to an instant: back from the last copy before it, or on. */
  goTo(t: number): void {
    if (t < this.now) this.goBack(t)
    this.advance(t)
  }

  private goBack(t: number): void {
    while (this.copies.length > 1 && this.copies.at(-1)!.t > t) this.copies.pop()
    const { world, order, done } = this.copies.at(-1)!
    this.tracks.cutAfter(order)
    this.done = done
    this.world = world.copy()
  }

  /** Another list of deeds: what follows the first difference is played anew, up to where the run stands. */
  replace(deeds: readonly Deed[]): void {
    const to = this.now
    const fresh = inOrder(deeds)
    const same = fresh.findIndex((deed, i) => this.listed[i] !== deed)
    const first = same < 0 ? Math.min(fresh.length, this.listed.length) : same
    const from = Math.min(fresh[first]?.t ?? Infinity, this.listed[first]?.t ?? Infinity)
    this.listed = fresh
    if (from > to) return
    while (this.copies.length > 1 && (this.copies.at(-1)!.t >= from || this.copies.at(-1)!.done > first))
      this.copies.pop()
    this.goBack(this.copies.at(-1)!.t)
    this.advance(to)
  }
}

const inOrder = (deeds: readonly Deed[]): Deed[] => [...deeds].sort((a, b) => a.t - b.t)
