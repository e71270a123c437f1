import {
  failureWords,
  setWords,
  type FaultDetail,
  type LeftCell,
  type Question,
  type WhoIsLeft,
} from '../../../../core/faults'
import { type Place } from '../../../../core/parts'
import type { Site } from '../../../../core/site'
import { graphOf } from '../graph'
import { JobState } from '../../../parts/JobState'
import { useAnswer } from '../useWhatIfJob'
import { FINE_WORDS, hoursWords, nameOfChannel, SO_WORDS, wayWords } from '../words'
import { Changes } from './Changes'
import type { Cell } from './LeftTable'
import { Paths } from './Paths'

interface Props {
  readonly site: Site
  readonly question: Question
  readonly from: Place
  readonly cell: Cell
  readonly left: WhoIsLeft
}

/** One channel, and what happens to it: the sentence, its paths with the cut, hours by cause, and what to change. */
export function CellDetail({ site, question, from, cell, left }: Props) {
  const { answer, job, stop } = useAnswer<FaultDetail>([site, question, from, cell.channel], (remote) =>
    remote.detail(site, question, cell.channel, from),
  )
  const column = left.columns.findIndex(({ key }) => key === cell.column)
  const row = left.rows.find(({ channel }) => channel === cell.channel)
  const name = nameOfChannel(site, cell.channel)
  const now = column < 0 ? row?.whole : row?.cells[column]
  const detail = answer?.channel === cell.channel && answer.question === question ? answer : null
  return (
    <aside aria-label={name} className="min-w-0 border-l border-hair pl-4 max-[68rem]:border-l-0 max-[68rem]:pl-0">
      <h2 className="font-place text-[1rem] font-bold">
        {name}
        {column >= 0 && `, when ${left.columns[column]!.name} fails`}
      </h2>
      {row && now && <Sentence site={site} question={question} now={now} row={row.whole} />}
      {!detail && <JobState job={job} name="The look at it" onStop={stop} />}
      {detail && (
        <>
          <Paths site={site} detail={detail} failed={now?.failed ?? []} />
          <Causes site={site} detail={detail} />
          <Triples site={site} detail={detail} />
          <Changes site={site} question={question} from={from} channel={cell.channel} />
        </>
      )}
    </aside>
  )
}

function Sentence({ site, question, now, row }: { site: Site; question: Question; now: LeftCell; row: LeftCell }) {
  const lost = row.ways.filter((way) => !now.ways.includes(way))
  const named = (ways: readonly string[]): string => ways.map((way) => wayWords(site, way)).join(', ')
  return (
    <p className="mt-1">
      {capital(now.isSo ? SO_WORDS[question] : FINE_WORDS[question])}
      {now.ways.length > 0 ? `: ${named(now.ways)}` : ''}.{lost.length > 0 && ` Lost: ${named(lost)}.`}
    </p>
  )
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)

const MOST_TRIPLES = 3

/** Three failures that no two of them do, the longest out first. */
function Triples({ site, detail }: { site: Site; detail: FaultDetail }) {
  const triples = detail.cuts.filter((set) => set.length === 3).slice(0, MOST_TRIPLES)
  if (triples.length === 0) return null
  const graph = graphOf(site)
  return (
    <ul aria-label="Three failures together" className="mt-1 text-small">
      {triples.map((set) => (
        <li key={set.join()}>{setWords(graph, set)}</li>
      ))}
      {detail.triples > triples.length && (
        <li className="text-soft">and {detail.triples - triples.length} more sets of three</li>
      )}
    </ul>
  )
}

/** The hours of a year by what causes them: each bar is what would be saved if that never failed. */
function Causes({ site, detail }: { site: Site; detail: FaultDetail }) {
  const graph = graphOf(site)
  const most = Math.max(...detail.importance.map(({ hours }) => hours), 1e-9)
  if (detail.hours === null) return <p className="mt-3 border-l-4 border-warning pl-2">It is so at all times.</p>
  return (
    <section aria-label="Hours by cause" className="mt-3">
      <h3 className="rule-head">
        {hoursWords(detail.hours)} per year,{' '}
        {detail.times! >= 0.1 ? detail.times!.toFixed(1) : detail.times!.toFixed(2)} times
      </h3>
      {detail.importance.length === 0 && <p className="mt-1 text-soft">By no failure, alone or with two others.</p>}
      <ul className="mt-1 text-small">
        {detail.importance.slice(0, 6).map(({ failure, hours, birnbaum, fussellVesely }) => (
          <li
            key={failure}
            className="py-0.5"
            title={`Birnbaum ${birnbaum.toPrecision(2)}, Fussell–Vesely ${fussellVesely.toPrecision(2)}`}
          >
            <span className="flex justify-between gap-2">
              <span>{failureWords(graph, failure)}</span>
              <span className="font-mono whitespace-nowrap">
                {hoursWords(hours)} · {(fussellVesely * 100).toFixed(0)} %
              </span>
            </span>
            <span aria-hidden="true" className="block h-1 bg-hair">
              <span className="block h-1 bg-brass-fill" style={{ width: `${Math.max(1, (hours / most) * 100)}%` }} />
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-1 text-small text-soft">
        What would be saved if it never failed, and its share of the time in which it is so (Fussell–Vesely).{' '}
        {detail.cuts.filter((set) => set.length === 2).length} pairs, {detail.triples} triples.
      </p>
    </section>
  )
}
