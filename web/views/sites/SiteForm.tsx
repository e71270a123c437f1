import { useState, type FormEvent } from 'react'
import type { DoorRow } from '../../../core/api'
import type { Door } from './useDoor'

/** What is being done to a site at the door. */
export type Doing = 'rename' | 'copy' | 'delete'

/** What each deed asks for, and says before it is done. */
const FORMS: Record<Doing, { label: string; begin: (name: string) => string; press: string; note: string }> = {
  rename: { label: 'New name', begin: (name) => name, press: 'Rename site', note: 'Its address does not change.' },
  copy: {
    label: 'Name of the copy',
    begin: (name) => `${name}, copy`,
    press: 'Copy site',
    note: 'Copies the site only: no builds, no logbook, no credentials, no undo.',
  },
  delete: {
    label: 'Type its name to delete it',
    begin: () => '',
    press: 'Delete site',
    note:
      'Deletes the site with its history, builds, logbook, tests and credentials; only a backup brings them back. ' +
      'Its boards are disconnected from the broker at once.',
  },
}

export function SiteForm({ site, what, door, onDone }: { site: DoorRow; what: Doing; door: Door; onDone: () => void }) {
  const { label, begin, note } = FORMS[what]
  const [name, setName] = useState(begin(site.name))
  const ready = what === 'delete' ? name.trim() === site.name : name.trim() !== ''
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (ready) void door[what](site, name.trim()).then((done) => done && onDone())
  }
  const field = `${what}-${site.id}`
  return (
    <form
      className="mb-3 border-l-3 border-brass-fill bg-panel px-3 py-2.5"
      onSubmit={submit}
      onKeyDown={(event) => event.key === 'Escape' && onDone()}
    >
      <label className="field-label" htmlFor={field}>
        {label}
      </label>
      <div className="flex gap-2">
        <input
          id={field}
          autoFocus
          className="field flex-1"
          value={name}
          maxLength={60}
          onChange={(event) => setName(event.target.value)}
        />
        <Presses what={what} ready={ready} onDone={onDone} />
      </div>
      <p className="mt-1.5 text-note text-soft">{note}</p>
    </form>
  )
}

const Presses = ({ what, ready, onDone }: { what: Doing; ready: boolean; onDone: () => void }) => (
  <>
    <button
      type="submit"
      className={what === 'delete' ? 'press border-error text-error' : 'press-main'}
      disabled={!ready}
    >
      {FORMS[what].press}
    </button>
    <button type="button" className="press" onClick={onDone}>
      Cancel
    </button>
  </>
)
