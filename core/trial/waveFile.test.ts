import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { readSite } from '../site'
import { Recording, runTable, waveFile } from '.'

// Source of the checks: sigrok-cli, an independent reader of IEEE 1364 dumps; and RFC 4180 as Papa Parse reads it.

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const pottery = parsed.value

const run = new Recording(pottery, 1, [
  { t: 5_000, action: { kind: 'rock', input: 's1' } },
  { t: 7_500, action: { kind: 'rock', input: 's1' } },
  { t: 9_000, action: { kind: 'rock', input: 's6' } },
  { t: 9_100, action: { kind: 'turn', input: 'r1', code: 1 } },
])
run.advance(12_000)

/** Changes of each one-bit wire, as sigrok-cli samples them each ms. */
function asRead(dump: string): Map<string, { t: number; level: number }[]> {
  const path = join(mkdtempSync(join(tmpdir(), 'vestibule-wave-')), 'run.vcd')
  writeFileSync(path, dump)
  const text = execFileSync('sigrok-cli', ['-I', 'vcd', '-i', path, '-O', 'csv:label=channel:header=false'], {
    encoding: 'utf8',
    maxBuffer: 1e9,
  })
  const [names, ...rows] = text
    .split('\n')
    .filter((line) => line !== '' && !line.startsWith(';') && !line.startsWith('META'))
    .map((line) => line.split(','))
  return new Map(
    names!.map((name, column) => {
      const changes: { t: number; level: number }[] = []
      rows.forEach((row, t) => {
        if (t > 0 && row[column] !== rows[t - 1]![column]) changes.push({ t, level: Number(row[column]) })
      })
      return [name, changes]
    }),
  )
}

describe('a run as a dump', () => {
  const read = asRead(waveFile(pottery, run.tracks, run.now))
  it('has every input and contact, with the right edges', () => {
    expect(read.get('input_s1')).toEqual([
      { t: 5_000, level: 1 },
      { t: 7_500, level: 0 },
    ])
    // S1 settles for 25 ms (the site's own figure)
    expect(read.get('contact_bench_lights_1')).toEqual([
      { t: 5_025, level: 1 },
      { t: 7_525, level: 0 },
    ])
    expect(read.get('contact_booth_lights_1')).toEqual([{ t: 9_025, level: 1 }])
  })
  it('says nothing that the run does not say', () => {
    for (const [lane, events] of run.tracks.lanes) {
      if (!lane.startsWith('contact:')) continue
      const [channel, contact] = lane.slice('contact:'.length).split('.')
      const wire = read.get(`contact_${channel!.replace(/-/g, '_')}_${Number(contact) + 1}`)
      expect(wire, lane).toEqual(
        events.flatMap((event) => ('value' in event && event.t > 0 ? [{ t: event.t, level: event.value }] : [])),
      )
    }
  })
})

it('a run as a table has a row for each event', () => {
  const { data, errors } = Papa.parse<Record<string, string>>(runTable(run.tracks), {
    header: true,
    skipEmptyLines: true,
  })
  expect(errors).toEqual([])
  expect(data).toHaveLength([...run.tracks.lanes].reduce((sum, [, events]) => sum + events.length, 0))
  expect(data.filter(({ lane }) => lane === 'contact:bench-lights.0').map(({ ms, value }) => [ms, value])).toEqual([
    ['5025', '1'],
    ['7525', '0'],
  ])
})
