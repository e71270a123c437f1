import { buildQueries } from './builds'
import { credentialKey, credentialQueries } from './credentials'
import { heldValueQueries } from './heldValues'
import { logbookQueries } from './logbook'
import { openStore } from './open'
import { siteQueries } from './sites'

/** The store of a data folder: all SQL of the server stands in this folder. */
export function openDatabase(folder: string) {
  const db = openStore(folder)
  return {
    sites: siteQueries(db),
    builds: buildQueries(db),
    logbook: logbookQueries(db),
    credentials: credentialQueries(db, credentialKey(folder)),
    heldValues: heldValueQueries(db),
    close: () => db.close(),
  }
}
export type Database = ReturnType<typeof openDatabase>
