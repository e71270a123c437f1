import { useState } from 'react'
import type { TrialPart } from './parts'

/** A line to say something; what it was taken for stands in the time line. */
export function Voice({ site, act }: TrialPart) {
  const [text, setText] = useState('')
  const names = site.ways.flatMap((way) => (way.kind === 'voice' ? [way.name] : []))
  if (names.length === 0) return null
  return (
    <section aria-label="Voice">
      <h2 className="rule-head">Voice</h2>
      <form
        className="mt-1.5 flex gap-1.5"
        onSubmit={(event) => {
          event.preventDefault()
          if (!text.trim()) return
          act({ kind: 'say', text })
          setText('')
        }}
      >
        <input
          className="field min-w-0 flex-1"
          aria-label="Spoken phrase"
          value={text}
          placeholder={`turn on ${names[0]}`}
          onChange={(event) => setText(event.target.value)}
        />
        <button type="submit" className="press" disabled={!text.trim()}>
          Say phrase
        </button>
      </form>
    </section>
  )
}
