import { controllerOf, timeText, type Site } from '../site'
import type { AcceptanceItem, AcceptanceReport } from './types'

/** The report as Markdown, to be printed or kept: what was tried, what became of it, and what was not tried and why. */

export const GROUP_NAMES: Readonly<Record<AcceptanceItem['group'], string>> = {
  way: 'Ways in',
  group: 'Groups',
  limit: 'Limits',
  winner: 'Who wins after an outage',
  outage: 'Outages',
  power: 'Power',
  never: 'What must never be',
}

const RESULT_WORDS: Readonly<Record<AcceptanceItem['result'], string>> = {
  passed: '✓',
  failed: '✗ **failed**',
  skipped: '– skipped',
}

const cell = (text: string): string => text.replaceAll('|', '\\|').replaceAll('\n', ' ')

export function acceptanceSheet(site: Site, report: AcceptanceReport): string {
  const of = (result: AcceptanceItem['result']): number => report.items.filter((item) => item.result === result).length
  const tables = Object.entries(report.tables).map(
    ([id, hash]) => `- ${controllerOf(site, id)?.name ?? id}: tables \`${hash}\``,
  )
  const groups = Object.entries(GROUP_NAMES).flatMap(([group, name]) => {
    const items = report.items.filter((item) => item.group === group)
    return items.length === 0 ? [] : [`## ${name}`, '', ...tableOf(site, items), '']
  })
  return [
    `# Acceptance run in the simulated house: ${site.name}`,
    '',
    `${of('passed')} passed, ${of('failed')} failed, ${of('skipped')} skipped. ` +
      `Seed ${report.seed}, ${timeText(report.lastsMs)} simulated.`,
    '',
    'Simulated house only. The test list on the real board still has to be done, in its safe order. Valid for these tables:',
    '',
    ...tables,
    '',
    ...groups,
  ].join('\n')
}

function tableOf(site: Site, items: readonly AcceptanceItem[]): string[] {
  const rows = items.map(({ channel, controller, action, expected, result, note, toLoadMs, toScreensMs }) => {
    const where = site.channels.find(({ id }) => id === channel)?.name ?? controllerOf(site, controller)?.name ?? ''
    const took = toLoadMs === null ? '' : `${toLoadMs} ms${toScreensMs === null ? '' : `, screens ${toScreensMs} ms`}`
    return [where, action, expected, `${RESULT_WORDS[result]}${note ? `: ${note}` : ''}`, took].map(cell).join(' | ')
  })
  return [
    '| Channel | Action | Expected | Result | Time |',
    '|---|---|---|---|---|',
    ...rows.map((row) => `| ${row} |`),
  ]
}
