import type { Coding } from './types'

/** Values as the other end of a wire reads and writes them; apart from the engine's own coding. */

export function numberIn(coding: Coding, text: string): { value?: number } {
  if (coding.form === 'words')
    return text === coding.on ? { value: coding.max } : text === coding.off ? { value: coding.min } : {}
  const value = text.trim() === '' ? Number.NaN : Number(text)
  if (!Number.isFinite(value)) return {}
  if (coding.form === 'number') return { value }
  const { min, max, least, most } = coding
  return { value: min + Math.ceil(((value - least) * (max - min)) / (most - least)) }
}

export function wordOf(coding: Coding, value: number): string {
  if (coding.form === 'words') return value === coding.min ? coding.off : coding.on
  if (coding.form === 'number') return String(value)
  const { min, max, least, most } = coding
  return String(least + Math.floor(((value - min) * (most - least)) / (max - min)))
}

/** A number or a truth as it is, anything else between quotes. */
export const json = (word: string): string => (/^(-?\d+(\.\d+)?|true|false)$/.test(word) ? word : JSON.stringify(word))

/** A document with values at pointers (RFC 6901). */
export function documentOf(members: readonly (readonly [pointer: string, json: string])[]): string {
  const root: Record<string, unknown> = {}
  for (const [pointer, value] of members) {
    const steps = pointer
      .slice(1)
      .split('/')
      .map((step) => step.replaceAll('~1', '/').replaceAll('~0', '~'))
    let at = root
    for (const step of steps.slice(0, -1)) at = (at[step] ??= {}) as Record<string, unknown>
    at[steps.at(-1)!] = JSON.parse(value) as unknown
  }
  return JSON.stringify(root)
}
