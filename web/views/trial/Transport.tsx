import { ChevronFirst, ChevronLeft, ChevronRight, Pause, Play, type LucideIcon } from 'lucide-react'
import { useState } from 'react'
import type { TrialFrame } from '../../workers/trialRun'
import { clockOf, instantOf } from './clock'
import type { Hold } from './useTrial'

const PACES = [1, 10, 100] as const

/** How the run goes: back and on, at a pace, or to an instant. */
export function Transport({ frame, hold }: { frame: TrialFrame; hold: Hold }) {
  const { now, end, pace, goingTo } = frame
  return (
    <div role="group" aria-label="Time of the run" className="flex flex-wrap items-center gap-1.5">
      <Steps pace={pace} hold={hold} />
      <Paces pace={pace} onPick={hold.play} />
      <GoTo hold={hold} />
      <output className="min-w-22 text-right font-mono" aria-label="Now" data-testid="trial-now">
        {clockOf(now, pace > 1 ? 1_000 : 1)}
      </output>
      {goingTo !== null && <Going now={now} to={goingTo} onStop={() => hold.play(0)} />}
      {goingTo === null && pace === 0 && now < end && (
        <span className="text-small text-soft">of {clockOf(end, 1_000)}</span>
      )}
    </div>
  )
}

function Steps({ pace, hold }: { pace: number; hold: Hold }) {
  const steps: readonly (readonly [name: string, key: string, Icon: LucideIcon, does: () => void])[] = [
    ['To the start', '', ChevronFirst, () => hold.goTo(0)],
    ['Back to previous action', ' ( , )', ChevronLeft, () => hold.step(-1)],
    pace > 0 ? ['Pause', ' ( p )', Pause, () => hold.play(0)] : ['Play', ' ( p )', Play, () => hold.play(1)],
    ['Forward to next action', ' ( . )', ChevronRight, () => hold.step(1)],
  ]
  return steps.map(([name, key, Icon, does]) => (
    <button key={name} type="button" className="press px-1.5" aria-label={name} title={`${name}${key}`} onClick={does}>
      <Icon size={16} aria-hidden="true" />
    </button>
  ))
}

const Paces = ({ pace, onPick }: { pace: number; onPick: (pace: number) => void }) => (
  <span className="flex" role="group" aria-label="Pace">
    {PACES.map((one) => (
      <button
        key={one}
        type="button"
        aria-pressed={pace === one}
        className="min-h-7 border border-l-0 border-ink px-2 font-mono text-note first:rounded-l-plate first:border-l last:rounded-r-plate aria-pressed:bg-ink aria-pressed:text-wall"
        onClick={() => onPick(one)}
      >
        {one}×
      </button>
    ))}
  </span>
)

function Going({ now, to, onStop }: { now: number; to: number; onStop: () => void }) {
  return (
    <span className="flex items-center gap-1.5 text-small" role="status">
      <progress className="w-20 accent-(--brass-fill)" value={now} max={to} aria-label="Progress" />
      <button type="button" className="press-quiet" onClick={onStop}>
        Stop
      </button>
    </span>
  )
}

/** An instant is typed: "1:30", or "2 d 06:00". */
function GoTo({ hold }: { hold: Hold }) {
  const [text, setText] = useState('')
  const at = text.trim() === '' ? null : instantOf(text)
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault()
        if (at === null || at === undefined) return
        hold.goTo(at)
        setText('')
      }}
    >
      <label className="flex items-center gap-1 text-small text-soft">
        to
        <input
          className="field w-24 font-mono"
          value={text}
          placeholder="1:30:00"
          aria-invalid={at === undefined}
          aria-describedby={at === undefined ? 'goto-error' : undefined}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {at === undefined && (
        <span id="goto-error" role="alert" className="text-small text-error">
          a time is 90, 1:30, 2:03:12 or 1 d 04:00
        </span>
      )}
    </form>
  )
}
