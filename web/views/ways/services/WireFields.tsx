import { useRef, useState, type FormEvent } from 'react'
import {
  addSecret,
  FIRST_WIRES,
  keepServiceKind,
  removeSecret,
  SERVICE_KINDS,
  serviceKindFile,
  serviceKindIn,
  setWire,
} from '../../../../core/services'
import { plainCopy, type ServiceProfile, type Site, type Wire } from '../../../../core/site'
import { Fields } from '../../../parts/form'
import { ChoiceField } from '../../../parts/fields'
import { save } from '../../../parts/save'
import { edit } from '../../../store/editing'
import { useAppDispatch } from '../../../store/store'
import { useChange } from '../../../store/useChange'
import { HOOK_GROUPS } from './hookForm'
import { HTTP_GROUPS } from './httpForm'
import { MQTT_GROUPS } from './mqttForm'
import type { FieldGroup } from './wireForm'
import { DryRun } from './DryRun'
import { WirePreview } from './WirePreview'

const REACHED: Readonly<Record<Wire['transport'], string>> = {
  own: 'By the controller’s own topics on the broker of the house.',
  mqtt: 'Over a broker of its own (MQTT 3.1.1).',
  http: 'By requests (HTTP).',
  hook: 'By calls to the controller’s own port.',
}

/** How builds reach a kind of service: one line, and its fields, which make a copy of the kind in the site. */
export function WireFields({ kind, service }: { kind: ServiceProfile; service: string }) {
  const { wire } = kind
  return (
    <section aria-label="Wire">
      <h2 className="rule-head">Wire: how builds reach it</h2>
      <p className="mt-1 text-note">
        {wire ? REACHED[wire.transport] : 'Not entered: no build reaches this kind, and its keys are not read.'}
      </p>
      {!wire && <FirstWire kind={kind} />}
      {wire && wire.transport !== 'own' && (
        <>
          <WirePreview kind={kind.id} />
          <DryRun service={service} />
          <details className="mt-2">
            <summary className="min-h-6 cursor-pointer text-note">Edit wire and credentials</summary>
            <WireForm kind={kind} wire={wire} />
            <SecretList kind={kind} />
          </details>
        </>
      )}
      <button
        type="button"
        className="press mt-2"
        onClick={() => save(`${kind.id}.kind.json`, serviceKindFile(kind), 'application/json')}
      >
        Export kind (JSON)
      </button>
    </section>
  )
}

/** A kind without a wire: the one that ships, where there is one, or an example. */
function FirstWire({ kind }: { kind: ServiceProfile }) {
  const dispatch = useAppDispatch()
  const shipped = SERVICE_KINDS.find(({ id }) => id === kind.id)?.wire
  const take = (wire: Wire) => dispatch(edit(`${kind.name}: wire`, (draft) => setWire(draft, kind.id, plainCopy(wire))))
  return (
    <button type="button" className="press mt-1" onClick={() => take(shipped ?? FIRST_WIRES.mqtt)}>
      {shipped ? 'Add shipped wire' : 'Add wire'}
    </button>
  )
}

type OwnWire = Exclude<Wire, { transport: 'own' }>

/** The wire of the site's own copy of a kind. */
function wireIn(draft: Site, kind: string): OwnWire | undefined {
  const present = serviceKindIn(draft, kind)
  if (!present) return undefined
  if (!draft.profiles.services.some(({ id }) => id === kind)) keepServiceKind(draft, present)
  const wire = draft.profiles.services.find(({ id }) => id === kind)?.wire
  return wire?.transport === 'own' ? undefined : wire
}

const WIRE_GROUPS = { mqtt: MQTT_GROUPS, http: HTTP_GROUPS, hook: HOOK_GROUPS } as const

