import highsLoader from 'highs'
import { describe, expect, it } from 'vitest'
import { choices } from '../seeded'
import { assignWithPairs, FORBIDDEN, smallestConflict, type PairDemand } from '.'

interface Instance {
  readonly costs: number[][]
  readonly columns: number
  readonly pairs: PairDemand[]
}

/**
 * A random bench: some roles, more pins than roles, some pins forbidden, up to three pairs with a few candidates each.
 */
function instance(seed: number): Instance {
  const random = choices(seed)
  const pairCount = random.whole(0, 3)
  const rows = pairCount * 2 + random.whole(1, 10)
  const columns = rows + random.whole(0, 6)
  const costs = Array.from({ length: rows }, () =>
    Array.from({ length: columns }, () =>
      random.chance(0.2) ? FORBIDDEN : random.pick([0, 0, 2, 4, 15, 30, 60, 400]),
    ),
  )
  const pairs = Array.from({ length: pairCount }, (_, i): PairDemand => ({
    rows: [i * 2, i * 2 + 1],
    candidates: Array.from({ length: random.whole(2, 6) }, () => {
      const first = random.whole(0, columns - 1)
      return [first, (first + random.whole(1, columns - 1)) % columns] as const
    }),
  }))
  return { costs, columns, pairs }
}

/** The same as an integer programme in the LP file format, for an independent solver. */
function asProgramme({ costs, columns, pairs }: Instance): string {
  const open = costs.flatMap((row, r) => row.flatMap((cost, c) => (cost < FORBIDDEN ? [{ r, c, cost }] : [])))
  const variable = (r: number, c: number) => `x_${r}_${c}`
  const sum = (terms: string[]) => (terms.length ? terms.join(' + ') : '0 dummy')
  const lines = ['Minimize', ` obj: ${sum(open.map(({ r, c, cost }) => `${cost} ${variable(r, c)}`))}`, 'Subject To']
  costs.forEach((_, r) =>
    lines.push(` row_${r}: ${sum(open.filter((o) => o.r === r).map((o) => variable(o.r, o.c)))} = 1`),
  )
  for (let c = 0; c < columns; c++)
    lines.push(` col_${c}: ${sum(open.filter((o) => o.c === c).map((o) => variable(o.r, o.c)))} <= 1`)
  const binaries = open.map(({ r, c }) => variable(r, c))
  pairs.forEach(({ rows: [a, b], candidates }, p) => {
    const fitting = candidates
      .map(([first, second], k) => ({ first, second, y: `y_${p}_${k}` }))
      .filter(({ first, second }) => costs[a]![first]! < FORBIDDEN && costs[b]![second]! < FORBIDDEN)
    lines.push(` pair_${p}: ${sum(fitting.map(({ y }) => y))} = 1`)
    fitting.forEach(({ first, second, y }, k) => {
      lines.push(
        ` first_${p}_${k}: ${variable(a, first)} - ${y} >= 0`,
        ` second_${p}_${k}: ${variable(b, second)} - ${y} >= 0`,
      )
      binaries.push(y)
    })
  })
  return [...lines, 'Binary', ` ${binaries.join(' ')} dummy`, 'End'].join('\n')
}

describe('paired assignment', () => {
  it(
    'equals an integer-programming solution (HiGHS, an independent solver) on 300 random instances, and ' +
      'is at least 20 times faster',
    async () => {
      const highs = await highsLoader()
      let impossible = 0
      let ours = 0
      let theirs = 0
      const wrong: string[] = []
      for (let seed = 1; seed <= 300; seed++) {
        const one = instance(seed)
        let start = performance.now()
        const answer = assignWithPairs(one.costs, one.columns, one.pairs)
        ours += performance.now() - start
        const programme = asProgramme(one)
        start = performance.now()
        const solution = highs.solve(programme)
        theirs += performance.now() - start
        if (answer.kind === 'impossible') {
          impossible++
          if (solution.Status === 'Optimal') wrong.push(`${seed}: ours impossible, theirs ${solution.ObjectiveValue}`)
        } else {
          if (solution.Status !== 'Optimal' || Math.abs(solution.ObjectiveValue - answer.cost) > 1e-6)
            wrong.push(
              `${seed}: ours ${answer.cost}, theirs ${solution.Status} ` +
                `${'ObjectiveValue' in solution ? solution.ObjectiveValue : ''}`,
            )
          expect(new Set(answer.columns).size).toBe(one.costs.length)
          for (const {
            rows: [a, b],
            candidates,
          } of one.pairs)
            expect(candidates.some(([x, y]) => x === answer.columns[a] && y === answer.columns[b])).toBe(true)
        }
      }
      console.log(
        `paired assignment: 300 instances, ${impossible} impossible; ours ${ours.toFixed(0)} ms, HiGHS ` +
          `${theirs.toFixed(0)} ms, ${(theirs / ours).toFixed(0)} times`,
      )
      expect(wrong).toEqual([])
      expect(impossible).toBeGreaterThan(10)
      expect(impossible).toBeLessThan(200)
      expect(theirs / ours).toBeGreaterThan(20)
    },
  )
})

describe('the smallest conflict', () => {
  /** By trying every set of rows. */
  function byBruteForce(allowed: readonly ReadonlySet<number>[]): number | null {
    let best: number | null = null
    for (let mask = 1; mask < 1 << allowed.length; mask++) {
      const rows = [...allowed.keys()].filter((row) => mask & (1 << row))
      const union = new Set(rows.flatMap((row) => [...allowed[row]!]))
      if (union.size < rows.length && (best === null || rows.length < best)) best = rows.length
    }
    return best
  }
  it('equals brute force on 300 random instances', () => {
    const random = choices(99)
    let conflicts = 0
    for (let n = 0; n < 300; n++) {
      const allowed = Array.from(
        { length: random.whole(1, 9) },
        () => new Set(Array.from({ length: random.whole(0, 3) }, () => random.whole(0, 7))),
      )
      const found = smallestConflict(allowed)
      expect(found?.length ?? null).toBe(byBruteForce(allowed))
      if (found) {
        conflicts++
        expect(new Set(found.flatMap((row) => [...allowed[row]!])).size).toBeLessThan(found.length)
      }
    }
    expect(conflicts).toBeGreaterThan(60)
  })
})
