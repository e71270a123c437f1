import { useState } from 'react'
import { boardsIn, modulesIn, type BoardProfile, type ModuleProfile } from '../../../core/boards'
import type { Site } from '../../../core/site'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'

type Profile = BoardProfile | ModuleProfile
const isModule = (profile: Profile): profile is ModuleProfile => 'kind' in profile

function keep(draft: Site, profile: Profile): void {
  const list: Profile[] = isModule(profile) ? draft.profiles.modules : draft.profiles.boards
  const at = list.findIndex((mine) => mine.id === profile.id)
  if (at >= 0) list[at] = profile
  else list.push(profile)
}

/** Board and module profiles: ours to be corrected, the maker's own to be added, by form and as JSON. */
export function ProfilesTab() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const all: Profile[] = [...boardsIn(site), ...modulesIn(site)]
  const own = new Set([...site.profiles.boards, ...site.profiles.modules].map((profile) => profile.id))
  const [picked, setPicked] = useState<string>(all[0]!.id)
  const [find, setFind] = useState('')
  const shown = all.filter((profile) => `${profile.name} ${profile.id}`.toLowerCase().includes(find.toLowerCase()))
  const profile = all.find((one) => one.id === picked) ?? all[0]!
  const save = (next: Profile) => {
    dispatch(edit(`profile ${next.name}`, (draft) => keep(draft, next)))
    setPicked(next.id)
  }
  const forget = () =>
    dispatch(
      edit(`profile ${profile.name} out`, (draft) => {
        draft.profiles.boards = draft.profiles.boards.filter((b) => b.id !== profile.id)
        draft.profiles.modules = draft.profiles.modules.filter((m) => m.id !== profile.id)
      }),
    )
  return (
    <div className="mt-3 grid grid-cols-[17rem_minmax(0,1fr)] gap-5">
      <div>
        <label className="block">
          <span className="field-label">Find a profile</span>
          <input className="field" value={find} onChange={(event) => setFind(event.target.value)} />
        </label>
        <ul className="mt-2 max-h-[34rem] overflow-auto" tabIndex={0} aria-label="Profiles">
          {shown.map((one) => (
            <li key={one.id}>
              <button
                type="button"
                aria-pressed={one.id === profile.id}
                className="min-h-6 w-full border-b border-hair py-1 text-left text-note leading-tight hover:bg-panel aria-pressed:bg-panel aria-pressed:font-semibold"
                onClick={() => setPicked(one.id)}
              >
                {one.name}
                {own.has(one.id) && <span className="ml-1 text-brass">yours</span>}
              </button>
            </li>
          ))}
        </ul>
      </div>
      <ProfileEditor
        key={`${profile.id}/${JSON.stringify(profile).length}`}
        profile={profile}
        taken={all.map((one) => one.id)}
        onSave={save}
        onForget={own.has(profile.id) ? forget : null}
      />
    </div>
  )
}

interface EditorProps {
  readonly profile: Profile
  readonly taken: readonly string[]
  readonly onSave: (profile: Profile) => void
  readonly onForget: (() => void) | null
}

/** The plain values of a profile, one level deep, that a form can hold. */
const plainFields = (profile: Profile): [string, string | number | boolean][] =>
  Object.entries(profile).flatMap(([key, value]): [string, string | number | boolean][] => {
    if (typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean') return [[key, value]]
    if (value && typeof value === 'object' && !Array.isArray(value))
      return Object.entries(value as object).flatMap(([inner, v]): [string, string | number | boolean][] =>
        typeof v === 'string' || typeof v === 'number' || typeof v === 'boolean' ? [[`${key}.${inner}`, v]] : [],
      )
    return []
  })

function withField(profile: Profile, path: string, text: string | boolean): Profile {
  const copy = structuredClone(profile) as unknown as Record<string, unknown>
  const [outer = '', inner] = path.split('.')
  const place = (inner === undefined ? copy : copy[outer]) as Record<string, unknown>
  const key = inner ?? outer
  const number = Number(text)
  place[key] = typeof place[key] === 'number' ? (text === '' || Number.isNaN(number) ? text : number) : text
  return copy as unknown as Profile
}

const spoken = (path: string): string =>
  path
    .replace(/([A-Z])/g, ' $1')
    .replace('.', ', ')
    .toLowerCase()

function ProfileEditor({ profile, taken, onSave, onForget }: EditorProps) {
  const [text, setText] = useState(() => JSON.stringify(profile, null, 2))
  const [error, setError] = useState<string | null>(null)
  let parsed: Profile | null
  try {
    parsed = JSON.parse(text) as Profile
  } catch {
    parsed = null
  }
  const fields = parsed && typeof parsed === 'object' ? plainFields(parsed) : []
  const set = (path: string, value: string | boolean) =>
    parsed && setText(JSON.stringify(withField(parsed, path, value), null, 2))
  const save = async () => {
    const { readProfile } = await import('./readProfile')
    const answer = readProfile(text)
    if (!answer.ok) setError(answer.message)
    else {
      setError(null)
      onSave(answer.profile)
    }
  }
  const copy = () => {
    let id = `my-${profile.id}`.slice(0, 38)
    for (let n = 2; taken.includes(id); n++) id = `my-${profile.id}`.slice(0, 36) + `-${n}`
    setText(JSON.stringify({ ...profile, id, name: `My ${profile.name}`.slice(0, 60), source: 'my own' }, null, 2))
  }
  return (
    <section aria-label={profile.name}>
      <div className="rule-head flex items-center gap-2">
        <h2>{profile.name}</h2>
        <span className="ml-auto flex shrink-0 gap-1.5 whitespace-nowrap">
          <button type="button" className="press text-note" onClick={copy}>
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
      <div className="mt-2 grid grid-cols-2 gap-4">
        <div className="grid grid-cols-2 content-start gap-x-2 gap-y-1.5">
          {fields.map(([path, value]) => (
            <label key={path} className={path === 'name' || path === 'source' ? 'col-span-2' : ''}>
              <span className="field-label">{spoken(path)}</span>
              {typeof value === 'boolean' ? (
                <input
                  type="checkbox"
                  className="size-4 accent-(--ink)"
                  checked={value}
                  onChange={(event) => set(path, event.target.checked)}
                />
              ) : (
                <input className="field" value={String(value)} onChange={(event) => set(path, event.target.value)} />
              )}
            </label>
          ))}
        </div>
        <label>
          <span className="field-label">The whole profile, as JSON{parsed ? '' : ' (not whole JSON yet)'}</span>
          <textarea
            className="field h-[30rem] font-mono text-[0.75rem] leading-snug"
            spellCheck={false}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </label>
      </div>
    </section>
  )
}
