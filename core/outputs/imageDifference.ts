import type { ControllerImage } from '../image'

/** One line of "what changed since the last flash". */
export interface ImageChange {
  readonly kind: 'added' | 'removed' | 'changed'
  readonly what: string
}

const LISTS = ['channels', 'inputs', 'bindings', 'points'] as const

const nameOf = (image: ControllerImage, list: (typeof LISTS)[number], row: unknown): string => {
  const item = row as { id?: string; vp?: number; input?: number; gesture?: string; action?: string; channel?: number }
  if (list === 'points') return `point vp${item.vp} of ${image.channels[item.channel!]?.id}`
  if (list === 'bindings') return `${image.inputs[item.input!]?.id}: ${item.gesture} ${item.action === item.gesture ? 'of' : item.action} ${image.channels[item.channel!]?.id}`
  return `${list === 'channels' ? 'channel' : 'input'} ${item.id}`
}

const fieldsThatDiffer = (a: object, b: object): string =>
  Object.keys(b).filter((key) => JSON.stringify((a as Record<string, unknown>)[key]) !== JSON.stringify((b as Record<string, unknown>)[key]))
    .map((key) => `${key} ${JSON.stringify((a as Record<string, unknown>)[key])} → ${JSON.stringify((b as Record<string, unknown>)[key])}`).join(', ')

/** What differs between the tables on the board and those of the site now, in a maker's words. */
export function imageChanges(before: ControllerImage, after: ControllerImage): ImageChange[] {
  const changes: ImageChange[] = []
  for (const key of ['board', 'link', 'outage', 'staggerMs', 'storeMs', 'minReportMs', 'heartbeatMs'] as const) {
    if (before[key] !== after[key]) changes.push({ kind: 'changed', what: `${key} ${String(before[key])} → ${String(after[key])}` })
  }
  for (const list of LISTS) {
    const old = new Map(before[list].map((row) => [nameOf(before, list, row), row]))
    const now = new Map(after[list].map((row) => [nameOf(after, list, row), row]))
    for (const [name, row] of now) {
      const was = old.get(name)
      if (!was) changes.push({ kind: 'added', what: name })
      else if (list !== 'bindings') {
        const fields = fieldsThatDiffer(was, row)
        if (fields) changes.push({ kind: 'changed', what: `${name}: ${fields}` })
      }
    }
    for (const name of old.keys()) if (!now.has(name)) changes.push({ kind: 'removed', what: name })
  }
  return changes
}
