import type { HandRow } from '../../core/api'
import { openStage, STAGE_NAMES, testList } from '../../core/outputs'
import { coprocessorOf, type Site } from '../../core/site'
import {
  breachWords,
  channelsOf,
  dueAt,
  eyeAsked,
  follow,
  isHeard,
  looked,
  levelSaid,
  linesOf,
  oddWords,
  passes,
  restsFirst,
  standsInTheWay,
  takeInHand,
  unheard,
  verdictOf,
  waitsForScreen,
  type Heard,
  type Boards,
  type InHand,
  type Watch,
} from '../../core/witness'
import type { Database } from '../db'
import type { Live } from '../live'
import { notFound, Refusal } from '../refusal'
import { tellOutcome } from '../testOutcome'
import type { SiteBoards } from './siteBoards'

/** A test that one or more tabs have in hand. */
interface Held {
  readonly run: number
  readonly key: string
  readonly siteId: string
  readonly tabs: Set<string>
  hand: InHand
  /** what an eye must see; null: nothing, or another test has shown it */
  readonly eye: string | null
  seen: boolean | null
  timer: NodeJS.Timeout | null
  touchedAt: number
}

export interface HandsGround {
  readonly db: Database
  readonly live: Live
  readonly house: { boards(site: Site): SiteBoards }
}

/** A tab that has gone away holds its test so long, ms. */
const KEPT_MS = 30 * 60_000

/** Tests in hand: each hears what its board says, and tells its outcome when nothing is left to hear or to see. */
export class TestsInHand {
  private readonly held = new Map<string, Held>()
  private readonly following = new Map<string, () => void>()

  constructor(private readonly context: HandsGround) {}

  /** A tab takes a test, and lets go of the one that it had in this run. Two that take the same share it. */
  take(runId: number, key: string | null, tab: string, again: boolean): HandRow | null {
    this.letGo(runId, tab, key)
    if (key === null) return null
    const run = this.context.db.logbook.run(runId)
    const item = run?.items.find((one) => one.key === key)
    if (!run || !item) throw notFound(`test ${key}`)
    const waiting = openStage(run.items, item.stage)
    if (waiting)
      throw new Refusal(409, 'stage-waits', `“${STAGE_NAMES[waiting]}” is not clear yet: finish that stage first`)
    const name = `${runId}/${key}`
    const known = again ? undefined : this.held.get(name)
    const held = known ?? this.begin(run.siteId, runId, key)
    held.tabs.add(tab)
    if (!known) {
      for (const old of this.held.get(name)?.tabs ?? []) held.tabs.add(old)
      this.end(name)
      this.held.set(name, held)
    }
    this.plan(held)
    this.tell(held)
    return this.row(held)
  }

  private begin(siteId: string, runId: number, key: string): Held {
    const { db, house } = this.context
    const site = db.sites.get(siteId)!.site
    const boards = house.boards(site)
    if (!this.following.has(siteId))
      this.following.set(
        siteId,
        boards.followed((heard, before, after) => this.hears(siteId, heard, before, after)),
      )
    const watches = db.logbook.watches(runId)
    const watch = watches.get(key) ?? watchNow(site, db.logbook.run(runId)!.controller, key)
    const now = Date.now()
    return {
      ...{ run: runId, key, siteId, tabs: new Set<string>() },
      hand: takeInHand(watch, boards.boards, now),
      eye: this.eyeOf(runId, key, watch, watches),
      ...{ seen: null, timer: null, touchedAt: now },
    }
  }

  /** What has been seen in this run is not asked again. */
  private eyeOf(runId: number, key: string, { eye }: Watch, watches: ReadonlyMap<string, Watch>): string | null {
    const seen = this.context.db.logbook
      .run(runId)!
      .items.filter(
        (item) => item.key !== key && item.outcome === 'passed' && (item.toldBy === 'eye' || item.toldBy === 'hand'),
      )
    return eyeAsked(
      eye,
      seen.flatMap((item) => watches.get(item.key)?.eye ?? []),
    )
  }

  /** A tab has one test of a run in its hand; the one that it goes on with stays as it is. */
  private letGo(runId: number, tab: string, key: string | null): void {
    for (const [name, held] of this.held) {
      if (held.run === runId && held.key !== key) held.tabs.delete(tab)
      if (held.tabs.size === 0 || Date.now() - held.touchedAt > KEPT_MS) this.end(name)
    }
  }

  private end(name: string): void {
    const held = this.held.get(name)
    if (held?.timer) clearTimeout(held.timer)
    this.held.delete(name)
  }

  // ---- what comes ----

  private hears(siteId: string, heard: Heard, before: Boards, after: Boards): void {
    const site = this.context.db.sites.get(siteId)?.site
    if (!site) return
    const mine = [...this.held.values()].filter((held) => held.siteId === siteId)
    const { screens } = this.context.house.boards(site)
    for (const held of mine) {
      const others = mine.filter((one) => one !== held)
      // what moves for the test that somebody else has in hand is no stray of this one
      if (
        heard.kind === 'state' &&
        others.some((one) => isAbout(one.hand.watch, heard.channel)) &&
        !isAbout(held.hand.watch, heard.channel)
      )
        continue
      this.becomes(held, follow(held.hand, heard, before, after, screens))
    }
    if (heard.kind === 'status') for (const held of mine) this.tell(held)
  }

  private becomes(held: Held, hand: InHand): void {
    if (hand === held.hand) return
    held.hand = hand
    held.touchedAt = Date.now()
    this.plan(held)
    this.tell(held)
    this.judge(held)
  }

