import { useState, type FormEvent } from 'react'
import type { LogEntry } from '../../../core/api'
import { graphOf } from '../whatif/graph'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { useAppSelector } from '../../store/store'

interface Props {
  readonly controller: string | null
  /** the entry that the next one corrects; null: none */
  readonly correcting: LogEntry | null
  readonly onCorrected: () => void
}

/** A note or a fault into the log, by hand; or what was wrong in an earlier one. */
export function NoteForm({ controller, correcting, onCorrected }: Props) {
  const site = useAppSelector((state) => state.site.site!.id)
  const [text, setText] = useState('')
  const [fault, setFault] = useState(false)
  const [part, setPart] = useState('')
  const write = async (event: FormEvent) => {
    event.preventDefault()
    if (!text.trim()) return
    const body = {
      ...{ kind: fault ? ('fault' as const) : ('note' as const), text },
      controller: correcting?.controller ?? controller,
      ...(correcting ? { corrects: correcting.id } : {}),
      ...(fault && part ? { part } : {}),
    }
    if (!(await attempt(call('writeLog', { site, body })))) return
    setText('')
    setPart('')
    onCorrected()
  }
  return (
    <form className="border-b border-hair pb-2" onSubmit={(event) => void write(event)}>
      {correcting && <Corrects entry={correcting} onOther={onCorrected} />}
      <div className="flex flex-wrap items-end gap-2">
        <label className="min-w-48 flex-1">
          <span className="field-label">{correcting ? 'The correction' : 'New note'}</span>
          <input className="field" value={text} maxLength={2000} onChange={(event) => setText(event.target.value)} />
        </label>
        <FaultField fault={fault} onFault={setFault} />
        {fault && <PartField part={part} onPart={setPart} />}
        <button type="submit" className="press" disabled={!text.trim()}>
          {correcting ? 'Add correction' : 'Add note'}
        </button>
      </div>
    </form>
  )
}

/** The entry that will stand as corrected. */
const Corrects = ({ entry, onOther }: { entry: LogEntry; onOther: () => void }) => (
  <p className="mb-1 flex flex-wrap items-baseline gap-x-3 text-note">
    <span>
      Corrects: <span className="text-soft">{entry.text}</span>
    </span>
    <button type="button" className="underline" onClick={onOther}>
      Write a new note instead
    </button>
  </p>
)

/** A note, or a fault of a part. */
function FaultField({ fault, onFault }: { fault: boolean; onFault: (fault: boolean) => void }) {
  return (
    <label className="flex min-h-7 items-center gap-1.5">
      <input
        type="checkbox"
        className="size-4 accent-(--ink)"
        checked={fault}
        onChange={(event) => onFault(event.target.checked)}
      />
      Mark as fault
    </label>
  )
}

/** Which part it was, so that faults of one part stand together. */
function PartField({ part, onPart }: { part: string; onPart: (part: string) => void }) {
  const site = useAppSelector((state) => state.site.site)!
  return (
    <label className="max-w-56">
      <span className="field-label">Part</span>
      <select className="field" value={part} onChange={(event) => onPart(event.target.value)}>
        <option value="">not known</option>
        {[...graphOf(site).values()].map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  )
}
