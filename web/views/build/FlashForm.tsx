import { useState, type FormEvent } from 'react'
import type { BuildRow } from '../../../core/api'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'

/** Writes down that this build is on its board. */
export function FlashForm({ build }: { build: BuildRow }) {
  const [boardPackage, setBoardPackage] = useState('')
  const [note, setNote] = useState('')
  const record = async (event: FormEvent) => {
    event.preventDefault()
    const done = await attempt(
      call('newFlash', { build: String(build.id), body: { boardPackage, note } }),
      `Written down: build ${build.number} is on the board`,
    )
    if (done) setNote('')
  }
  return (
    <form aria-label="Record a flash" onSubmit={(event) => void record(event)}>
      <h2 className="rule-head">Flashed build {build.number}?</h2>
      <label className="mt-1.5 block">
        <span className="field-label">Board package version</span>
        <input
          className="field"
          value={boardPackage}
          maxLength={120}
          placeholder="3.1.2"
          onChange={(event) => setBoardPackage(event.target.value)}
        />
      </label>
      <label className="mt-1.5 block">
        <span className="field-label">Note</span>
        <input className="field" value={note} maxLength={500} onChange={(event) => setNote(event.target.value)} />
      </label>
      <button type="submit" className="press mt-2">
        Write the flash down
      </button>
    </form>
  )
}
