import type { Db } from './open'

export function heldValueQueries(db: Db) {
  const all = db.prepare<[string, string], { point_id: string; value: number }>(
    'SELECT point_id, value FROM held_values WHERE site_id = ? AND service_id = ?',
  )
  const put = db.prepare(
    'INSERT INTO held_values (site_id, service_id, point_id, value) VALUES (?, ?, ?, ?) ON CONFLICT ' +
      '(site_id, service_id, point_id) DO UPDATE SET value = excluded.value',
  )
  return {
    all: (site: string, service: string): Record<string, number> =>
      Object.fromEntries(all.all(site, service).map((row) => [row.point_id, row.value])),
    put: (site: string, service: string, point: string, value: number): void =>
      void put.run(site, service, point, value),
  }
}
