import type { Db } from './open'

/** When each thing was kept up last. */
export function upkeepQueries(db: Db) {
  const all = db.prepare<[string], { item: string; at: string }>('SELECT item, at FROM upkeep_done WHERE site_id = ?')
  const put = db.prepare(
    'INSERT INTO upkeep_done (site_id, item, at) VALUES (?, ?, ?) ' +
      'ON CONFLICT (site_id, item) DO UPDATE SET at = excluded.at',
  )
  return {
    done: (site: string): Record<string, string> => Object.fromEntries(all.all(site).map(({ item, at }) => [item, at])),
    put: (site: string, item: string, at: string): void => void put.run(site, item, at),
  }
}
