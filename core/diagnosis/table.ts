import { basesOf } from '../broken'
import { partsOf, type FaultKind, type PartId } from '../parts'
import type { Channel, Site } from '../site'
import type { World } from '../trial'
import { around, observationsFor } from './listed'
import { observe } from './observe'
import { ANSWERS, type Answer, type Observation } from './observation'

/** A part that has failed in one of the ways that it can. */
export interface Suspect {
  readonly part: PartId
  readonly how: FaultKind
  readonly name: string
}

/**
 * What would be seen by whom: a row for each suspect, and the chance of each answer to each observation. Found by
 * breaking each part in the simulated house and looking.
 */
export interface FaultTable {
  readonly site: Site
  readonly channel: string
  readonly observations: readonly Observation[]
  readonly suspects: readonly Suspect[]
  /** by suspect and observation: chances in the order of ANSWERS */
  readonly chances: readonly (readonly (readonly number[])[])[]
  /** what a house without any fault answers, by observation */
  readonly whole: readonly Answer[]
}

/** A fault is there for that long before anybody looks: links are given up, feeds have gone local, ms. */
const NOTICED_MS = 125_000
/** What loses messages or frames by chance is looked at so often. */
const CHANCE_RUNS = 5
/** Of an answer that was in none of them, so many are reckoned: not never, and not so often that it is asked for. */
const UNSEEN = 1e-6
const BY_CHANCE: readonly FaultKind[] = ['lossy', 'weak']

/** A house in which one part has failed a while ago. `seed`: of latencies and losses. */
export function brokenWorld(whole: World, failed: readonly Pick<Suspect, 'part' | 'how'>[], seed: number): World {
  const world = whole.copy(undefined, seed)
  world.breakTogether(failed.map(({ part, how }) => ({ id: part, how })))
  world.advance(world.now + NOTICED_MS)
  return world
}

export function faultTable(site: Site, channel: Channel, onProgress?: (done: number) => void): FaultTable {
  const near = around(site, channel)
  const observations = observationsFor(near, channel)
  const suspects = [...partsOf(near).values()].flatMap(({ id, name, faults }) =>
    faults.map((how): Suspect => ({ part: id, how, name })),
  )
  const whole = basesOf(near, 1).off
  const chances = suspects.map((suspect, i) => {
    onProgress?.(i / suspects.length)
    return chancesOf(whole, suspect, observations)
  })
  const sound = brokenWorld(whole, [], 1)
  return {
    ...{ site: near, channel: channel.id, observations, suspects, chances },
    whole: observations.map((observation) => observe(sound, observation)),
  }
}

function chancesOf(whole: World, suspect: Suspect, observations: readonly Observation[]): number[][] {
  const runs = BY_CHANCE.includes(suspect.how) ? CHANCE_RUNS : 1
  const counts = observations.map(() => ANSWERS.map(() => 0))
  for (let run = 0; run < runs; run++) {
    const world = brokenWorld(whole, [suspect], run + 1)
    observations.forEach((observation, i) => {
      counts[i]![ANSWERS.indexOf(observe(world, observation))]!++
    })
  }
  // what was not seen in a few runs may be seen in the next one
  const unseen = runs > 1 ? UNSEEN : 0
  return counts.map((of) => of.map((count) => (count + unseen) / (runs + unseen * ANSWERS.length)))
}
