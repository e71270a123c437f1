import { useState } from 'react'
import { useSearchParams } from 'react-router'
import { acceptanceSheet, GROUP_NAMES, type AcceptanceItem, type AcceptanceReport } from '../../../../core/acceptance'
import { controllerOf, type Site } from '../../../../core/site'
import { save } from '../../../parts/save'
import { ViewHead } from '../../../parts/ViewHead'
import { call } from '../../../store/api'
import { attempt } from '../../../store/attempt'
import { screenActions } from '../../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import type { AcceptedRun } from '../../../workers/trialJobs.worker'
import { clockOf } from '../clock'
import { JobState } from '../../../parts/JobState'
import { useJob } from '../useJob'
import { bringRun } from '../useTrial'
import { useTables } from '../../../store/tables'

/** The last run of this page: its deeds lead back into the house. */
let lastRun: { readonly site: Site; readonly run: AcceptedRun } | null = null

/** The run of this page or the one that was kept, whether it still holds, and a new one. */
function useAcceptance(site: Site) {
  const kept = useAppSelector((state) => state.logbook.acceptance)
  const tables = useTables(site)
  const { job, start, stop } = useJob<AcceptedRun>()
  const run = lastRun?.site === site ? lastRun.run : null
  const report = run?.report ?? kept?.report ?? null
  const begin = (): void =>
    start(async (remote, onProgress) => {
      const found = await remote.accept(site, 1, onProgress)
      lastRun = { site, run: found }
      const body = { report: copied(found.report) }
      void attempt(call('newAcceptance', { site: site.id, body }), 'Run saved in the logbook')
      return found
    })
  const isOld = report !== null && tables !== null && Object.keys(tables).some((id) => tables[id] !== report.tables[id])
  return { job, run, report, isOld, begin, stop }
}

/** Everything that the site promises, tried in the simulated house; what is found stands in the crossbar's cells. */
export function Acceptance() {
  const site = useAppSelector((state) => state.site.site)!
  const { job, run, report, isOld, begin, stop } = useAcceptance(site)
  const keep = (of: AcceptanceReport): void =>
    save(`${site.id}-acceptance.md`, acceptanceSheet(site, of), 'text/markdown')
  return (
    <div className="px-5 py-2" data-testid="acceptance">
      <ViewHead title="Acceptance" note="Every way, group, limit, outage and power-up, tested in the simulated house.">
        {report && (
          <>
            <button type="button" className="press" onClick={() => keep(report)}>
              Export report (Markdown)
            </button>
            <button type="button" className="press" onClick={() => window.print()}>
              Print report
            </button>
          </>
        )}
        <button type="button" className="press-main" disabled={job.state === 'running'} onClick={begin}>
          {report ? 'Run again' : 'Run acceptance'}
        </button>
      </ViewHead>
      <JobState job={job} name="The acceptance run" onStop={stop} />
      {!report && job.state !== 'running' && (
        <p className="mt-3 text-soft">
          Not run yet. It takes a few seconds and touches no real wire. What it cannot test is listed with the reason.
        </p>
      )}
      {report && <Report site={site} report={report} run={run} isOld={isOld} />}
    </div>
  )
}

/** As the server takes it: plain data, nothing shared with the page. */
const copied = (report: AcceptanceReport): never => structuredClone(report) as never

interface ReportProps {
  readonly site: Site
  readonly report: AcceptanceReport
  readonly run: AcceptedRun | null
  /** the site has other tables by now */
  readonly isOld: boolean
}

const RESULTS = ['failed', 'skipped', 'passed'] as const
const RESULT_NAMES = { failed: 'failed', skipped: 'skipped', passed: 'passed' } as const
export const RESULT_SIGNS = { failed: '✕', skipped: '–', passed: '✓' } as const

