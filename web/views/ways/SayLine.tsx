import { useState } from 'react'
import { resolveUtterance, resolutionWords } from '../../../core/voice'
import { useAppSelector } from '../../store/store'

/** A line to type what one would say, and see what it is taken for, and why. */
export function SayLine() {
  const site = useAppSelector((state) => state.site.site)!
  const [text, setText] = useState('')
  const found = text.trim() ? resolveUtterance(site, text) : null
  const taken = found !== null && (found.kind === 'device' || found.kind === 'many')
  return (
    <div className="border-t border-hair pt-2">
      <label className="block">
        <span className="field-label">Spoken phrase</span>
        <input
          className="field"
          value={text}
          placeholder="turn on the bench lights"
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      {found && (
        <div role="status" className="mt-1.5 text-note">
          <p className={`font-semibold ${taken ? 'text-rest' : 'text-error'}`}>
            {taken ? '→' : '✕'} {resolutionWords(found)}
          </p>
          <ul className="text-soft">
            {found.why.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </div>
      )}
    </div>
  )
}
