import { useEffect, useRef } from 'react'
import {
  ANSWERS,
  cautionsOf,
  houseSays,
  wordsOf,
  type Answer,
  type Danger,
  type FaultTable,
  type Next,
} from '../../../../core/diagnosis'
import { counted } from '../../../../core/site'
import type { Searching } from './useSearch'

interface Props {
  readonly table: FaultTable
  readonly next: Next
  /** as many parts, equally likely, would be as uncertain as these are */
  readonly before: number
  readonly searching: Searching
}

const WHERE: Readonly<Record<Danger, string>> = {
  outside: 'Outside the box',
  cover: 'Behind the cover, supply off',
  live: 'Behind the cover, supply on',
}

/** The next look, large enough for a thumb: what to do, why, what it costs, and what must be said before it. */
export function NextStep({ table, next, before, searching }: Props) {
  const { observation, minutes, danger, gain } = next
  const { ask } = wordsOf(table.site, observation)
  const { search } = searching
  const head = useRef<HTMLHeadingElement>(null)
  // with the keyboard alone: each next step is at hand when it comes
  useEffect(() => head.current?.focus(), [])
  const after = before / 2 ** gain
  return (
    <section aria-label="Next step" className="rounded-plate border-2 border-ink bg-panel p-4" onKeyDown={byNumber}>
      <p className="flex flex-wrap items-center justify-between gap-2 text-small text-soft">
        <span>Step {search.given.length + 1}</span>
        <span className={danger === 'outside' ? '' : 'border-2 border-error px-1.5 font-semibold text-error'}>
          {WHERE[danger]}, about {minutes < 1 ? '½' : minutes} min
        </span>
      </p>
      {cautionsOf(observation).map((caution) => (
        <p key={caution} className="mt-1 border-l-4 border-error pl-2 font-semibold">
          {caution}
        </p>
      ))}
      <h2 ref={head} tabIndex={-1} className="mt-2 text-[1.125rem] leading-snug font-semibold outline-none">
        {ask}
      </h2>
      <p className="mt-1 text-small text-soft">
        Why this: of about {parts(before)} in doubt it leaves about {Math.max(1, Math.round(after))}.
      </p>
      <Answers table={table} next={next} onAnswer={(one) => searching.answer(observation.id, one)} />
      <Beside table={table} observation={observation.id} searching={searching} />
    </section>
  )
}

interface AnswersProps {
  readonly table: FaultTable
  readonly next: Next
  readonly onAnswer: (answer: Answer) => void
}

/** What can be seen, with how likely each is. */
function Answers({ table, next: { observation, expected }, onAnswer }: AnswersProps) {
  const { answers } = wordsOf(table.site, observation)
  return (
    <div className="mt-3 flex flex-wrap gap-2">
      {ANSWERS.filter((one) => answers[one] !== undefined).map((one, i) => (
        <button
          key={one}
          type="button"
          className="rounded-plate min-h-14 min-w-28 flex-1 border-2 border-ink px-3 leading-tight font-semibold hover:bg-ink hover:text-wall"
          onClick={() => onAnswer(one)}
        >
          {answers[one]}
          <span className="block text-small font-normal">
            <kbd className="mr-2 font-mono max-[40rem]:hidden">{i + 1}</kbd>
            {percent(expected[ANSWERS.indexOf(one)]!)}
          </span>
        </button>
      ))}
    </div>
  )
}

interface BesideProps {
  readonly table: FaultTable
  readonly observation: string
  readonly searching: Searching
}

/** What else can be done at a step. */
const Beside = ({ table, observation, searching: { search, answer, skip, back } }: BesideProps) => (
  <div className="mt-2 flex flex-wrap gap-3">
    {search.hidden !== null && (
      <button
        type="button"
        className="press"
        onClick={() => answer(observation, houseSays(table, search.hidden!, observation))}
      >
        Let the simulated house answer
      </button>
    )}
    <button type="button" className="press-quiet" onClick={() => skip(observation)}>
      I cannot do this now
    </button>
    <button type="button" className="press-quiet" onClick={back}>
      Take the last answer back
    </button>
  </div>
)

/** 1, 2, 3 press the answers. */
function byNumber(event: React.KeyboardEvent<HTMLElement>): void {
  if (!/^[1-4]$/.test(event.key) || event.ctrlKey || event.metaKey || event.altKey) return
  const buttons = event.currentTarget.querySelectorAll<HTMLButtonElement>('button.flex-1')
  buttons[Number(event.key) - 1]?.click()
}

const parts = (count: number): string => counted(Math.max(1, Math.round(count)), 'part')
const percent = (chance: number): string =>
  chance >= 0.995 ? '99 %' : chance < 0.005 ? '< 1 %' : `${Math.round(chance * 100)} %`
