import {
  inputOf,
  isFeed,
  kindOf,
  reachesNetwork,
  topLevel,
  waysTo,
  type Channel,
  type ChannelAction,
  type Way,
} from '../site'
import { stepsOf, type Asked, type Step } from './deeds'
import { levelWords, SCREEN_MS, type Tryout } from './tryout'

/** Every way of every channel is worked through all that it can ask for, and each screen is looked at. */

/** What a channel must rest before a turn-on is heard, ms: its minimum time off, a lockout, a pulse. */
export function restMs(channel: Channel): number {
  if (channel.kind === 'pulsed') return channel.pulseMs + channel.lockoutMs + 500
  if (channel.kind === 'paired') return channel.deadMs + 1_000
  return ('minOffMs' in channel ? (channel.minOffMs ?? 0) : 0) + 1_000
}

/** Levels that may follow, by the words of docs/behaviour.md. */
export function wanted(channel: Channel, asked: Asked, before: number): (level: number) => boolean {
  if (asked.kind === 'level') return (level) => level === asked.level
  if (asked.kind === 'lamps') return (level) => level === before
  const top = topLevel(channel)
  switch (asked.action) {
    case 'on':
      return (level) => level > 0
    case 'off':
    case 'stop':
      return (level) => level === 0
    case 'toggle':
      return (level) => (before > 0 ? level === 0 : level > 0)
    case 'follow':
      return (level) => level > 0 !== before > 0
    case 'up':
      return (level) => (before < top ? level === before + 1 : level === (kindOf(channel).wraps(channel) ? 0 : top))
    case 'down':
      return (level) => (before > 0 ? level === before - 1 : level === (kindOf(channel).wraps(channel) ? top : 0))
    case 'a':
      return (level) => level === 1
    case 'b':
      return (level) => level === 2
    default:
      return (level) => level > 0
  }
}

/** A state in which the step can be seen to do something: on for what turns off, off for what turns on. */
function needed(asked: Asked, top: number): 'on' | 'off' | 'any' {
  if (asked.kind === 'level') return asked.level === 0 ? 'on' : asked.level === top ? 'off' : 'any'
  if (asked.kind === 'lamps') return 'any'
  return asked.action === 'on' ? 'off' : asked.action === 'off' || asked.action === 'stop' ? 'on' : 'any'
}

/** Brings a channel on or off by any of its other ways; false: none could. */
export function brings(tryout: Tryout, channel: Channel, on: boolean, not?: Way): boolean {
  if (tryout.level(channel) > 0 === on) return true
  for (const way of waysTo(tryout.site, channel.id)) {
    if (way.id === not?.id) continue
    for (const step of stepsOf(tryout.site, channel, way)) {
      const { asks } = step
      const turns =
        asks.kind === 'level' ? asks.level > 0 === on : asks.kind === 'action' && asks.action !== (on ? 'off' : 'on')
      if (!turns) continue
      tryout.waits(restMs(channel))
      if (step.first) tryout.does(step.first)
      tryout.waits(1_000)
      tryout.does(step.deeds)
      if (tryout.until(() => tryout.level(channel) > 0 === on)) return true
    }
  }
  return false
}

/** A switch before a selector stands closed, or the selector does nothing. */
function opensGate(tryout: Tryout, way: Way): void {
  const input = way.kind === 'wall' ? inputOf(tryout.site, way.input) : undefined
  if (input?.kind !== 'selector' || input.gate === undefined) return
  if ((tryout.run.snapshot().closed[input.gate] ?? 0) === 0) tryout.does([{ kind: 'rock', input: input.gate }])
  tryout.waits(500)
}

const ASKED_WORDS: Partial<Readonly<Record<ChannelAction, string>>> = {
  ...{ toggle: 'turned over', follow: 'turned over', up: 'one level up', down: 'one level down' },
  ...{ pulse: 'closes once', a: 'runs the one way', b: 'runs the other way', stop: 'stopped' },
}

