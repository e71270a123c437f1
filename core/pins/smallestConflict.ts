/**
 * Above this many different sets of pins, the exact search is given up for a set from which nothing can be left out.
 */
const MOST_CLASSES = 14

const subsetOf = (small: ReadonlySet<number>, large: ReadonlySet<number>): boolean =>
  [...small].every((column) => large.has(column))

/**
 * The smallest set of rows that cannot stand together: fewer columns than rows (Hall 1935). Rows that may use the same
 * columns are one class; the columns of a smallest conflict are the union of its rows' columns, so it is enough to look
 * at unions of classes: for a union U the conflict holds any |U| + 1 of the rows that stay within U.
 * `allowed[row]` are the columns that the row may use. Null: they can all stand.
 */
export function smallestConflict(allowed: readonly ReadonlySet<number>[]): number[] | null {
  const classes = new Map<string, ReadonlySet<number>>()
  for (const set of allowed) classes.set([...set].sort((a, b) => a - b).join(','), set)
  const sets = [...classes.values()]
  if (sets.length > MOST_CLASSES) return reduced(allowed)
  let best: number[] | null = null
  for (let mask = 1; mask < 1 << sets.length; mask++) {
    const union = new Set<number>()
    sets.forEach((set, i) => {
      if (mask & (1 << i)) set.forEach((column) => union.add(column))
    })
    if (best && union.size + 1 >= best.length) continue
    const inside = [...allowed.keys()].filter((row) => subsetOf(allowed[row]!, union))
    if (inside.length > union.size) best = inside.slice(0, union.size + 1)
  }
  return best
}

/** Leaves rows out as long as a conflict remains: what stays cannot lose any of its rows. */
function reduced(allowed: readonly ReadonlySet<number>[]): number[] | null {
  let rows = [...allowed.keys()]
  if (matches(allowed, rows)) return null
  for (const row of [...rows]) {
    const without = rows.filter((other) => other !== row)
    if (!matches(allowed, without)) rows = without
  }
  return rows
}

/** Can all these rows have a column each? Kuhn's augmenting paths. */
function matches(allowed: readonly ReadonlySet<number>[], rows: readonly number[]): boolean {
  const holder = new Map<number, number>()
  const place = (row: number, seen: Set<number>): boolean => {
    for (const column of allowed[row]!) {
      if (seen.has(column)) continue
      seen.add(column)
      const other = holder.get(column)
      if (other === undefined || place(other, seen)) {
        holder.set(column, row)
        return true
      }
    }
    return false
  }
  return rows.every((row) => place(row, new Set()))
}
