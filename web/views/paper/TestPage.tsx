import { format } from 'date-fns'
import type { Outcome, TestRun } from '../../../core/api'
import { stageCautions, STAGE_NAMES, STAGES, testList, type Stage, type TestItem } from '../../../core/outputs'
import { channelOf, type Controller, type Site } from '../../../core/site'
import { useAppSelector } from '../../store/store'

const MARKS: Readonly<Record<Outcome, string>> = { open: '☐', passed: '☑', failed: '☒', skipped: '–' }

type Row = Omit<TestItem, 'watch'> & {
  readonly outcome: Outcome
  readonly note: string
  readonly heard: readonly string[]
}

/** The test run as a list to be ticked by hand, or as it was signed off. `run` 0: the last one, else a blank one. */
export function TestPage({ site, controller, run }: { site: Site; controller: Controller; run: number }) {
  const runs = useAppSelector((state) => state.logbook.runs)
  const own = runs.filter((one) => one.controller === controller.id)
  const shown = own.find((one) => one.id === run) ?? own[0]
  const rows = useRows(site, controller, shown)
  return (
    <article className="paper">
      <h1 className="mb-1 text-room font-bold">
        {site.name}: {controller.name}, acceptance record
      </h1>
      <p className="mb-2">
        {shown
          ? `Run ${shown.id} of ${format(new Date(shown.at), 'd MMM yyyy HH:mm')}, site at revision ${shown.revision}. `
          : 'Not run yet. '}
        ☑ passed, ☒ failed, – skipped, ☐ not run.
      </p>
      {shown && <RunFacts run={shown} />}
      {STAGES.map((stage, at) => (
        <StagePart
          key={stage}
          site={site}
          controller={controller}
          stage={stage}
          number={at + 1}
          rows={rows.filter((row) => row.stage === stage)}
        />
      ))}
      <p className="mt-6 flex gap-8">
        <span className="flex-1 border-t border-current pt-1">date</span>
        <span className="flex-[2] border-t border-current pt-1">tested by</span>
        <span className="flex-[2] border-t border-current pt-1">handed over to</span>
      </p>
    </article>
  )
}

/** Which build was tested, how it went, and how much of it the board told by itself. */
function RunFacts({ run }: { run: TestRun }) {
  const build = useAppSelector((state) => state.logbook.builds).find(({ id }) => id === run.buildId)
  const of = (outcome: Outcome): number => run.items.filter((item) => item.outcome === outcome).length
  const by = (who: 'board' | 'eye' | 'hand'): number => run.items.filter((item) => item.toldBy === who).length
  return (
    <p className="mb-2">
      {build ? `Build ${build.number}, tables ${build.hash}. ` : 'No flash was on record. '}
      {`${of('passed')} passed, ${of('failed')} failed, ${of('skipped')} skipped, ${of('open')} not run. `}
      {`Told by the board’s own reports: ${by('board')}; by those and an eye: ${by('eye')}; by hand: ${by('hand')}.`}
    </p>
  )
}

const useRows = (site: Site, controller: Controller, run: TestRun | undefined): readonly Row[] =>
  run?.items ?? testList(site, controller.id).map((item) => ({ ...item, outcome: 'open', note: '', heard: [] }))

interface PartProps {
  readonly site: Site
  readonly controller: Controller
  readonly stage: Stage
  readonly number: number
  readonly rows: readonly Row[]
}

function StagePart({ site, controller, stage, number, rows }: PartProps) {
  if (rows.length === 0) return null
  return (
    <>
      <div className="sheet-head">
        <h2 className="mt-4 border-b border-current pb-0.5 text-head font-bold">
          {number}. {STAGE_NAMES[stage]}
        </h2>
        <ul className="my-1 list-disc pl-5">
          {stageCautions(site, controller.id, stage).map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      </div>
      <table className="sheet w-full">
        <thead>
          <tr>
            <th>done</th>
            <th>channel</th>
            <th>do</th>
            <th>what must happen</th>
            <th>note</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <RowLine key={row.key} row={row} site={site} controller={controller} />
          ))}
        </tbody>
      </table>
    </>
  )
}

function RowLine({ row, site, controller }: { row: Row; site: Site; controller: Controller }) {
  return (
    <tr>
      <td className="text-head leading-none">{MARKS[row.outcome]}</td>
      <td>{row.channel ? (channelOf(site, row.channel)?.name ?? row.channel) : controller.name}</td>
      <td>{row.action}</td>
      <td>{row.expected}</td>
      <td className="w-32">
        {row.note}
        {row.heard.length > 0 && <span className="block text-small">heard: {row.heard.join('; ')}</span>}
      </td>
    </tr>
  )
}
