import { applyPatch, createPatch } from 'rfc6902'
import type { Operation } from 'rfc6902'
import { produce, type Draft } from 'immer'
import type { Site } from './schema'

/** One change of the document: RFC 6902 operations, and what a person would call it. */
export interface Edit {
  readonly label: string
  readonly patch: readonly Operation[]
}

export type { Operation }

/** The patch does not fit this document: a path that is not there. */
export class EditRefused extends Error {
  readonly code = 'edit-refused'
}

type Pointer = Parameters<NonNullable<Parameters<typeof createPatch>[2]>>[2]

/** Same JSON value? Identity first: Immer shares what did not change, so most comparisons end there. */
function same(a: unknown, b: unknown): boolean {
  if (a === b) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false
  if (Array.isArray(a) !== Array.isArray(b)) return false
  if (Array.isArray(a))
    return a.length === (b as unknown[]).length && a.every((item, i) => same(item, (b as unknown[])[i]))
  const keys = Object.keys(a)
  return (
    keys.length === Object.keys(b).length &&
    keys.every(
      (key) => Object.hasOwn(b, key) && same((a as Record<string, unknown>)[key], (b as Record<string, unknown>)[key]),
    )
  )
}

/**
 * The library's own list difference is quadratic (measured: 190 ms for a 200-channel list); lists here change at one
 * place, so the equal ends are trimmed and only the middle is written.
 */
function listPatch(before: readonly unknown[], after: readonly unknown[], pointer: Pointer): Operation[] {
  let head = 0
  while (head < before.length && head < after.length && same(before[head], after[head])) head++
  let tail = 0
  while (
    tail < before.length - head &&
    tail < after.length - head &&
    same(before[before.length - 1 - tail], after[after.length - 1 - tail])
  )
    tail++
  const removed = before.length - head - tail
  const added = after.length - head - tail
  const operations: Operation[] = []
  if (removed === added) {
    for (let i = head; i < head + added; i++)
      operations.push(...valuePatch(before[i], after[i], pointer.add(String(i))))
    return operations
  }
  for (let i = 0; i < removed; i++) operations.push({ op: 'remove', path: pointer.add(String(head)).toString() })
  for (let i = 0; i < added; i++)
    operations.push({ op: 'add', path: pointer.add(String(head + i)).toString(), value: after[head + i] })
  return operations
}

function valuePatch(before: unknown, after: unknown, pointer: Pointer): Operation[] {
  if (same(before, after)) return []
  if (Array.isArray(before) && Array.isArray(after)) return listPatch(before, after, pointer)
  return createPatch(before, after, custom).map((operation) => prefixed(operation, pointer))
}

function prefixed(operation: Operation, pointer: Pointer): Operation {
  const prefix = pointer.toString()
  return 'from' in operation
    ? { ...operation, from: prefix + operation.from, path: prefix + operation.path }
    : { ...operation, path: prefix + operation.path }
}

function custom(before: unknown, after: unknown, pointer: Pointer): Operation[] | void {
  if (same(before, after)) return []
  if (Array.isArray(before) && Array.isArray(after)) return listPatch(before, after, pointer)
}

/** Operations that lead from one value to another. */
export function patchBetween(before: unknown, after: unknown): Operation[] {
  return createPatch(before, after, custom)
}

/** What a function that changes a draft of the document makes of it: the edit, and the document after it. */
export function draftEdit(
  site: Site,
  label: string,
  change: (draft: Draft<Site>) => void,
): { edit: Edit; after: Site } {
  const after = produce(site, (draft) => void change(draft))
  return { edit: { label, patch: patchBetween(site, after) }, after }
}

/** The same where only the edit is wanted. An edit that changes nothing has an empty patch. */
export const makeEdit = (site: Site, label: string, change: (draft: Draft<Site>) => void): Edit =>
  draftEdit(site, label, change).edit

/** The document after the patch; the old one is untouched and shares all that did not change. Throws EditRefused. */
export function applyOperations(site: Site, patch: readonly Operation[]): Site {
  return produce(site, (draft) => {
    const problems = applyPatch(draft, patch as Operation[])
    const at = problems.findIndex((problem) => problem !== null)
    if (at >= 0)
      throw new EditRefused(
        `operation ${at + 1} (${patch[at]!.op} ${patch[at]!.path}): ${problems[at]!.message || problems[at]!.name}`,
      )
  })
}

/** The edit that takes an edit back, worked out on the document as it was before. */
export const inverseOf = (before: Site, edit: Edit): Edit => ({
  label: edit.label,
  patch: patchBetween(applyOperations(before, edit.patch), before),
})
