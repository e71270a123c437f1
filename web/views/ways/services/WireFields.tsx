import { useState } from 'react'
import { DATAPOINT_WIRE, setWire } from '../../../../core/services'
import { Wire, type ServiceProfile } from '../../../../core/site'
import { edit } from '../../../store/editing'
import { useAppDispatch } from '../../../store/store'

const REACHED: Readonly<Record<Wire['transport'], string>> = {
  own: 'By the controller’s own topics on the broker of the house.',
  mqtt: 'Over a broker of its own (MQTT 3.1.1).',
  http: 'By requests (HTTP).',
  hook: 'By calls to the controller’s own port.',
}

/** How builds reach a kind of service: one line, and its data to be corrected, which makes a copy of the kind here. */
export function WireFields({ kind }: { kind: ServiceProfile }) {
  return (
    <section aria-label="Wire">
      <h2 className="rule-head">Wire: how builds reach it</h2>
      <p className="mt-1 text-note">
        {kind.wire
          ? REACHED[kind.wire.transport]
          : 'Not entered: no build reaches this kind, and its keys are not read.'}
      </p>
      {/* another wire begins with its own text */}
      <WireEditor key={JSON.stringify(kind.wire ?? null)} kind={kind} />
    </section>
  )
}

const written = (wire: Wire): string => JSON.stringify(wire, null, 2)

/** A wire, or the one line that says what is wrong with it. */
function read(text: string): { readonly wire: Wire } | { readonly wrong: string } {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch (error) {
    return { wrong: `not JSON: ${(error as Error).message}` }
  }
  const parsed = Wire.safeParse(data)
  if (parsed.success) return { wire: parsed.data }
  const { path, message } = parsed.error.issues[0]!
  return { wrong: `${path.join('.') || 'wire'}: ${message}` }
}

function WireEditor({ kind }: { kind: ServiceProfile }) {
  const dispatch = useAppDispatch()
  const before = written(kind.wire ?? DATAPOINT_WIRE)
  const [text, setText] = useState(before)
  const answer = read(text)
  const wrong = 'wrong' in answer ? answer.wrong : null
  const isSaved = kind.wire !== undefined && text === before
  const save = () => {
    if ('wire' in answer) dispatch(edit(`${kind.name}: wire`, (draft) => setWire(draft, kind.id, answer.wire)))
  }
  return (
    <details className="mt-1">
      <summary className="min-h-6 cursor-pointer text-note">
        {kind.wire ? 'Edit wire' : 'Add wire from an example'}
      </summary>
      {wrong && (
        <p id={`wire-trouble-${kind.id}`} role="alert" className="text-note text-error">
          {wrong}
        </p>
      )}
      <label className="mt-1 block text-note">
        <FillIns kind={kind} />
        <textarea
          className="field mt-1 h-64 w-full font-mono text-note"
          spellCheck={false}
          value={text}
          aria-invalid={wrong !== null}
          aria-describedby={wrong ? `wire-trouble-${kind.id}` : undefined}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <button type="button" className="press mt-1" disabled={wrong !== null || isSaved} onClick={save}>
        Save wire
      </button>
    </details>
  )
}

const FillIns = ({ kind }: { kind: ServiceProfile }) => (
  <span className="text-soft">
    Addresses, topics and values. Fill-ins: {'{host} {controller} {number} {key} {value} {credential:ID}'}, with ID one
    of {kind.secrets.map(({ id }) => id).join(', ') || 'none'}.
  </span>
)
