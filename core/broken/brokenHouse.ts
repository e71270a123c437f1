import { stepsOf } from '../acceptance'
import {
  howOf,
  limitMs,
  notAsked,
  partOf,
  QUESTIONS,
  SOON_MS,
  type Failure,
  type Question,
  type Standing,
} from '../faults'
import { PLACES, reachedFrom, type Place } from '../parts'
import { isFeed, kindOf, waysTo, type Channel, type Site, type Way } from '../site'
import { beliefsOf, type TrackEvent, type World } from '../trial'
import { asksFor, basesOf, doStep, isOn, PATIENCE_MS, triesOf, waysInOrder, type Bases } from './base'

/** After a failure: links are given up, feeds go local, what ends soon is over, ms. */
const NOTICED_MS = SOON_MS + 5_000
/** Routers and machines are up again, ms. */
const BACK_MS = 600_000
const SCREEN_MS = 5_000
/** What stands open a little longer than its limit is not past it, ms. */
const SLACK_MS = 5_000
/** A pulse or a run that is to be broken into has begun, ms. */
const BEGUN_MS = 60

export type Answers = ReadonlyMap<string, boolean>
export const answerKey = (question: Question, channel: string, from: Place): string => `${question} ${channel} ${from}`

/**
 * A house that is broken and then tried: every way pressed, every screen looked at. It knows nothing of formulas; what
 * core/faults says is held against it.
 */
export class BrokenHouse {
  private readonly bases: Bases
  private readonly lit = new Set<string>()

  constructor(
    readonly site: Site,
    seed = 1,
  ) {
    this.bases = basesOf(site, seed)
  }

  /** How the house stands before a question is asked. */
  standing(question: Question): Standing {
    const world = question === 'off' || question === 'limit' ? this.bases.on : this.bases.off
    return {
      inputs: world.held,
      levels: Object.fromEntries(this.site.channels.map(({ id }) => [id, world.seenOf(id)])),
    }
  }

  /** What is so of some channels when exactly these have failed. */
  answers(
    failed: readonly Failure[],
    channels = this.site.channels,
    questions: readonly Question[] = QUESTIONS,
  ): Answers {
    const found = new Map<string, boolean>()
    const asked = (question: Question): Channel[] =>
      questions.includes(question) ? channels.filter((channel) => notAsked(this.site, question, channel) === null) : []
    const broken = (from: World): World => {
      const world = from.copy(this.listener)
      breaks(world, failed)
      world.advance(world.now + NOTICED_MS)
      return world
    }
    const off = broken(this.bases.off)
    for (const channel of asked('on')) this.byPlace(found, 'on', off, channel, true)
    for (const channel of asked('screen'))
      found.set(answerKey('screen', channel.id, 'here'), this.someScreenLies(off, channel))
    const turnedOff = asked('off')
    if (turnedOff.length > 0) {
      const on = broken(this.bases.on)
      for (const channel of turnedOff) this.byPlace(found, 'off', on, channel, false)
    }
    this.byThemselves(found, failed, asked('unbidden'))
    this.pastLimits(found, failed, asked('limit'))
    return found
  }

  private readonly listener = { onTrack: (event: TrackEvent) => this.hears(event) }

  private hears(event: TrackEvent): void {
    if (event.lane.startsWith('load:') && 'value' in event && Number(event.value) > 0)
      this.lit.add(event.lane.slice('load:'.length))
  }

  /** From each place: nobody brings it there. A way that reaches far is tried first: nearer ones have it too. */
  private byPlace(
    found: Map<string, boolean>,
    question: 'on' | 'off',
    broken: World,
    channel: Channel,
    on: boolean,
  ): void {
    const reach = (way: Way): number => reachedFrom(this.site, way).length
    const ways = waysTo(this.site, channel.id).sort((a, b) => reach(b) - reach(a))
    const already = isOn(broken, channel) === on
    const best = already
      ? PLACES.length
      : ways.reduce((far, way) => (far >= reach(way) ? far : this.can(broken, channel, way, on) ? reach(way) : far), 0)
    PLACES.forEach((place, i) => found.set(answerKey(question, channel.id, place), i >= best))
  }

  private can(broken: World, channel: Channel, way: Way, on: boolean): boolean {
    if (isFeed(channel) && way.kind !== 'wall') return false
    const world = broken.copy(this.listener)
    for (const step of stepsOf(this.site, channel, way)) {
      if (!asksFor(channel, step, on)) continue
      for (let i = 0; i < triesOf(channel, step); i++) {
        this.lit.clear()
        doStep(world, channel, way, step)
        // a door or a shutter runs for a moment only
        world.advance(world.now + PATIENCE_MS)
        if (on && !isFeed(channel) ? this.lit.has(channel.id) : isOn(world, channel) === on) return true
      }
    }
    return false
  }

