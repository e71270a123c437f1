import { stepsOf, type Step } from '../acceptance'
import { isFeed, kindOf, waysTo, type Channel, type Site, type Way } from '../site'
import { TracksKept, World, type LaneId, type TrialAction } from '../trial'

/** How long it takes from a hand to the load and to every screen, way by way: tried often enough to say how seldom. */

export interface Spread {
  /** ms that half, 95 and 99 of a hundred stay below; null: it was never seen */
  readonly p50: number | null
  readonly p95: number | null
  readonly p99: number | null
  /** so many of those that were tried came through */
  readonly seen: number
  readonly tried: number
}

export interface WayLatency {
  readonly channel: string
  readonly way: string
  readonly action: string
  readonly toLoad: Spread
  /** by way of the screen */
  readonly toScreens: readonly { readonly way: string; readonly who: 'hub' | 'phone'; readonly spread: Spread }[]
}

/** When everything has come up, ms; how far apart deeds begin, so that no phase is preferred; how long is waited. */
const SETTLED_MS = 600_000
const PHASE_MS = 997
const PATIENCE_MS = 5_000

/** The value below which a share of sorted ones lies (nearest rank). */
export function quantile(sorted: readonly number[], share: number): number | null {
  return sorted.length === 0 ? null : sorted[Math.min(sorted.length - 1, Math.ceil(share * sorted.length) - 1)]!
}

export function spreadOf(times: readonly number[], tried: number): Spread {
  const sorted = [...times].sort((a, b) => a - b)
  return {
    ...{ p50: quantile(sorted, 0.5), p95: quantile(sorted, 0.95), p99: quantile(sorted, 0.99) },
    ...{ seen: sorted.length, tried },
  }
}

export interface LatencyOptions {
  readonly samples?: number
  readonly seed?: number
  /** only these ways */
  readonly ways?: readonly string[]
  readonly onProgress?: (done: number) => void
}

/** Every way of every lasting channel, tried `samples` times from a settled house, each with a seed of its own. */
export function wayLatencies(
  site: Site,
  { samples = 100, seed = 1, ways, onProgress }: LatencyOptions = {},
): WayLatency[] {
  const settled = World.begin(site, seed)
  settled.advance(SETTLED_MS)
  const jobs = site.channels.flatMap((channel) =>
    isFeed(channel)
      ? []
      : waysTo(site, channel.id).flatMap((way) => (ways && !ways.includes(way.id) ? [] : [{ channel, way }])),
  )
  return jobs.flatMap(({ channel, way }, i) => {
    onProgress?.(i / jobs.length)
    // draws of its own for each way: what two rows have alike is then no accident of one seed
    const found = measured(site, settled, channel, way, samples, seed + i * 104_729)
    return found ? [found] : []
  })
}

/** The first step of a way that shows something at a load that is off. */
const firstStep = (site: Site, channel: Channel, way: Way): Step | undefined =>
  stepsOf(site, channel, way).find(({ asks }) =>
    asks.kind === 'level'
      ? asks.level > 0
      : asks.kind === 'action' && !['off', 'stop', 'close', 'down'].includes(asks.action),
  )

/** One try from a settled house: what happened after the hand, and when that was. */
function tryOnce(settled: World, step: Step, seed: number, phaseMs: number): { tracks: TracksKept; start: number } {
  const tracks = new TracksKept()
  const world = settled.copy({ onTrack: (event) => tracks.add(event) }, seed)
  world.advance(world.now + phaseMs)
  for (const action of step.first ?? []) world.act(action)
  if (step.first) world.advance(world.now + 1_000)
  const start = world.now
  for (const { afterMs = 0, ...action } of step.deeds) {
    world.advance(start + afterMs)
    world.act(action as TrialAction)
  }
  world.advance(start + PATIENCE_MS)
  return { tracks, start }
}

function measured(
  site: Site,
  settled: World,
  channel: Channel,
  way: Way,
  samples: number,
  seed: number,
): WayLatency | null {
  const step = firstStep(site, channel, way)
  if (!step) return null
  // a pulse is over before a screen has heard of it, and what never reports is no witness
  const screens = kindOf(channel).lasting
    ? waysTo(site, channel.id).filter((one) => (one.kind === 'app' || one.kind === 'hub') && one.feedback === 'reports')
    : []
  const loads: number[] = []
  const heard = new Map(screens.map(({ id }) => [id as string, [] as number[]]))
  for (let i = 0; i < samples; i++) {
    const { tracks, start } = tryOnce(settled, step, seed * 7_919 + i, (i * PHASE_MS) % 10_000)
    const after = (lane: LaneId): number[] => tracks.of(lane).flatMap(({ t }) => (t >= start ? [t - start] : []))
    loads.push(...after(`load:${channel.id}`).slice(0, 1))
    for (const { id } of screens) heard.get(id)!.push(...after(`belief:${id}`).slice(0, 1))
  }
  return {
    ...{ channel: channel.id, way: way.id, action: step.action, toLoad: spreadOf(loads, samples) },
    toScreens: screens.map(({ id, kind }) => ({
      ...{ way: id, who: kind === 'hub' ? ('hub' as const) : ('phone' as const) },
      spread: spreadOf(heard.get(id)!, samples),
    })),
  }
}