  /** Time alone may end a step. */
  private plan(held: Held): void {
    if (held.timer) clearTimeout(held.timer)
    const due = dueAt(held.hand, this.boardsOf(held).lastBeat)
    held.timer = due === null ? null : setTimeout(() => this.rings(held), Math.max(1, due - Date.now())).unref()
  }

  private rings(held: Held): void {
    const { boards, lastBeat } = this.boardsOf(held)
    const hand = passes(held.hand, boards, lastBeat, Date.now())
    // a timer may ring a millisecond before its time, and a heartbeat since then has moved what is due
    if (hand === held.hand) this.plan(held)
    else this.becomes(held, hand)
  }

  private boardsOf(held: Held): SiteBoards {
    return this.context.house.boards(this.context.db.sites.get(held.siteId)!.site)
  }

  /** An eye, or one who looked at a screen that nobody can hear, has said what is there. */
  sees(runId: number, key: string, what: 'eye' | 'screen', seen: boolean): void {
    const held = this.held.get(`${runId}/${key}`)
    if (!held) throw notFound(`test ${key} in hand`)
    held.touchedAt = Date.now()
    if (what === 'eye') held.seen = seen
    else if (!seen) return this.outcome(held, 'failed', 'the screen does not show it', 'eye')
    else held.hand = looked(held.hand, Date.now())
    this.plan(held)
    this.tell(held)
    this.judge(held)
  }

  /** Tells the outcome, where nothing is left to hear or to see. */
  private judge(held: Held): void {
    const { hand, eye, seen } = held
    const site = this.context.db.sites.get(held.siteId)!.site
    const verdict = verdictOf(hand, eye, seen)
    if (verdict === null) return
    const why =
      'breach' in verdict ? breachWords(site, verdict.breach) : verdict.outcome === 'failed' ? `seen: no. ${eye}` : ''
    this.outcome(held, verdict.outcome, why, verdict.by)
  }

  private outcome(held: Held, outcome: 'passed' | 'failed', note: string, by: 'board' | 'eye'): void {
    const { run, key } = held
    const heard = this.heardLines(run, key)
    this.end(`${run}/${key}`)
    tellOutcome(this.context, run, key, { outcome, note, heard, by }, new Date().toISOString())
  }

  /** What was heard so far for a test, for its record. */
  heardLines(runId: number, key: string): string[] {
    const held = this.held.get(`${runId}/${key}`)
    if (!held) return []
    const row = this.row(held)
    return [
      ...row.lines
        .filter(({ state }) => state === 'heard')
        .map(({ text, detail }) => (detail ? `${text} (${detail})` : text)),
      ...row.odd,
      ...(row.breach === null ? [] : [row.breach]),
    ]
  }

  /** The outcome is told otherwise: nothing of the test is in hand any more. */
  told(runId: number, key: string): void {
    this.end(`${runId}/${key}`)
  }

  // ---- what is shown ----

  private row(held: Held): HandRow {
    const site = this.context.db.sites.get(held.siteId)!.site
    const { hand } = held
    const { boards } = this.boardsOf(held)
    const nameOf = (channel: string): string => site.channels.find(({ id }) => id === channel)?.name ?? channel
    const inTheWay = standsInTheWay(hand, boards)
    const rests = restsFirst(hand, boards)
    return {
      ...{ run: held.run, key: held.key },
      listening: isListening(site, boards, hand.watch),
      lines: linesOf(site, hand),
      odd: [...new Set(hand.odd.map((odd) => oddWords(site, hand, odd)))],
      breach: hand.breach && breachWords(site, hand.breach),
      first:
        rests !== null
          ? `${nameOf(rests)} rests: it starts by itself when its least time off is over.`
          : inTheWay
            ? `${nameOf(inTheWay.channel)} is ${levelSaid(site, inTheWay.channel, inTheWay.level)} already: change that first.`
            : null,
      ...{ eye: held.eye, seen: held.seen },
      mayLook: waitsForScreen(hand),
      heard: isHeard(hand),
    }
  }

  private tell(held: Held): void {
    this.context.live.tell({ kind: 'hand', site: held.siteId, hand: this.row(held) })
  }

  /** A site is gone. */
  leave(siteId: string): void {
    for (const [name, held] of this.held) if (held.siteId === siteId) this.end(name)
    this.following.get(siteId)?.()
    this.following.delete(siteId)
  }

  close(): void {
    for (const name of [...this.held.keys()]) this.end(name)
    for (const stop of this.following.values()) stop()
  }
}

const isAbout = (watch: Watch, channel: string): boolean => channelsOf(watch).includes(channel)

/** A board that is here, or was and is on its way: what it says will be heard. */
function isListening(site: Site, boards: Boards, watch: Watch): boolean {
  const speaks = coprocessorOf(site, watch.controller)?.id ?? watch.controller
  return (
    watch.hears.length > 0 &&
    (boards[watch.controller]?.online === true || boards[speaks]?.online === true || hasBeenHeard(boards, watch))
  )
}

/** A test whose power is off in the middle of it is still listened to. */
const hasBeenHeard = (boards: Boards, { controller, hears }: Watch): boolean =>
  boards[controller] !== undefined && hears.some(({ kind }) => kind === 'away' || kind === 'here' || kind === 'broker')

const watchNow = (site: Site, controller: string, key: string): Watch =>
  testList(site, controller).find((item) => item.key === key)?.watch ?? unheard(controller)
