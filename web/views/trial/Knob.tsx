import { useEffect, useRef, type KeyboardEvent } from 'react'
import { detentsOf, type SelectorInput } from '../../../core/site'

interface KnobProps {
  readonly input: SelectorInput
  readonly code: number
  readonly says: string
  readonly onTurn: (code: number) => void
}

const TURNS: Readonly<Record<string, number>> = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }

/** Where a detent stands on the dial, degrees from the top. */
const angleOf = (at: number, count: number): number => (count > 1 ? -120 + (240 * at) / (count - 1) : 0)

/** The detents of a selector, which of them it stands at, and how a hand turns it on by some. */
function useDetents({ input, code, onTurn }: KnobProps) {
  const detents = detentsOf(input)
  // Two quick turns can come before the house has answered the first: the second goes on from where the hand is.
  const hand = useRef(code)
  useEffect(() => {
    hand.current = code
  }, [code])
  const place = (of: number) =>
    Math.max(
      0,
      detents.findIndex((detent) => detent.code === of),
    )
  const turn = (by: number) => {
    const next = detents[Math.max(0, Math.min(detents.length - 1, place(hand.current) + by))]
    if (!next) return
    hand.current = next.code
    onTurn(next.code)
  }
  return { detents, at: place(code), turn }
}

/** A rotary selector: its detents are the codes that stand for a level, in the order of the levels. */
export function Knob(props: KnobProps) {
  const { detents, at, turn } = useDetents(props)
  const keyDown = (event: KeyboardEvent) => {
    const by = TURNS[event.key]
    if (by === undefined) return
    event.preventDefault()
    turn(by)
  }
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={`Turn ${props.says}`}
      aria-valuemin={detents[0]?.level ?? 0}
      aria-valuemax={detents.at(-1)?.level ?? 0}
      aria-valuenow={detents[at]?.level ?? 0}
      data-switch={props.input.id}
      className="mx-auto h-20 w-16 cursor-pointer rounded-md border-2 border-ink bg-panel"
      onClick={() => turn(at === detents.length - 1 ? -detents.length : 1)}
      onKeyDown={keyDown}
    >
      <Dial levels={detents.map((detent) => detent.level)} at={at} />
    </div>
  )
}

function Dial({ levels, at }: { levels: readonly number[]; at: number }) {
  return (
    <svg viewBox="0 0 64 76" aria-hidden="true">
      {levels.map((level, i) => {
        const angle = angleOf(i, levels.length)
        return (
          <text
            key={i}
            x="32"
            y="12"
            textAnchor="middle"
            fontSize="11"
            fill="var(--ink)"
            fontWeight={i === at ? 700 : 400}
            transform={`rotate(${angle} 32 38) rotate(${-angle} 32 9)`}
          >
            {level}
          </text>
        )
      })}
      <circle cx="32" cy="38" r="18" fill="var(--wall)" stroke="var(--ink)" strokeWidth="2" />
      <path
        d="M32 38V22"
        stroke="var(--ink)"
        strokeWidth="4"
        strokeLinecap="round"
        transform={`rotate(${angleOf(at, levels.length)} 32 38)`}
      />
    </svg>
  )
}
