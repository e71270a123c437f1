import { useState } from 'react'
import { ProfileForm } from './ProfileForm'
import { beginCopy, type Profile } from './profiles'

interface EditorProps {
  readonly profile: Profile
  readonly taken: readonly string[]
  readonly onSave: (profile: Profile) => void
  readonly onDelete: (() => void) | null
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

/** A profile as a form; the whole of it, pins and all, as JSON for whoever wants that. */
export function ProfileEditor({ profile, taken, onSave, onDelete }: EditorProps) {
  const [text, setText] = useState(() => asText(profile))
  const [json, setJson] = useState(false)
  const [error, setError] = useState<string | null>(null)
  const parsed = profileIn(text)
  const save = async () => {
    const { readProfile } = await import('./readProfile')
    const answer = readProfile(text)
    setError(answer.ok ? null : answer.message)
    if (answer.ok) onSave(answer.profile)
  }
  const presses: readonly (readonly [string, () => void])[] = [
    [json ? 'Show form' : 'Show JSON', () => setJson(!json)],
    ['Copy profile', () => setText(asText(beginCopy(profile, taken)))],
    ...(onDelete ? [['Delete my profile', onDelete] as const] : []),
  ]
  return (
    <section aria-label={profile.name}>
      <EditorHead name={profile.name} presses={presses} onSave={() => void save()} />
      {error && (
        <p role="alert" className="mt-2 border-2 border-error px-2 py-1 text-error">
          {error}
        </p>
      )}
      {json || !parsed ? (
        <JsonText text={text} whole={parsed !== null} onText={setText} />
      ) : (
        <ProfileForm profile={parsed} onChange={(next) => setText(asText(next))} />
      )}
    </section>
  )
}

interface HeadProps {
  readonly name: string
  readonly presses: readonly (readonly [words: string, press: () => void])[]
  readonly onSave: () => void
}

const EditorHead = ({ name, presses, onSave }: HeadProps) => (
  <div className="rule-head flex flex-wrap items-center gap-2">
    <h2>{name}</h2>
    <span className="ml-auto flex flex-wrap gap-1.5 whitespace-nowrap">
      {presses.map(([words, press]) => (
        <button key={words} type="button" className="press text-note" onClick={press}>
          {words}
        </button>
      ))}
      <button type="button" className="press-main text-note" onClick={onSave}>
        Save profile
      </button>
    </span>
  </div>
)

const JsonText = ({ text, whole, onText }: { text: string; whole: boolean; onText: (text: string) => void }) => (
  <label className="mt-2 block">
    <span className="field-label">The whole profile, as JSON{whole ? '' : ' (not whole JSON yet)'}</span>
    <textarea
      className="field h-[34rem] font-mono text-[0.75rem] leading-snug"
      spellCheck={false}
      value={text}
      onChange={(event) => onText(event.target.value)}
    />
  </label>
)
