import { useState } from 'react'
import type { Estimate, Years } from '../../../../core/broken'
import { faultsOf, notAsked, placesOf, QUESTION_WORDS, QUESTIONS, type Question } from '../../../../core/faults'
import type { Place } from '../../../../core/parts'
import { channelOf, counted, type Site } from '../../../../core/site'
import { ChoiceField, NumberField } from '../../../parts/fields'
import { JobState } from '../../../parts/JobState'
import { Standing } from '../../../parts/Standing'
import { ViewHead } from '../../../parts/ViewHead'
import { useAppSelector } from '../../../store/store'
import { useWhatIfJob } from '../useWhatIfJob'

type Hands = 'many' | 'one' | 'two'
const HANDS: readonly (readonly [Hands, string])[] = [
  ['many', 'Everything is repaired at once'],
  ['two', 'Two people, one thing each at a time'],
  ['one', 'One person, one thing at a time'],
]
const HANDS_OF: Readonly<Record<Hands, number | null>> = { many: null, two: 2, one: 1 }

interface Asked {
  readonly question: Question
  readonly place: Place
  readonly years: number
  readonly seed: number
  readonly hands: Hands
}

/** Years of failures drawn by chance and played in the simulated house, beside the hours that are exact. */
export function YearsByChance() {
  const site = useAppSelector((state) => state.site.site)!
  const [asked, setAsked] = useState<Asked>({ question: 'on', place: 'here', years: 200, seed: 1, hands: 'many' })
  const [played, setPlayed] = useState<Asked | null>(null)
  const { job, start, stop } = useWhatIfJob<Years>()
  const set = (changes: Partial<Asked>): void => setAsked({ ...asked, ...changes })
  const run = (): void => {
    setPlayed(asked)
    const { question, place, years, seed, hands } = asked
    start((remote, onProgress) =>
      remote.years(site, { question, from: place, years, seed, hands: HANDS_OF[hands] }, onProgress),
    )
  }
  return (
    <div className="px-5 py-2" data-testid="years">
      <ViewHead
        title="Years by chance"
        note="Failures and repairs are drawn by chance; each state of the house is broken and tried in the simulation."
      >
        {placesOf(asked.question).length > 1 && <Standing place={asked.place} onPick={(place) => set({ place })} />}
        <button type="button" className="press-main" onClick={run}>
          Play {counted(asked.years, 'year')}
        </button>
      </ViewHead>
      <Settings asked={asked} onSet={set} />
      <div className="mt-3">
        <JobState job={job} name="Playing" onStop={stop} />
        {job.state === 'none' && (
          <p className="text-soft">Press Play. A hundred years of 16 channels need about ten seconds.</p>
        )}
        {job.state === 'done' && played && <Found site={site} asked={played} years={job.result} />}
      </div>
    </div>
  )
}

const Settings = ({ asked, onSet }: { asked: Asked; onSet: (changes: Partial<Asked>) => void }) => (
  <div className="mt-3 grid max-w-3xl gap-3 @xl:grid-cols-4">
    <ChoiceField
      label="Question"
      value={asked.question}
      choices={QUESTIONS.map((one) => [one, QUESTION_WORDS[one]] as const)}
      onKeep={(question) => onSet({ question })}
    />
    <ChoiceField label="Repairs" value={asked.hands} choices={HANDS} onKeep={(hands) => onSet({ hands })} />
    <NumberField label="Years" value={asked.years} least={2} most={2_000} onKeep={(years) => onSet({ years })} />
    <NumberField label="Seed" value={asked.seed} least={1} most={1_000_000} onKeep={(seed) => onSet({ seed })} />
  </div>
)

function Found({ site, asked, years: { estimates, failures, played } }: { site: Site; asked: Asked; years: Years }) {
  const exact = new Map(faultsOf(site, [asked.question], [asked.place]).map((one) => [one.channel, one.hours] as const))
  const rows = estimates.filter(({ channel }) => exact.has(channel))
  const most = Math.max(1, ...rows.map(({ high }) => high))
  return (
    <>
      <p className="text-small text-soft">
        {failures} failures in {counted(asked.years, 'year')}; {played} different states of the house were played. The
        interval holds the true mean in 95 of 100 cases; rare failures need more years, and channels of one controller
        share its luck.
      </p>
      <table className="sheet mt-2 w-full max-w-4xl">
        <thead>
          <tr>
            <th>Channel</th>
            <th className="!text-right">Played, h per year</th>
            <th className="!text-right">95 %</th>
            <th className="w-1/3">
              <span className="sr-only">Interval</span>
            </th>
            <th className="!text-right">Exact, each repaired by itself</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <Row
              key={row.channel}
              name={channelOf(site, row.channel)!.name}
              row={row}
              exact={exact.get(row.channel) ?? null}
              most={most}
            />
          ))}
        </tbody>
      </table>
      <NotAsked site={site} question={asked.question} />
    </>
  )
}

interface RowProps {
  readonly name: string
  readonly row: Estimate
  /** null: at all times */
  readonly exact: number | null
  readonly most: number
}

const Row = ({ name, row: { mean, low, high }, exact, most }: RowProps) => (
  <tr>
    <td className="font-semibold">{name}</td>
    <td className="text-right font-mono">{mean.toFixed(1)}</td>
    <td className="text-right font-mono whitespace-nowrap">
      {low.toFixed(1)} to {high.toFixed(1)}
    </td>
    <td>
      <Interval low={low} high={high} mean={mean} exact={exact} most={most} />
    </td>
    <td className="text-right font-mono">{exact === null ? 'always' : exact.toFixed(1)}</td>
  </tr>
)

interface IntervalProps {
  readonly low: number
  readonly high: number
  readonly mean: number
  readonly exact: number | null
  readonly most: number
}

/** The interval as a bar, its mean as a notch, and the exact hours as a ring. */
const Interval = ({ low, high, mean, exact, most }: IntervalProps) => {
  const at = (value: number): string => `${Math.min(100, (value / most) * 100)}%`
  return (
    <span aria-hidden="true" className="relative block h-3">
      <span className="absolute inset-x-0 top-1/2 border-t border-hair" />
      <span
        className="absolute top-1/2 h-1.5 -translate-y-1/2 bg-bus"
        style={{ left: at(low), width: `calc(${at(high)} - ${at(low)})` }}
      />
      <span className="absolute top-0 h-3 w-0.5 bg-ink" style={{ left: at(mean) }} />
      {exact !== null && exact <= most && (
        <span
          className="absolute top-1/2 size-2 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-brass bg-wall"
          style={{ left: at(exact) }}
        />
      )}
    </span>
  )
}

function NotAsked({ site, question }: { site: Site; question: Question }) {
  const unasked = site.channels.flatMap((channel) => {
    const why = notAsked(site, question, channel)
    return why === null ? [] : [`${channel.name}: ${why}`]
  })
  if (unasked.length === 0) return null
  return <p className="mt-2 text-small text-soft">Not asked of {unasked.join('; ')}.</p>
}
