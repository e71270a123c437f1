import { holdersOf, wireOf } from '../core/services'
import { waysTo, type Site } from '../core/site'
import { Hands, type AcceptanceRow, type Patience } from './hands'
import type { LiveRun } from './live'

/** A change shows within so long, ms: settle, hold, a service that is asked every two seconds. */
const PATIENCE_MS = 6_000
/** Until a link has come up again after an outage, ms (docs/behaviour.md: 1 to 60 s, and jitter). */
const RETURN_MS = 75_000

/**
 * Live acceptance: every way of every channel is worked at the running firmware, each screen is held against what the
 * board says, and each service is stopped and comes back. Through the same doors as the pages use.
 */
export async function accept(
  site: Site,
  run: LiveRun,
  patience: Patience = { changeMs: PATIENCE_MS, returnMs: RETURN_MS },
): Promise<AcceptanceRow[]> {
  const house = new Hands(site, run, patience)
  await house.arrives()
  const rows: AcceptanceRow[] = []
  for (const channel of site.channels)
    for (const way of waysTo(site, channel.id)) rows.push(await house.tries(channel, way))
  for (const channel of site.channels) rows.push(...(await house.screens(channel)))
  for (const holder of holdersOf(site)) if (wireOf(site, holder.service)) rows.push(...(await house.outage(holder)))
  if (site.hubs.some((hub) => !wireOf(site, hub))) rows.push(await house.hubOutage())
  return rows
}

/** The rows as a table, and how many passed. */
export function acceptanceTable(rows: readonly AcceptanceRow[]): string {
  const cells = rows.map(({ controller, channel, way, result, note }) => [controller, channel, way, result, note])
  const widths = [0, 1, 2, 3].map((at) => Math.max(...cells.map((row) => row[at]!.length)))
  const lines = cells.map((row) =>
    row
      .map((cell, at) => cell.padEnd(widths[at] ?? 0))
      .join('  ')
      .trimEnd(),
  )
  const of = (result: AcceptanceRow['result']) => rows.filter((row) => row.result === result).length
  return `${lines.join('\n')}\n${of('passed')} passed, ${of('failed')} failed, ${of('skipped')} skipped\n`
}
