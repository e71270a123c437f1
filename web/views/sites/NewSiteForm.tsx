import { useState, type FormEvent } from 'react'
import { useBeginning } from './beginFields'
import type { BeginningProps } from './useDoor'

/** "Desk lamp, shelf lamp": one name after the other, by commas or lines. */
const namesIn = (text: string): string[] =>
  text
    .split(/[,;\n]/)
    .map((name) => name.trim().slice(0, 60))
    .filter(Boolean)

/** A new site from three or four answers; with a board and names, its channels are there and their pins planned. */
export function NewSiteForm({ door }: BeginningProps) {
  const { fields, answers, board } = useBeginning({ boardNeeded: false })
  const [things, setThings] = useState('')
  const names = namesIn(things)
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    if (!answers) return
    if (answers.board === null) return door.create({ name: answers.name, mains: answers.mains })
    const { siteFromAnswers } = await import('./begin')
    return door.create({ site: siteFromAnswers({ ...answers, taken: door.taken }, names) })
  }
  return (
    <form className="grid gap-3 sm:grid-cols-3" onSubmit={(event) => void submit(event)}>
      {fields}
      <label className="block sm:col-span-3">
        <span className="field-label">Channels (what it switches), separated by commas</span>
        <input
          className="field"
          value={things}
          maxLength={2000}
          placeholder="Desk lamp, Shelf lamp"
          onChange={(event) => setThings(event.target.value)}
        />
        {names.length > 0 && board === null && (
          <span className="mt-0.5 block text-small text-warning">Choose the board that switches them.</span>
        )}
      </label>
      <div>
        <button type="submit" className="press-main" disabled={!answers || (names.length > 0 && board === null)}>
          Create site
        </button>
      </div>
    </form>
  )
}
