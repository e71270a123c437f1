import { readFileSync } from 'node:fs'
import { DirectedGraph } from 'graphology'
import { bfsFromNode } from 'graphology-traversal'
import { describe, expect, it } from 'vitest'
import { largeSite } from '../../tools/largeSite'
import { Asker, failureOf, failuresOf, faultsOf, isSo, notAsked, type Failure } from '../faults'
import { cleanSite } from '../findings/cleanSite.testkit'
import { partsOf, reachedFrom, wayPaths, type PartGraph, type PartId } from '../parts'
import { choices } from '../seeded'
import { readSite, waysTo, type Channel, type Site } from '../site'
import { provedByPlay } from './proof.testkit'
import { playYears } from '.'

// Sources of the checks: play (what the model of failures says is what the simulated house shows when it is broken and
// every way is tried), and reachability by an independent library of graphs (graphology).

const demo = (name: string): Site => {
  const parsed = readSite(readFileSync(`demo/${name}.json`, 'utf8'))
  if (!parsed.ok) throw parsed.error
  return parsed.value
}

/** Everything is tried by `npm run prove`; here all of it where that is quick, else a share. */
describe('the model is proved by play', () => {
  it.each<[string, Site, number | null, number]>([
    ['a board with two lamps', cleanSite(), null, 1],
    ['the studio corner', demo('studio-corner'), null, 1],
    ['a hall of two boards', largeSite(2, 2), 60, 1],
    ['the pottery', demo('fernhollow'), 100, 8],
  ])(
    '%s',
    (name, site, pairs, share) => {
      const { singles, doubles, answers, wrong } = provedByPlay(site, pairs, [2, share])
      console.log(`${name}: ${singles} single and ${doubles} double failures, ${answers} answers are what was played`)
      expect(wrong).toEqual([])
      expect(answers).toBeGreaterThan(500)
    },
    240_000,
  )
})

/** Hand, then each part of a way and all that these need in a row, then the load: a line of its own for each way. */
function drawn(site: Site, graph: PartGraph, channel: Channel, out: ReadonlySet<PartId>): DirectedGraph {
  const drawing = new DirectedGraph()
  drawing.mergeNode('hand')
  waysTo(site, channel.id)
    .filter((way) => reachedFrom(site, way).includes('here'))
    .forEach((way) =>
      wayPaths(site, way).forEach((path, i) => {
        const needed = new Set<PartId>()
        const add = (id: PartId): void => {
          if (needed.has(id)) return
          needed.add(id)
          graph.get(id)?.needs.forEach(add)
        }
        path.forEach(add)
        let last = 'hand'
        for (const id of [...needed].filter((one) => graph.has(one))) {
          if (out.has(id)) return
          drawing.mergeEdge(last, `${way.id} ${i} ${id}`)
          last = `${way.id} ${i} ${id}`
        }
        drawing.mergeEdge(last, 'load')
      }),
    )
  return drawing
}

describe('an independent library of graphs', () => {
  it('reaches a load exactly where the model says that somebody can turn it on', () => {
    const random = choices(5)
    let count = 0
    for (let run = 0; run < 40; run++) {
      const site = largeSite(random.whole(1, 2), random.whole(1, 3))
      // ways drop out by chance, so that channels differ
      const thinned = { ...site, ways: site.ways.filter((way) => way.kind === 'voice' || random.chance(0.6)) }
      const whole = { ...thinned, ways: thinned.ways.filter((way) => way.kind !== 'voice') }
      const graph = partsOf(whole)
      const asker = new Asker(whole)
      const gone = failuresOf(graph).filter((failure) => failure.endsWith('!gone'))
      for (const channel of whole.channels.filter((one) => one.kind !== 'feed'))
        for (let i = 0; i < 25; i++) {
          const failed = new Set(Array.from({ length: random.whole(0, 3) }, (): Failure => random.pick(gone)))
          const out = new Set([...failed].map((failure) => failure.split('!')[0] as PartId))
          const drawing = drawn(whole, graph, channel, out)
          let isReached = false
          bfsFromNode(drawing, 'hand', (node) => {
            if (node === 'load') isReached = true
          })
          const formula = asker.ask('on', channel, 'here')
          expect(isSo(formula, failed), `${channel.id} without ${[...failed].join()}`).toBe(!isReached)
          count++
        }
    }
    expect(count).toBeGreaterThan(1_000)
  })
})

describe('years drawn by chance and judged by play', () => {
  it('give the hours of the formulas, within their intervals', () => {
    const site = cleanSite()
    for (const question of ['on', 'off', 'unbidden'] as const) {
      const exact = faultsOf(site, [question], ['here'])
      const { estimates, failures } = playYears(site, { years: 1_000, seed: 1, question, from: 'here', hands: null })!
      expect(failures).toBeGreaterThan(5_000)
      for (const { channel, mean, low, high } of estimates) {
        const hours = exact.find((one) => one.channel === channel)!.hours!
        // 95 of 100 lie within; four times as wide, all
        expect(Math.abs(mean - hours), `${question} ${channel} ${mean}`).toBeLessThan(2 * (high - low))
      }
    }
  }, 60_000)
  it('one pair of hands leaves more hours than repairs that all begin at once', () => {
    const site = { ...cleanSite(), failures: { rates: slow(), onBattery: [], strips: [] } }
    const hours = (hands: number | null): number =>
      playYears(site, { years: 300, seed: 3, question: 'on', from: 'here', hands })!.estimates[0]!.mean
    expect(hours(1)).toBeGreaterThan(hours(null) * 1.1)
  }, 60_000)
  it('can be stopped', () =>
    expect(
      playYears(cleanSite(), {
        years: 5_000,
        seed: 1,
        question: 'on',
        from: 'here',
        hands: null,
        onProgress: () => false,
      }),
    ).toBeNull())
})

/** Things that fail often and take long. */
const slow = () =>
  Object.fromEntries(
    ['board', 'power', 'phone', 'load', 'hub'].map((key) => [
      key,
      { betweenHours: 2_000, repairHours: 200, source: 'made up for a test' },
    ]),
  )

describe('what is not asked', () => {
  it('says why', () => {
    const site = demo('fernhollow')
    const of = (id: string) => site.channels.find((channel) => channel.id === id)!
    expect(notAsked(site, 'limit', of('bench-lights'))).toBe('it has no limit')
    expect(notAsked(site, 'off', of('gate-strike'))).toBe('it stops by itself')
    expect(notAsked(site, 'screen', of('window-spots'))).toContain('report to the hub')
    expect(notAsked(site, 'screen', of('rack-lights'))).toBe('no screen is told how it is')
    expect(failureOf('router')).toBe('router!gone')
  })
})
