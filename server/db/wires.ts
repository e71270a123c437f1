import type { WireRow } from '../../core/api'
import type { Db } from './open'

/** Wires that are ticked off as soldered. */
export function wireQueries(db: Db) {
  const all = db.prepare<[string], WireRow>(
    'SELECT controller_id AS controller, wire, at FROM wires WHERE site_id = ? ORDER BY rowid',
  )
  const put = db.prepare(
    'INSERT INTO wires (site_id, controller_id, wire, at) VALUES (?, ?, ?, ?) ON CONFLICT DO NOTHING',
  )
  const remove = db.prepare('DELETE FROM wires WHERE site_id = ? AND controller_id = ? AND wire = ?')
  return {
    list: (site: string): WireRow[] => all.all(site),
    /** True: it was not so before. */
    turn: (site: string, controller: string, wire: string, done: boolean, at: string): boolean =>
      (done ? put.run(site, controller, wire, at) : remove.run(site, controller, wire)).changes === 1,
  }
}
