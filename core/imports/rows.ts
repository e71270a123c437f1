import Papa from 'papaparse'
import { Name } from '../site'

/**
 * One thing that is wrong with a table: the row as a spreadsheet counts it (the header is row 1), the column, and what.
 */
export interface RowError {
  readonly row: number
  readonly column: string
  readonly what: string
}

export interface Row {
  readonly number: number
  readonly cells: Readonly<Record<string, string>>
}

const MOST_ROWS = 5_000

/** Reads a CSV (RFC 4180; comma, semicolon or tab) with a header. Columns that are not known are refused by name. */
export function readRows(
  text: string,
  known: readonly string[],
  needed: readonly string[],
): { rows: Row[]; errors: RowError[] } {
  const parsed = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), { skipEmptyLines: 'greedy' })
  const [head, ...body] = parsed.data
  if (!head) return { rows: [], errors: [{ row: 1, column: '', what: 'the table is empty' }] }
  const names = head.map((name) => name.trim().toLowerCase())
  const errors: RowError[] = [
    ...names
      .filter((name) => !known.includes(name))
      .map((name) => ({ row: 1, column: name, what: `is no column of this table; it has ${known.join(', ')}` })),
    ...needed
      .filter((name) => !names.includes(name))
      .map((name) => ({ row: 1, column: name, what: 'this column is needed' })),
    ...(body.length > MOST_ROWS ? [{ row: MOST_ROWS + 2, column: '', what: `more than ${MOST_ROWS} rows` }] : []),
    ...parsed.errors
      .filter((error) => error.type === 'Quotes')
      .map((error) => ({ row: (error.row ?? 0) + 1, column: '', what: 'a quote is not closed' })),
  ]
  if (errors.length) return { rows: [], errors }
  // a spreadsheet's guard against formulas comes off again
  const plain = (cell: string): string => cell.trim().replace(/^'(?=\s*[=+\-@]|[\t\r])/, '')
  return {
    rows: body.map((cells, i) => ({
      number: i + 2,
      cells: Object.fromEntries(names.map((name, at) => [name, plain(cells[at] ?? '')])),
    })),
    errors: [],
  }
}

/** Those of some columns that hold anything in any row. */
export const filledColumns = (rows: readonly Row[], columns: readonly string[]): string[] =>
  columns.filter((column) => rows.some(({ cells }) => (cells[column] ?? '') !== ''))

/** What a number's schema allows; the tables read it off there, so that they cannot differ from it. */
interface Range {
  readonly minValue: number | null
  readonly maxValue: number | null
}

/** A whole number in a range, or an error pushed. */
export function wholeIn(row: Row, column: string, range: Range, errors: RowError[]): number | undefined {
  const [least, most] = [range.minValue!, range.maxValue!]
  const cell = row.cells[column] ?? ''
  const value = Number(cell)
  if (cell !== '' && Number.isInteger(value) && value >= least && value <= most) return value
  errors.push({ row: row.number, column, what: `“${cell}” is no whole number from ${least} to ${most}` })
  return undefined
}

/** Is this a name as the document takes it? */
export const named = (text: string): boolean => Name.safeParse(text).success
export const NAME_WANTED = `a name of 1 to ${Name.maxLength} characters is needed`
