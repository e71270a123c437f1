/** Tables and headed sections of a sheet, in Markdown (GitHub Flavored Markdown, 4.10: a bar in a cell is escaped). */
const cell = (text: string | number): string => String(text).replace(/\|/g, '\\|').replace(/\n/g, ' ')
export const table = (head: readonly string[], rows: readonly (readonly (string | number)[])[]): string =>
  [
    `| ${head.join(' | ')} |`,
    `|${head.map(() => '---').join('|')}|`,
    ...rows.map((row) => `| ${row.map(cell).join(' | ')} |`),
  ].join('\n')

export type Lines = readonly string[]
/** A headed table; nothing where it has no rows. */
export const section = (
  head: string,
  columns: Lines,
  rows: readonly (readonly (string | number)[])[],
  ...after: Lines
): Lines => (rows.length ? ['', `## ${head}`, '', table(columns, rows), ...after.flatMap((line) => ['', line])] : [])

/** Steps with their numbers. */
export const stepLines = (steps: Lines): Lines => steps.map((step, i) => `${i + 1}. ${step}.`)
