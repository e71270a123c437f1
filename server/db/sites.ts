import { migrate, type HistoryEntry, type HistoryKind, type Operation, type Site } from '../../core/site'
import type { Db } from './open'

export interface StoredSite {
  readonly revision: number
  readonly site: Site
}

export interface StoredEdit extends HistoryEntry {
  readonly patch: readonly Operation[]
  readonly inverse: readonly Operation[]
}

interface EditRow {
  revision: number
  kind: HistoryKind
  of_revision: number | null
  label: string
  tab: string
  patch: string
  inverse: string
}

export function siteQueries(db: Db) {
  const madeAt = db.prepare<[string], { created_at: string }>('SELECT created_at FROM sites WHERE id = ?')
  const list = db.prepare<[], { id: string; name: string; revision: number; updated_at: string }>(
    'SELECT id, name, revision, updated_at FROM sites ORDER BY rowid',
  )
  const get = db.prepare<[string], { revision: number; document: string }>(
    'SELECT revision, document FROM sites WHERE id = ?',
  )
  const insert = db.prepare(
    'INSERT INTO sites (id, name, revision, document, created_at, updated_at) VALUES (?, ?, 0, ?, ?, ?)',
  )
  const update = db.prepare('UPDATE sites SET name = ?, revision = ?, document = ?, updated_at = ? WHERE id = ?')
  const remove = db.prepare('DELETE FROM sites WHERE id = ?')
  const insertEdit = db.prepare(
    'INSERT INTO edits (site_id, revision, kind, of_revision, label, patch, inverse, at, tab) ' +
      'VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)',
  )
  const heads = db.prepare<
    [string],
    { revision: number; kind: HistoryKind; of_revision: number | null; label: string; tab: string }
  >('SELECT revision, kind, of_revision, label, tab FROM edits WHERE site_id = ? ORDER BY revision')
  const edit = db.prepare<[string, number], EditRow>(
    'SELECT revision, kind, of_revision, label, tab, patch, inverse FROM edits WHERE site_id = ? AND revision = ?',
  )
  const inversesAfter = db.prepare<[string, number], { inverse: string }>(
    'SELECT inverse FROM edits WHERE site_id = ? AND revision > ? ORDER BY revision DESC',
  )

  return {
    list: () =>
      list.all().map((row) => ({ id: row.id, name: row.name, revision: row.revision, updatedAt: row.updated_at })),
    /** when it was made */
    madeAt: (id: string): string | undefined => madeAt.get(id)?.created_at,
    get(id: string): StoredSite | undefined {
      const row = get.get(id)
      return row && { revision: row.revision, site: migrate(JSON.parse(row.document)) as Site }
    },
    create(site: Site, at: string): void {
      insert.run(site.id, site.name, JSON.stringify(site), at, at)
    },
    /** With all that belongs to it: the tables say so (ON DELETE CASCADE). */
    remove: (id: string): boolean => remove.run(id).changes === 1,
    /** Stores an edit and the document after it, both or neither. */
    append: db.transaction(
      (
        site: Site,
        revision: number,
        change: {
          kind: HistoryKind
          of: number | null
          label: string
          patch: readonly Operation[]
          inverse: readonly Operation[]
          tab: string
        },
        at: string,
      ) => {
        insertEdit.run(
          site.id,
          revision,
          change.kind,
          change.of,
          change.label,
          JSON.stringify(change.patch),
          JSON.stringify(change.inverse),
          at,
          change.tab,
        )
        update.run(site.name, revision, JSON.stringify(site), at, site.id)
      },
    ),
    history: (id: string): HistoryEntry[] => heads.all(id).map(({ of_revision: of, ...row }) => ({ ...row, of })),
    /** What takes back all that came after a revision, the newest first. */
    inversesAfter: (id: string, revision: number): Operation[][] =>
      inversesAfter.all(id, revision).map((row) => JSON.parse(row.inverse) as Operation[]),
    edit(id: string, revision: number): StoredEdit | undefined {
      const row = edit.get(id, revision)
      return (
        row && {
          revision: row.revision,
          kind: row.kind,
          of: row.of_revision,
          label: row.label,
          tab: row.tab,
          patch: JSON.parse(row.patch) as Operation[],
          inverse: JSON.parse(row.inverse) as Operation[],
        }
      )
    },
  }
}
