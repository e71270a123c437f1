import { escapeMarkdown } from './markdown'
import { toCsv } from './tables'

/** A line of the logbook, as it is kept. `at`: ISO 8601. */
export interface LogLine {
  readonly at: string
  /** as a person calls it; null: of the house */
  readonly controller: string | null
  readonly kind: string
  readonly text: string
  /** its number, by which another one corrects it */
  readonly id?: number
  readonly corrects?: number | null
  /** the part that a fault was */
  readonly part?: string | null
}

export const LOG_FORMATS = ['markdown', 'csv', 'json'] as const
export type LogFormat = (typeof LOG_FORMATS)[number]

/** The logbook as a file, the oldest line first: as a table to read, as a table to work with, or as data. */
export function logFile(site: string, lines: readonly LogLine[], format: LogFormat): string {
  const inOrder = [...lines].sort((a, b) => a.at.localeCompare(b.at))
  switch (format) {
    case 'csv':
      return toCsv(
        ['at', 'controller', 'kind', 'text'],
        inOrder.map(({ at, controller, kind, text }) => [at, controller ?? '', kind, text]),
      )
    case 'json':
      return `${JSON.stringify({ format: 'vestibule-log', version: 1, site, entries: inOrder }, null, 2)}\n`
    case 'markdown':
      return markdown(site, inOrder)
  }
}

/** A bar within a cell would begin another one (GitHub Flavored Markdown, 4.10). */
const cell = (text: string): string =>
  escapeMarkdown(text)
    .replace(/\|/g, '\\|')
    .replace(/\s*\n\s*/g, ' ')

const markdown = (site: string, lines: readonly LogLine[]): string =>
  [
    `# Logbook of ${escapeMarkdown(site)}`,
    '',
    '| at | controller | kind | text |',
    '|---|---|---|---|',
    ...lines.map(({ at, controller, kind, text }) => `| ${at} | ${cell(controller ?? '')} | ${kind} | ${cell(text)} |`),
    '',
  ].join('\n')
