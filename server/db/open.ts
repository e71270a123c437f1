import Database from 'better-sqlite3'
import { mkdirSync, readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export type Db = Database.Database

const MIGRATIONS = join(dirname(fileURLToPath(import.meta.url)), 'migrations')

/**
 * Opens the store of a data folder and brings it up to date. WAL with synchronous=FULL: a committed transaction has
 * reached the disk before its answer leaves, so what was acknowledged survives a kill.
 */
export function openStore(folder: string): Db {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const db = new Database(join(folder, 'vestibule.sqlite'))
  db.pragma('journal_mode = WAL')
  db.pragma('synchronous = FULL')
  db.pragma('foreign_keys = ON')
  db.pragma('busy_timeout = 5000')
  migrate(db)
  return db
}

/** Runs the numbered migrations that have not run yet, each in a transaction of its own. */
function migrate(db: Db): void {
  const done = db.pragma('user_version', { simple: true }) as number
  for (const file of readdirSync(MIGRATIONS)
    .filter((name) => name.endsWith('.sql'))
    .sort()) {
    const number = Number.parseInt(file, 10)
    if (number <= done) continue
    db.transaction(() => {
      db.exec(readFileSync(join(MIGRATIONS, file), 'utf8'))
      db.pragma(`user_version = ${number}`)
    })()
  }
}
