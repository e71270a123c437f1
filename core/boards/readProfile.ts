import { ModuleProfile } from './modules'
import { BoardProfile } from './schema'

export type ProfileAnswer =
  | { readonly ok: true; readonly profile: BoardProfile | ModuleProfile }
  | { readonly ok: false; /** one line: the place and what is wrong there */ readonly message: string }

/**
 * A board's profile from before profiles named their port: what says that it is programmed as the 8-bit one is, is its
 * id, or the compiler that its settings name. Anything else is left to the schema.
 */
export function withPort<Plain extends object>(board: Plain): Plain {
  if ('port' in board) return board
  const { id, settings } = board as { id?: unknown; settings?: unknown }
  const isAvr = id === 'eight-bit-5v' || (JSON.stringify(settings) ?? '').includes('gcc-avr')
  return { ...board, port: isAvr ? 'avr' : 'board-core' }
}

/** Reads a board or module profile from JSON text. A bad one is refused whole, with the place. */
export function readProfile(text: string): ProfileAnswer {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    return { ok: false, message: 'the text is not whole JSON' }
  }
  const plain = typeof data === 'object' && data !== null ? data : {}
  const parsed = 'kind' in plain ? ModuleProfile.safeParse(plain) : BoardProfile.safeParse(withPort(plain))
  if (parsed.success) return { ok: true, profile: parsed.data }
  const issue = parsed.error.issues[0]!
  const place = issue.path
    .map((step, i) => (typeof step === 'number' ? `[${step}]` : `${i ? '.' : ''}${String(step)}`))
    .join('')
  return { ok: false, message: `${place || 'the profile'}: ${issue.message}` }
}
