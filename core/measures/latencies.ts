import { stepsOf } from '../acceptance'
import { isFeed, kindOf, waysTo, type Channel, type Site, type Way } from '../site'
import { TracksKept, World, type Deed } from '../trial'

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
    const found = measured(site, settled, channel, way, samples, seed)
    return found ? [found] : []
  })
}

function measured(
  site: Site,
  settled: World,
  channel: Channel,
  way: Way,
  samples: number,
  seed: number,
): WayLatency | null {
  // the first that shows something at a load that is off
  const step = stepsOf(site, channel, way).find(({ asks }) =>
    asks.kind === 'level'
      ? asks.level > 0
      : asks.kind === 'action' && !['off', 'stop', 'close', 'down'].includes(asks.action),
  )
  if (!step) return null
  const isLasting = kindOf(channel).lasting
  const screens = waysTo(site, channel.id).filter(({ kind }) => kind === 'app' || kind === 'hub')
  const loads: number[] = []
  const heard = new Map(screens.map(({ id }) => [id as string, [] as number[]]))
  for (let i = 0; i < samples; i++) {
    const tracks = new TracksKept()
    const world = settled.copy({ onTrack: (event) => tracks.add(event) }, seed * 7_919 + i)
    world.advance(world.now + ((i * PHASE_MS) % 10_000))
    const deeds = [
      ...(step.first ?? []).map((action) => ({ action, t: world.now })),
      ...timed(step.deeds, world.now + (step.first ? 1_000 : 0)),
    ]
    const start = deeds[step.first?.length ?? 0]!.t
    play(world, deeds)
    world.advance(start + PATIENCE_MS)
    const at = (lane: `load:${string}` | `belief:${string}`): number | undefined =>
      tracks.of(lane).find(({ t }) => t >= start)?.t
    const load = at(`load:${channel.id}`)
    if (load !== undefined) loads.push(load - start)
    if (isLasting)
      for (const screen of screens) {
        const t = at(`belief:${screen.id}`)
        if (t !== undefined) heard.get(screen.id)!.push(t - start)
      }
  }
  return {
    ...{ channel: channel.id, way: way.id, action: step.action, toLoad: spreadOf(loads, samples) },
    toScreens: screens.map(({ id, kind }) => ({
      ...{
        way: id,
        who: kind === 'hub' ? ('hub' as const) : ('phone' as const),
        spread: spreadOf(heard.get(id)!, samples),
      },
    })),
  }
}

const timed = (actions: readonly (Deed['action'] & { readonly afterMs?: number })[], start: number): Deed[] =>
  actions.map(({ afterMs = 0, ...action }) => ({ t: start + afterMs, action: action as Deed['action'] }))

function play(world: World, deeds: readonly Deed[]): void {
  for (const { t, action } of deeds) {
    world.advance(Math.max(world.now, t))
    world.act(action)
  }
}
