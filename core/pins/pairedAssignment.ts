import { assign, FORBIDDEN } from './assignment'

/** Two rows that must stand on two columns which belong together. */
export interface PairDemand {
  readonly rows: readonly [number, number]
  readonly candidates: readonly (readonly [number, number])[]
}

export type PairedAssignment =
  | { kind: 'assigned'; columns: number[]; cost: number }
  | { kind: 'impossible'; /** -1: the single rows are stuck; else the pair that is */ pair: number; rows: number[] }

interface Best {
  readonly columns: number[]
  readonly cost: number
}

/** The search: pairs are placed one after the other, the single rows as well as they then can. */
class Search {
  private best: Best | null = null
  private readonly taken = new Set<number>()
  private readonly chosen: Option[] = []
  /** what the single rows cost, by the columns that are gone */
  private readonly restSeen = new Map<string, number>()
  private readonly cheapestFrom: readonly number[]
  /**
   * Columns that cost every single row the same are interchangeable: taking one or the other leaves the same rest to
   * pay.
   */
  private readonly classOf: readonly string[]

  constructor(
    private readonly costs: readonly (readonly number[])[],
    private readonly columnCount: number,
    private readonly pairs: readonly PairDemand[],
    private readonly options: readonly (readonly Option[])[],
    private readonly singles: readonly number[],
    private readonly alone: Best,
    private readonly grain: number,
  ) {
    this.cheapestFrom = options.map((_, from) => options.slice(from).reduce((sum, list) => sum + list[0]!.cost, 0))
    this.classOf = Array.from({ length: columnCount }, (_, column) =>
      singles.map((row) => Math.floor(costs[row]![column]! / grain)).join(' '),
    )
  }

  run(): Best | null {
    this.visit(0, 0)
    return this.best
  }

  private isDearer(cost: number): boolean {
    return this.best !== null && Math.floor(cost / this.grain) >= Math.floor(this.best.cost / this.grain)
  }

  private visit(level: number, cost: number): void {
    if (this.isDearer(cost + (this.cheapestFrom[level] ?? 0) + this.alone.cost)) return
    if (level === this.pairs.length) return this.leaf(cost)
    for (const option of this.options[level]!) {
      if (this.taken.has(option.first) || this.taken.has(option.second)) continue
      this.taken.add(option.first).add(option.second)
      this.chosen.push(option)
      this.visit(level + 1, cost + option.cost)
      this.chosen.pop()
      this.taken.delete(option.first)
      this.taken.delete(option.second)
    }
  }

  /** All pairs stand: what do the single rows cost on what is left? */
  private leaf(cost: number): void {
    const goneClasses = Array.from(this.taken, (column) => this.classOf[column]!)
      .sort()
      .join('|')
    const known = this.restSeen.get(goneClasses)
    if (known !== undefined && this.isDearer(cost + known)) return
    const free = Array.from({ length: this.columnCount }, (_, column) => column).filter((c) => !this.taken.has(c))
    const rest = this.rest(free)
    this.restSeen.set(goneClasses, rest?.cost ?? FORBIDDEN)
    if (rest && !this.isDearer(cost + rest.cost)) this.best = { columns: this.placed(rest), cost: cost + rest.cost }
  }

  /** The single rows on the free columns; null: they cannot all stand there. */
  private rest(free: readonly number[]): Best | null {
    if (this.taken.size === 0) return this.alone
    const table = this.singles.map((row) => free.map((column) => this.costs[row]![column]!))
    const answer = assign(table, free.length)
    if (answer.kind === 'impossible') return null
    return { columns: answer.columns.map((at) => free[at]!), cost: answer.cost }
  }

  private placed(rest: Best): number[] {
    const columns = new Array<number>(this.costs.length).fill(-1)
    this.singles.forEach((row, i) => (columns[row] = rest.columns[i]!))
    this.pairs.forEach(({ rows: [a, b] }, i) => {
      columns[a] = this.chosen[i]!.first
      columns[b] = this.chosen[i]!.second
    })
    return columns
  }
}

/**
 * Least-cost assignment in which some rows go in pairs. Branch and bound over the pairs' candidates, cheapest first;
 * the bound is the cost of the pairs placed so far plus the assignment of all single rows as if the pairs took nothing,
 * which can only be too low. A board has few pairs, so the tree is small; the leaves are plain assignments.
 * `grain`: costs that differ by less are taken as equal, so that tie-breaks do not make the search visit every leaf.
 */
export function assignWithPairs(
  costs: readonly (readonly number[])[],
  columnCount: number,
  pairs: readonly PairDemand[],
  grain = 1,
): PairedAssignment {
  const inPair = new Set(pairs.flatMap((pair) => pair.rows))
  const singles = costs.map((_, row) => row).filter((row) => !inPair.has(row))
  const table = singles.map((row) => costs[row]!)
  const alone = assign(table, columnCount)
  if (alone.kind === 'impossible') return { kind: 'impossible', pair: -1, rows: alone.rows.map((row) => singles[row]!) }
  const options = pairs.map(({ rows: [a, b], candidates }) =>
    candidates
      .map(([first, second]): Option => ({ first, second, cost: costs[a]![first]! + costs[b]![second]! }))
      .filter((option) => option.cost < FORBIDDEN)
      .sort((x, y) => x.cost - y.cost),
  )
  const hopeless = options.findIndex((list) => list.length === 0)
  if (hopeless >= 0) return { kind: 'impossible', pair: hopeless, rows: [...pairs[hopeless]!.rows] }
  const found = new Search(costs, columnCount, pairs, options, singles, alone, grain).run()
  return found ? { kind: 'assigned', ...found } : { kind: 'impossible', ...whichPairs(pairs, options, costs.length) }
}

type Option = { readonly first: number; readonly second: number; readonly cost: number }

/**
 * The fewest pairs that cannot stand beside each other; where all can, it is the single rows beside them that cannot.
 */
function whichPairs(
  pairs: readonly PairDemand[],
  options: readonly (readonly Option[])[],
  rowCount: number,
): { pair: number; rows: number[] } {
  const fits = (chosen: readonly number[], taken: ReadonlySet<number>): boolean => {
    const [next, ...rest] = chosen
    if (next === undefined) return true
    return options[next]!.some(
      ({ first, second }) => !taken.has(first) && !taken.has(second) && fits(rest, new Set([...taken, first, second])),
    )
  }
  const subsets = Array.from({ length: (1 << pairs.length) - 1 }, (_, i) =>
    pairs.map((_pair, k) => k).filter((k) => (i + 1) & (1 << k)),
  ).sort((a, b) => a.length - b.length)
  const stuck = subsets.find((subset) => !fits(subset, new Set()))
  return stuck
    ? { pair: stuck[0]!, rows: stuck.flatMap((k) => [...pairs[k]!.rows]) }
    : { pair: -1, rows: Array.from({ length: rowCount }, (_, row) => row) }
}
