import { useState } from 'react'
import { PORTS } from '../../../core/boards'
import { beginCopy, plainFields, withField, type Profile } from './profiles'

interface EditorProps {
  readonly profile: Profile
  readonly taken: readonly string[]
  readonly onSave: (profile: Profile) => void
  readonly onForget: (() => void) | null
}

const asText = (profile: Profile): string => JSON.stringify(profile, null, 2)

function profileIn(text: string): Profile | null {
  try {
    const data = JSON.parse(text) as Profile
    return typeof data === 'object' ? data : null
  } catch {
    return null
  }
}

export function ProfileEditor({ profile, taken, onSave, onForget }: EditorProps) {
  const [text, setText] = useState(() => asText(profile))
  const [error, setError] = useState<string | null>(null)
  const parsed = profileIn(text)
  const save = async () => {
    const { readProfile } = await import('./readProfile')
    const answer = readProfile(text)
    setError(answer.ok ? null : answer.message)
    if (answer.ok) onSave(answer.profile)
  }
  return (
    <section aria-label={profile.name}>
      <div className="rule-head flex items-center gap-2">
        <h2>{profile.name}</h2>
        <span className="ml-auto flex shrink-0 gap-1.5 whitespace-nowrap">
          <button type="button" className="press text-note" onClick={() => setText(asText(beginCopy(profile, taken)))}>
            Begin a copy
          </button>
          {onForget && (
            <button type="button" className="press text-note" onClick={onForget}>
              Take mine out
            </button>
          )}
          <button type="button" className="press-main text-note" onClick={() => void save()}>
            Keep the profile
          </button>
        </span>
      </div>
      {error && (
        <p role="alert" className="mt-2 border-2 border-error px-2 py-1 text-error">
          {error}
        </p>
      )}
      <BothForms parsed={parsed} text={text} onText={setText} />
    </section>
  )
}

interface FormsProps {
  readonly parsed: Profile | null
  readonly text: string
  readonly onText: (text: string) => void
}

/** The same profile twice: its plain values as fields, and the whole of it as JSON. */
function BothForms({ parsed, text, onText }: FormsProps) {
  return (
    <div className="mt-2 grid grid-cols-2 gap-4">
      <div className="grid grid-cols-2 content-start gap-x-2 gap-y-1.5">
        {parsed &&
          plainFields(parsed).map(([path, value]) => (
            <PlainField
              key={path}
              path={path}
              value={value}
              onKeep={(next) => onText(asText(withField(parsed, path, next)))}
            />
          ))}
      </div>
      <label>
        <span className="field-label">The whole profile, as JSON{parsed ? '' : ' (not whole JSON yet)'}</span>
        <textarea
          className="field h-[30rem] font-mono text-[0.75rem] leading-snug"
          spellCheck={false}
          value={text}
          onChange={(event) => onText(event.target.value)}
        />
      </label>
    </div>
  )
}

const spoken = (path: string): string =>
  path
    .replace(/([A-Z])/g, ' $1')
    .replace('.', ', ')
    .toLowerCase()

interface FieldProps {
  readonly path: string
  readonly value: string | number | boolean
  readonly onKeep: (value: string | boolean) => void
}

function PlainField({ path, value, onKeep }: FieldProps) {
  return (
    <label className={['name', 'source', 'port'].includes(path) ? 'col-span-2' : ''}>
      <span className="field-label">{path === 'port' ? 'firmware' : spoken(path)}</span>
      {typeof value === 'boolean' ? (
        <input
          type="checkbox"
          className="size-4 accent-(--ink)"
          checked={value}
          onChange={(event) => onKeep(event.target.checked)}
        />
      ) : path === 'port' ? (
        <select className="field" value={String(value)} onChange={(event) => onKeep(event.target.value)}>
          {Object.entries(PORTS).map(([port, words]) => (
            <option key={port} value={port}>
              {words}
            </option>
          ))}
        </select>
      ) : (
        <input className="field" value={String(value)} onChange={(event) => onKeep(event.target.value)} />
      )}
    </label>
  )
}
