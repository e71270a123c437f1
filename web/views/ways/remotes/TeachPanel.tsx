import { wrap, type Remote as WorkerOf } from 'comlink'
import { useEffect, useRef, useState, type DragEvent } from 'react'
import { bitsSent, codeName, writePulseSpace, writeVcd, type Decoded } from '../../../../core/infrared'
import type { Key, Remote } from '../../../../core/site'
import { addKey } from '../../../../core/ways'
import { save } from '../../../parts/save'
import { edit } from '../../../store/editing'
import { useAppDispatch } from '../../../store/store'
import type { Heard, InfraredWorker } from '../../../workers/infrared.worker'
import { FrameDrawing } from './FrameDrawing'

/** The code that a frame teaches; a repeat frame teaches nothing. */
function codeOf(decoded: Decoded): Key['code'] | null {
  const { frame } = decoded
  if (frame.protocol === 'nec-repeat') return null
  if (frame.protocol === 'unknown') return { protocol: 'unknown', hash: frame.hash }
  return { protocol: frame.protocol, address: frame.address, command: frame.command }
}

/** Drop a capture, see its frames with their bits and their margins, and give them to keys. */
export function TeachPanel({ remote, picked }: { remote: Remote; picked: Key | undefined }) {
  const dispatch = useAppDispatch()
  const worker = useRef<WorkerOf<InfraredWorker> | null>(null)
  const [text, setText] = useState('')
  const [heard, setHeard] = useState<Heard | null>(null)
  const [busy, setBusy] = useState(false)
  const [at, setAt] = useState(0)
  useEffect(() => {
    const made = new Worker(new URL('../../../workers/infrared.worker.ts', import.meta.url), { type: 'module' })
    worker.current = wrap<InfraredWorker>(made)
    return () => made.terminate()
  }, [])
  const read = async (next: string) => {
    setText(next.length > 20_000 ? `${next.slice(0, 20_000)} …` : next)
    setBusy(true)
    setAt(0)
    setHeard(next.trim() ? ((await worker.current?.read(next)) ?? null) : null)
    setBusy(false)
  }
  const drop = (event: DragEvent) => {
    event.preventDefault()
    void event.dataTransfer.files[0]?.text().then(read)
  }
  const frame = heard?.ok ? heard.frames[at] : undefined
  const code = frame ? codeOf(frame) : null
  const sent =
    heard?.ok && frame
      ? bitsSent(heard.durations, frame)
          .map((one, i, all) => `${i > 0 && all[i - 1]!.group !== one.group ? ' ' : ''}${one.bit}`)
          .join('')
      : ''
  const teach = () =>
    code &&
    picked &&
    dispatch(
      edit(`“${picked.name}” is ${codeName(code)}`, (draft) => {
        draft.remotes.find((r) => r.id === remote.id)!.keys.find((k) => k.id === picked.id)!.code = code
      }),
    )
  const teachNew = () =>
    code &&
    dispatch(
      edit(
        `a key for ${codeName(code)}`,
        (draft) =>
          void addKey(
            draft,
            draft.remotes.find((r) => r.id === remote.id)!,
            `Key ${remote.keys.length + 1}`,
            code,
          ),
      ),
    )
  return (
    <section aria-label="Teach" onDragOver={(event) => event.preventDefault()} onDrop={drop}>
      <h2 className="rule-head">Teach</h2>
      <p className="mt-1 text-note text-soft">
        Drop a capture here, choose a file, or paste it: numbers of µs, pulse and space, a value change dump, or a logic
        analyser’s table.
      </p>
      <input
        type="file"
        aria-label="Capture file"
        className="file-field mt-1"
        onChange={(event) => void event.target.files?.[0]?.text().then(read)}
      />
      <textarea
        className="field mt-2.5 h-16 resize-y font-mono text-small"
        aria-label="Capture"
        spellCheck={false}
        placeholder="9000, 4500, 563, 563, …"
        value={text}
        onChange={(event) => void read(event.target.value)}
      />
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
      {heard?.ok && (
        <div role="status">
          <p className="mt-1 text-note text-soft">
            Read as {heard.format}: {heard.durations.length.toLocaleString('en')} durations, {heard.frames.length}{' '}
            {heard.frames.length === 1 ? 'frame' : 'frames'}, in {Math.max(1, Math.round(heard.milliseconds))} ms.
          </p>
          {heard.frames.length === 0 && (
            <p className="text-note text-error">
              No frame in it: nothing that any protocol makes, and nothing long enough to be one that is not known.
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
          {frame && (
            <div className="mt-2">
              <FrameDrawing durations={heard.durations} decoded={frame} />
              <dl className="mt-1 grid grid-cols-[7rem_1fr] gap-x-3 text-note">
                <dt className="text-soft">code</dt>
                <dd className="font-mono font-semibold">
                  {codeName(frame.frame)}
                  {'toggle' in frame.frame && frame.frame.toggle !== null ? `, toggle ${frame.frame.toggle}` : ''}
                </dd>
                {'address' in frame.frame && (
                  <>
                    <dt className="text-soft">address, command</dt>
                    <dd className="font-mono">
                      {frame.frame.address}, {frame.frame.command}
                    </dd>
                  </>
                )}
                {sent && (
                  <>
                    <dt className="text-soft">bits as sent</dt>
                    <dd className="font-mono">{sent}</dd>
                  </>
                )}
                {frame.fit && (
                  <>
                    <dt className="text-soft">fit</dt>
                    <dd>
                      worst {frame.fit.worst / 10} % off, {frame.fit.tolerance / 10} % are allowed: margin{' '}
                      {((frame.fit.tolerance - frame.fit.worst) / 10).toFixed(1)} %; marks stretched by{' '}
                      {frame.fit.stretch} µs
                    </dd>
                  </>
                )}
              </dl>
              <div className="mt-2 flex flex-wrap gap-1.5">
                {code && picked && (
                  <button type="button" className="press" onClick={teach}>
                    Teach it to “{picked.name}”
                  </button>
                )}
                {code && (
                  <button type="button" className="press" onClick={teachNew}>
                    A new key with it
                  </button>
                )}
                <button
                  type="button"
                  className="press-quiet"
                  onClick={() =>
                    save('frame.txt', writePulseSpace(heard.durations.slice(frame.from, frame.to)), 'text/plain')
                  }
                  aria-label="save as pulse/space"
                >
                  pulse/space
                </button>
                <button
                  type="button"
                  className="press-quiet"
                  onClick={() => save('frame.vcd', writeVcd(heard.durations.slice(frame.from, frame.to)), 'text/plain')}
                  aria-label="save as VCD"
                >
                  VCD
                </button>
              </div>
            </div>
          )}
        </div>
      )}
    </section>
  )
}
