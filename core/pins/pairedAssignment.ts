import { assign, FORBIDDEN } from './assignment'

/** Two rows that must stand on two columns which belong together. */
export interface PairDemand {
  readonly rows: readonly [number, number]
  readonly candidates: readonly (readonly [number, number])[]
}

export type PairedAssignment =
  | { kind: 'assigned'; columns: number[]; cost: number }
  | { kind: 'impossible'; /** -1: the single rows are stuck; else the pair that is */ pair: number; rows: number[] }

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
  const dearer = (cost: number, than: number): boolean => Math.floor(cost / grain) >= Math.floor(than / grain)
  const inPair = new Set(pairs.flatMap((pair) => pair.rows))
  const singles = costs.map((_, row) => row).filter((row) => !inPair.has(row))
  const alone = assign(
    singles.map((row) => costs[row]!),
    columnCount,
  )
  if (alone.kind === 'impossible') return { kind: 'impossible', pair: -1, rows: alone.rows.map((row) => singles[row]!) }
  const options = pairs.map(({ rows: [a, b], candidates }) =>
    candidates
      .map(([first, second]) => ({ first, second, cost: costs[a]![first]! + costs[b]![second]! }))
      .filter((option) => option.cost < FORBIDDEN)
      .sort((x, y) => x.cost - y.cost),
  )
  const hopeless = options.findIndex((list) => list.length === 0)
  if (hopeless >= 0) return { kind: 'impossible', pair: hopeless, rows: [...pairs[hopeless]!.rows] }
  const cheapestFrom = options.map((_, from) => options.slice(from).reduce((sum, list) => sum + list[0]!.cost, 0))
  // Columns that cost every single row the same are interchangeable: taking one or the other leaves the same rest to
  // pay.
  const classOf = Array.from({ length: columnCount }, (_, column) =>
    singles.map((row) => Math.floor(costs[row]![column]! / grain)).join(' '),
  )
  const restSeen = new Map<string, number>()
  let best: { columns: number[]; cost: number } | null = null
  const taken = new Set<number>()
  const chosen: { first: number; second: number }[] = []
  const visit = (level: number, cost: number): void => {
    if (best && dearer(cost + (cheapestFrom[level] ?? 0) + alone.cost, best.cost)) return
    if (level < pairs.length) {
      for (const option of options[level]!) {
        if (taken.has(option.first) || taken.has(option.second)) continue
        taken.add(option.first).add(option.second)
        chosen.push(option)
        visit(level + 1, cost + option.cost)
        chosen.pop()
        taken.delete(option.first)
        taken.delete(option.second)
      }
      return
    }
    const takenClasses = [...taken]
      .map((column) => classOf[column]!)
      .sort()
      .join('|')
    const known = restSeen.get(takenClasses)
    if (best && known !== undefined && dearer(cost + known, best.cost)) return
    const free = Array.from({ length: columnCount }, (_, column) => column).filter((column) => !taken.has(column))
    const rest =
      taken.size === 0
        ? alone
        : assign(
            singles.map((row) => free.map((column) => costs[row]![column]!)),
            free.length,
          )
    restSeen.set(takenClasses, rest.kind === 'impossible' ? FORBIDDEN : rest.cost)
    if (rest.kind === 'impossible' || (best && dearer(cost + rest.cost, best.cost))) return
    const columns = new Array<number>(costs.length).fill(-1)
    singles.forEach((row, i) => {
      columns[row] = taken.size === 0 ? rest.columns[i]! : free[rest.columns[i]!]!
    })
    pairs.forEach(({ rows: [a, b] }, i) => {
      columns[a] = chosen[i]!.first
      columns[b] = chosen[i]!.second
    })
    best = { columns, cost: cost + rest.cost }
  }
  visit(0, 0)
  // `best` is set inside visit, which the type checker cannot follow
  const found = best as { columns: number[]; cost: number } | null
  return found ? { kind: 'assigned', ...found } : { kind: 'impossible', ...whichPairs(pairs, options, costs.length) }
}

type Option = { readonly first: number; readonly second: number }

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
