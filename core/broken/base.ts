import { restMs, stepsOf, type Step } from '../acceptance'
import { inputOf, isFeed, kindOf, topLevel, waysTo, type Channel, type Site, type Way } from '../site'
import { World, type HouseListener, type TrialAction } from '../trial'

/** The house before anything breaks: everything at rest, or everything on that stays as it is told. */

/** Boards, router, machine and links are up long before, ms. */
const SETTLED_MS = 600_000
export const PATIENCE_MS = 2_500

/** Does what a step says, from what must stand before it. */
export function doStep(world: World, channel: Channel, way: Way, step: Step): void {
  const input = way.kind === 'wall' ? inputOf(world.site, way.input) : undefined
  const gate = input?.kind === 'selector' ? input.gate : undefined
  if (gate !== undefined && (world.held[gate] ?? 0) === 0) world.act({ kind: 'rock', input: gate })
  for (const action of step.first ?? []) world.act(action)
  world.advance(world.now + restMs(channel))
  const start = world.now
  for (const { afterMs = 0, ...action } of step.deeds) {
    world.advance(start + afterMs)
    world.act(action as TrialAction)
  }
}

/** Whether a step asks for something that can turn a channel on, or off. */
export function asksFor(channel: Channel, { asks }: Step, on: boolean): boolean {
  if (asks.kind === 'lamps') return true
  if (asks.kind === 'level') return asks.level > 0 === on
  if (asks.action === 'down' && on) return kindOf(channel).wraps(channel)
  return on
    ? !['off', 'stop', 'close'].includes(asks.action)
    : ['off', 'stop', 'toggle', 'follow', 'down'].includes(asks.action)
}

/** One who presses or rocks and sees nothing does it again: so often at most. */
export function triesOf(channel: Channel, { asks }: Step): number {
  if (asks.kind === 'lamps') return 2
  if (asks.kind === 'level') return 1
  // a rocker that is followed may stand where it is asked to go
  if (asks.action === 'follow') return 2
  return asks.action === 'up' || asks.action === 'down' ? topLevel(channel) : 1
}

/** Whether something shines or moves: the load, or the lamps behind a feed. */
export function isOn(world: World, channel: Channel): boolean {
  return isFeed(channel)
    ? world.snapshot().channels.find(({ id }) => id === channel.id)?.shines === true
    : world.seenOf(channel.id) > 0
}

/** The ways of a channel, those that leave every switch of the wall as it is first. */
export const waysInOrder = (site: Site, channel: Channel): Way[] => {
  const ways = waysTo(site, channel.id)
  return [...ways.filter(({ kind }) => kind !== 'wall'), ...ways.filter(({ kind }) => kind === 'wall')]
}

function brings(world: World, channel: Channel, on: boolean): void {
  // a hub could cut a feed's power, and no hand should
  const ways = waysInOrder(world.site, channel).filter(({ kind }) => kind === 'wall' || !isFeed(channel))
  for (const way of ways)
    for (const step of stepsOf(world.site, channel, way)) {
      if (isOn(world, channel) === on) return
      if (!asksFor(channel, step, on)) continue
      for (let i = 0; i < triesOf(channel, step) && isOn(world, channel) !== on; i++) {
        doStep(world, channel, way, step)
        world.advance(world.now + PATIENCE_MS)
      }
    }
}

export interface Bases {
  readonly off: World
  readonly on: World
}

export function basesOf(site: Site, seed: number, listener: HouseListener = {}): Bases {
  const off = World.begin(site, seed, listener)
  off.advance(SETTLED_MS)
  for (const channel of site.channels) if (kindOf(channel).lasting) brings(off, channel, false)
  off.advance(off.now + 10_000)
  const on = off.copy(listener)
  for (const channel of site.channels) if (kindOf(channel).lasting) brings(on, channel, true)
  on.advance(on.now + 10_000)
  return { off, on }
}
