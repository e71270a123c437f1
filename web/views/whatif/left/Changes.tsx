import { toast } from 'sonner'
import { changeAndPlan, optionsFor, type Worth } from '../../../../core/changes'
import type { Question } from '../../../../core/faults'
import type { Place } from '../../../../core/parts'
import { channelOf, type Site } from '../../../../core/site'
import { JobState } from '../../../parts/JobState'
import { edit } from '../../../store/editing'
import { useAppDispatch } from '../../../store/store'
import { useAnswer } from '../useWhatIfJob'
import { hoursWords } from '../words'

interface Props {
  readonly site: Site
  readonly question: Question
  readonly from: Place
  readonly channel: string
}

/** What could be changed, worked through: hours saved, what it takes, and what it does to everything else. */
export function Changes({ site, question, from, channel }: Props) {
  const dispatch = useAppDispatch()
  const { answer, job, stop } = useAnswer<Worth[]>([site, question, from, channel], (remote) =>
    remote.changes(site, question, channel, from),
  )
  const apply = (worth: Worth): void => {
    const option = optionsFor(site, question, channelOf(site, channel)!).find(({ id }) => id === worth.id)
    if (!option) return
    dispatch(
      edit(`${channelOf(site, channel)!.name}: ${lower(worth.label)}`, (draft) => changeAndPlan(draft, option.change)),
    )
    toast(`${worth.label}: done. Press u to undo.`)
  }
  const isStale = job.state === 'running'
  return (
    <section aria-label="What to change" className="mt-3">
      <h3 className="rule-head">What to change</h3>
      {answer === null && <JobState job={job} name="The comparison" onStop={stop} />}
      {answer?.length === 0 && !isStale && (
        <p className="mt-1 text-soft">Each change that is known here was worked through: none saves anything.</p>
      )}
      <ul className={isStale ? 'opacity-60' : ''}>
        {(answer ?? []).map((worth) => (
          <Row key={worth.id} worth={worth} isStale={isStale} onApply={() => apply(worth)} />
        ))}
      </ul>
    </section>
  )
}

const Row = ({ worth, isStale, onApply }: { worth: Worth; isStale: boolean; onApply: () => void }) => (
  <li className="border-b border-hair py-1.5">
    <div className="flex items-start justify-between gap-2">
      <span className="font-semibold">{worth.label}</span>
      <button
        type="button"
        className="press shrink-0"
        disabled={isStale}
        aria-label={`Apply: ${worth.label}`}
        onClick={onApply}
      >
        Apply
      </button>
    </div>
    <p className="font-mono text-small">
      {hours(worth.before)} → {hours(worth.after)} per year
    </p>
    <p className="text-small text-soft">{costWords(worth)}</p>
    <Effects worth={worth} />
  </li>
)

const hours = (of: number | null): string => (of === null ? 'always' : exact(of))
/** A change may save minutes of hours: two digits behind the point show it. */
const exact = (of: number): string => (of >= 1 ? `${of.toFixed(2)} h` : hoursWords(of))
const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1)

function costWords({ pins, buys }: Worth): string {
  const takes = [...buys, ...pins.map((pin) => (pin.startsWith('no pin') ? pin : `pin ${pin}`))]
  return takes.length === 0 ? 'Takes no part and no pin.' : `Takes ${takes.join(', ')}.`
}

/** Others whose hours change, and findings that go or come. */
function Effects({ worth: { others, settles, brings } }: { worth: Worth }) {
  const better = others.filter((one) => one.hours < 0)
  const worse = others.filter((one) => one.hours > 0)
  const of = (list: Worth['others']): string =>
    list.length <= 3 ? list.map(({ name }) => name).join(', ') : `${list.length} other channels`
  return (
    <ul className="text-small">
      {better.length > 0 && <li>Better for {of(better)} too.</li>}
      {worse.length > 0 && <li className="text-warning">Worse for {of(worse)}.</li>}
      {settles.map((text) => (
        <li key={text} className="text-rest">
          settles {text}
        </li>
      ))}
      {brings.map((text) => (
        <li key={text} className="text-warning">
          brings {text}
        </li>
      ))}
    </ul>
  )
}