function Report({ site, report, run, isOld }: ReportProps) {
  const [shown, setShown] = useState<readonly AcceptanceItem['result'][]>(['failed', 'skipped', 'passed'])
  const count = (result: AcceptanceItem['result']): number =>
    report.items.filter((item) => item.result === result).length
  const turn = (result: AcceptanceItem['result']): void =>
    setShown(shown.includes(result) ? shown.filter((one) => one !== result) : [...shown, result])
  return (
    <>
      <PrintHead site={site} report={report} />
      {isOld && (
        <p className="mt-2 border-l-4 border-warning pl-2" role="note">
          The site has changed since this run. Run it again.
        </p>
      )}
      <p className="mt-2 flex flex-wrap gap-x-4 print:hidden">
        {RESULTS.map((result) => (
          <label
            key={result}
            className={`flex items-center gap-1.5 ${result === 'failed' && count(result) > 0 ? 'font-semibold text-error' : ''}`}
          >
            <input type="checkbox" checked={shown.includes(result)} onChange={() => turn(result)} />
            {RESULT_SIGNS[result]} {count(result)} {RESULT_NAMES[result]}
          </label>
        ))}
        <span className="text-soft">
          {clockOf(report.lastsMs, 60_000)} of the house, seed {report.seed}
        </span>
      </p>
      {Object.entries(GROUP_NAMES).map(([group, name]) => {
        const items = report.items.filter((item) => item.group === group && shown.includes(item.result))
        return items.length === 0 ? null : <Group key={group} site={site} name={name} items={items} run={run} />
      })}
    </>
  )
}

/** What a reader of the paper must know: of which site and tables, and that nothing real was touched. */
function PrintHead({ site, report }: { site: Site; report: AcceptanceReport }) {
  const count = (result: AcceptanceItem['result']): number =>
    report.items.filter((item) => item.result === result).length
  const tables = Object.entries(report.tables).map(([id, hash]) => `${controllerOf(site, id)?.name ?? id} ${hash}`)
  return (
    <div className="hidden print:block">
      <p className="mt-2 font-semibold">
        {site.name}: {count('passed')} passed, {count('failed')} failed, {count('skipped')} skipped. Seed {report.seed}.
      </p>
      <p>Simulated house only. The test list on the real board still has to be done, in its safe order.</p>
      <p className="text-small">Valid for these tables: {tables.join(', ')}</p>
    </div>
  )
}

function Group({
  site,
  name,
  items,
  run,
}: {
  site: Site
  name: string
  items: readonly AcceptanceItem[]
  run: AcceptedRun | null
}) {
  return (
    <section aria-label={name} className="mt-4">
      <table className="sheet w-full print:text-small">
        <caption className="rule-head text-left">{name}</caption>
        <thead>
          <tr>
            <th className="w-40 print:w-24">Channel</th>
            <th>Action</th>
            <th>Expected</th>
            <th className="w-56 print:w-32">Result</th>
            <th className="w-36 text-right print:w-24">Load · screens, ms</th>
            <th className="w-20 print:hidden">Run</th>
          </tr>
        </thead>
        <tbody>
          {items.map((item, i) => (
            <Line
              key={`${item.key}${i}`}
              site={site}
              item={item}
              run={run}
              isFirst={items[i - 1]?.channel !== item.channel || items[i - 1]?.controller !== item.controller}
            />
          ))}
        </tbody>
      </table>
    </section>
  )
}

/** The channel stands in its own column. */
const withoutName = (text: string, name: string): string =>
  text.startsWith(`${name}: `) ? text.slice(name.length + 2) : text

interface LineProps {
  readonly site: Site
  readonly item: AcceptanceItem
  readonly run: AcceptedRun | null
  /** of its channel: the name stands once */
  readonly isFirst: boolean
}

function Line({ site, item, run, isFirst }: LineProps) {
  const { channel, controller, action, expected, result, note, t, toLoadMs, toScreensMs } = item
  const [, setParameters] = useSearchParams()
  const dispatch = useAppDispatch()
  const where = site.channels.find(({ id }) => id === channel)?.name ?? controllerOf(site, controller)?.name ?? ''
  const go = (): void => {
    // the run was made in the whole house
    dispatch(screenActions.controllerPicked(null))
    bringRun(run!.deeds, t + 2_000)
    setParameters({}, { replace: false })
  }
  return (
    <tr data-result={result}>
      <td className="font-semibold">{isFirst ? where : <span className="sr-only">{where}</span>}</td>
      <td>{action}</td>
      <td className="text-soft">{withoutName(expected, where)}</td>
      <td
        className={result === 'failed' ? 'font-semibold text-error' : result === 'skipped' ? 'text-soft' : 'text-rest'}
      >
        {RESULT_SIGNS[result]} {note || RESULT_NAMES[result]}
      </td>
      <td className="text-right font-mono text-small">
        {toLoadMs !== null && (
          <>
            {toLoadMs} · {toScreensMs ?? '–'}
          </>
        )}
      </td>
      <td className="print:hidden">
        {run && result !== 'skipped' ? (
          <button type="button" className="press-quiet" onClick={go} aria-label={`Show in run: ${action}`}>
            Show
          </button>
        ) : null}
      </td>
    </tr>
  )
}
