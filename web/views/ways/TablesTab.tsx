import { useState } from 'react'
import { importChannels, importPoints, type Preview } from '../../../core/imports'
import {
  asyncApiText,
  channelsCsv,
  controlsTable,
  hubFiles,
  hubSecretsExample,
  infraredTable,
  pointsCsv,
  quotaTable,
  serialTable,
  voiceTable,
} from '../../../core/outputs'
import { applyOperations, type Site } from '../../../core/site'
import { duplicateController } from '../../../core/ways'
import { save } from '../../parts/save'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'

const EXPORTS: readonly { name: string; file: string; type: string; what: string; make: (site: Site) => string }[] = [
  {
    name: 'Channels',
    file: 'channels.csv',
    type: 'text/csv',
    what: 'place, pins, load and ways of each',
    make: channelsCsv,
  },
  {
    name: 'Points',
    file: 'points.csv',
    type: 'text/csv',
    what: 'number, range, unit and access of each',
    make: pointsCsv,
  },
  {
    name: 'Characters',
    file: 'serial-table.csv',
    type: 'text/csv',
    what: 'both ends of every link',
    make: serialTable,
  },
  { name: 'Spoken names', file: 'voice.csv', type: 'text/csv', what: 'with a line to try for each', make: voiceTable },
  {
    name: 'Remote keys',
    file: 'infrared.csv',
    type: 'text/csv',
    what: 'codes as numbers and as µs',
    make: infraredTable,
  },
  { name: 'Groups and modes', file: 'controls.csv', type: 'text/csv', what: 'what works them', make: controlsTable },
  { name: 'Quotas', file: 'quota.csv', type: 'text/csv', what: 'messages and bytes of each way', make: quotaTable },
  { name: 'Hub file', file: 'hub.yaml', type: 'application/yaml', what: 'entities, topics, heartbeat', make: hubFiles },
  {
    name: 'Hub secrets, empty',
    file: 'hub-secrets.example.yaml',
    type: 'application/yaml',
    what: 'what to fill in, apart',
    make: hubSecretsExample,
  },
  {
    name: 'AsyncAPI',
    file: 'asyncapi.yaml',
    type: 'application/yaml',
    what: 'every topic, version 3',
    make: asyncApiText,
  },
]

/** Tables that go out, and those that come back with what they would change. */
export function TablesTab() {
  const site = useAppSelector((state) => state.site.site)!
  return (
    <div className="grid grid-cols-2 gap-8">
      <section aria-label="Out">
        <h2 className="rule-head">Out</h2>
        <ul>
          {EXPORTS.map((one) => (
            <li key={one.file} className="flex items-center gap-3 border-b border-hair py-1">
              <span className="min-w-0 flex-1">
                <span className="font-semibold">{one.name}</span>
                <span className="block text-note leading-tight text-soft">{one.what}</span>
              </span>
              <button
                type="button"
                className="press text-note"
                aria-label={`Save ${one.name}`}
                onClick={() => save(`${site.id}-${one.file}`, one.make(site), one.type)}
              >
                {one.file}
              </button>
            </li>
          ))}
        </ul>
        <h2 className="rule-head mt-5">Same map, next room</h2>
        <Duplicate />
      </section>
      <section aria-label="In">
        <h2 className="rule-head">In</h2>
        <p className="mt-1 text-note text-soft">
          A table is shown as what it would change before anything is changed, and refused whole where a row is wrong.
        </p>
        <Import name="Points" read={importPoints} />
        <Import name="Channels" read={importChannels} />
      </section>
    </div>
  )
}

const SIGNS = { new: '＋', changed: '△', same: '＝' } as const

function Import({ name, read }: { name: string; read: (site: Site, text: string) => Preview }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const [text, setText] = useState('')
  const preview = text.trim() ? read(site, text) : null
  const real = preview?.ok ? preview.changes.filter((change) => change.kind !== 'same') : []
  return (
    <div className="mt-3">
      <label className="block">
        <span className="field-label">{name}, as CSV</span>
        <input
          type="file"
          accept=".csv,text/csv"
          aria-label={`${name} file`}
          className="file-field mb-1"
          onChange={(event) => void event.target.files?.[0]?.text().then(setText)}
        />
      </label>
      <textarea
        className="field h-20 resize-y font-mono text-small"
        aria-label={`${name} table`}
        spellCheck={false}
        placeholder="or paste the table here"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {preview && !preview.ok && (
        <ul role="alert" className="mt-1 border-l-4 border-error bg-panel px-2 py-1 text-note text-error">
          {preview.errors.slice(0, 12).map((error, i) => (
            <li key={i}>
              row {error.row}
              {error.column ? `, ${error.column}` : ''}: {error.what}
            </li>
          ))}
          {preview.errors.length > 12 && <li>{preview.errors.length - 12} more</li>}
        </ul>
      )}
      {preview?.ok && (
        <div className="mt-1" role="status">
          <ul
            className="max-h-44 overflow-auto border-y border-hair"
            tabIndex={0}
            aria-label={`What the ${name.toLowerCase()} table changes`}
          >
            {preview.changes.map((change) => (
              <li
                key={change.row}
                className={
                  'flex gap-2 border-b border-hair py-0.5 text-note ' + `${change.kind === 'same' ? 'text-soft' : ''}`
                }
              >
                <span aria-label={change.kind}>{SIGNS[change.kind]}</span>
                <span className="w-40 truncate font-semibold">{change.name}</span>
                <span className="min-w-0 flex-1">{change.what || 'as it is'}</span>
              </li>
            ))}
          </ul>
          <button
            type="button"
            className="press mt-1.5"
            disabled={real.length === 0}
            onClick={() => {
              dispatch(
                edit(preview.edit.label, (draft) => {
                  Object.assign(draft, applyOperations(site, preview.edit.patch))
                }),
              )
              setText('')
            }}
          >
            {real.length === 0
              ? 'Nothing changes'
              : `Take ${real.length} ${real.length === 1 ? 'change' : 'changes'} in`}
          </button>
        </div>
      )}
    </div>
  )
}

function Duplicate() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const [from, setFrom] = useState(site.controllers[0]?.id ?? '')
  const [name, setName] = useState('')
  const [room, setRoom] = useState('')
  if (site.controllers.length === 0) return null
  return (
    <form
      className="mt-2 grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (!name.trim() || !room.trim()) return
        dispatch(
          edit(
            `${name.trim()}: same map, next room`,
            (draft) => void duplicateController(draft, from, name.trim(), room.trim()),
          ),
        )
        setName('')
        setRoom('')
      }}
    >
      <label>
        <span className="field-label">Controller</span>
        <select className="field" value={from} onChange={(event) => setFrom(event.target.value as typeof from)}>
          {site.controllers.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      </label>
      <label>
        <span className="field-label">Its twin</span>
        <input
          className="field"
          value={name}
          maxLength={60}
          placeholder="Attic"
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label>
        <span className="field-label">Room</span>
        <input
          className="field"
          value={room}
          maxLength={60}
          placeholder="Attic room"
          onChange={(event) => setRoom(event.target.value)}
        />
      </label>
      <button type="submit" className="press" disabled={!name.trim() || !room.trim()}>
        Make it
      </button>
      <p className="col-span-4 text-small text-soft">
        Channels, switches, sensors, keys, characters, rules, points, entities and names once more; pins and numbers
        stay, since board and device are others.
      </p>
    </form>
  )
}
