import type { KeyboardEvent, PointerEvent } from 'react'
import type { Input } from '../../../core/site'
import { controlWords } from '../../../core/ways'
import { Knob } from './Knob'
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
        <div key={room ?? ''} className="mt-2 [contain-intrinsic-size:auto_9rem] [content-visibility:auto]">
          <p className="text-small text-soft">
            {site.rooms.find((candidate) => candidate.id === room)?.name ?? 'No room'}
          </p>
          <div className="mt-1 flex flex-wrap gap-2">
            {switches
              .filter((input) => input.room === room)
              .map((input) => (
                <Plate key={input.id} input={input} site={site} snapshot={snapshot} act={act} />
              ))}
          </div>
        </div>
      ))}
    </section>
  )
}

/** A switch in its plate: what it is called, the key that works it, and what it works. */
function Plate({ input, site, snapshot, act }: TrialPart & { input: Input }) {
  const number = site.inputs.indexOf(input) + 1
  const works = site.ways
    .filter((way) => way.kind === 'wall' && way.input === input.id)
    .map((way) => site.channels.find((channel) => channel.id === way.channel)?.name ?? '')
  const controls = site.controls
    .filter(({ source }) => source.kind === 'wall' && source.input === input.id)
    .map((control) => controlWords(site, control))
  const worked = [...works, ...controls].join(', ') || 'works nothing'
  return (
    <div className="w-24 text-center">
      <Switch input={input} code={snapshot.closed[input.id] ?? 0} says={`${input.name}, ${worked}`} act={act} />
      <p className="mt-1 text-small leading-tight">
        <span className="font-semibold">{input.name}</span>{' '}
        {number < 10 && (
          <kbd className="rounded-plate border border-bus px-0.5 font-mono text-[0.625rem]">{number}</kbd>
        )}
        <span className="block text-soft">{worked}</span>
      </p>
    </div>
  )
}

interface SwitchProps {
  readonly input: Input
  /** closed contacts, as bits */
  readonly code: number
  readonly says: string
  readonly act: TrialPart['act']
}

function Switch({ input, code, says, act }: SwitchProps) {
  if (input.kind === 'selector')
    return (
      <Knob
        input={input}
        code={code}
        says={says}
        onTurn={(next) => act({ kind: 'turn', input: input.id, code: next })}
      />
    )
  return input.kind === 'momentary' ? (
    <Push input={input} code={code} says={says} act={act} />
  ) : (
    <Rocker input={input} code={code} says={says} act={act} />
  )
}

function Push({ input, code, says, act }: SwitchProps) {
  const press = () => act({ kind: 'press', input: input.id })
  const release = () => act({ kind: 'release', input: input.id })
  const byKey = ({ key }: KeyboardEvent) => key === ' ' || key === 'Enter'
  const hold = (event: PointerEvent) => {
    event.currentTarget.setPointerCapture(event.pointerId)
    press()
  }
  const keyDown = (event: KeyboardEvent) => {
    if (!byKey(event) || event.repeat) return
    event.preventDefault()
    press()
  }
  return (
    <button
      type="button"
      aria-label={`Press ${says}`}
      aria-pressed={code !== 0}
      data-switch={input.id}
      className="mx-auto flex h-20 w-16 items-center justify-center rounded-md border-2 border-ink bg-panel"
      onPointerDown={hold}
      onPointerUp={release}
      onPointerCancel={release}
      onKeyDown={keyDown}
      onKeyUp={(event) => byKey(event) && release()}
      onBlur={() => code !== 0 && release()}
    >
      <span
        className={`block rounded-full border-2 border-ink ${code !== 0 ? 'size-8 bg-brass-fill' : 'size-10 bg-wall'}`}
      />
    </button>
  )
}

function Rocker({ input, code, says, act }: SwitchProps) {
  const half = (dark: boolean) =>
    `flex w-full flex-1 items-center justify-center font-mono text-note ${dark ? 'bg-bus/50' : ''}`
  return (
    <button
      type="button"
      aria-label={`Rock ${says}`}
      aria-pressed={code !== 0}
      data-switch={input.id}
      className="mx-auto flex h-20 w-16 flex-col overflow-hidden rounded-md border-2 border-ink bg-panel"
      onClick={() => act({ kind: 'rock', input: input.id })}
    >
      <span className={half(code !== 0)}>I</span>
      <span className="h-px w-full bg-ink" />
      <span className={half(code === 0)}>O</span>
    </button>
  )
}
