import { ModuleProfile } from './modules'
import { BoardProfile } from './schema'

export type ProfileAnswer =
  | { readonly ok: true; readonly profile: BoardProfile | ModuleProfile }
  | { readonly ok: false; /** one line: the place and what is wrong there */ readonly message: string }

/** Reads a board or module profile from JSON text. A bad one is refused whole, with the place. */
export function readProfile(text: string): ProfileAnswer {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    return { ok: false, message: 'the text is not whole JSON' }
  }
  const isModule = typeof data === 'object' && data !== null && 'kind' in data
  const parsed = isModule ? ModuleProfile.safeParse(data) : BoardProfile.safeParse(data)
  if (parsed.success) return { ok: true, profile: parsed.data }
  const issue = parsed.error.issues[0]!
  const place = issue.path
    .map((step, i) => (typeof step === 'number' ? `[${step}]` : `${i ? '.' : ''}${String(step)}`))
    .join('')
  return { ok: false, message: `${place || 'the profile'}: ${issue.message}` }
}
