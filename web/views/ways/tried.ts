import { createContext, useContext, useMemo } from 'react'
import type { AcceptanceRow } from '../../../core/api'
import type { Site } from '../../../core/site'
import { columnOf, type Column } from '../../../core/ways'
import { useAppSelector } from '../../store/store'
import { useTables } from '../../store/tables'

/** What the last acceptance run said of a cell's ways: the worst of them. */
export interface Tried {
  readonly result: 'passed' | 'failed' | 'skipped'
  /** the first that failed, or was not tried, and why */
  readonly note: string
  /** the controller has other tables by now */
  readonly isOld: boolean
}

export type TriedCells = ReadonlyMap<string, Tried>

const NONE: TriedCells = new Map()
const RANK = { passed: 0, skipped: 1, failed: 2 } as const

/** By "channel/column". */
function triedCells(
  site: Site,
  { report }: AcceptanceRow,
  tables: Readonly<Record<string, string>>,
): Map<string, Tried> {
  const columns = new Map<string, Column>(site.ways.map((way) => [way.id, columnOf(site, way)]))
  const cells = new Map<string, Tried>()
  for (const { way, channel, controller, result, action, note } of report.items) {
    const column = way === null ? undefined : columns.get(way)
    if (channel === null || column === undefined) continue
    const key = `${channel}/${column}`
    const before = cells.get(key)
    if (before && RANK[before.result] >= RANK[result]) continue
    const isOld = tables[controller] !== report.tables[controller]
    cells.set(key, { result, note: note && `${action}: ${note}`, isOld })
  }
  return cells
}

const Cells = createContext<TriedCells>(NONE)
export const TriedProvider = Cells.Provider
export const useTriedCells = (): TriedCells => useContext(Cells)

/** What the last run found, for the crossbar; nothing until it is known which tables the site has now. */
export function useTried(site: Site): TriedCells {
  const kept = useAppSelector((state) => state.logbook.acceptance)
  const tables = useTables(kept ? site : null)
  return useMemo(() => (kept && tables ? triedCells(site, kept, tables) : NONE), [site, kept, tables])
}
