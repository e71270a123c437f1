import { RENAMED_SECRETS } from '../../core/site'
import { acceptanceQueries } from './acceptance'
import { boardQueries } from './boards'
import { buildQueries } from './builds'
import { bringNamesUp, credentialKey, credentialQueries } from './credentials'
import { heldValueQueries } from './heldValues'
import { logbookQueries } from './logbook'
import { openStore } from './open'
import { siteQueries } from './sites'
import { upkeepQueries } from './upkeep'
import { wireQueries } from './wires'

/** The store of a data folder: all SQL of the server stands in this folder. */
export function openDatabase(folder: string) {
  const store = openStore(folder)
  const { db } = store
  let key: Buffer
  try {
    key = credentialKey(folder, db)
  } catch (error) {
    store.close()
    throw error
  }
  const credentials = credentialQueries(db, key)
  bringNamesUp(db, key, credentials.reveal, RENAMED_SECRETS)
  return {
    sites: siteQueries(db),
    acceptance: acceptanceQueries(db),
    boards: boardQueries(db),
    builds: buildQueries(db),
    logbook: logbookQueries(db),
    credentials,
    heldValues: heldValueQueries(db),
    upkeep: upkeepQueries(db),
    wires: wireQueries(db),
    probe: () => store.probe(),
    close: () => store.close(),
  }
}
export type Database = ReturnType<typeof openDatabase>
