import Database from 'better-sqlite3'
import { accessSync, chmodSync, constants, existsSync, mkdirSync, readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export type Db = Database.Database

/** The next turn, as SQL: one later than all that a credential or a flash has had. A clock can be set back. */
export const NEXT_TURN =
  '(SELECT 1 + max(coalesce((SELECT max(turn) FROM credentials), 0), coalesce((SELECT max(turn) FROM flashes), 0)))'

const MIGRATIONS = join(dirname(fileURLToPath(import.meta.url)), 'migrations')
export const STORE = 'vestibule.sqlite'

/** A data folder that cannot be used as it is: one line, with what to do. Nothing in it has been changed. */
export class StoreRefused extends Error {
  readonly code = 'store-refused'
}

interface Store {
  readonly db: Db
  /** Writes what is there already, and throws what the disk says to it. */
  probe(): void
  /** Lets the folder go: another program may have it. */
  close(): void
}

/**
 * Opens the store of a data folder and brings it up to date. WAL with synchronous=FULL: a committed transaction has
 * reached the disk before its answer leaves, so what was acknowledged survives a kill. Throws StoreRefused.
 */
export function openStore(folder: string): Store {
  const path = join(folder, STORE)
  makeOwn(folder)
  // the demo must not be put over somebody's data whose file was emptied
  if (existsSync(path) && statSync(path).size === 0)
    throw new StoreRefused(`${path} is empty: restore a backup, or delete the file to start empty`)
  const lock = lockOf(folder)
  try {
    const db = inOneLine(path, () => opened(path))
    for (const file of [STORE, `${STORE}-wal`, `${STORE}-shm`])
      if (existsSync(join(folder, file))) chmodSync(join(folder, file), 0o600)
    return {
      db,
      probe: () => void db.pragma(`user_version = ${Number(db.pragma('user_version', { simple: true }))}`),
      close: () => {
        db.close()
        lock.close()
      },
    }
  } catch (error) {
    lock.close()
    throw error
  }
}

/** The folder and what is in it are its maker's alone, also where it was there before. */
export function makeOwn(folder: string): void {
  try {
    mkdirSync(folder, { recursive: true, mode: 0o700 })
    accessSync(folder, constants.R_OK | constants.W_OK)
    chmodSync(folder, 0o700)
  } catch {
    throw new StoreRefused(
      `${folder} may not be written: give this account the right to, or choose another with --data`,
    )
  }
}

/**
 * One program has a data folder. The system lets go of the lock when the program ends, however it ends: none stays
 * behind a kill.
 */
function lockOf(folder: string): Db {
  try {
    const lock = new Database(join(folder, 'lock.sqlite'), { timeout: 0 })
    lock.exec('BEGIN EXCLUSIVE')
    return lock
  } catch {
    throw new StoreRefused(`${folder} is in use by another program: stop that, or choose another folder with --data`)
  }
}

function opened(path: string): Db {
  const db = new Database(path)
  try {
    const version = readable(db, path)
    db.pragma('journal_mode = WAL')
    db.pragma('synchronous = FULL')
    db.pragma('foreign_keys = ON')
    // nobody else writes into a folder that is ours; waiting holds up everything, presses of the phone among it
    db.pragma('busy_timeout = 500')
    for (const file of migrations()) if (numberOf(file) > version) migrate(db, file)
    return db
  } catch (error) {
    db.close()
    throw error
  }
}

/** Looks at a store before anything is written into it; gives its version. */
function readable(db: Db, path: string): number {
  const [version, last] = [db.pragma('user_version', { simple: true }) as number, numberOf(migrations().at(-1)!)]
  if (version > last)
    throw new StoreRefused(
      `${path} was written by a newer program (store version ${version}, this one knows ${last}): start that one`,
    )
  if (db.pragma('quick_check', { simple: true }) !== 'ok') throw damaged(path)
  return version
}

/** Whether a file is a store that this program can use. Throws StoreRefused, or what SQLite says. */
export function checkStore(path: string): void {
  const db = new Database(path, { readonly: true })
  try {
    readable(db, path)
  } finally {
    db.close()
  }
}

const damaged = (path: string): StoreRefused =>
  new StoreRefused(`${path} is damaged: copy the folder away as it is, then bring a backup back`)

/** What SQLite says of a file that it cannot use, as a line that says what to do (its result codes). */
export function inOneLine<T>(path: string, open: () => T): T {
  try {
    return open()
  } catch (error) {
    const code = error instanceof Error && 'code' in error ? String(error.code) : ''
    if (/^SQLITE_(NOTADB|CORRUPT)/.test(code)) throw damaged(path)
    if (/^SQLITE_(READONLY|CANTOPEN|PERM|AUTH)/.test(code))
      throw new StoreRefused(
        `${path} may not be written: give this account the right to, or choose another with --data`,
      )
    throw error
  }
}

const numberOf = (file: string): number => Number.parseInt(file, 10)
const migrations = (): string[] =>
  readdirSync(MIGRATIONS)
    .filter((name) => name.endsWith('.sql'))
    .sort()

/** Runs a numbered migration, in a transaction of its own. */
function migrate(db: Db, file: string): void {
  db.transaction(() => {
    db.exec(readFileSync(join(MIGRATIONS, file), 'utf8'))
    db.pragma(`user_version = ${numberOf(file)}`)
  })()
}
