import { useState, type FormEvent } from 'react'
import type { Preview } from '../../../core/imports'
import { FileField } from '../../parts/FileField'
import { applyOperations, importChannels, siteFromAnswers } from './begin'
import { useBeginning } from './beginFields'
import type { BeginningProps } from './useDoor'

/** A site from a table of channels: name, kind, room. Refused whole where a row is wrong. */
export function TableForm({ door }: BeginningProps) {
  const { fields, answers } = useBeginning({ boardNeeded: true })
  const [text, setText] = useState('')
  const empty = answers && siteFromAnswers({ ...answers, taken: door.taken }, [])
  const preview = empty && text.trim() !== '' ? importChannels(empty, text) : null
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (!empty || !preview?.ok) return
    void door.create({ site: applyOperations(empty, preview.edit.patch) })
  }
  return (
    <form className="grid gap-3 sm:grid-cols-3" onSubmit={submit}>
      {fields}
      <div className="sm:col-span-3">
        <FileField label="Channels file (CSV)" accept=".csv,text/csv" onText={setText} />
        <textarea
          className="field mt-2 h-28 resize-y font-mono text-note"
          aria-label="Channels table"
          spellCheck={false}
          value={text}
          placeholder={'name,kind,room\nDesk lamp,switched,Study'}
          onChange={(event) => setText(event.target.value)}
        />
      </div>
      {text.trim() !== '' && !answers && (
        <p className="text-note text-warning sm:col-span-3">Name, mains and board are needed to read the table.</p>
      )}
      {preview && <Result preview={preview} />}
      <div className="sm:col-span-3">
        <button type="submit" className="press-main" disabled={!preview?.ok}>
          Create site
        </button>
      </div>
    </form>
  )
}

/** What the table would make, or what is wrong with it. */
const Result = ({ preview }: { preview: Preview }) =>
  preview.ok ? (
    <ul className="max-h-44 overflow-auto text-note sm:col-span-3" aria-label="Preview" tabIndex={0}>
      {preview.changes.map(({ row, name, what }) => (
        <li key={row} className="border-b border-hair py-0.5">
          <span className="font-semibold">{name}</span> <span className="text-soft">{what}</span>
        </li>
      ))}
    </ul>
  ) : (
    <ul role="alert" className="border-l-4 border-error px-2 text-note text-error sm:col-span-3">
      {preview.errors.slice(0, 8).map(({ row, column, what }, at) => (
        <li key={at}>{`Row ${row}${column ? `, ${column}` : ''}: ${what}`}</li>
      ))}
    </ul>
  )
