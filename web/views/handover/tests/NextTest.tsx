import { Check, Minus, X, type LucideIcon } from 'lucide-react'
import { useEffect, useId, useRef, useState } from 'react'
import { Link } from 'react-router'
import type { Outcome, TestRun } from '../../../../core/api'
import { stageCautions, STAGE_NAMES, STAGES } from '../../../../core/outputs'
import { useAppSelector } from '../../../store/store'
import { EyeQuestion, Key } from './EyeQuestion'
import { HeardBox } from './HeardBox'
import { mayAnswer, type Item } from './testProgress'
import { useAnswerKeys } from './useAnswerKeys'
import { useHand, type Hand } from './useHand'

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
  const hand = useHand(run.id, item.key, may)
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
      {hand.row?.listening && <HeardBox row={hand.row} hand={hand} />}
      <Asks hand={hand} />
      <Answers item={item} may={may} hand={hand} onAnswer={answer} />
      <NoteField action={item.action} note={note} onNote={setNote} />
      <FaultLink site={site.id} />
    </div>
  )
}

const FaultLink = ({ site }: { site: string }) => (
  <p className="mt-2 text-note">
    <Link className="inline-flex min-h-6 items-center underline" to={`/${site}/whatif?side=fault`}>
      Find the fault
    </Link>
  </p>
)

/** The one question that the board cannot answer. */
function Asks({ hand: { row, sees } }: { hand: Hand }) {
  if (row === null || row.eye === null || (!row.listening && row.lines.length > 0)) return null
  return <EyeQuestion asks={row.eye} seen={row.seen} onSee={(seen) => sees('eye', seen)} />
}

interface AnswersProps {
  readonly item: Item
  readonly may: boolean
  readonly hand: Hand
  readonly onAnswer: (outcome: Outcome) => void
}

/** An outcome by hand: large where nothing tells it, small beside what does. */
function Answers({ item, may, hand: { row }, onAnswer }: AnswersProps) {
  const tellsItself = row !== null && (row.listening || (row.eye !== null && row.lines.length === 0))
  const asksEye = row !== null && row.eye !== null && (row.listening || row.lines.length === 0)
  useAnswerKeys(may, (key) => {
    const outcome = ANSWERS.find(([, , own]) => own === key)![0]
    // y and n answer the eye's question where there is one
    if (!asksEye || outcome === 'skipped') onAnswer(outcome)
  })
  return (
    <div className="mt-4">
      {row !== null && !row.listening && row.lines.length > 0 && (
        <p className="mb-1.5 text-note text-soft">The board is not heard on the network: answer by hand.</p>
      )}
      {tellsItself && <p className="mb-1 text-note text-soft">Or by hand:</p>}
      <div role="group" aria-label={`Outcome of: ${item.action}`} className="grid grid-cols-3 gap-2">
        {ANSWERS.map((answer) => (
          <Answer
            key={answer[0]}
            row={answer}
            item={item}
            may={may}
            small={tellsItself}
            eye={asksEye}
            onPress={onAnswer}
          />
        ))}
      </div>
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
  readonly small: boolean
  /** y and n belong to the question for the eye */
  readonly eye: boolean
  readonly onPress: (outcome: Outcome) => void
}

const Answer = ({ row: [outcome, words, key, Sign, looks], item, may, small, eye, onPress }: AnswerProps) => (
  <button
    type="button"
    aria-pressed={item.outcome === outcome}
    disabled={!may && item.outcome !== outcome}
    className={
      'rounded-plate flex items-center justify-center gap-1.5 border-ink ' +
      `${small ? 'min-h-9 border font-semibold' : 'min-h-14 border-2 text-head font-bold'} hover:bg-wall disabled:border-bus disabled:text-soft ${looks}`
    }
    onClick={() => onPress(outcome)}
  >
    <Sign size={small ? 14 : 17} aria-hidden="true" />
    {words}
    {(key === 's' || !eye) && <Key>{key}</Key>}
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
