import type { BuildRow, Outcome, TestRun } from '../core/api'
import type { TimelineEntry } from '../core/trial'
import type { FlashedWith } from './db'

/** The sentences that the logbook writes by itself, the same for what happens and for the demo. */

export const buildMade = (build: BuildRow, controller: string, despite: readonly string[] = []): string =>
  `build ${build.number} of ${controller} from revision ${build.revision}, tables ${build.hash}` +
  (despite.length ? `, despite ${despite.join(', ')}` : '')

export function flashed(build: BuildRow, controller: string, tools: FlashedWith, note: string): string {
  const named = Object.entries(tools.versions).filter(([, version]) => version !== '')
  const words = [
    ...(tools.boardPackage ? [`board package ${tools.boardPackage}`] : []),
    ...named.map(([tool, version]) => `${tool} ${version}`),
  ]
  return (
    `build ${build.number} is on the board of ${controller}, ${words.join(', ') || 'versions not stated'}` +
    (note ? `: ${note}` : '')
  )
}

export const runBegun = (run: number, controller: string, build: BuildRow | undefined): string =>
  `test run ${run} of ${controller} begun${build ? ` on build ${build.number}` : ', no flash on record'}`

export function runDone(run: number, items: TestRun['items']): string {
  const count = (outcome: Outcome): number => items.filter((item) => item.outcome === outcome).length
  return `test run ${run} done: ${count('passed')} passed, ${count('failed')} failed, ${count('skipped')} skipped`
}

export const testFailed = (item: TestRun['items'][number], note: string): string =>
  `test failed: ${item.action}; expected that ${item.expected}${note ? `. ${note}` : ''}`

export function acceptanceKept(
  id: number,
  revision: number,
  items: readonly {
    readonly result: 'passed' | 'failed' | 'skipped'
    readonly action: string
    readonly note: string
  }[],
): string {
  const of = (result: string): number => items.filter((item) => item.result === result).length
  const [first] = items.filter(({ result }) => result === 'failed')
  const failed = first ? `; first: ${first.action}: ${first.note}` : ''
  return (
    `acceptance run ${id} in the simulated house at revision ${revision}: ` +
    `${of('passed')} passed, ${of('failed')} failed, ${of('skipped')} skipped${failed}`
  )
}

export function trialKept(
  id: number,
  revision: number,
  durationMs: number,
  timeline: readonly TimelineEntry[],
): string {
  const verdicts = timeline.filter((entry) => entry.kind === 'verdict').map((entry) => entry.text)
  const length = `${Math.round(durationMs / 1000)} s, ${timeline.length} events`
  return `trial ${id} at revision ${revision}: ${[length, ...verdicts].join('; ')}`
}

/** A board has left its box: why, and what was done so that it does not come back. */
export const boardLeft = (controller: string, why: 'died' | 'gone', deleted: number): string =>
  why === 'died'
    ? `the board of ${controller} died: it is locked out by a new password, another takes its place`
    : `the board of ${controller} is given away: it is locked out, ${deleted} of its credentials are deleted here`

export const keptUp = (what: string): string => `done: ${what}`

/** What the log says of the wires that are ticked off; null: nothing that it did not say before. */
export function solderSaid(controller: string, ticked: number, all: number): string | null {
  if (ticked === all) return `${controller} is soldered: all ${all} wires of its list are ticked off`
  return ticked === 1 ? `soldering of ${controller} begun: 1 of ${all} wires ticked off` : null
}
