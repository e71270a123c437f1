/** Rows by a key, in their order; a map, since keys come from documents. */
export function grouped<Row>(rows: readonly Row[], keyOf: (row: Row) => string): ReadonlyMap<string, readonly Row[]> {
  const groups = new Map<string, Row[]>()
  for (const row of rows) {
    const key = keyOf(row)
    const group = groups.get(key)
    if (group) group.push(row)
    else groups.set(key, [row])
  }
  return groups
}