function WireForm({ kind, wire }: { kind: ServiceProfile; wire: OwnWire }) {
  const dispatch = useAppDispatch()
  const change = useChange<OwnWire>(`${kind.name}, wire`, (draft) => wireIn(draft, kind.id))
  const last = useRef<HTMLInputElement | null>(null)
  const groups = WIRE_GROUPS[wire.transport] as readonly FieldGroup<OwnWire>[]
  const transport = (next: OwnWire['transport']) =>
    dispatch(edit(`${kind.name}: transport`, (draft) => setWire(draft, kind.id, plainCopy(FIRST_WIRES[next]))))
  return (
    <div
      className="mt-1"
      onFocus={({ target }) => {
        if (target instanceof HTMLInputElement && target.type === 'text') last.current = target
      }}
    >
      <FillIns kind={kind} insert={(text) => insertAt(last.current, text)} />
      <div className="mt-2 w-56">
        <ChoiceField<OwnWire['transport']>
          label="Transport"
          value={wire.transport}
          choices={[
            ['mqtt', 'MQTT 3.1.1'],
            ['http', 'HTTP requests'],
            ['hook', 'calls to the controller'],
          ]}
          onKeep={transport}
        />
      </div>
      {groups.map(({ title, rows: fields }) => (
        <fieldset key={title} className="mt-3 border-t border-hair pt-1.5">
          <legend className="pr-2 text-small font-semibold">{title}</legend>
          <div className="grid grid-cols-2 items-start gap-x-3 gap-y-2 @md:grid-cols-3">
            <Fields<OwnWire> rows={fields} of={wire} change={change} />
          </div>
        </fieldset>
      ))}
    </div>
  )
}

/** What a text of a wire can name; a press puts it where the cursor was. */
function FillIns({ kind, insert }: { kind: ServiceProfile; insert: (text: string) => void }) {
  const facts = ['host', 'site', 'controller', 'service', 'number', 'key', 'name', 'value', 'topic', 'payload']
  const all = [...facts, ...kind.secrets.map(({ id }) => `credential:${id}`)]
  return (
    <div role="group" aria-label="Insert into the field" className="flex flex-wrap items-center gap-1">
      <span className="text-small text-soft">Insert:</span>
      {all.map((fact) => (
        <button
          key={fact}
          type="button"
          className="press-quiet px-1 font-mono text-small"
          // the field keeps the cursor
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => insert(`{${fact}}`)}
        >
          {`{${fact}}`}
        </button>
      ))}
    </div>
  )
}

/** As if it were typed: React hears of an input event only. */
function insertAt(input: HTMLInputElement | null, text: string): void {
  if (!input?.isConnected) return
  const from = input.selectionStart ?? input.value.length
  const to = input.selectionEnd ?? from
  const next = input.value.slice(0, from) + text + input.value.slice(to)
  Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(input, next)
  input.dispatchEvent(new Event('input', { bubbles: true }))
  input.focus()
  input.setSelectionRange(from + text.length, from + text.length)
}

function SecretList({ kind }: { kind: ServiceProfile }) {
  const dispatch = useAppDispatch()
  const [label, setLabel] = useState('')
  const change = (mutate: (draft: Site) => void) => dispatch(edit(`${kind.name}: credential`, (draft) => mutate(draft)))
  const remove = (id: string) => change((draft) => removeSecret(draft, kind.id, id))
  const add = (event: FormEvent) => {
    event.preventDefault()
    change((draft) => addSecret(draft, kind.id, label))
    setLabel('')
  }
  return (
    <div className="mt-3">
      <h3 className="text-small font-semibold">Credentials of this kind</h3>
      <ul className="text-note">
        {kind.secrets.map((secret) => (
          <li key={secret.id} className="flex items-center gap-2">
            <code>{`{credential:${secret.id}}`}</code> {secret.label},{' '}
            {secret.per === 'device' ? 'one per controller' : 'one for all'}
            <button type="button" className="press-quiet" onClick={() => remove(secret.id)}>
              Delete {secret.label}
            </button>
          </li>
        ))}
      </ul>
      <form className="mt-1 flex items-end gap-2" onSubmit={add}>
        <label className="block">
          <span className="field-label">New credential</span>
          <input className="field" value={label} onChange={(event) => setLabel(event.target.value)} />
        </label>
        <button type="submit" className="press" disabled={label.trim() === ''}>
          Add credential
        </button>
      </form>
    </div>
  )
}
