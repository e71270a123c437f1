import { applyPatch, createPatch, Pointer as JsonPointer } from 'rfc6902'
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

/** Copies can double what is there with each operation: all together they may make so many characters. */
const MOST_COPIED = 4_000_000

const partsOf = (path: string): string[] => JsonPointer.fromJSON(path).tokens.slice(1)
const childOf = (value: unknown, key: string): unknown =>
  typeof value === 'object' && value !== null && Object.hasOwn(value, key)
    ? (value as Record<string, unknown>)[key]
    : undefined

/**
 * What is wrong with a path, or null. The library takes "-1", "01" and "1e0" for places in a list; RFC 6901, clause 4,
 * knows digits without a leading zero, and "-" for the place behind the last.
 */
function wrongPath(draft: unknown, path: string, op?: Operation['op']): string | null {
  if (path !== '' && !path.startsWith('/')) return 'a path begins with "/" (RFC 6901, clause 3)'
  const parts = partsOf(path)
  if (parts.length === 0 && op !== 'test') return 'the whole document is not edited in one piece: send it as a new site'
  let at = draft
  for (const [i, part] of parts.entries()) {
    if (
      Array.isArray(at) &&
      !/^(0|[1-9][0-9]*)$/.test(part) &&
      !(part === '-' && op === 'add' && i === parts.length - 1)
    )
      return `"${part}" is no place in a list`
    if (Array.isArray(at) && op === 'add' && Number(part) > at.length) return `the list ends before ${part}`
    if (!Array.isArray(at) && ['__proto__', 'constructor', 'prototype'].includes(part)) return `"${part}" is no field`
    at = childOf(at, part)
  }
  return null
}

/** Characters of the value at a path, as JSON. */
const sizeAt = (draft: unknown, path: string): number =>
  JSON.stringify(partsOf(path).reduce(childOf, draft))?.length ?? 0

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
    let copied = 0
    patch.forEach((operation, at) => {
      const refuse = (why: string): never => {
        throw new EditRefused(`operation ${at + 1} (${operation.op} ${operation.path || '/'}): ${why}`)
      }
      const wrong = 'from' in operation ? wrongPath(draft, operation.from) : null
      const why = wrong ?? wrongPath(draft, operation.path, operation.op)
      if (why !== null) refuse(why)
      if (operation.op === 'copy') copied += sizeAt(draft, operation.from)
      if (copied > MOST_COPIED) refuse(`copies more than ${MOST_COPIED / 1_000_000} MB`)
      const [problem] = applyPatch(draft, [operation])
      if (problem) refuse(problem.message || problem.name)
    })
  })
}

/** The edit that takes an edit back, worked out on the document as it was before. */
export const inverseOf = (before: Site, edit: Edit): Edit => ({
  label: edit.label,
  patch: patchBetween(applyOperations(before, edit.patch), before),
})
