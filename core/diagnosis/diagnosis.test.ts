import { readFileSync } from 'node:fs'
import { beforeAll, describe, expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import type { PartId } from '../parts'
import { choices } from '../seeded'
import { readSite, type Site } from '../site'
import { brokenBy, complaintOf, optimum, search, soundHouse, usualOrder } from './search.testkit'
import {
  ANSWERS,
  brokenWorld,
  CAUTIONS,
  cautionsOf,
  costOf,
  DANGERS,
  endingWords,
  faultTable,
  houseSays,
  nextOf,
  practiceOn,
  observe,
  priorsOf,
  retestOf,
  searchOf,
  Suspicion,
  WORTH_A_WALK,
  wordsOf,
  type FaultTable,
  type Given,
} from '.'

// Sources of the checks: the simulated house (a fault is made in it and its answers are what is seen), the best that
// any order of looking can do (dynamic programming over all sets of suspects), and the trade's usual order (common
// practice).

const demo = (name: string): Site => {
  const parsed = readSite(readFileSync(`demo/${name}.json`, 'utf8'))
  if (!parsed.ok) throw parsed.error
  return parsed.value
}
const tableOf = (site: Site, channel: string): FaultTable =>
  faultTable(
    site,
    site.channels.find(({ id }) => id === channel)!,
  )

const SITES: readonly (readonly [string, () => FaultTable])[] = [
  ['a board with two lamps', () => tableOf(cleanSite(), 'bench-lamp')],
  ['the studio corner', () => tableOf(demo('studio-corner'), 'desk-lamp')],
  ['the glaze room of the pottery', () => tableOf(demo('fernhollow'), 'sink-heater')],
  ['its yard', () => tableOf(demo('fernhollow'), 'yard-lights')],
]

/** All four where time is no matter: `THOROUGH=1`. */
describe.each(process.env['THOROUGH'] ? SITES : [SITES[0]!, SITES[2]!])('%s', (name, make) => {
  let table: FaultTable
  beforeAll(() => {
    table = make()
  }, 60_000)

  it('every single fault is found, with a third fewer looks than the usual order at least', () => {
    const sound = soundHouse(table)
    let looks = 0
    let usual = 0
    for (const suspect of table.suspects) {
      const world = brokenBy(sound, suspect)
      const { named, observations, given } = search(table, world, 0)
      expect(named, `${suspect.part} ${suspect.how}: ${JSON.stringify(given)}`).toContain(suspect.part)
      looks += observations
      usual += usualOrder(table, world, suspect)
    }
    const count = table.suspects.length
    console.log(`${name}: ${count} faults, ${(looks / count).toFixed(2)} looks, usual ${(usual / count).toFixed(2)}`)
    expect(looks).toBeLessThan((usual * 2) / 3)
  }, 120_000)

  it('with one answer in twenty wrong, 95 of 100 are found', () => {
    const sound = soundHouse(table)
    const random = choices(3)
    let found = 0
    for (const suspect of table.suspects)
      if (search(table, brokenBy(sound, suspect), 0.05, random).named.includes(suspect.part)) found++
    console.log(`${name}: ${found} of ${table.suspects.length} found with one answer in twenty wrong`)
    expect(found / table.suspects.length).toBeGreaterThanOrEqual(0.95)
  }, 120_000)
})

describe('the fewest looks that any order needs', () => {
  it.each(SITES.slice(0, 2))(
    '%s: within 15 %%',
    (name, make) => {
      const table = make()
      const sound = soundHouse(table)
      const priors = priorsOf(table)
      const complaints = new Map<string, Given>()
      for (const suspect of table.suspects) {
        const [first] = complaintOf(table, brokenBy(sound, suspect))
        if (first) complaints.set(first.observation + first.answer, first)
      }
      let [ours, best] = [0, 0]
      for (const { observation, answer } of complaints.values()) {
        const index = table.observations.findIndex(({ id }) => id === observation)
        const left = table.suspects.flatMap((_, k) =>
          table.chances[k]![index]![ANSWERS.indexOf(answer)] === 1 ? [k] : [],
        )
        const weight = left.reduce((sum, k) => sum + priors[k]!, 0)
        const mean = left.reduce(
          (sum, k) => sum + (priors[k]! / weight) * search(table, brokenBy(sound, table.suspects[k]!), 0).observations,
          0,
        )
        ours += weight * mean
        best += weight * optimum(table, left)
      }
      console.log(`${name}: ${(ours / best).toFixed(3)} of the optimum`)
      expect(ours / best).toBeLessThan(1.15)
    },
    120_000,
  )
})

describe('two faults at once', () => {
  it('one of them is named at least, and mostly both after the first is put right', () => {
    const table = tableOf(cleanSite(), 'bench-lamp')
    const sound = soundHouse(table)
    const random = choices(9)
    let [first, both, tried] = [0, 0, 0]
    for (let run = 0; run < 60; run++) {
      const pair = [random.pick(table.suspects), random.pick(table.suspects)]
      if (pair[0]!.part === pair[1]!.part) continue
      tried++
      const world = brokenWorld(sound, pair, 7)
      const { named } = search(table, world, 0.003)
      const right = pair.filter(({ part }) => named.includes(part))
      if (right.length > 0) first++
      const rest = pair.filter(({ part }) => !named.includes(part))
      if (rest.length === 0) both++
      else if (right.length > 0 && search(table, brokenWorld(sound, rest, 7), 0.003).named.includes(rest[0]!.part))
        both++
    }
    console.log(`${tried} pairs: ${first} begun rightly, ${both} ended`)
    expect(first / tried).toBeGreaterThanOrEqual(0.9)
    expect(both / tried).toBeGreaterThanOrEqual(0.9)
  }, 120_000)
  it('the answers that are worked out for a pair are those of the house, nearly always', () => {
    const table = tableOf(cleanSite(), 'bench-lamp')
    const sound = soundHouse(table)
    const random = choices(4)
    let [same, all] = [0, 0]
    for (let run = 0; run < 60; run++) {
      const a = random.whole(0, table.suspects.length - 1)
      const b = random.whole(0, table.suspects.length - 1)
      const pair = [table.suspects[a]!, table.suspects[b]!]
      if (pair[0]!.part === pair[1]!.part || pair.some(({ how }) => how === 'lossy' || how === 'weak')) continue
      const world = brokenWorld(sound, pair, 7)
      const suspicion = new Suspicion(table, [])
      table.observations.forEach((observation, i) => {
        const chances = suspicion.chancesOf([a, b], i)
        all++
        if (chances[ANSWERS.indexOf(observe(world, observation))] === 1) same++
      })
    }
    console.log(`${same} of ${all} answers to pairs are those of the house`)
    expect(same / all).toBeGreaterThan(0.98)
  }, 60_000)
})

describe('the order of steps', () => {
  const table = tableOf(cleanSite(), 'bench-lamp')
  const dark: Given[] = [{ observation: 'way bench-lamp-wall', answer: 'no' }]
  it('nothing is opened before what can be done outside is used up, and nothing live before what is dead', () => {
    const sound = soundHouse(table)
    for (const part of ['board:corner', 'contact:bench-lamp.0', 'switch:s1', 'opto:bench-lamp.0']) {
      const suspect = table.suspects.find((one) => one.part === part && one.how === 'gone')!
      const { given } = search(table, brokenBy(sound, suspect), 0)
      given.forEach((one, i) => {
        const observation = table.observations.find(({ id }) => id === one.observation)!
        const { danger } = costOf(observation)
        if (i === 0 || danger === 'outside') return
        const before = new Suspicion(table, given.slice(0, i), 0)
        table.observations.forEach((other, k) => {
          if (DANGERS.indexOf(costOf(other).danger) < DANGERS.indexOf(danger))
            expect(before.gain(k)).toBeLessThan(WORTH_A_WALK)
        })
      })
    }
  })
  it('each step near mains says its cautions and when to call somebody', () => {
    expect(CAUTIONS.outside).toEqual([])
    const step = (part: PartId) => cautionsOf({ kind: 'part', id: part, part }).join(' ')
    expect(step('load:bench-lamp')).toMatch(/switch its breaker off .* licensed electrician/)
    expect(step('breaker:corner')).toMatch(/trips again stays off/)
    expect(step('switch:s1')).toMatch(/test that the box is dead/)
    for (const danger of ['cover', 'live'] as const) expect(CAUTIONS[danger].join(' ')).toMatch(/licensed electrician/)
  })
  it('what cannot be done now is passed over', () => {
    const suspicion = new Suspicion(table, dark)
    const first = nextOf(suspicion)!.observation.id
    expect(nextOf(suspicion, new Set([first]))!.observation.id).not.toBe(first)
  })
  it('before anything is said nothing is named', () => expect(searchOf(new Suspicion(table, [])).kind).toBe('ask'))
  it('chances of the suspects, and of the answers, are whole', () => {
    const suspicion = new Suspicion(table, dark)
    expect(suspicion.explanations.reduce((sum, { chance }) => sum + chance, 0)).toBeCloseTo(1, 4)
    const { expected } = nextOf(suspicion)!
    expect(expected.reduce((sum, one) => sum + one, 0)).toBeCloseTo(1, 4)
  })
})

describe('the end of it', () => {
  const table = tableOf(cleanSite(), 'bench-lamp')
  it('is a sentence: what it was, how it was told, what was changed', () => {
    const suspect = table.suspects.find(({ part, how }) => part === 'switch:s1' && how === 'gone')!
    const { given } = search(table, brokenBy(soundHouse(table), suspect), 0)
    const text = endingWords(table.site, table.observations, given, [{ ...suspect, hows: [suspect.how] }], 'new switch')
    expect(text).toMatch(/^Found: Switch S1 \(failed\)\. Told by: .*Press S1.*: .*\. Changed: new switch\.$/)
  })
  it('lists every way that needs the part, and no other', () => {
    const { site } = table
    expect(retestOf(site, ['switch:s1']).map(({ way }) => way)).toEqual(['bench-lamp-wall'])
    expect(retestOf(site, ['module:corner'])).toHaveLength(6)
    expect(new Set(retestOf(site, ['hub']).map(({ way }) => way))).toEqual(
      new Set(['bench-lamp-hub', 'shelf-lamp-hub']),
    )
  })
  it('names each way of failing that what was seen cannot tell apart, the likelier first', () => {
    const suspect = table.suspects.find(({ part, how }) => part === 'switch:s1' && how === 'stuck')!
    const { given } = search(table, brokenBy(soundHouse(table), suspect), 0)
    const state = searchOf(new Suspicion(table, given, 0))
    expect(state.kind === 'found' && state.parts.map(({ part, hows }) => [part, hows])).toEqual([
      ['switch:s1', ['gone', 'stuck']],
    ])
  })
  it('a fault that is hidden to practise on is found by what the house says', () => {
    for (let i = 0; i < 20; i++) {
      const { hidden, first } = practiceOn(table, i / 20)!
      const given = [first]
      for (let looks = 0; looks < 40; looks++) {
        const state = searchOf(new Suspicion(table, given))
        if (state.kind !== 'ask') {
          expect(state.kind === 'found' && state.parts.map(({ part }) => part)).toContain(table.suspects[hidden]!.part)
          break
        }
        const { id } = state.next.observation
        given.push({ observation: id, answer: houseSays(table, hidden, id) })
        expect(looks).toBeLessThan(39)
      }
    }
  })
  it('every step reads as a question with two answers at least', () => {
    for (const channel of ['sink-heater', 'rack-fan', 'gate-strike', 'window-spots']) {
      const { site, observations } = tableOf(demo('fernhollow'), channel)
      for (const observation of observations) {
        const { ask, answers } = wordsOf(site, observation)
        expect(ask).toMatch(/\?$/)
        expect(ask).not.toMatch(/undefined|null/)
        expect(Object.keys(answers).length).toBeGreaterThanOrEqual(2)
      }
    }
  }, 60_000)
})
