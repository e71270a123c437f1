import Sqlite from 'better-sqlite3'
import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'

const migration = (name: string): string => readFileSync(`server/db/migrations/${name}.sql`, 'utf8')

it('ticks of wires go along when pins are called by their labels', () => {
  const db = new Sqlite(':memory:')
  db.exec('CREATE TABLE sites (id TEXT PRIMARY KEY) STRICT')
  db.exec(migration('004-wires'))
  db.prepare("INSERT INTO sites VALUES ('hall')").run()
  const put = db.prepare("INSERT INTO wires VALUES ('hall', 'corner', ?, '2026-01-01')")
  for (const wire of [
    'U1 GPIO 23|A1 IN1',
    'S1 1|U1 GPIO 2',
    'U1 GPIO 0|U2 GPIO 12',
    'U1 D5 (GPIO 14)|A1 IN2',
    'G1 +|U1 VIN',
  ])
    put.run(wire)
  db.exec(migration('006-pin-labels'))
  expect(db.prepare('SELECT wire FROM wires ORDER BY rowid').pluck().all()).toEqual([
    'U1 D23 (GPIO 23)|A1 IN1',
    'S1 1|U1 D2 (GPIO 2)',
    'U1 D0 (GPIO 0)|U2 D12 (GPIO 12)',
    'U1 D5 (GPIO 14)|A1 IN2',
    'G1 +|U1 VIN',
  ])
  db.close()
})
