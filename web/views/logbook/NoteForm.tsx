import { useState, type FormEvent } from 'react'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { useAppSelector } from '../../store/store'

/** A note or a fault into the log, by hand. */
export function NoteForm({ controller }: { controller: string | null }) {
  const site = useAppSelector((state) => state.site.site!.id)
  const [text, setText] = useState('')
  const [fault, setFault] = useState(false)
  const write = async (event: FormEvent) => {
    event.preventDefault()
    if (!text.trim()) return
    const body = { kind: fault ? ('fault' as const) : ('note' as const), controller, text }
    if (await attempt(call('writeLog', { site, body }))) setText('')
  }
  return (
    <form className="flex flex-wrap items-end gap-2 border-b border-hair pb-2" onSubmit={(event) => void write(event)}>
      <label className="min-w-48 flex-1">
        <span className="field-label">New note</span>
        <input className="field" value={text} maxLength={2000} onChange={(event) => setText(event.target.value)} />
      </label>
      <label className="flex min-h-7 items-center gap-1.5">
        <input
          type="checkbox"
          className="size-4 accent-(--ink)"
          checked={fault}
          onChange={(event) => setFault(event.target.checked)}
        />
        Mark as fault
      </label>
      <button type="submit" className="press" disabled={!text.trim()}>
        Add note
      </button>
    </form>
  )
}
