import Sqlite from 'better-sqlite3'
import { createCipheriv, randomBytes } from 'node:crypto'
import { chmodSync, mkdtempSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { startServer, type RunningServer } from '.'
import { TEST_OPTIONS } from './server.testkit'

/** A data folder that something has happened to: one line that says what to do, and nothing in it is changed. */

let data = ''
beforeEach(() => {
  data = mkdtempSync(join(tmpdir(), 'vestibule-store-'))
})
afterEach(() => rmSync(data, { recursive: true, force: true }))

const start = (): Promise<RunningServer> => startServer({ ...TEST_OPTIONS, dataFolder: data })
const file = (name: string): string => join(data, name)
const STORE = 'vestibule.sqlite'
/** A store with the demo and with a credential for each controller, left as a stopped program leaves it. */
const made = async (): Promise<void> => (await start()).close()
const bytes = (): string => readFileSync(file(STORE)).toString('base64')
const mode = (name: string): string => (statSync(file(name)).mode & 0o777).toString(8)

describe('a data folder', () => {
  it('is one program’s at a time, and free when that ends', async () => {
    const first = await start()
    await expect(start()).rejects.toThrow(`${data} is in use by another program`)
    await first.close()
    await (await start()).close()
  })
  it('is its maker’s alone, also where it was there before', async () => {
    await made()
    chmodSync(data, 0o755)
    chmodSync(file(STORE), 0o644)
    await made()
    expect([mode('.'), mode(STORE), mode('credentials.key')]).toEqual(['700', '600', '600'])
  })
})

describe('a store that cannot be used is refused, and left as it is', () => {
  const refused = async (why: RegExp): Promise<void> => {
    const before = bytes()
    await expect(start()).rejects.toThrow(why)
    await expect(start()).rejects.toMatchObject({ code: 'start-refused' })
    expect(bytes()).toBe(before)
  }
  beforeEach(made)
  it('emptied', async () => {
    truncateSync(file(STORE), 0)
    await refused(/is empty: restore a backup, or delete the file to start empty/)
  })
  it('something else', async () => {
    writeFileSync(file(STORE), 'a letter to my aunt, longer than the head of a store '.repeat(200))
    await refused(/is damaged: copy the folder away/)
  })
  it('cut off in the middle', async () => {
    truncateSync(file(STORE), Math.floor(statSync(file(STORE)).size / 2 / 4096) * 4096)
    await refused(/is damaged/)
  })
  it('of a newer program', async () => {
    const db = new Sqlite(file(STORE))
    db.pragma('user_version = 999')
    db.pragma('journal_mode = DELETE')
    db.close()
    await refused(/was written by a newer program \(store version 999, this one knows \d+\): start that one/)
  })
  it('without its key', async () => {
    rmSync(file('credentials.key'))
    await refused(/credentials\.key is missing, and \d+ credentials are sealed with it/)
  })
  it('with half a key', async () => {
    truncateSync(file('credentials.key'), 16)
    await refused(/credentials\.key holds 16 bytes instead of 32/)
  })
})

describe('a credential that was tampered with', () => {
  it('spoils itself only, and is not replaced without a word', async () => {
    await made()
    const db = new Sqlite(file(STORE))
    const rows = db.prepare('SELECT rowid, cipher FROM credentials ORDER BY rowid').all() as {
      rowid: number
      cipher: Buffer
    }[]
    const spoilt = Buffer.from(rows[0]!.cipher)
    spoilt[0]! ^= 1
    db.prepare('UPDATE credentials SET cipher = ? WHERE rowid = ?').run(spoilt, rows[0]!.rowid)
    db.close()
    await made()
    const after = new Sqlite(file(STORE)).prepare('SELECT cipher FROM credentials ORDER BY rowid').all() as {
      cipher: Buffer
    }[]
    expect(after.map(({ cipher }) => cipher.toString('hex'))).toEqual(
      rows.map(({ cipher }, i) => (i === 0 ? spoilt : cipher).toString('hex')),
    )
  })
})

describe('a store of an older program', () => {
  it('keeps its credentials, under the names that they have now', async () => {
    await made()
    const keyOf = readFileSync(file('credentials.key'))
    const db = new Sqlite(file(STORE))
    const seal = (name: string, secret: string): void => {
      const nonce = randomBytes(12)
      const cipher = createCipheriv('aes-256-gcm', keyOf, nonce).setAAD(Buffer.from(`studio-corner\napp\n${name}`))
      const sealed = Buffer.concat([cipher.update(secret, 'utf8'), cipher.final(), cipher.getAuthTag()])
      db.prepare(
        'INSERT INTO credentials (site_id, owner, name, nonce, cipher, updated_at, turn) VALUES (?, ?, ?, ?, ?, ?, 1)',
      ).run('studio-corner', 'app', name, nonce, sealed, '2026-01-01T00:00:00Z')
    }
    seal('device-token/corner', 'the old key of the corner')
    seal('pairing-pin/corner', 'called as it was')
    db.exec(
      'ALTER TABLE credentials DROP COLUMN named; ALTER TABLE flashes DROP COLUMN versions; DROP TABLE acceptance_runs; ' +
        'DROP TABLE upkeep_done; ALTER TABLE log_entries DROP COLUMN corrects; ' +
        'ALTER TABLE log_entries DROP COLUMN part; DROP TABLE heard_boards; DROP TABLE heard_channels; DROP TABLE board_doors; ' +
        'ALTER TABLE test_items DROP COLUMN heard; ALTER TABLE test_items DROP COLUMN told_by',
    )
    db.pragma('user_version = 4')
    db.close()
    const server = await start()
    const answer = await fetch(`${server.url}/api/sites/studio-corner/controllers/corner/secrets`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{}',
    })
    expect(await answer.text()).toContain('#define VESTIBULE_APP_BOARD_KEY "the old key of the corner"')
    await server.close()
    const after = new Sqlite(file(STORE), { readonly: true })
    const names = after.prepare("SELECT name, named FROM credentials WHERE owner = 'app' ORDER BY name").all()
    expect(names).toEqual([
      { name: 'board-key/corner', named: 5 },
      { name: 'pairing-pin/corner', named: 5 },
    ])
  })
})

