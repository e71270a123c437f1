import type { TestItem } from '../../core/outputs'
import type { Watch } from '../../core/witness'
import type { TimelineEntry } from '../../core/trial'
import type { LogEntry, LogKind, Outcome, TestRun, ToldBy, TrialRow } from '../../core/api'
import type { Db } from './open'

interface RunRow {
  id: number
  site_id: string
  controller_id: string
  build_id: number | null
  revision: number
  at: string
}

interface ItemRow {
  item: string
  outcome: Outcome
  note: string
  at: string | null
  heard: string
  told_by: ToldBy | null
}

/** The outcome of a test, what was heard for it, and who told it. */
export interface Told {
  readonly outcome: Outcome
  readonly note: string
  readonly heard: readonly string[]
  readonly by: ToldBy | null
}

/** What else an entry says: which one it corrects, and which part a fault was. */
export interface EntryMore {
  readonly corrects?: number | null
  readonly part?: string | null
}

interface EntryRow {
  id: number
  controller_id: string | null
  kind: LogKind
  text: string
  at: string
  corrects: number | null
  part: string | null
}

/** Entries are written, and never changed: one that was wrong is corrected by a later one. */
function entryQueries(db: Db) {
  // by their numbers: a clock can be set back
  const entries = db.prepare<[string], EntryRow>(
    'SELECT id, controller_id, kind, text, at, corrects, part FROM log_entries WHERE site_id = ? ORDER BY id DESC',
  )
  const insert = db.prepare(
    'INSERT INTO log_entries (site_id, controller_id, kind, text, at, corrects, part) VALUES (?, ?, ?, ?, ?, ?, ?)',
  )
  const all = (site: string): LogEntry[] =>
    entries.all(site).map(({ controller_id: controller, ...row }) => ({ ...row, controller }))
  const add = (site: string, entry: Omit<LogEntry, 'id'>): number =>
    Number(
      insert.run(site, entry.controller, entry.kind, entry.text, entry.at, entry.corrects, entry.part).lastInsertRowid,
    )
  return {
    entries: all,
    note: (
      site: string,
      controller: string | null,
      kind: LogKind,
      text: string,
      at: string,
      { corrects = null, part = null }: EntryMore = {},
    ): void => void add(site, { controller, kind, text, at, corrects, part }),
    /** Entries of a file, all or none; those that are here already are left. Gives how many came. */
    bringIn: db.transaction((site: string, lines: readonly LogEntry[]): number => {
      const nameOf = (entry: Omit<LogEntry, 'id'>): string => `${entry.at}/${entry.kind}/${entry.text}`
      const known = new Map(all(site).map((entry) => [nameOf(entry), entry.id]))
      const ids = new Map<number, number>()
      let came = 0
      for (const line of lines) {
        const there = known.get(nameOf(line))
        if (there === undefined) came++
        const corrects = line.corrects === null ? null : (ids.get(line.corrects) ?? null)
        ids.set(line.id, there ?? add(site, { ...line, corrects }))
      }
      return came
    }),
  }
}

export function logbookQueries(db: Db) {
  const insertTrial = db.prepare(
    'INSERT INTO trial_runs (site_id, revision, duration_ms, timeline, at) VALUES (?, ?, ?, ?, ?)',
  )
  const trials = db.prepare<
    [string],
    { id: number; revision: number; duration_ms: number; timeline: string; at: string }
  >('SELECT id, revision, duration_ms, timeline, at FROM trial_runs WHERE site_id = ? ORDER BY id DESC')
  const insertRun = db.prepare(
    'INSERT INTO test_runs (site_id, controller_id, build_id, revision, at) VALUES (?, ?, ?, ?, ?)',
  )
  const insertItem = db.prepare(
    "INSERT INTO test_items (run_id, key, position, item, outcome, note, at) VALUES (?, ?, ?, ?, 'open', '', NULL)",
  )
  const runs = db.prepare<[string], RunRow>(
    'SELECT id, site_id, controller_id, build_id, revision, at FROM test_runs WHERE site_id = ? ORDER BY id DESC',
  )
  const runById = db.prepare<[number], RunRow>(
    'SELECT id, site_id, controller_id, build_id, revision, at FROM test_runs WHERE id = ?',
  )
  const itemsOf = db.prepare<[number], ItemRow>(
    'SELECT item, outcome, note, at, heard, told_by FROM test_items WHERE run_id = ? ORDER BY position',
  )
  const setItem = db.prepare(
    'UPDATE test_items SET outcome = ?, note = ?, at = ?, heard = ?, told_by = ? WHERE run_id = ? AND key = ?',
  )
  const run = (row: RunRow): TestRun => ({
    id: row.id,
    siteId: row.site_id,
    controller: row.controller_id,
    buildId: row.build_id,
    revision: row.revision,
    at: row.at,
    items: itemsOf.all(row.id).map(({ item, outcome, note, at, heard, told_by }) => {
      const { key, stage, channel, way, action, expected } = JSON.parse(item) as TestItem
      const told = { outcome, note, at, heard: JSON.parse(heard) as string[], toldBy: told_by }
      return { key, stage, channel, way, action, expected, ...told }
    }),
  })
  return {
    ...entryQueries(db),
    addTrial: (
      site: string,
      revision: number,
      durationMs: number,
      timeline: readonly TimelineEntry[],
      at: string,
    ): number => Number(insertTrial.run(site, revision, durationMs, JSON.stringify(timeline), at).lastInsertRowid),
    trials: (site: string): TrialRow[] =>
      trials.all(site).map((row) => ({
        id: row.id,
        revision: row.revision,
        durationMs: row.duration_ms,
        timeline: JSON.parse(row.timeline) as TrialRow['timeline'],
        at: row.at,
      })),
    addRun: db.transaction(
      (
        site: string,
        controller: string,
        buildId: number | null,
        revision: number,
        items: readonly TestItem[],
        at: string,
      ): number => {
        const id = Number(insertRun.run(site, controller, buildId, revision, at).lastInsertRowid)
        items.forEach((item, position) => insertItem.run(id, item.key, position, JSON.stringify(item)))
        return id
      },
    ),
    runs: (site: string): TestRun[] => runs.all(site).map(run),
    run(id: number): TestRun | undefined {
      const row = runById.get(id)
      return row && run(row)
    },
    /** False when the run has no such item. */
    setItem: (runId: number, key: string, told: Told, at: string): boolean =>
      setItem.run(told.outcome, told.note, at, JSON.stringify(told.heard), told.by, runId, key).changes === 1,
    /** How each test of a run is told by its board; those of old runs know no such thing. */
    watches: (runId: number): Map<string, Watch> =>
      new Map(
        itemsOf.all(runId).flatMap(({ item }) => {
          const { key, watch } = JSON.parse(item) as TestItem & { readonly watch?: Watch }
          return watch ? [[key, watch]] : []
        }),
      ),
  }
}
