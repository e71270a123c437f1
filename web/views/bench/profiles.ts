import type { BoardProfile, ModuleProfile } from '../../../core/boards'
import { plainCopy, type Site } from '../../../core/site'

export type Profile = BoardProfile | ModuleProfile
type Plain = string | number | boolean

const isModule = (profile: Profile): profile is ModuleProfile => 'kind' in profile

/** Keeps a corrected or a new profile in a draft of the site. */
export function keepProfile(draft: Site, profile: Profile): void {
  const list: Profile[] = isModule(profile) ? draft.profiles.modules : draft.profiles.boards
  const at = list.findIndex((mine) => mine.id === profile.id)
  if (at >= 0) list[at] = profile
  else list.push(profile)
}

const isPlain = (value: unknown): value is Plain => ['string', 'number', 'boolean'].includes(typeof value)

/** The plain values of a profile, one level deep, that a form can hold: path and value. */
export const plainFields = (profile: Profile): [string, Plain][] =>
  Object.entries(profile).flatMap(([key, value]): [string, Plain][] => {
    if (isPlain(value)) return [[key, value]]
    if (!value || typeof value !== 'object' || Array.isArray(value)) return []
    return Object.entries(value as object).flatMap(([inner, v]): [string, Plain][] =>
      isPlain(v) ? [[`${key}.${inner}`, v]] : [],
    )
  })

/** The profile with another value in one of those places; a number stays one where the text is one. */
export function withField(profile: Profile, path: string, text: string | boolean): Profile {
  const copy = plainCopy(profile) as unknown as Record<string, unknown>
  const [outer = '', inner] = path.split('.')
  const place = (inner === undefined ? copy : copy[outer]) as Record<string, unknown>
  const key = inner ?? outer
  const number = Number(text)
  place[key] = typeof place[key] === 'number' && text !== '' && !Number.isNaN(number) ? number : text
  return copy as unknown as Profile
}

/** A copy to begin one's own with, under an id that is free. */
export function beginCopy(profile: Profile, taken: readonly string[]): Profile {
  const base = `my-${profile.id}`
  let id = base.slice(0, 38)
  for (let n = 2; taken.includes(id); n++) id = `${base.slice(0, 36)}-${n}`
  return { ...profile, id, name: `My ${profile.name}`.slice(0, 60), source: 'my own' }
}
