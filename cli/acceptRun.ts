import { acceptanceRun, acceptanceSheet, type AcceptanceItem } from '../core/acceptance'
import { timeText } from '../core/site'
import { loadSite, type Answer, type Source } from './commands'

/** Tries what a site promises in a simulated house; exit 1 where something fails. */
export function acceptInHouse(source: Source, seed: number, form: 'text' | 'json' | 'markdown'): Answer {
  const site = loadSite(source)
  const { tryout: _, ...report } = acceptanceRun(site, { seed })
  const exit = report.items.some(({ result }) => result === 'failed') ? 1 : 0
  if (form === 'json') return { exit, text: `${JSON.stringify(report, null, 2)}\n` }
  if (form === 'markdown') return { exit, text: acceptanceSheet(site, report) }
  const of = (result: AcceptanceItem['result']): number => report.items.filter((item) => item.result === result).length
  const rows = report.items
    .filter(({ result }) => result !== 'passed')
    .map(
      ({ result, action, expected, note, t }) =>
        `${result}: ${action}; expected ${expected}: ${note} (at ${timeText(t)})\n`,
    )
  return { exit, text: `${rows.join('')}${of('passed')} passed, ${of('failed')} failed, ${of('skipped')} skipped\n` }
}
