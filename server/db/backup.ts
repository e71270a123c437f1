import Database from 'better-sqlite3'
import { strFromU8, unzipSync, zipSync } from 'fflate'
import {
  closeSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  mkdtempSync,
  openSync,
  readFileSync,
  renameSync,
  rmSync,
  writeSync,
} from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { KEY_BYTES, KEY_FILE } from './credentials'
import { checkStore, inOneLine, makeOwn, STORE, StoreRefused } from './open'

/** What a backup holds, beside a word by which it is known. */
const MARK = 'vestibule-backup'
const VERSION = '1'

/** Writes a file whole or not at all: beside its place, to the disk, then under its name. Only its maker reads it. */
function putWhole(path: string, bytes: Uint8Array): void {
  const beside = `${path}.${process.pid}.part`
  const file = openSync(beside, 'wx', 0o600)
  try {
    for (let at = 0; at < bytes.length;) at += writeSync(file, bytes, at)
    fsyncSync(file)
    closeSync(file)
    renameSync(beside, path)
  } catch (error) {
    rmSync(beside, { force: true })
    throw error
  }
  // the name itself must last too
  const folder = openSync(dirname(path), 'r')
  fsyncSync(folder)
  closeSync(folder)
}

/** The store as it is at one moment, also while a server writes into it: `VACUUM INTO` reads one snapshot. */
function snapshot(folder: string): Uint8Array {
  const db = new Database(join(folder, STORE), { fileMustExist: true })
  const beside = mkdtempSync(join(folder, 'backup-'))
  try {
    db.pragma('busy_timeout = 10000')
    db.prepare('VACUUM INTO ?').run(join(beside, STORE))
    return readFileSync(join(beside, STORE))
  } finally {
    db.close()
    rmSync(beside, { recursive: true, force: true })
  }
}

/**
 * Writes the store and the key of its credentials into one file, while a server may be running on them. Throws
 * StoreRefused. The file opens every credential: it is its maker's alone (0600), and is to be kept so.
 */
export function backUp(folder: string, file: string): { readonly bytes: number } {
  const path = resolve(file)
  if (existsSync(path)) throw new StoreRefused(`${file} is there already: a backup is never written over another`)
  for (const needed of [STORE, KEY_FILE])
    if (!existsSync(join(folder, needed)))
      throw new StoreRefused(`${folder} holds no ${needed}: name the data folder with --data`)
  const store = inOneLine(join(folder, STORE), () => snapshot(folder))
  const key = readFileSync(join(folder, KEY_FILE))
  const archive = zipSync({ [MARK]: Buffer.from(VERSION), [STORE]: store, [KEY_FILE]: key }, { level: 6 })
  try {
    putWhole(path, archive)
  } catch (error) {
    throw new StoreRefused(`${file} cannot be written: ${(error as Error).message}`)
  }
  return { bytes: archive.length }
}

function entriesOf(file: string): { store: Uint8Array; key: Uint8Array } {
  const refuse = () => new StoreRefused(`${file} is no backup of Vestibule, or only a part of one`)
  if (!existsSync(file)) throw new StoreRefused(`${file}: there is no such file`)
  let entries: Record<string, Uint8Array>
  try {
    entries = unzipSync(readFileSync(file))
  } catch {
    throw refuse()
  }
  const { [MARK]: mark, [STORE]: store, [KEY_FILE]: key } = entries
  if (!mark || !store || key?.length !== KEY_BYTES) throw refuse()
  if (strFromU8(mark) !== VERSION)
    throw new StoreRefused(`${file} was written by a newer program (backup version ${strFromU8(mark)}): use that one`)
  return { store, key }
}

/**
 * Brings a backup back into a folder that holds no store. The key comes first and the store last, each whole: cut off
 * anywhere, it can be done again. Throws StoreRefused.
 */
export function restore(file: string, folder: string): void {
  const { store, key } = entriesOf(file)
  if (existsSync(join(folder, STORE)))
    throw new StoreRefused(`${folder} holds a store already: move that folder away, or choose another with --data`)
  makeOwn(folder)
  const beside = mkdtempSync(join(folder, 'restore-'))
  try {
    const path = join(beside, STORE)
    putWhole(path, store)
    inOneLine(`${STORE} in ${file}`, () => checkStore(path))
    mkdirSync(folder, { recursive: true })
    putWhole(join(folder, KEY_FILE), key)
    renameSync(path, join(folder, STORE))
  } finally {
    rmSync(beside, { recursive: true, force: true })
  }
}
