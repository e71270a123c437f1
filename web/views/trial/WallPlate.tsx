import { useEffect, useRef } from 'react'
import type { SelectorInput } from '../../../core/site'
import type { TrialPart } from './parts'

/** The switches of the wall, by room; a push goes in while it is held, a rocker stays where it was rocked. */
export function WallPlate({ site, snapshot, act }: TrialPart) {
  const switches = site.inputs.filter((input) => input.kind !== 'contact')
  const rooms = [...new Set(switches.map((input) => input.room))]
  return (
    <section aria-label="Wall">
      <h2 className="rule-head">Wall</h2>
      {switches.length === 0 && <p className="mt-2 text-soft">No switch on any wall.</p>}
      {rooms.map((room) => (
        <div key={room ?? ''} className="mt-2">
          <p className="text-small text-soft">
            {site.rooms.find((candidate) => candidate.id === room)?.name ?? 'No room'}
          </p>
          <div className="mt-1 flex flex-wrap gap-2">
            {site.inputs.map((input, number) => {
              if (input.room !== room || input.kind === 'contact') return null
              const code = snapshot.closed[input.id] ?? 0
              const closed = code !== 0
              const works = site.ways.flatMap((way) =>
                way.kind === 'wall' && way.input === input.id
                  ? [site.channels.find((c) => c.id === way.channel)?.name ?? '']
                  : [],
              )
              const says = `${input.name}, ${works.join(', ') || 'works nothing'}`
              return (
                <div key={input.id} className="w-24 text-center">
                  {input.kind === 'selector' ? (
                    <Knob
                      input={input}
                      code={code}
                      says={says}
                      onTurn={(next) => act({ kind: 'turn', input: input.id, code: next })}
                    />
                  ) : input.kind === 'momentary' ? (
                    <button
                      type="button"
                      aria-label={`Press ${says}`}
                      aria-pressed={closed}
                      data-switch={input.id}
                      className="mx-auto flex h-20 w-16 items-center justify-center rounded-md border-2 border-ink bg-panel"
                      onPointerDown={(event) => {
                        event.currentTarget.setPointerCapture(event.pointerId)
                        act({ kind: 'press', input: input.id })
                      }}
                      onPointerUp={() => act({ kind: 'release', input: input.id })}
                      onPointerCancel={() => act({ kind: 'release', input: input.id })}
                      onKeyDown={(event) => {
                        if ((event.key === ' ' || event.key === 'Enter') && !event.repeat) {
                          event.preventDefault()
                          act({ kind: 'press', input: input.id })
                        }
                      }}
                      onKeyUp={(event) => {
                        if (event.key === ' ' || event.key === 'Enter') act({ kind: 'release', input: input.id })
                      }}
                      onBlur={() => closed && act({ kind: 'release', input: input.id })}
                    >
                      <span
                        className={
                          'block rounded-full border-2 border-ink ' +
                          `${closed ? 'size-8 bg-brass-fill' : 'size-10 bg-wall'}`
                        }
                      />
                    </button>
                  ) : (
                    <button
                      type="button"
                      aria-label={`Rock ${says}`}
                      aria-pressed={closed}
                      data-switch={input.id}
                      className="mx-auto flex h-20 w-16 flex-col overflow-hidden rounded-md border-2 border-ink bg-panel"
                      onClick={() => act({ kind: 'rock', input: input.id })}
                    >
                      <span
                        className={
                          'flex w-full flex-1 items-center justify-center font-mono text-note ' +
                          `${closed ? 'bg-bus/50' : ''}`
                        }
                      >
                        I
                      </span>
                      <span className="h-px w-full bg-ink" />
                      <span
                        className={
                          'flex w-full flex-1 items-center justify-center font-mono text-note ' +
                          `${closed ? '' : 'bg-bus/50'}`
                        }
                      >
                        O
                      </span>
                    </button>
                  )}
                  <p className="mt-1 text-small leading-tight">
                    <span className="font-semibold">{input.name}</span>{' '}
                    {number < 9 && (
                      <kbd className="rounded-plate border border-bus px-0.5 font-mono text-[0.625rem]">
                        {number + 1}
                      </kbd>
                    )}
                    <span className="block text-soft">{works.join(', ') || 'works nothing'}</span>
                  </p>
                </div>
              )
            })}
          </div>
        </div>
      ))}
    </section>
  )
}

/** A rotary selector: its detents are the codes that stand for a level, in the order of the levels. */
function Knob({
  input,
  code,
  says,
  onTurn,
}: {
  input: SelectorInput
  code: number
  says: string
  onTurn: (code: number) => void
}) {
  const detents = input.table
    .flatMap((level, one) => (level === null ? [] : [{ level, code: one }]))
    .sort((a, b) => a.level - b.level)
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
  const at = place(code)
  const turn = (by: number) => {
    const next = detents[Math.max(0, Math.min(detents.length - 1, place(hand.current) + by))]
    if (!next) return
    hand.current = next.code
    onTurn(next.code)
  }
  const angle = detents.length > 1 ? -120 + (240 * at) / (detents.length - 1) : 0
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={`Turn ${says}`}
      aria-valuemin={detents[0]?.level ?? 0}
      aria-valuemax={detents.at(-1)?.level ?? 0}
      aria-valuenow={detents[at]?.level ?? 0}
      data-switch={input.id}
      className="mx-auto h-20 w-16 cursor-pointer rounded-md border-2 border-ink bg-panel"
      onClick={() => (at === detents.length - 1 ? turn(-detents.length) : turn(1))}
      onKeyDown={(event) => {
        const by = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }[event.key]
        if (by === undefined) return
        event.preventDefault()
        turn(by)
      }}
    >
      <svg viewBox="0 0 64 76" aria-hidden="true">
        {detents.map((detent, i) => {
          const turned = detents.length > 1 ? -120 + (240 * i) / (detents.length - 1) : 0
          return (
            <text
              key={detent.code}
              x="32"
              y="12"
              textAnchor="middle"
              fontSize="11"
              fill="var(--ink)"
              fontWeight={i === at ? 700 : 400}
              transform={`rotate(${turned} 32 38) rotate(${-turned} 32 9)`}
            >
              {detent.level}
            </text>
          )
        })}
        <circle cx="32" cy="38" r="18" fill="var(--wall)" stroke="var(--ink)" strokeWidth="2" />
        <path
          d="M32 38V22"
          stroke="var(--ink)"
          strokeWidth="4"
          strokeLinecap="round"
          transform={`rotate(${angle} 32 38)`}
        />
      </svg>
    </div>
  )
}