describe('a clock that was set back', () => {
  it('confuses neither the order of the log nor what is newer than the flash', async () => {
    vi.useFakeTimers({ toFake: ['Date'], now: new Date('2031-05-01T12:00:00Z') })
    const server = await start()
    const ask = async (method: string, path: string, body?: unknown): Promise<Record<string, unknown>> => {
      const sent = body === undefined ? {} : { body: JSON.stringify(body) }
      const headers = { 'Content-Type': 'application/json' }
      const response = await fetch(`${server.url}/api/${path}`, { method, headers, ...sent })
      expect(response.status, await response.clone().text()).toBeLessThan(300)
      return (await response.json()) as Record<string, unknown>
    }
    const site = 'sites/studio-corner'
    const put = (value: string) => ask('PUT', `${site}/credentials`, { key: 'wifi/password', value })
    const newer = async () => {
      const { credentials } = (await ask('GET', `${site}/credentials`)) as {
        credentials: { key: string; stored: { newerThanFlash: boolean } | null }[]
      }
      return credentials.find(({ key }) => key === 'wifi/password')!.stored!.newerThanFlash
    }
    await put('the first of them')
    const built = (await ask('POST', `${site}/builds`, { controller: 'corner', despiteFindings: true })) as {
      build: { id: number }
    }
    await ask('POST', `builds/${built.build.id}/flashes`, { boardPackage: '', note: '' })
    expect(await newer()).toBe(false)
    vi.setSystemTime(new Date('2026-01-01T00:00:00Z'))
    await put('the second of them')
    expect(await newer()).toBe(true)
    await ask('POST', `${site}/log`, { kind: 'note', controller: null, text: 'after the clock was set back' })
    const { entries } = (await ask('GET', `${site}/log`)) as { entries: { text: string }[] }
    expect(entries[0]!.text).toBe('after the clock was set back')
    await server.close()
    vi.useRealTimers()
  })
})
