import { wrap, type Remote as WorkerOf } from 'comlink'
import { useEffect, useRef, useState, type DragEvent } from 'react'
import { codeName } from '../../../../core/infrared'
import { FileField } from '../../../parts/FileField'
import { edit } from '../../../store/editing'
import { useAppDispatch } from '../../../store/store'
import { withId } from '../../../store/useChange'
import type { Key, Remote } from '../../../../core/site'
import type { Heard, InfraredWorker } from '../../../workers/infrared.worker'
import { HeardKeys } from './HeardKeys'
import { TaughtFrame } from './TaughtFrame'

const LONGEST_SHOWN = 20_000

/** Reads captures in a worker: the text as it is shown, what was heard in it, and whether it is still being read. */
function useCapture() {
  const worker = useRef<WorkerOf<InfraredWorker> | null>(null)
  const [text, setText] = useState('')
  const [heard, setHeard] = useState<Heard | null>(null)
  const [busy, setBusy] = useState(false)
  useEffect(() => {
    const made = new Worker(new URL('../../../workers/infrared.worker.ts', import.meta.url), { type: 'module' })
    worker.current = wrap<InfraredWorker>(made)
    return () => made.terminate()
  }, [])
  const read = async (next: string) => {
    setText(next.length > LONGEST_SHOWN ? `${next.slice(0, LONGEST_SHOWN)} …` : next)
    setBusy(true)
    setHeard(next.trim() ? ((await worker.current?.read(next)) ?? null) : null)
    setBusy(false)
  }
  return { text, heard, busy, read }
}

/** Drop a capture, see its frames with their bits and their margins, and give them to keys. */
export function TeachPanel({ remote, picked }: { remote: Remote; picked: Key | undefined }) {
  const { text, heard, busy, read } = useCapture()
  const dispatch = useAppDispatch()
  const teachCode = (code: Key['code']) => {
    if (picked)
      dispatch(
        edit(`“${picked.name}” is ${codeName(code)}`, (draft) => {
          const target = withId(withId(draft.remotes, remote.id)?.keys ?? [], picked.id)
          if (target) target.code = code
        }),
      )
  }
  const readFile = (file: File | undefined) => void file?.text().then(read)
  const drop = (event: DragEvent) => {
    event.preventDefault()
    readFile(event.dataTransfer.files[0])
  }
  return (
    <section aria-label="Teach" onDragOver={(event) => event.preventDefault()} onDrop={drop}>
      <h2 className="rule-head">Teach</h2>
      <p className="mt-1 text-note text-soft">
        Drop a capture here, choose a file, or paste it: numbers of µs, pulse and space, a value change dump, or a logic
        analyser’s table.
      </p>
      <HeardKeys remote={remote} onCapture={(next) => void read(next)} onCode={teachCode} />
      <CaptureField text={text} onText={(next) => void read(next)} />
      {busy && (
        <p role="status" className="text-note text-soft">
          Reading …
        </p>
      )}
      {heard && !heard.ok && (
        <p role="alert" className="mt-1 text-note text-error">
          {heard.message}
        </p>
      )}
      {heard?.ok && <FramesHeard key={text} heard={heard} remote={remote} picked={picked} />}
    </section>
  )
}

interface CaptureProps {
  readonly text: string
  readonly onText: (text: string) => void
}

const CaptureField = ({ text, onText }: CaptureProps) => (
  <>
    <div className="mt-1.5">
      <FileField label="Capture file" accept=".vcd,.csv,.txt,text/*" onText={onText} />
    </div>
    <textarea
      className="field mt-2.5 h-16 resize-y font-mono text-small"
      aria-label="Capture"
      spellCheck={false}
      placeholder="9000, 4500, 563, 563, …"
      value={text}
      onChange={(event) => onText(event.target.value)}
    />
  </>
)

type Understood = Extract<Heard, { ok: true }>

const readAs = ({ format, durations, frames, milliseconds }: Understood): string =>
  `Read as ${format}: ${durations.length.toLocaleString('en')} durations, ` +
  `${frames.length} ${frames.length === 1 ? 'frame' : 'frames'}, in ${Math.max(1, Math.round(milliseconds))} ms.`

interface HeardProps {
  readonly heard: Understood
  readonly remote: Remote
  readonly picked: Key | undefined
}

function FramesHeard({ heard, remote, picked }: HeardProps) {
  const [at, setAt] = useState(0)
  const decoded = heard.frames[at]
  return (
    <div role="status">
      <p className="mt-1 text-note text-soft">{readAs(heard)}</p>
      {heard.frames.length === 0 && (
        <p className="text-note text-error">
          No frame found: no known protocol fits, and nothing is long enough to be an unknown one.
        </p>
      )}
      <div className="mt-1 flex flex-wrap gap-1">
        {heard.frames.slice(0, 24).map((one, i) => (
          <button
            key={i}
            type="button"
            aria-pressed={i === at}
            className="press px-1.5 font-mono text-small aria-pressed:bg-ink aria-pressed:text-wall"
            onClick={() => setAt(i)}
          >
            {codeName(one.frame)}
          </button>
        ))}
      </div>
      {decoded && <TaughtFrame durations={heard.durations} decoded={decoded} remote={remote} picked={picked} />}
    </div>
  )
}
