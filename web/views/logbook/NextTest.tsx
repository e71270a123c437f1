import { Check, Minus, X, type LucideIcon } from 'lucide-react'
import { useEffect, useId, useRef, useState } from 'react'
import type { Outcome, TestRun } from '../../../core/api'
import { stageCautions, STAGE_NAMES, STAGES } from '../../../core/outputs'
import { isTyping } from '../../parts/typing'
import { useAppSelector } from '../../store/store'
import { mayAnswer, type Item } from './testProgress'

/** Outcome, its press, its key, and how it looks once it is given. */
const ANSWERS: readonly (readonly [Outcome, string, string, LucideIcon, string])[] = [
  ['passed', 'Passed', 'y', Check, 'aria-pressed:bg-rest aria-pressed:text-panel'],
  ['failed', 'Failed', 'n', X, 'aria-pressed:bg-error aria-pressed:text-panel'],
  ['skipped', 'Skip', 's', Minus, 'aria-pressed:bg-ink aria-pressed:text-wall'],
]

interface Props {
  readonly run: TestRun
  readonly item: Item
  readonly onAnswer: (item: Item, outcome: Outcome, note: string) => void
}

/** One test, to be read at arm's length: what to do, what must happen, and thumbs for an answer. */
export function NextTest({ run, item, onAnswer }: Props) {
  const site = useAppSelector((state) => state.site.site)!
  const [note, setNote] = useState(item.note)
  const channel = site.channels.find(({ id }) => id === item.channel)?.name ?? 'The controller as a whole'
  const number = STAGES.indexOf(item.stage) + 1
  const may = mayAnswer(run, item)
  const answer = (outcome: Outcome) => onAnswer(item, outcome === item.outcome ? 'open' : outcome, note)
  useAnswerKeys(may, answer)
  const place = useTakenHand()
  return (
    <div
      ref={place}
      tabIndex={-1}
      className="border-2 border-ink bg-panel p-4 outline-none"
      data-test={item.key}
      data-outcome={item.outcome}
    >
      <p className="text-note font-semibold">
        {number}. {STAGE_NAMES[item.stage]}
      </p>
      <ul className="mt-1 space-y-0.5 border-l-3 border-error pl-2 text-note">
        {stageCautions(site, run.controller, item.stage).map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
      <p className="mt-4 text-note text-soft">{channel}</p>
      <h3 className="font-place text-view leading-tight font-bold">{item.action}</h3>
      <p className="mt-1 text-head">{item.expected}</p>
      {!may && <p className="mt-2 font-semibold text-warning">The stage before this one is not clear yet.</p>}
      <div role="group" aria-label={`Outcome of: ${item.action}`} className="mt-4 grid grid-cols-3 gap-2">
        {ANSWERS.map((row) => (
          <Answer key={row[0]} row={row} item={item} may={may} onPress={answer} />
        ))}
      </div>
      <NoteField action={item.action} note={note} onNote={setNote} />
    </div>
  )
}

function NoteField({ action, note, onNote }: { action: string; note: string; onNote: (note: string) => void }) {
  const id = useId()
  return (
    <>
      <label className="field-label mt-3" htmlFor={id}>
        Note
      </label>
      <input
        id={id}
        className="field"
        aria-label={`Note on: ${action}`}
        value={note}
        maxLength={500}
        onChange={(event) => onNote(event.target.value)}
      />
    </>
  )
}

interface AnswerProps {
  readonly row: (typeof ANSWERS)[number]
  readonly item: Item
  readonly may: boolean
  readonly onPress: (outcome: Outcome) => void
}

const Answer = ({ row: [outcome, words, key, Sign, looks], item, may, onPress }: AnswerProps) => (
  <button
    type="button"
    aria-pressed={item.outcome === outcome}
    disabled={!may && item.outcome !== outcome}
    className={
      'rounded-plate flex min-h-14 items-center justify-center gap-1.5 border-2 border-ink text-head font-bold ' +
      `hover:bg-wall disabled:border-bus disabled:text-soft ${looks}`
    }
    onClick={() => onPress(outcome)}
  >
    <Sign size={17} aria-hidden="true" />
    {words}
    <kbd className="rounded-plate hidden border border-bus px-1 font-mono text-small font-normal @3xl:inline">
      {key}
    </kbd>
  </button>
)

/** The test that comes next takes the hand that the last one has let go. */
function useTakenHand() {
  const place = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (document.activeElement === document.body) place.current?.focus({ preventScroll: true })
  }, [])
  return place
}

/** y, n and s answer, as long as nobody types a note. */
function useAnswerKeys(may: boolean, answer: (outcome: Outcome) => void): void {
  const latest = useRef(answer)
  useEffect(() => {
    latest.current = answer
  })
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const outcome = ANSWERS.find(([, , key]) => key === event.key)?.[0]
      if (!may || !outcome || event.ctrlKey || event.metaKey || event.altKey || isTyping(event.target)) return
      event.preventDefault()
      latest.current(outcome)
    }
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  }, [may])
}
