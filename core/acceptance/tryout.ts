import { controllerOf, coprocessorOf, topLevel, waysTo, type Channel, type Site } from '../site'
import { Recording, type Kept, type TrialAction } from '../trial'
import type { AcceptanceItem } from './types'

/** How long is waited for what must be seen, ms: a hold, a gap of contacts, a message that is slow. */
const PATIENCE_MS = 4_000
/** Screens may be so much behind the load, ms. */
export const SCREEN_MS = 5_000
/** Between two looks, ms. */
const LOOK_MS = 20
/** The same while a link is waited for, ms. */
const SLOW_LOOK_MS = 250

/** What is done, after so long. */
export type TimedAction = TrialAction & { readonly afterMs?: number }

type Draft = Pick<AcceptanceItem, 'key' | 'group' | 'action' | 'expected'> & {
  readonly channel?: Channel
  readonly controller?: string
  readonly way?: string
}

/** The house in which everything is tried, one thing after another, and what became of each. */
export class Tryout {
  readonly run: Recording
  readonly items: AcceptanceItem[] = []

  constructor(
    readonly site: Site,
    seed: number,
  ) {
    this.run = new Recording(site, seed)
  }

  get now(): number {
    return this.run.now
  }

  waits(ms: number): void {
    this.run.advance(this.now + ms)
  }

  does(actions: readonly TimedAction[]): void {
    const start = this.now
    for (const { afterMs = 0, ...action } of actions) {
      this.run.advance(Math.max(this.now, start + afterMs))
      this.run.act(action as TrialAction)
    }
  }

  /** Waits until something is so; false: it never was. */
  until(isSo: () => boolean, ms = PATIENCE_MS): boolean {
    const look = ms > PATIENCE_MS * 2 ? SLOW_LOOK_MS : LOOK_MS
    for (const end = this.now + ms; this.now < end; this.waits(look)) if (isSo()) return true
    return isSo()
  }

  // ---- what is seen ----

  /** The level at which the load of a channel is. */
  level({ id }: Channel): number {
    return lastValue(this.run.tracks.of(`load:${id}`)) ?? 0
  }

  /** How often contacts of a channel have closed since an instant. */
  closings({ id }: Channel, since: number): number {
    return this.run.tracks
      .kind('contact')
      .filter(([key]) => key.slice(0, key.lastIndexOf('.')) === id)
      .flatMap(([, events]) => events)
      .filter((event) => event.t > since && 'value' in event && event.value === 1).length
  }

  /** Screens that show another level of a channel than its load has: their ways. Those that never heard say nothing. */
  wrongScreens(channel: Channel): string[] {
    return waysTo(this.site, channel.id).flatMap((way) => {
      if ((way.kind !== 'app' && way.kind !== 'hub') || way.feedback !== 'reports') return []
      const shown = lastValue(this.run.tracks.of(`belief:${way.id}`))
      return (shown ?? 0) === this.level(channel) ? [] : [way.kind === 'hub' ? 'hub' : 'phone']
    })
  }

  /** Every link of the board that speaks for a controller is up. */
  isUp(controller: string): boolean {
    const speaker = coprocessorOf(this.site, controller)?.id ?? controller
    if (controllerOf(this.site, speaker)?.link === 'none') return true
    const links = this.run.linksOf(speaker)
    return links.length > 0 && links.every((state) => state === 'up')
  }

  /** What the last deed has led to since: ms to the load, and to the last screen. */
  latencies(channel: Channel, since: number): Pick<AcceptanceItem, 'toLoadMs' | 'toScreensMs'> {
    const { tracks } = this.run
    const first = (events: readonly Kept[]): number | undefined => events.find(({ t }) => t >= since)?.t
    const load = first(tracks.of(`load:${channel.id}`))
    const screens = waysTo(this.site, channel.id).flatMap((way) =>
      way.kind === 'app' || way.kind === 'hub' ? (first(tracks.of(`belief:${way.id}`)) ?? []) : [],
    )
    return {
      toLoadMs: load === undefined ? null : load - since,
      toScreensMs: load === undefined || screens.length === 0 ? null : Math.max(...screens) - since,
    }
  }

  // ---- what became of it ----

  says(draft: Draft, t: number, why: string | null, measured: Partial<AcceptanceItem> = {}): void {
    this.add(draft, t, why === null ? 'passed' : 'failed', why ?? '', measured)
  }

  skips(draft: Draft, why: string): void {
    this.add(draft, this.now, 'skipped', why, {})
  }

  private add(
    { channel, controller, way, ...rest }: Draft,
    t: number,
    result: AcceptanceItem['result'],
    note: string,
    measured: Partial<AcceptanceItem>,
  ): void {
    this.items.push({
      ...rest,
      controller: controller ?? channel?.controller ?? '',
      channel: channel?.id ?? null,
      way: way ?? null,
      ...{ result, note, t, toLoadMs: null, toScreensMs: null, ...measured },
    })
  }
}

const lastValue = (events: readonly Kept[]): number | undefined => {
  const last = events.at(-1)
  return last && 'value' in last && typeof last.value === 'number' ? last.value : undefined
}

export const levelWords = (channel: Channel, level: number): string =>
  topLevel(channel) > 1 && level > 0 ? `at level ${level}` : level > 0 ? 'on' : 'off'
