import { CircleCheck, CircleDashed, CircleDot, TriangleAlert } from 'lucide-react'
import type { HandRow } from '../../../../core/api'
import type { Hand } from './useHand'

type Line = HandRow['lines'][number]

const SIGNS = {
  heard: [CircleCheck, 'text-rest', 'heard'],
  waiting: [CircleDashed, 'text-ink', 'waiting for'],
  later: [CircleDot, 'text-bus', 'then'],
} as const

/** What the board has said for the test in hand, what it still has to say, and what does not belong to it. */
export function HeardBox({ row, hand }: { row: HandRow; hand: Hand }) {
  if (row.lines.length === 0) return null
  return (
    <section aria-label="Heard from the board" className="rounded-plate mt-3 border-2 border-ink px-3 py-2">
      <h4 className="flex items-baseline text-small text-soft">
        Heard from the board
        <button type="button" className="ml-auto min-h-6 underline" onClick={hand.again}>
          Listen again
        </button>
      </h4>
      <ol className="mt-0.5" aria-live="polite">
        {row.lines.map((line, at) => (
          <HeardLine key={`${at}/${line.state}`} line={line} />
        ))}
      </ol>
      {row.first !== null && <p className="mt-1 text-note font-semibold text-warning">{row.first}</p>}
      {row.odd.map((text) => (
        <p key={text} className="mt-1 flex gap-2 text-note text-warning">
          <TriangleAlert size={15} className="mt-0.5 shrink-0" aria-hidden="true" />
          {text}
        </p>
      ))}
      {row.mayLook && (
        <p className="mt-1.5 flex flex-wrap items-center gap-2 text-note">
          Nobody hears that screen. Look at it:
          <button type="button" className="press" onClick={() => hand.sees('screen', true)}>
            It shows it
          </button>
          <button type="button" className="press" onClick={() => hand.sees('screen', false)}>
            It does not
          </button>
        </p>
      )}
    </section>
  )
}

function HeardLine({ line: { state, text, detail } }: { line: Line }) {
  const [Sign, looks, words] = SIGNS[state]
  return (
    <li className={`flex gap-2 py-0.5 ${state === 'later' ? 'text-soft' : ''}`}>
      <Sign size={19} className={`mt-0.5 shrink-0 ${looks}`} aria-hidden="true" />
      <span className={`min-w-0 ${state === 'heard' ? 'font-semibold' : ''}`}>
        <span className="sr-only">{words}: </span>
        {text}
        {detail && <span className="ml-2 font-mono text-note font-normal text-soft">{detail}</span>}
      </span>
    </li>
  )
}
