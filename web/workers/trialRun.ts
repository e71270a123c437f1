import { scenarioText } from '../../core/scenario'
import type { Site } from '../../core/site'
import {
  deedPath,
  lanesOf,
  Recording,
  runTable,
  waveFile,
  type Deed,
  type DeedPath,
  type Lanes,
  type Stretch,
  type TracksKept,
  type TrialAction,
  type TrialSnapshot,
} from '../../core/trial'

/** What the screen looks at: a stretch of the run, and the deed whose path is lit. */
export interface Look {
  readonly spanMs: number
  /** where the stretch begins; null: it follows the run */
  readonly fromMs: number | null
  readonly pixels: number
  /** null: the last deed */
  readonly cause: number | null
  /** inputs and contacts are drawn too */
  readonly wires?: boolean
}

/** All that the screen shows of a run. */
export interface TrialFrame {
  readonly snapshot: TrialSnapshot
  /** ms of the house: where the run stands, and the furthest that it came */
  readonly now: number
  readonly end: number
  /** ms of the house in each ms; 0: it stands still */
  readonly pace: number
  /** on its way to an instant */
  readonly goingTo: number | null
  readonly lanes: Lanes
  readonly path: DeedPath | null
  readonly deeds: readonly Deed[]
  /** another run is laid beside this one */
  readonly compares: boolean
}

/** What a run needs of the machine: a clock, and a way to be woken. */
export interface Machine {
  now(): number
  wake(run: () => void, ms: number): () => void
}

/** At most so many frames a second while it runs. */
const FRAME_MS = 50
/** A long way is gone in pieces of so much work, ms of this machine, so that a hand is heard between them. */
const PIECE_MS = 40
/** What is tried first as a piece, ms of the house. */
const FIRST_PIECE_MS = 60_000
const DEFAULT_LOOK: Look = { spanMs: 60_000, fromMs: null, pixels: 800, cause: null }
/** Of a stretch that follows the run so much lies before the instant. */
const BEFORE = 0.86

/** A trial in time: it runs at a pace, stands still, goes back and on, and shows itself to a listener. */
export class TrialRun {
  private recording: Recording
  private other: TracksKept | null = null
  private pace = 1
  private look: Look = DEFAULT_LOOK
  private goingTo: number | null = null
  private started = { at: 0, house: 0 }
  private sleeps: (() => void) | null = null
  private isOver = false

  constructor(
    private readonly site: Site,
    private readonly machine: Machine,
    private readonly show: (frame: TrialFrame) => void,
    seed = 1,
    deeds: readonly Deed[] = [],
  ) {
    this.recording = new Recording(site, seed, deeds)
    this.restart()
    this.turn()
  }

  end(): void {
    this.isOver = true
    this.sleeps?.()
  }

  // ---- time ----

  private restart(): void {
    this.started = { at: this.machine.now(), house: this.recording.now }
  }

  /** Where the house would be by the clock. */
  private due(): number {
    return Math.floor(this.started.house + (this.machine.now() - this.started.at) * this.pace)
  }

  private turn = (): void => {
    if (this.isOver) return
    this.sleeps?.()
    this.sleeps = null
    if (this.goingTo !== null) return this.goOn()
    if (this.pace > 0) {
      const begun = this.machine.now()
      this.recording.advance(Math.max(this.recording.now, this.due()))
      // a pace that this machine cannot keep: the house's clock is set to what was reached
      if (this.machine.now() - begun > FRAME_MS) this.restart()
    }
    this.shows()
    if (this.pace > 0) this.sleeps = this.machine.wake(this.turn, this.sleepMs())
  }

  /** Until the house does something, but not so long that the drawn time stands. */
  private sleepMs(): number {
    const next = this.recording.nextDeadline()
    const until = next === null ? Infinity : (next - this.due()) / this.pace
    return Math.min(200, Math.max(this.pace > 1 ? FRAME_MS : 0, until))
  }

