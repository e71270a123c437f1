import { format } from 'date-fns'
import { Link } from 'react-router'
import type { LogEntry } from '../../../core/api'
import type { PartId } from '../../../core/parts'
import { graphOf } from '../whatif/graph'
import { useAppSelector } from '../../store/store'

const SIGNS: Record<LogEntry['kind'], string> = {
  build: '▤',
  flash: '⇥',
  trial: '▷',
  test: '☑',
  note: '✎',
  fault: '✕',
}

interface Props {
  readonly entry: LogEntry
  readonly entries: readonly LogEntry[]
  readonly onCorrect: (entry: LogEntry) => void
}

const day = (at: string): string => format(new Date(at), 'd MMM HH:mm')

/** An entry as it was written; one that a later one corrects says so, and stays. */
export function Entry({ entry, entries, onCorrect }: Props) {
  const { id, at, kind, text, corrects, part } = entry
  const by = entries.find((other) => other.corrects === id)
  const wrong = corrects === null ? undefined : entries.find((other) => other.id === corrects)
  return (
    <li
      data-entry={id}
      className={`group grid grid-cols-[6.5rem_1fr] gap-x-2 border-b border-hair py-1.5 @xl:grid-cols-[6.5rem_5rem_1fr_auto] ${kind === 'fault' && !by ? 'text-error' : ''}`}
    >
      <time dateTime={at} className="font-mono text-note text-soft">
        {day(at)}
      </time>
      <span className="text-note font-semibold">
        <span aria-hidden="true">{SIGNS[kind]}</span> {kind}
      </span>
      <span className="col-span-2 min-w-0 break-words @xl:col-span-1">
        {wrong && <span className="text-note text-soft">Corrects {day(wrong.at)}: </span>}
        <span className={by ? 'text-soft line-through' : ''}>{text}</span>
        {part !== null && <PartName part={part} />}
        {by && <span className="block text-note">Corrected on {day(by.at)}.</span>}
      </span>
      <button
        type="button"
        className="press-quiet -mt-0.5 min-h-6 justify-self-start self-start text-note text-soft"
        aria-label={`Correct the entry of ${day(at)}`}
        onClick={() => onCorrect(entry)}
      >
        Correct
      </button>
    </li>
  )
}

/** The part that a fault was. */
function PartName({ part }: { part: string }) {
  const site = useAppSelector((state) => state.site.site)!
  const name = graphOf(site).get(part as PartId)?.name ?? part
  return (
    <Link className="ml-2 border border-current px-1 text-note" to="../whatif?side=fault" title="Find the fault">
      {name}
    </Link>
  )
}
