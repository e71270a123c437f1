import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto'
import { chmodSync, existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { NEXT_TURN, StoreRefused, type Db } from './open'

export const KEY_BYTES = 32
export const KEY_FILE = 'credentials.key'
const NONCE_BYTES = 12 // NIST SP 800-38D, 8.2.1: 96-bit nonces
const TAG_BYTES = 16

/**
 * Reads the key of a data folder, or makes it: 0600, so that only the maker's own account can read it. A new one is
 * never made over credentials that another has sealed. Throws StoreRefused.
 */
export function credentialKey(folder: string, db: Db): Buffer {
  const path = join(folder, KEY_FILE)
  const sealed = db.prepare<[], { count: number }>('SELECT count(*) AS count FROM credentials').get()!.count
  if (!existsSync(path) && sealed > 0)
    throw new StoreRefused(
      `${path} is missing, and ${sealed} credentials are sealed with it: bring it back from where the folder was copied`,
    )
  if (!existsSync(path)) writeFileSync(path, randomBytes(KEY_BYTES), { mode: 0o600, flag: 'wx' })
  chmodSync(path, 0o600)
  const key = readFileSync(path)
  if (key.length !== KEY_BYTES)
    throw new StoreRefused(`${path} holds ${key.length} bytes instead of ${KEY_BYTES}: bring the right one back`)
  return key
}

const address = (site: string, owner: string, name: string): Buffer => Buffer.from(`${site}\n${owner}\n${name}`)

function seal(key: Buffer, about: Buffer, secret: string): { nonce: Buffer; sealed: Buffer } {
  const nonce = randomBytes(NONCE_BYTES)
  const cipher = createCipheriv('aes-256-gcm', key, nonce).setAAD(about)
  return { nonce, sealed: Buffer.concat([cipher.update(secret, 'utf8'), cipher.final(), cipher.getAuthTag()]) }
}

/**
 * Secrets, encrypted at rest with AES-256-GCM. The row's own address is authenticated with it, so that a secret cannot
 * be moved to another owner by copying its row.
 */
export function credentialQueries(db: Db, key: Buffer) {
  const put = db.prepare(
    'INSERT INTO credentials (site_id, owner, name, nonce, cipher, updated_at, turn) ' +
      `VALUES (?, ?, ?, ?, ?, ?, ${NEXT_TURN}) ON CONFLICT (site_id, owner, name) DO UPDATE SET ` +
      'nonce = excluded.nonce, cipher = excluded.cipher, updated_at = excluded.updated_at, turn = excluded.turn',
  )
  const get = db.prepare<[string, string, string], { nonce: Buffer; cipher: Buffer }>(
    'SELECT nonce, cipher FROM credentials WHERE site_id = ? AND owner = ? AND name = ?',
  )
  const list = db.prepare<[string], { owner: string; name: string; updated_at: string; turn: number }>(
    'SELECT owner, name, updated_at, turn FROM credentials WHERE site_id = ? ORDER BY owner, name',
  )
  const remove = db.prepare('DELETE FROM credentials WHERE site_id = ? AND owner = ? AND name = ?')
  return {
    put(site: string, owner: string, name: string, secret: string, at: string): void {
      const { nonce, sealed } = seal(key, address(site, owner, name), secret)
      put.run(site, owner, name, nonce, sealed, at)
    },
    /** The secret itself: only for the broker's check and the secrets file that the maker asks for. */
    reveal(site: string, owner: string, name: string): string | undefined {
      const row = get.get(site, owner, name)
      if (!row) return undefined
      try {
        const decipher = createDecipheriv('aes-256-gcm', key, row.nonce).setAAD(address(site, owner, name))
        decipher.setAuthTag(row.cipher.subarray(-TAG_BYTES))
        return Buffer.concat([decipher.update(row.cipher.subarray(0, -TAG_BYTES)), decipher.final()]).toString('utf8')
      } catch {
        // one that was tampered with is as good as none, and spoils no other
        return undefined
      }
    },
    has: (site: string, owner: string, name: string): boolean => get.get(site, owner, name) !== undefined,
    /** What there is, without what it says. */
    list: (site: string) =>
      list.all(site).map((row) => ({ owner: row.owner, name: row.name, updatedAt: row.updated_at, turn: row.turn })),
    remove: (site: string, owner: string, name: string): boolean => remove.run(site, owner, name).changes === 1,
  }
}

/** Gives credentials of older documents the names that they have now: each once, all or none. */
export function bringNamesUp(
  db: Db,
  key: Buffer,
  reveal: (site: string, owner: string, name: string) => string | undefined,
  names: Readonly<Record<string, string>>,
): void {
  const oldNames = db.prepare<[], { site_id: string; owner: string; name: string }>(
    'SELECT site_id, owner, name FROM credentials WHERE named = 4',
  )
  const rename = db.prepare(
    'UPDATE OR REPLACE credentials SET name = ?, nonce = ?, cipher = ?, named = 5 ' +
      'WHERE site_id = ? AND owner = ? AND name = ?',
  )
  const isNamed = db.prepare('UPDATE credentials SET named = 5 WHERE named = 4')
  db.transaction(() => {
    for (const { site_id: site, owner, name } of oldNames.all()) {
      const [first, ...rest] = name.split('/')
      const now = names[first!]
      const secret = now === undefined ? undefined : reveal(site, owner, name)
      if (now === undefined || secret === undefined) continue
      const next = [now, ...rest].join('/')
      const { nonce, sealed } = seal(key, address(site, owner, next), secret)
      rename.run(next, nonce, sealed, site, owner, name)
    }
    isNamed.run()
  })()
}
