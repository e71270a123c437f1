import { load } from 'js-yaml'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { LOG_FORMATS, logFile, type LogLine } from '.'

// Source of the checks: RFC 4180 by an independent reader (papaparse), JSON (RFC 8259, read as YAML 1.2 by js-yaml),
// and the rule of tables in Markdown (GitHub Flavored Markdown 4.10; from memory).

const lines: readonly LogLine[] = [
  { at: '2026-03-02T10:00:00.000Z', controller: 'Throwing', kind: 'fault', text: 'lamp | dark, "S1"\nsecond line' },
  { at: '2026-03-01T10:00:00.000Z', controller: null, kind: 'note', text: 'a *star* and <b>' },
]

describe('the logbook as a file', () => {
  it('CSV is read back as it was, the oldest first', () => {
    const { data } = Papa.parse<Record<string, string>>(logFile('Pottery', lines, 'csv').trimEnd(), { header: true })
    expect(data.map(({ text }) => text)).toEqual([lines[1]!.text, lines[0]!.text])
    expect(data[0]!['controller']).toBe('')
  })
  it('JSON says what it is', () => {
    const text = logFile('Pottery', lines, 'json')
    expect(load(text)).toMatchObject({ format: 'vestibule-log', version: 1, site: 'Pottery' })
    expect((JSON.parse(text) as { entries: LogLine[] }).entries).toEqual([lines[1], lines[0]])
  })
  it('each line is one row of the Markdown table, whatever it holds', () => {
    const rows = logFile('A *pottery*', lines, 'markdown').trimEnd().split('\n')
    expect(rows[0]).toBe('# Logbook of A \\*pottery\\*')
    expect(rows).toHaveLength(6)
    for (const row of rows.slice(2)) expect(row.replace(/\\\|/g, '').split('|')).toHaveLength(6)
  })
  it('an empty logbook is an empty table', () => {
    for (const format of LOG_FORMATS) expect(logFile('Pottery', [], format).length).toBeGreaterThan(10)
  })
})
