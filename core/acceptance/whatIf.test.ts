import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { largeSite } from '../../tools/largeSite'
import { isAnalysed, isDark, structureOf } from '../faults'
import { cleanSite } from '../findings/cleanSite.testkit'
import { partsOf, reachedFrom, PLACES, type PartId, type Place } from '../parts'
import { choices } from '../seeded'
import { readSite, topLevel, waysTo, type Channel, type Site } from '../site'
import { TracksKept, World, type TrialAction } from '../trial'
import { restMs, stepsOf, type Step } from '.'

// Source of the checks: play. What the model of failures says of each channel is what the simulated house shows when
// the parts are broken and every way is tried.

const demo = (name: string): Site => {
  const parsed = readSite(readFileSync(`demo/${name}.json`, 'utf8'))
  if (!parsed.ok) throw parsed.error
  return parsed.value
}

const SETTLED_MS = 600_000
const PATIENCE_MS = 2_500

/** Does what a step says, and looks whether the load comes on. */
function shows(world: World, tracks: TracksKept, channel: Channel, step: Step): boolean {
  for (const action of step.first ?? []) world.act(action)
  world.advance(world.now + restMs(channel))
  const start = world.now
  for (const { afterMs = 0, ...action } of step.deeds) {
    world.advance(start + afterMs)
    world.act(action as TrialAction)
  }
  world.advance(world.now + PATIENCE_MS)
  return tracks
    .of(`load:${channel.id}`)
    .some((event) => event.t >= start && 'value' in event && Number(event.value) > 0)
}

/** Whether anybody who stands there can turn a channel on, with those parts broken: each way is tried. */
function canTurnOn(site: Site, settled: World, out: readonly PartId[], channel: Channel, from: Place): boolean {
  const tracks = new TracksKept()
  const world = settled.copy({ onTrack: (event) => tracks.add(event) })
  for (const what of out) world.act({ kind: 'break', what, broken: true })
  world.act({ kind: 'stand', place: from })
  world.advance(world.now + 3_000)
  for (const way of waysTo(site, channel.id)) {
    if (!reachedFrom(site, way).includes(from)) continue
    for (const step of stepsOf(site, channel, way)) {
      const { asks } = step
      if (asks.kind === 'level' ? asks.level === 0 : asks.kind === 'action' && ['off', 'stop'].includes(asks.action))
        continue
      // one who presses “up” and sees nothing presses again
      const tries = asks.kind === 'action' && asks.action === 'up' ? topLevel(channel) : 1
      for (let i = 0; i < tries; i++) if (shows(world, tracks, channel, step)) return true
    }
  }
  return false
}

/** Single failures of all parts, and some pairs; how many were held against play. */
function proved(site: Site, pairs: number, everySingle: boolean): number {
  const graph = partsOf(site)
  const settled = World.begin(site)
  settled.advance(SETTLED_MS)
  const random = choices(17)
  const parts = [...graph.keys()]
  const singles = parts.filter(() => everySingle || random.chance(0.3)).map((one) => [one])
  const doubles = Array.from({ length: pairs }, () => [random.pick(parts), random.pick(parts)])
  let count = 0
  for (const out of [...singles, ...doubles])
    for (const channel of site.channels.filter(isAnalysed)) {
      // what lies beside the channel altogether is tried now and then only
      const structures = PLACES.map((from) => structureOf(site, graph, channel, from))
      const touches = structures.some(({ paths }) =>
        paths.some((path) => out.some((part) => path.parts.includes(part))),
      )
      if (!touches && !random.chance(0.02)) continue
      for (const one of structures) {
        const said = isDark(one, new Set(out))
        const played = !canTurnOn(site, settled, out, channel, one.from)
        expect(played, `${channel.name}, ${one.from}, without ${out.join(' and ')}`).toBe(said)
        count++
      }
    }
  return count
}

describe('the model is proved by play', () => {
  it.each<[string, Site, number, boolean]>([
    ['a board with one lamp', cleanSite(), 300, true],
    ['the studio corner', demo('studio-corner'), 300, true],
    ['a hall of two boards', largeSite(2, 2), 300, true],
    ['the pottery', demo('fernhollow'), 120, true],
  ])(
    '%s',
    (name, site, pairs, everySingle) => {
      const count = proved(site, pairs, everySingle)
      console.log(`${name}: ${count} answers of the model are what was played`)
      expect(count).toBeGreaterThan(100)
    },
    180_000,
  )
})
