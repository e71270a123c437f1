/** Cost that stands for "never": infinite, so that no sum of other costs can outweigh it. */
export const FORBIDDEN = Number.POSITIVE_INFINITY

export type Assignment =
  | { kind: 'assigned'; /** column of each row */ columns: number[]; cost: number }
  | {
      kind: 'impossible'
      /** rows that cannot stand together, fewest first found */ rows: number[]
      /** the columns that they share */ columns: number[]
    }

/**
 * Minimum-cost assignment of rows to columns (rows <= columns or more), by the Hungarian method with potentials and
 * shortest augmenting paths. O(rows² · columns). Source: Kuhn 1955 and Munkres 1957, in the shortest-path form of
 * Jonker and Volgenant 1987; written from memory of the textbook.
 *
 * When some row cannot be placed, the rows on its alternating tree outnumber the columns that they may use
 * (Hall 1935): they are returned as the reason.
 */
export function assign(costs: readonly (readonly number[])[], columnCount: number): Assignment {
  const rowPotential = new Array<number>(costs.length + 1).fill(0)
  const columnPotential = new Array<number>(columnCount + 1).fill(0)
  const rowAt = new Array<number>(columnCount + 1).fill(0) // 1-based row in each column; 0: free
  for (let row = 1; row <= costs.length; row++) {
    const tree = growTree(costs, columnCount, row, rowAt, rowPotential, columnPotential)
    if (tree.end === null) {
      const rows = [row, ...tree.used.map((column) => rowAt[column]!)].map((r) => r - 1).sort((a, b) => a - b)
      return { kind: 'impossible', rows, columns: tree.used.map((column) => column - 1).sort((a, b) => a - b) }
    }
    for (let column = tree.end; column !== 0;) {
      const before = tree.cameFrom[column]!
      rowAt[column] = before === 0 ? row : rowAt[before]!
      column = before
    }
  }
  const columns = new Array<number>(costs.length).fill(-1)
  rowAt.forEach((row, column) => {
    if (row > 0) columns[row - 1] = column - 1
  })
  return { kind: 'assigned', columns, cost: columns.reduce((sum, column, row) => sum + costs[row]![column]!, 0) }
}

interface Tree {
  /** the free column reached; null: none can be */
  end: number | null
  /** columns scanned on the way */
  used: number[]
  /** the column before each column on the shortest path; 0: the root row */
  cameFrom: number[]
}

/** One Dijkstra step of the method: the shortest alternating path from a row to a free column, in reduced costs. */
function growTree(
  costs: readonly (readonly number[])[],
  columnCount: number,
  root: number,
  rowAt: readonly number[],
  rowPotential: number[],
  columnPotential: number[],
): Tree {
  const slack = new Array<number>(columnCount + 1).fill(FORBIDDEN)
  const done = new Array<boolean>(columnCount + 1).fill(false)
  const cameFrom = new Array<number>(columnCount + 1).fill(0)
  const used: number[] = []
  let column = 0
  let row = root
  for (;;) {
    done[column] = true
    if (column !== 0) used.push(column)
    for (let next = 1; next <= columnCount; next++) {
      const reduced = costs[row - 1]![next - 1]! - rowPotential[row]! - columnPotential[next]!
      if (done[next] || reduced >= slack[next]!) continue
      slack[next] = reduced
      cameFrom[next] = column
    }
    const nearest = leastOf(slack, done)
    if (nearest < 0) return { end: null, used, cameFrom }
    const delta = slack[nearest]!
    rowPotential[root]! += delta
    for (const passed of used) {
      rowPotential[rowAt[passed]!]! += delta
      columnPotential[passed]! -= delta
    }
    for (let next = 1; next <= columnCount; next++) if (!done[next]) slack[next]! -= delta
    column = nearest
    row = rowAt[column]!
    if (row === 0) return { end: column, used, cameFrom }
  }
}

/** The first column not yet scanned with the least slack; -1: none can be reached. */
function leastOf(slack: readonly number[], done: readonly boolean[]): number {
  let least = -1
  let delta = FORBIDDEN
  for (let column = 1; column < slack.length; column++) {
    if (done[column] || slack[column]! >= delta) continue
    delta = slack[column]!
    least = column
  }
  return least
}