  private someScreenLies(broken: World, channel: Channel): boolean {
    if (liesNow(broken, channel)) return true
    for (const on of [true, false])
      for (const way of waysInOrder(this.site, channel)) {
        const world = broken.copy()
        const others = [...waysInOrder(this.site, channel).filter(({ id }) => id !== way.id)]
        for (const step of stepsOf(this.site, channel, way).filter((one) => asksFor(channel, one, on))) {
          if (!on && !isOn(world, channel)) turnOn(world, channel, [...others, way])
          if (!on && !isOn(world, channel)) break
          doStep(world, channel, way, step)
          world.advance(world.now + SCREEN_MS)
          if (liesNow(world, channel)) return true
        }
      }
    return false
  }

  /** At rest, then broken, then whole again: did it come on? */
  private byThemselves(found: Map<string, boolean>, failed: readonly Failure[], channels: readonly Channel[]): void {
    if (channels.length === 0) return
    const world = this.bases.off.copy(this.listener)
    this.lit.clear()
    breaks(world, failed)
    world.advance(world.now + NOTICED_MS)
    mends(world, failed)
    world.advance(world.now + BACK_MS)
    for (const { id } of channels) found.set(answerKey('unbidden', id, 'here'), this.lit.has(id))
  }

  /** On, then broken, and its limit has passed. Pulses and runs are begun first. */
  private pastLimits(found: Map<string, boolean>, failed: readonly Failure[], channels: readonly Channel[]): void {
    const lasting = channels.filter((channel) => kindOf(channel).lasting)
    const others = channels.filter((channel) => !kindOf(channel).lasting)
    const look = (world: World, of: readonly Channel[]): void => {
      breaks(world, failed)
      world.advance(world.now + Math.max(...of.map((channel) => limitMs(channel) ?? 0)) + SLACK_MS)
      for (const channel of of) found.set(answerKey('limit', channel.id, 'here'), world.seenOf(channel.id) > 0)
    }
    if (lasting.length > 0) look(this.bases.on.copy(), lasting)
    for (const channel of others) {
      const world = this.bases.off.copy()
      const ran = waysInOrder(this.site, channel).some((way) =>
        stepsOf(this.site, channel, way)
          .filter((step) => asksFor(channel, step, true))
          .some((step) => {
            doStep(world, channel, way, step)
            for (let i = 0; i < 20 && world.seenOf(channel.id) === 0; i++) world.advance(world.now + BEGUN_MS)
            return world.seenOf(channel.id) > 0
          }),
      )
      if (ran) look(world, [channel])
    }
  }
}

const breaks = (world: World, failed: readonly Failure[]): void =>
  world.breakTogether(failed.map((failure) => ({ id: partOf(failure), how: howOf(failure) })))
const mends = (world: World, failed: readonly Failure[]): void =>
  world.breakTogether(failed.map((failure) => ({ id: partOf(failure), how: null })))

function turnOn(world: World, channel: Channel, ways: readonly Way[]): void {
  for (const way of ways)
    for (const step of stepsOf(world.site, channel, way)) {
      if (isOn(world, channel)) return
      if (!asksFor(channel, step, true)) continue
      doStep(world, channel, way, step)
      world.advance(world.now + SCREEN_MS)
    }
}

/** A screen that a person sees, that takes its board for online, and shows another level than its load has. */
function liesNow(world: World, channel: Channel): boolean {
  const { site } = world
  const snapshot = world.snapshot()
  const down = new Set(snapshot.broken)
  const level = world.seenOf(channel.id)
  return waysTo(site, channel.id).some((way) => {
    if ((way.kind !== 'app' && way.kind !== 'hub') || way.feedback !== 'reports') return false
    if (!isSeen(world, channel, way, snapshot, down)) return false
    return beliefsOf(site, channel, snapshot, [way]).some((belief) => belief.level !== null && belief.level !== level)
  })
}

function isSeen(
  { site }: World,
  channel: Channel,
  way: Extract<Way, { kind: 'app' | 'hub' }>,
  snapshot: ReturnType<World['snapshot']>,
  down: ReadonlySet<string>,
): boolean {
  if (way.kind === 'app') {
    const widget = site.services.find(({ id }) => id === way.service)?.widgets.find(({ point }) => point === way.point)
    return widget !== undefined && snapshot.widgets[`${way.service}/${widget.id}`]?.reachable === true
  }
  if (down.has('hub') || down.has('broker') || down.has(`service:${way.hub}`)) return false
  return !snapshot.hubAway.includes(channel.controller)
}
