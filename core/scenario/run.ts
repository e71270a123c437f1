import { World, type TrackEvent, type TrialAction } from '../trial'
import { timeText, type Site } from '../site'
import { actionsOf, channelNamed, unmet } from './names'
import type { Expectation, Never, Scenario } from './schema'

/** How a scenario ended. Times are ms since its start. */
export interface ScenarioRun {
  /** the first expectation that did not hold, or what should never have been; null: it passed */
  readonly broken: { readonly t: number; readonly what: string } | null
  /** when it ended */
  readonly t: number
  /** every movement of a contact, in order: the same site and scenario give the same ones */
  readonly moves: readonly string[]
}

interface Window {
  readonly expectation: Expectation
  readonly until: number
}

/** Without another word what is expected must hold by then, ms. */
const USUALLY_WITHIN = 1_000
/** A house comes up: links join, full states are said. */
const AFTERWARDS = 1_000

/** What is to be done and expected, by its instant. */
interface Agenda {
  readonly deeds: { readonly at: number; readonly action: TrialAction }[]
  readonly windows: { readonly at: number; readonly window: Window }[]
  readonly end: number
}

const listOf = <T>(one: T | readonly T[] | undefined): readonly T[] =>
  one === undefined ? [] : Array.isArray(one) ? (one as readonly T[]) : [one as T]

/** Throws NoSuchName where the scenario names what the site does not have. */
function agendaOf(site: Site, { steps, until }: Scenario): Agenda {
  const agenda: Agenda = { deeds: [], windows: [], end: 0 }
  let at = 0
  let end = 0
  for (const step of steps) {
    at = step.at ?? at + (step.after ?? 0)
    for (const deed of listOf(step.do))
      for (const { afterMs = 0, ...action } of actionsOf(site, deed))
        agenda.deeds.push({ at: at + afterMs, action: action as TrialAction })
    const limit = at + (step.within ?? USUALLY_WITHIN)
    for (const expectation of listOf(step.expect)) agenda.windows.push({ at, window: { expectation, until: limit } })
    end = Math.max(end, at, step.expect ? limit : 0)
  }
  for (const { at: last } of agenda.deeds) end = Math.max(end, last)
  agenda.deeds.sort((a, b) => a.at - b.at)
  return { ...agenda, end: end + (until ?? AFTERWARDS) }
}

/** What must never be, counted from the contacts themselves. */
class Nevers {
  broken: ScenarioRun['broken'] = null
  private readonly closings = new Map<string, number>()
  private readonly onSince = new Map<string, number>()
  private readonly rules: readonly (Never & { readonly id: string })[]

  /** Throws NoSuchName. */
  constructor(site: Site, rules: readonly Never[]) {
    this.rules = rules.map((rule) => ({ ...rule, id: channelNamed(site, rule.channel).id }))
  }

  moves(t: number, channel: string, closed: boolean): void {
    const count = (this.closings.get(channel) ?? 0) + (closed ? 1 : 0)
    this.closings.set(channel, count)
    if (closed && !this.onSince.has(channel)) this.onSince.set(channel, t)
    if (!closed) this.onSince.delete(channel)
    for (const rule of this.rules)
      if (rule.id === channel && 'closesMoreOftenThan' in rule && count > rule.closesMoreOftenThan)
        this.breaks(
          t,
          `${rule.channel} closes for the ${count}. time; never more often than ${rule.closesMoreOftenThan}`,
        )
  }

  /** What is on for too long. */
  judge(t: number): void {
    if (this.onSince.size === 0) return
    for (const rule of this.rules)
      if ('onLongerThan' in rule && t - (this.onSince.get(rule.id) ?? t) > rule.onLongerThan)
        this.breaks(t, `${rule.channel} is on for longer than ${timeText(rule.onLongerThan)}`)
  }

  private breaks(t: number, what: string): void {
    this.broken ??= { t, what }
  }
}

/** How a scenario is played. */
export interface PlayOptions {
  /** of the latencies and losses */
  readonly seed?: number
  /** hears of everything that happens */
  readonly onTrack?: (event: TrackEvent) => void
}

/** Plays a scenario in a house of its own. Throws NoSuchName where it names what the site does not have. */
export function runScenario(site: Site, scenario: Scenario, { seed = 1, onTrack }: PlayOptions = {}): ScenarioRun {
  const agenda = agendaOf(site, scenario)
  const nevers = new Nevers(site, scenario.never ?? [])
  const moves: string[] = []
  const hears = (event: TrackEvent): void => {
    onTrack?.(event)
    if (!event.lane.startsWith('contact:') || !('value' in event)) return
    const output = event.lane.slice('contact:'.length)
    moves.push(`${event.t} ${output} ${event.value ? 'closes' : 'opens'}`)
    nevers.moves(event.t, output.slice(0, output.lastIndexOf('.')), event.value === 1)
  }
  const world = World.begin(site, seed, { onTrack: hears })
  let open: Window[] = []
  let deed = 0
  let window = 0
  for (let t = 0; ;) {
    world.advance(t)
    for (; deed < agenda.deeds.length && agenda.deeds[deed]!.at <= t; deed++) world.act(agenda.deeds[deed]!.action)
    for (; window < agenda.windows.length && agenda.windows[window]!.at <= t; window++)
      open.push(agenda.windows[window]!.window)
    nevers.judge(t)
    const failed = nevers.broken ?? stillOpen(site, world, open, t)
    if (failed && 'what' in failed) return { broken: failed, t, moves }
    open = failed ? failed.open : open
    if (t >= agenda.end) return { broken: null, t, moves }
    const ends = open.map(({ until }) => until)
    t = Math.min(
      world.nextDeadline() ?? Infinity,
      agenda.deeds[deed]?.at ?? Infinity,
      agenda.windows[window]?.at ?? Infinity,
      ...ends.map((until) => Math.max(until, t + 1)),
      agenda.end,
    )
  }
}

type Judged = { readonly open: Window[] } | NonNullable<ScenarioRun['broken']>

/** Windows whose expectation does not hold yet; one whose time is over breaks the run. */
function stillOpen(site: Site, world: World, windows: readonly Window[], t: number): Judged {
  if (windows.length === 0) return { open: [] }
  const now = world.snapshot()
  const open: Window[] = []
  for (const window of windows) {
    const why = unmet(site, window.expectation, now)
    if (why === null) continue
    if (t >= window.until) return { t, what: why }
    open.push(window)
  }
  return { open }
}
