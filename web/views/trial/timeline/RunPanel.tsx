import { Maximize2, Minimize2, Minus, Plus } from 'lucide-react'
import { useEffect, useRef, useState } from 'react'
import type { TrialFrame } from '../../../workers/trialRun'
import { EventList } from '../EventList'
import { JustHappened } from '../JustHappened'
import type { Hold } from '../useTrial'
import { DeedList } from './DeedList'
import { Drawn } from './Drawn'
import { useStretch, type StretchHold } from './useStretch'

type Side = 'drawn' | 'list' | 'deeds'
const SIDES: readonly (readonly [Side, string])[] = [
  ['drawn', 'Drawn'],
  ['list', 'As a list'],
  ['deeds', 'Actions'],
]

interface Props {
  readonly frame: TrialFrame
  readonly hold: Hold
  readonly isLarge: boolean
  readonly onLarge: (large: boolean) => void
}

/** The run: the path of the last deed, and beneath it the time line, drawn or as a list. */
export function RunPanel({ frame, hold, isLarge, onLarge }: Props) {
  const place = useRef<HTMLDivElement>(null)
  const width = useWidth(place)
  const stretch = useStretch(hold, Math.max(100, width - 148))
  const [side, setSide] = useState<Side>('drawn')
  const [all, setAll] = useState(false)
  const cause = frame.path?.cause ?? null
  return (
    <section
      aria-label="Time line"
      className={
        'flex min-h-66 shrink-0 flex-col border-t-2 border-ink pt-1 ' +
        (isLarge ? '@3xl:min-h-0 @3xl:flex-1' : '@3xl:h-66')
      }
    >
      <JustHappened path={frame.path} now={frame.now} />
      {side !== 'list' && <LastVerdict frame={frame} />}
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-hair py-1">
        <h2 className="text-note font-semibold">Time line</h2>
        <Sides side={side} deeds={frame.deeds.length} onPick={setSide} />
        {side === 'drawn' && <Checks {...{ frame, hold, stretch, all }} onAll={setAll} />}
        <span className="ml-auto flex items-center gap-1">
          {side === 'drawn' && <Zoom stretch={stretch} />}
          <Size isLarge={isLarge} onLarge={onLarge} />
        </span>
      </div>
      <div ref={place} className="flex min-h-0 flex-1 flex-col">
        {side === 'drawn' && <Drawn lanes={frame.lanes} {...{ stretch, hold, width, all, cause }} />}
        {side === 'list' && <EventList snapshot={frame.snapshot} onGo={hold.goTo} />}
        {side === 'deeds' && <DeedList frame={frame} hold={hold} />}
      </div>
    </section>
  )
}

/** So long a verdict stands beside the path, ms. */
const VERDICT_MS = 120_000

/** Who won after an outage, while it is news. */
function LastVerdict({ frame: { snapshot, now } }: { frame: TrialFrame }) {
  const last = snapshot.timeline.findLast(({ kind }) => kind === 'verdict')
  if (!last || now - last.t > VERDICT_MS) return null
  return (
    <p data-kind="verdict" className="border-t border-hair bg-panel px-2 py-0.5 font-semibold">
      <span aria-hidden="true">⚖</span> {last.text}
    </p>
  )
}

const Sides = ({ side, deeds, onPick }: { side: Side; deeds: number; onPick: (side: Side) => void }) => (
  <span role="group" aria-label="Time line as" className="flex gap-2">
    {SIDES.map(([id, name]) => (
      <button
        key={id}
        type="button"
        aria-pressed={side === id}
        className="press-quiet aria-pressed:font-semibold aria-pressed:no-underline"
        onClick={() => onPick(id)}
      >
        {id === 'deeds' ? `${name} (${deeds})` : name}
      </button>
    ))}
  </span>
)

interface ChecksProps {
  readonly frame: TrialFrame
  readonly hold: Hold
  readonly stretch: StretchHold
  readonly all: boolean
  readonly onAll: (all: boolean) => void
}

const Checks = ({ frame, hold, stretch, all, onAll }: ChecksProps) => (
  <>
    <label className="flex min-h-6 items-center gap-1.5 text-small">
      <input type="checkbox" checked={all} onChange={(event) => onAll(event.target.checked)} />
      every channel
    </label>
    <label className="flex min-h-6 items-center gap-1.5 text-small">
      <input type="checkbox" checked={stretch.wires} onChange={(event) => stretch.showWires(event.target.checked)} />
      inputs and contacts
    </label>
    <label
      className="flex min-h-6 items-center gap-1.5 text-small"
      title="Differences from the run as it is now are framed"
    >
      <input type="checkbox" checked={frame.compares} onChange={(event) => hold.compare(event.target.checked)} />
      compare with this run
    </label>
  </>
)

const Zoom = ({ stretch }: { stretch: StretchHold }) => (
  <span className="flex items-center gap-1 text-small text-soft">
    <button type="button" className="press px-1" aria-label="Show a longer stretch" onClick={() => stretch.zoom(2)}>
      <Minus size={14} aria-hidden="true" />
    </button>
    <span className="w-16 text-center font-mono">{spanText(stretch.spanMs)}</span>
    <button type="button" className="press px-1" aria-label="Show a shorter stretch" onClick={() => stretch.zoom(0.5)}>
      <Plus size={14} aria-hidden="true" />
    </button>
    <button
      type="button"
      className="press-quiet"
      disabled={stretch.fromMs === null}
      onClick={() => stretch.moveTo(null)}
    >
      Follow
    </button>
  </span>
)

function Size({ isLarge, onLarge }: { isLarge: boolean; onLarge: (large: boolean) => void }) {
  const Icon = isLarge ? Minimize2 : Maximize2
  return (
    <button
      type="button"
      className="press px-1"
      aria-label={isLarge ? 'Show the house' : 'Show the time line only'}
      onClick={() => onLarge(!isLarge)}
    >
      <Icon size={14} aria-hidden="true" />
    </button>
  )
}

/** The shortest unit in which the stretch is a few. */
function spanText(ms: number): string {
  if (ms < 1_000) return `${ms} ms`
  if (ms < 120_000) return `${Math.round(ms / 1_000)} s`
  if (ms < 7_200_000) return `${Math.round(ms / 60_000)} min`
  return ms < 172_800_000 ? `${Math.round(ms / 3_600_000)} h` : `${Math.round(ms / 86_400_000)} d`
}

function useWidth(place: React.RefObject<HTMLDivElement | null>): number {
  const [width, setWidth] = useState(800)
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(Math.floor(entry!.contentRect.width)))
    watch.observe(place.current!)
    return () => watch.disconnect()
  }, [place])
  return width
}
