import { addressOf } from './secretAddress'
import { createHmac, randomBytes } from 'node:crypto'
import type { CredentialRecord, RecordOfBuilds } from '../core/findings'
import type { Site } from '../core/site'
import { credentialsNeeded, isDefaultPin, isInHouse } from '../core/services'
import type { Context } from './context'

/**
 * Salt of the marks by which equal values are known; new at each start, so that a mark says nothing later or elsewhere.
 */
const SALT = randomBytes(32)
const markOf = (value: string): string => createHmac('sha256', SALT).update(value).digest('hex').slice(0, 16)

/** What is known of each stored credential. Values are looked at here and never leave. */
export function credentialRecords(context: Context, site: Site): (CredentialRecord & { readonly updatedAt: string })[] {
  const { credentials, builds } = context.db
  const flashed = new Map(builds.flashed(site.id).map((flash) => [flash.controller, flash.turn]))
  const updated = new Map(credentials.list(site.id).map((row) => [`${row.owner}/${row.name}`, row]))
  return credentialsNeeded(site).flatMap((need) => {
    if (need.made) return [{ key: need.key, sameAs: need.key, newerThanFlash: false, usualPin: false, updatedAt: '' }]
    const { owner, name } = addressOf(need.key)
    const value = credentials.reveal(site.id, owner, name)
    const row = updated.get(need.key)
    if (value === undefined || row === undefined) return []
    const newerThanFlash = need.controllers.some((controller) => {
      const turn = flashed.get(controller)
      return turn !== undefined && turn < row.turn
    })
    return [
      {
        key: need.key,
        sameAs: markOf(value),
        newerThanFlash,
        usualPin: need.shape === 'pin' && isDefaultPin(value),
        ...(need.shape === 'host' && !isInHouse(value) ? { outside: true } : {}),
        updatedAt: row.updatedAt,
      },
    ]
  })
}

/** What the logbook and the store of credentials know that bears on a site. */
export const recordOf = (context: Context, site: Site): RecordOfBuilds => ({
  flashed: context.db.builds.flashed(site.id),
  credentials: credentialRecords(context, site),
})
