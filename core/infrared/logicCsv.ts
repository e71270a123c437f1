import { CaptureRefused, durationsFromEdges, MOST_DURATIONS, type Capture, type Edge } from './capture'

/**
 * A logic analyser's table: a time column, then one column of 0 and 1 for each wire; each sample or each change a row.
 */

const UNITS: readonly (readonly [RegExp, number])[] = [
  [/\b(ns|nanoseconds?)\b/i, 1e-3],
  [/\b(us|µs|microseconds?)\b/i, 1],
  [/\b(ms|milliseconds?)\b/i, 1e3],
  [/\b(s|sec|seconds?)\b/i, 1e6],
]

/** µs of one unit of the time column, by its heading; seconds where it says nothing. */
const unitOf = (heading: string): number => UNITS.find(([pattern]) => pattern.test(heading))?.[1] ?? 1e6

export function readLogicCsv(text: string, column = 1): Capture {
  const rows = text
    .split('\n')
    .map((line) => line.replace(/\r$/, ''))
    .filter((line) => line.trim() !== '' && !/^[;#]/.test(line))
  if (rows.length > MOST_DURATIONS) throw new CaptureRefused(`more than ${MOST_DURATIONS} rows`)
  const separator = rows[0]?.includes(';') ? ';' : rows[0]?.includes('\t') ? '\t' : ','
  const cells = (row: string): string[] => row.split(separator).map((cell) => cell.trim().replace(/^"|"$/g, ''))
  const head = cells(rows[0] ?? '')
  const hasHead = head.length > 0 && !Number.isFinite(Number(head[0] || 'x'))
  const unit = hasHead ? unitOf(head[0]!) : 1e6
  const edges: Edge[] = rows.slice(hasHead ? 1 : 0).map((row, i) => {
    const values = cells(row)
    const at = Number(values[0]) * unit
    const level = values[column]
    if (!Number.isFinite(at) || values[0] === '' || (level !== '0' && level !== '1'))
      throw new CaptureRefused(
        `row ${i + 1}: a time and a 0 or 1 are wanted in column ${column + 1}, this is "${row.slice(0, 40)}"`,
      )
    return { at, level: level === '1' ? 1 : 0 }
  })
  if (edges.length < 2) throw new CaptureRefused('there are no two rows with a time and a level')
  const last = edges.at(-1)!
  // the last row ends the last level
  return { durations: durationsFromEdges([...edges, { at: last.at, level: last.level === 1 ? 0 : 1 }]), unit: 'µs' }
}
