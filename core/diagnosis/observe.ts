import { stepsOf } from '../acceptance'
import { asksFor, doStep, isOn, triesOf } from '../broken'
import { channelOf, channelsOn, kindOf, waysTo, type Channel, type Site, type Way } from '../site'
import { beliefsOf, type World } from '../trial'
import type { Answer, Observation } from './observation'

/** What somebody sees who makes an observation in a house as it stands. The house itself is not touched. */

/** Within that a load has answered, and beyond it is late, ms. */
const AT_ONCE_MS = 2_500
const LATE_MS = 9_000
const LOOK_MS = 100
const SCREEN_MS = 5_000

const yesOrNo = (is: boolean): Answer => (is ? 'yes' : 'no')

export function observe(world: World, observation: Observation): Answer {
  const { site } = world
  switch (observation.kind) {
    case 'way':
      return pressed(world, channelOf(site, observation.channel)!, wayOf(site, observation.way), observation.level)
    case 'screen':
      return yesOrNo(showsIt(world, channelOf(site, observation.channel)!, wayOf(site, observation.way)))
    case 'rest':
      return yesOrNo(world.seenOf(observation.channel) === 0 || channelOf(site, observation.channel)!.kind === 'feed')
    case 'click':
    case 'indicator':
      return pullsIn(world, channelOf(site, observation.channel)!, wayOf(site, observation.way), observation.kind)
    case 'online':
      return yesOrNo(world.linksOf(observation.controller).some((state) => state === 'up'))
    case 'shows':
      return yesOrNo(!world.down.has(observation.part))
    case 'part':
      return yesOrNo(world.faultOf(observation.part) === undefined)
  }
}

const wayOf = (site: Site, id: string): Way => site.ways.find((way) => way.id === id)!

/** Presses, and looks whether the load comes on: at once, late, not at all, or whether another one moves. */
function pressed(world: World, channel: Channel, way: Way, level?: number): Answer {
  const others = channelsOn(world.site, channel.controller).filter(({ id }) => id !== channel.id)
  let other = false
  const steps = stepsOf(world.site, channel, way).filter(
    (step) =>
      asksFor(channel, step, true) &&
      (level === undefined || (step.asks.kind === 'level' && step.asks.level === level)),
  )
  for (const step of steps) {
    const trial = world.copy()
    const before = isOn(trial, channel)
    const stood = others.map(({ id }) => trial.seenOf(id))
    for (let i = 0; i < triesOf(channel, step); i++) {
      doStep(trial, channel, way, step)
      for (let waited = 0; waited <= LATE_MS; waited += LOOK_MS) {
        // where it is on already, a press is seen to do something when it goes off
        const isThere = level === undefined ? isOn(trial, channel) !== before : trial.seenOf(channel.id) === level
        if (isThere) return waited <= AT_ONCE_MS ? 'yes' : 'late'
        other ||= others.some(({ id }, k) => trial.seenOf(id) !== stood[k])
        trial.advance(trial.now + LOOK_MS)
      }
    }
  }
  return other ? 'other' : 'no'
}

/** Turned on by other ways, does a screen show what the load does? */
function showsIt(world: World, channel: Channel, screen: Way): boolean {
  const trial = world.copy()
  for (const way of waysTo(trial.site, channel.id)) {
    if (way.id === screen.id || isOn(trial, channel)) continue
    for (const step of stepsOf(trial.site, channel, way).filter((one) => asksFor(channel, one, true))) {
      if (isOn(trial, channel)) break
      doStep(trial, channel, way, step)
      trial.advance(trial.now + AT_ONCE_MS)
    }
  }
  trial.advance(trial.now + SCREEN_MS)
  const level = trial.seenOf(channel.id)
  return beliefsOf(trial.site, channel, trial.snapshot(), [screen]).every((belief) => (belief.level ?? 0) === level)
}

/** Presses, and listens for the relay, or looks at its light: whether what the coil does changes. */
function pullsIn(world: World, channel: Channel, way: Way, by: 'click' | 'indicator'): Answer {
  const contacts = kindOf(channel)
    .outputs(channel)
    .map((_, k) => k)
  const pulled = (of: World): boolean[] => contacts.map((k) => of.hasPulledIn(channel, k))
  const trial = world.copy()
  const before = pulled(trial)
  const step = stepsOf(trial.site, channel, way).find((one) => asksFor(channel, one, true))
  if (!step) return 'no'
  doStep(trial, channel, way, step)
  for (let waited = 0; waited <= AT_ONCE_MS; waited += LOOK_MS) {
    const now = pulled(trial)
    if (by === 'click' ? now.some((one, k) => one !== before[k]) : now.some((one) => one)) return 'yes'
    trial.advance(trial.now + LOOK_MS)
  }
  return 'no'
}
