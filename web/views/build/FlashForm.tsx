import { useState, type FormEvent } from 'react'
import type { BuildRow } from '../../../core/api'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'

interface Props {
  readonly build: BuildRow
  /** what the flash steps ask to be pinned */
  readonly tools: readonly string[]
  /** what the last flash of this controller was made with; it is offered again */
  readonly last: Readonly<Record<string, string>>
}

/** Writes down that this build is on its board, and what it was made with. */
export function FlashForm({ build, tools, last }: Props) {
  const [versions, setVersions] = useState<Record<string, string>>(() =>
    Object.fromEntries(tools.map((tool) => [tool, last[tool] ?? ''])),
  )
  const [note, setNote] = useState('')
  const record = async (event: FormEvent) => {
    event.preventDefault()
    const done = await attempt(
      call('newFlash', { build: String(build.id), body: { versions, note } }),
      `Saved: build ${build.number} is on the board`,
    )
    if (done) setNote('')
  }
  return (
    <form aria-label="Record a flash" onSubmit={(event) => void record(event)}>
      <h2 className="rule-head">Flash of build {build.number}</h2>
      {tools.map((tool) => (
        <label key={tool} className="mt-1.5 block">
          <span className="field-label">{tool[0]!.toUpperCase() + tool.slice(1)}, version</span>
          <input
            className="field"
            value={versions[tool] ?? ''}
            maxLength={120}
            onChange={(event) => setVersions({ ...versions, [tool]: event.target.value })}
          />
        </label>
      ))}
      <label className="mt-1.5 block">
        <span className="field-label">Note</span>
        <input className="field" value={note} maxLength={500} onChange={(event) => setNote(event.target.value)} />
      </label>
      <button type="submit" className="press mt-2">
        Record flash
      </button>
    </form>
  )
}
