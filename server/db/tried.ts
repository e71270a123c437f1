import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { openDatabase } from './database'
import { backUp, restore } from './backup'
import { StoreRefused } from './open'

/** What a backup held when it was restored to try it. */
export interface Tried {
  readonly sites: number
  readonly entries: number
  readonly builds: number
  readonly credentials: number
}

/**
 * Restores a backup into a folder of its own and reads all of it: every document, build and entry, and every credential
 * with the key of the backup. Throws StoreRefused where anything cannot be read.
 */
export function tryBackup(file: string): Tried {
  const folder = mkdtempSync(join(tmpdir(), 'vestibule-tried-'))
  try {
    restore(file, folder)
    const db = openDatabase(folder)
    try {
      const sites = db.sites.list().map(({ id }) => id)
      const secrets = sites.flatMap((id) =>
        db.credentials.list(id).map((row) => db.credentials.reveal(id, row.owner, row.name)),
      )
      if (secrets.includes(undefined)) throw new StoreRefused(`${file}: a credential in it cannot be opened`)
      return {
        sites: sites.filter((id) => db.sites.get(id) !== undefined).length,
        entries: sites.flatMap((id) => db.logbook.entries(id)).length,
        builds: sites.flatMap((id) => db.builds.list(id)).length,
        credentials: secrets.length,
      }
    } finally {
      db.close()
    }
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

/** Everything of a data folder in one file, as bytes, after it was tried by restoring it. */
export function triedBackup(folder: string): { readonly bytes: Buffer; readonly tried: Tried } {
  const beside = mkdtempSync(join(tmpdir(), 'vestibule-backup-'))
  try {
    const file = join(beside, 'backup')
    backUp(folder, file)
    const tried = tryBackup(file)
    return { bytes: readFileSync(file), tried }
  } finally {
    rmSync(beside, { recursive: true, force: true })
  }
}