  play(pace: number): void {
    this.goingTo = null
    this.pace = pace
    this.restart()
    this.turn()
  }

  /** Goes to an instant and stands still there; a long way takes its time, and can be left by any other wish. */
  goTo(t: number): void {
    this.pace = 0
    this.goingTo = Math.max(0, Math.round(t))
    if (this.goingTo < this.recording.now) this.recording.goTo(this.goingTo)
    this.turn()
  }

  private goOn(): void {
    const to = this.goingTo!
    const begun = this.machine.now()
    for (let piece = FIRST_PIECE_MS; this.recording.now < to && this.machine.now() - begun < PIECE_MS; piece *= 2)
      this.recording.advance(Math.min(to, this.recording.now + piece))
    if (this.recording.now >= to) this.goingTo = null
    this.shows()
    if (this.goingTo !== null) this.sleeps = this.machine.wake(this.turn, 0)
  }

  /** To the deed before the instant, or the one after it. */
  step(by: 1 | -1): void {
    const { now, deeds } = this.recording
    const times = deeds.map(({ t }) => t)
    const to = by > 0 ? times.find((t) => t > now) : times.filter((t) => t < now).at(-1)
    this.goTo(to ?? (by > 0 ? this.recording.end : 0))
  }

  // ---- deeds ----

  act(action: TrialAction): void {
    this.goingTo = null
    const stood = this.pace === 0
    if (!stood) this.recording.advance(Math.max(this.recording.now, this.due()))
    this.recording.act(action)
    if (stood) this.pace = 1
    this.restart()
    this.turn()
  }

  /** Takes a deed out: what follows is played anew, and what was before is laid beside it. */
  takeOut(index: number): void {
    this.other = this.recording.tracks.copy()
    this.recording.replace(this.recording.deeds.filter((_, i) => i !== index))
    this.restart()
    this.turn()
  }

  /** Moves a deed to another instant. */
  move(index: number, t: number): void {
    this.other = this.recording.tracks.copy()
    const moved = this.recording.deeds.map((deed, i) =>
      i === index ? { ...deed, t: Math.max(0, Math.round(t)) } : deed,
    )
    this.recording.replace(moved)
    this.restart()
    this.turn()
  }

  compare(on: boolean): void {
    this.other = on ? this.recording.tracks.copy() : null
    this.shows()
  }

  // ---- what is shown ----

  lookAt(look: Look): void {
    this.look = look
    this.shows()
  }

  private stretch(): Stretch {
    const { spanMs, fromMs, pixels, wires = false } = this.look
    const from = Math.max(0, fromMs ?? this.recording.now - spanMs * BEFORE)
    return { from, to: from + spanMs, pixels, wires }
  }

  private shows(): void {
    const { recording, site } = this
    const { now, tracks } = recording
    const snapshot = recording.snapshot()
    const hand = tracks.of('hand').findLast((event) => event.lane === 'hand' && event.channels.length > 0)
    const cause = this.look.cause ?? hand?.cause ?? null
    this.show({
      ...{ snapshot, now, end: recording.end, pace: this.pace, goingTo: this.goingTo },
      lanes: lanesOf(site, tracks, this.stretch(), now, this.other),
      path: cause === null ? null : (deedPath(site, tracks, cause, now, snapshot.broken) ?? null),
      deeds: recording.deeds,
      compares: this.other !== null,
    })
  }

  // ---- what is taken away ----

  asScenario(title: string): string {
    const { now, deeds } = this.recording
    const levels = new Map(this.recording.snapshot().channels.map(({ id, seen }) => [id, seen]))
    return scenarioText(
      this.site,
      title,
      deeds.filter(({ t }) => t <= now),
      { t: now + 1_000, levels },
    )
  }
  asWave(): string {
    return waveFile(this.site, this.recording.tracks, this.recording.now)
  }
  asTable(): string {
    return runTable(this.recording.tracks)
  }
}
