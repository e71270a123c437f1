import { draftEdit, parseSite, type Edit, type Site } from '../site'
import type { RowError } from './rows'

/** One line of what an import would do. */
export interface Change {
  readonly kind: 'new' | 'changed' | 'same'
  readonly row: number
  readonly name: string
  /** "min 0 → 1, unit “” → “%”" */
  readonly what: string
}

/**
 * An import before it is done: what changes, or what is wrong. Bad input is refused whole: with an error there is no
 * edit.
 */
export type Preview =
  | {
      readonly ok: true
      readonly changes: readonly Change[]
      readonly edit: Edit
      /** columns of the table that hold something and are not taken: they only show it */
      readonly leftAlone: readonly string[]
    }
  | { readonly ok: false; readonly errors: readonly RowError[] }

/** Differences of two flat records as a person reads them. */
export function differences(
  before: Readonly<Record<string, unknown>>,
  after: Readonly<Record<string, unknown>>,
): string {
  const word = (value: unknown): string => (value === '' ? '“”' : String(value))
  return Object.keys(after)
    .filter((key) => before[key] !== after[key])
    .map((key) => `${key} ${word(before[key])} → ${word(after[key])}`)
    .join(', ')
}

/** The preview of a change that was gathered row by row; the document's own rules have the last word. */
export function previewOf(
  site: Site,
  label: string,
  changes: readonly Change[],
  errors: readonly RowError[],
  change: (draft: Site) => void,
  leftAlone: readonly string[] = [],
): Preview {
  if (errors.length) return { ok: false, errors }
  const { edit, after } = draftEdit(site, label, (draft) => change(draft as Site))
  const checked = parseSite(after)
  if (!checked.ok) return { ok: false, errors: [{ row: 1, column: '', what: checked.error.message }] }
  return { ok: true, changes, edit, leftAlone }
}
