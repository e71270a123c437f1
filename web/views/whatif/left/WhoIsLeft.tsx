import { useState } from 'react'
import { notAsked, placesOf, QUESTIONS, type Question } from '../../../../core/faults'
import type { Place } from '../../../../core/parts'
import { channelOf, type Site } from '../../../../core/site'
import { ChoiceBar } from '../../../parts/ChoiceBar'
import { JobState } from '../../../parts/JobState'
import { Standing } from '../../../parts/Standing'
import { ViewHead } from '../../../parts/ViewHead'
import { useAppSelector } from '../../../store/store'
import type { Left } from '../../../workers/whatIf.worker'
import { useAnswer } from '../useWhatIfJob'
import { hoursWords, SO_HOURS, WANTS } from '../words'
import { CellDetail } from './CellDetail'
import { LeftTable, type Cell } from './LeftTable'
import { Pairs } from './Pairs'

/** Who is still in control of each channel when one thing fails, which pairs matter, and what to change. */
export function WhoIsLeft() {
  const site = useAppSelector((state) => state.site.site)!
  const [question, setQuestion] = useState<Question>('on')
  const [place, setPlace] = useState<Place>('here')
  const from = placesOf(question).length > 1 ? place : 'here'
  const { job, stop, answer } = useAnswer<Left>([site, question, from], (remote) => remote.left(site, question, from))
  return (
    <div className="px-5 py-2" data-testid="whatif">
      <ViewHead title="What if" note="Who can still work each channel when one thing fails.">
        <ChoiceBar label="I want to" choices={QUESTIONS} words={WANTS} value={question} onPick={setQuestion} />
        {placesOf(question).length > 1 && <Standing place={place} onPick={setPlace} />}
      </ViewHead>
      {answer === null && <JobState job={job} name="The calculation" onStop={stop} />}
      {job.state === 'failed' && <JobState job={job} name="The calculation" onStop={stop} />}
      {answer && site.channels.length === 0 && (
        <p className="mt-3 text-soft">No channel to ask about yet: add one on the bench, and a way in to it.</p>
      )}
      {answer && site.channels.length > 0 && <Answered site={site} question={question} from={from} answer={answer} />}
    </div>
  )
}

interface AnsweredProps {
  readonly site: Site
  readonly question: Question
  readonly from: Place
  readonly answer: Left
}

function Answered({ site, question, from, answer }: AnsweredProps) {
  const [picked, setPicked] = useState<Cell | null>(null)
  const first = site.channels.find((channel) => notAsked(site, question, channel) === null)?.id ?? null
  const isThere = picked !== null && channelOf(site, picked.channel) && asks(site, question, picked.channel)
  const cell: Cell | null = isThere ? picked : first === null ? null : { channel: first, column: null }
  const { left, faults, pairs, houseHours } = answer
  return (
    <div className="mt-3 grid gap-x-6 gap-y-4 @4xl:grid-cols-[minmax(0,1fr)_21rem]">
      <div className="min-w-0">
        <LeftTable site={site} question={question} left={left} faults={faults} picked={cell} onPick={setPicked} />
        <Legend question={question} houseHours={houseHours} />
        <Pairs site={site} pairs={pairs} />
      </div>
      {cell && <CellDetail key={question} site={site} question={question} from={from} cell={cell} left={left} />}
    </div>
  )
}

const asks = (site: Site, question: Question, id: string): boolean =>
  notAsked(site, question, channelOf(site, id)!) === null

const Legend = ({ question, houseHours }: { question: Question; houseHours: number }) => (
  <p className="mt-2 max-w-prose text-small text-soft">
    {question === 'on' || question === 'off'
      ? 'A square is a way that still works; a half one is the last. On a plate nobody is left. '
      : 'A plate says that it is so. '}
    {SO_HOURS[question]} {hoursWords(houseHours)} per year. Rates are common practice unless you enter your own.
  </p>
)
