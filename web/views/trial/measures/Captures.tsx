import { useState } from 'react'
import { CaptureRefused, vcdVariables } from '../../../../core/infrared'
import { bounceOf, overlay, waveEdges, type Overlay } from '../../../../core/measures'
import type { Input, Site } from '../../../../core/site'
import { FileField } from '../../../parts/FileField'
import { edit } from '../../../store/editing'
import { useAppDispatch } from '../../../store/store'
import { clockOf } from '../clock'
import { recordedWave } from '../useTrial'

interface Capture {
  readonly name: string
  readonly text: string
  readonly signals: readonly string[]
}

/** Captures of the real thing: what a switch's bounce needs, and how a board differs from the run of the trial. */
export function Captures({ site }: { site: Site }) {
  const [capture, setCapture] = useState<Capture | null>(null)
  const [signal, setSignal] = useState('')
  const take = (text: string, name: string): void => {
    const signals = vcdVariables(text).map((variable) => variable.name)
    setCapture({ name, text, signals })
    setSignal(signals[0] ?? '')
  }
  return (
    <section aria-label="Captures" className="mt-5">
      <h2 className="rule-head">Captures of the real board</h2>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <FileField label="Capture (VCD)" accept=".vcd,text/plain" onText={take} />
        {capture && capture.signals.length > 0 && (
          <label>
            <span className="field-label">Signal</span>
            <select className="field w-48" value={signal} onChange={(event) => setSignal(event.target.value)}>
              {capture.signals.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          </label>
        )}
      </div>
      {capture && <Found site={site} capture={capture} signal={signal} />}
    </section>
  )
}

/** Edges of a capture's signal; a text that cannot be read says why. */
function edgesOf({ text }: Capture, signal: string): ReturnType<typeof waveEdges> | string {
  try {
    return waveEdges(text, signal || undefined)
  } catch (error) {
    if (error instanceof CaptureRefused) return error.message
    throw error
  }
}

function Found({ site, capture, signal }: { site: Site; capture: Capture; signal: string }) {
  const edges = edgesOf(capture, signal)
  if (typeof edges === 'string')
    return (
      <p role="alert" className="mt-2 text-error">
        {capture.name}: {edges}
      </p>
    )
  if (edges.length === 0)
    return (
      <p className="mt-2 text-soft">
        {signal} does not change in {capture.name}.
      </p>
    )
  return (
    <div className="mt-2 grid gap-4 @3xl:grid-cols-2">
      <BounceFound site={site} edges={edges} />
      <LaidOver edges={edges} />
    </div>
  )
}

type Edges = ReturnType<typeof waveEdges>

/** How long the contact bounces, and the press that gives it to a switch of the site. */
function BounceFound({ site, edges }: { site: Site; edges: Edges }) {
  const dispatch = useAppDispatch()
  const [input, setInput] = useState(site.inputs[0]?.id ?? '')
  const bounce = bounceOf(edges)
  const named = site.inputs.find(({ id }) => id === input)
  if (!bounce) return null
  const set = (): void => {
    const put = (draft: Site): void => {
      const found = draft.inputs.find(({ id }) => id === input)
      if (found) Object.assign(found, { bounceMs: Math.round(bounce.longestMs * 10) / 10 })
    }
    dispatch(edit(`${named?.name ?? input}: measured bounce`, put))
  }
  return (
    <div>
      <h3 className="font-semibold">Bounce</h3>
      <p>
        {bounce.movements} movements, up to {bounce.mostEdges} edges each. Bounce up to{' '}
        <span className="font-mono">{bounce.longestMs.toFixed(2)} ms</span>, median{' '}
        <span className="font-mono">{bounce.medianMs.toFixed(2)} ms</span>. Settle time needed:{' '}
        <span className="font-mono">{bounce.settleMs} ms</span>.
      </p>
      {named && <GiveTo site={site} input={named} onPick={setInput} ms={bounce.longestMs} onSet={set} />}
    </div>
  )
}

interface GiveToProps {
  readonly site: Site
  readonly input: Input
  readonly ms: number
  readonly onPick: (id: Input['id']) => void
  readonly onSet: () => void
}

const GiveTo = ({ site, input, ms, onPick, onSet }: GiveToProps) => (
  <p className="mt-1 flex items-end gap-2">
    <label>
      <span className="field-label">Switch</span>
      <select className="field w-32" value={input.id} onChange={(event) => onPick(event.target.value as Input['id'])}>
        {site.inputs.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
    <button type="button" className="press" onClick={onSet}>
      Set bounce of {input.name}: {ms.toFixed(1)} ms
    </button>
  </p>
)

/** The capture beside a wire of the trial's run. */
function LaidOver({ edges }: { edges: Edges }) {
  const [run, setRun] = useState<string | null>(null)
  const [lane, setLane] = useState('')
  const load = (): void =>
    void recordedWave().then((text) => {
      setRun(text)
      setLane(vcdVariables(text).find(({ name }) => name.startsWith('contact_'))?.name ?? '')
    })
  const wires = run === null ? [] : vcdVariables(run).map(({ name }) => name)
  return (
    <div>
      <h3 className="font-semibold">Beside the run of the trial</h3>
      {run === null || run === '' ? (
        <>
          <button type="button" className="press" onClick={load}>
            Compare with run
          </button>
          {run === '' && <p className="mt-1 text-soft">No run yet: open the simulated house first.</p>}
        </>
      ) : (
        <>
          <label>
            <span className="field-label">Wire of the run</span>
            <select className="field w-64" value={lane} onChange={(event) => setLane(event.target.value)}>
              {wires.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          </label>
          <Shift found={overlay(waveEdges(run, lane), edges)} />
        </>
      )}
    </div>
  )
}

function Shift({ found: { shiftMs, matched, worstMs, onlyRun, onlyCapture } }: { found: Overlay }) {
  if (shiftMs === null) return <p className="mt-1 text-soft">No edge of one fits an edge of the other.</p>
  const odd = [
    ...onlyRun.map(({ t, level }) => `only in the run: ${level ? 'on' : 'off'} at ${clockOf(t)}`),
    ...onlyCapture.map(({ t, level }) => `only in the capture: ${level ? 'on' : 'off'} at ${clockOf(t)}`),
  ]
  return (
    <>
      <p className="mt-1">
        Shift <span className="font-mono">{shiftMs.toFixed(1)} ms</span>; {matched} edges match, at most{' '}
        <span className="font-mono">{worstMs.toFixed(1)} ms</span> apart.
      </p>
      <ul className="text-error">
        {odd.slice(0, 12).map((line) => (
          <li key={line}>✕ {line}</li>
        ))}
        {odd.length > 12 && <li>and {odd.length - 12} more</li>}
      </ul>
    </>
  )
}