function draftOf(channel: Channel, way: Way, step: Step) {
  const { asks } = step
  const expected =
    asks.kind === 'lamps'
      ? `${channel.name}: still on; the hub turns its lamps over`
      : asks.kind === 'level'
        ? `${channel.name}: ${levelWords(channel, asks.level)}`
        : `${channel.name}: ${ASKED_WORDS[asks.action] ?? asks.action}`
  return {
    key: `alone:${channel.id}:${way.id}:${step.key}`,
    ...{ group: 'way' as const, channel, way: way.id, action: step.action, expected },
  }
}

function triesStep(tryout: Tryout, channel: Channel, way: Way, step: Step): void {
  const draft = draftOf(channel, way, step)
  const start = needed(step.asks, topLevel(channel))
  if (start !== 'any' && kindOf(channel).lasting && !isFeed(channel)) brings(tryout, channel, start === 'on', way)
  if (step.first) {
    tryout.waits(restMs(channel))
    tryout.does(step.first)
  }
  tryout.waits(restMs(channel))
  const before = tryout.level(channel)
  const lampsNow = (): boolean | null | undefined =>
    tryout.run.snapshot().channels.find(({ id }) => id === channel.id)?.shines
  const lamps = step.asks.kind === 'lamps' ? lampsNow() : null
  const isWanted = wanted(channel, step.asks, before)
  // a stop, or what is there already, shows nothing: then nothing can be said
  if (step.asks.kind !== 'lamps' && isWanted(before) && step.asks.kind === 'action' && step.asks.action === 'on')
    return tryout.skips(
      draft,
      isFeed(channel) ? `${channel.name} is a feed and always on` : `${channel.name} could not be turned off first`,
    )
  const t = tryout.now
  tryout.does(step.deeds.slice(0, 1))
  const reached = (): boolean => {
    if (step.asks.kind !== 'lamps') return isWanted(tryout.level(channel))
    return lampsNow() !== lamps
  }
  const early = step.deeds.length > 1 && tryout.until(reached, step.deeds[1]!.afterMs ?? 0)
  if (tryout.now - t < (step.deeds[1]?.afterMs ?? 0)) tryout.waits((step.deeds[1]?.afterMs ?? 0) - (tryout.now - t))
  tryout.does(step.deeds.slice(1).map((deed) => ({ ...deed, afterMs: 0 })))
  const pulses = step.asks.kind === 'action' && (step.asks.action === 'pulse' || step.asks.action === 'open')
  const isSeen = early || tryout.until(pulses ? () => tryout.closings(channel, t - 1) > 0 : reached)
  if (!isSeen) return tryout.says(draft, t, `${channel.name} is ${levelWords(channel, tryout.level(channel))}`)
  const isWitness = kindOf(channel).lasting && !isFeed(channel)
  const agrees = !isWitness || tryout.until(() => tryout.wrongScreens(channel).length === 0, SCREEN_MS)
  const why = agrees ? null : `the ${tryout.wrongScreens(channel)[0]} still shows another state`
  tryout.says(draft, t, why, tryout.latencies(channel, t))
  if (pulses) tryout.waits(restMs(channel))
}

export function triesWays(tryout: Tryout): void {
  for (const channel of tryout.site.channels)
    for (const way of waysTo(tryout.site, channel.id)) {
      opensGate(tryout, way)
      const steps = stepsOf(tryout.site, channel, way)
      const controller = tryout.site.controllers.find(({ id }) => id === channel.controller)!
      const isDeaf =
        way.kind !== 'wall' && way.kind !== 'remote' && way.kind !== 'link' && !reachesNetwork(tryout.site, controller)
      for (const step of steps)
        if (isDeaf) tryout.skips(draftOf(channel, way, step), 'no network reaches its controller')
        else triesStep(tryout, channel, way, step)
      if (steps.length === 0)
        tryout.skips(
          {
            key: `alone:${channel.id}:${way.id}:none`,
            group: 'way',
            channel,
            way: way.id,
            action: 'Work this way',
            expected: '',
          },
          'there is nothing on a screen to touch for it',
        )
    }
}
