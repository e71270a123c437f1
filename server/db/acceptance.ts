import type { AcceptanceRow } from '../../core/api'
import type { Db } from './open'

/** Acceptance runs in the simulated house, as they were kept. */
export function acceptanceQueries(db: Db) {
  const newest = db.prepare<[string], { id: number; revision: number; report: string; at: string }>(
    'SELECT id, revision, report, at FROM acceptance_runs WHERE site_id = ? ORDER BY id DESC LIMIT 1',
  )
  const insert = db.prepare('INSERT INTO acceptance_runs (site_id, revision, report, at) VALUES (?, ?, ?, ?)')
  const removeOld = db.prepare(
    'DELETE FROM acceptance_runs WHERE site_id = ? AND id NOT IN ' +
      '(SELECT id FROM acceptance_runs WHERE site_id = ? ORDER BY id DESC LIMIT 5)',
  )
  return {
    newest: (site: string): AcceptanceRow | null => {
      const row = newest.get(site)
      return row
        ? { id: row.id, revision: row.revision, report: JSON.parse(row.report) as AcceptanceRow['report'], at: row.at }
        : null
    },
    /** Older ones than the last five go: the logbook keeps what each found. */
    add: db.transaction((site: string, revision: number, report: AcceptanceRow['report'], at: string): number => {
      const id = Number(insert.run(site, revision, JSON.stringify(report), at).lastInsertRowid)
      removeOld.run(site, site)
      return id
    }),
  }
}
