/**
 * Undo over an append-only list of edits: an undo is itself an edit, which names the one that it takes back.
 * Nothing is ever removed, so the history of a site is whole and undo works across reloads and tabs.
 */
export type HistoryKind = 'edit' | 'undo' | 'redo'

export interface HistoryEntry {
  readonly revision: number
  readonly label: string
  readonly kind: HistoryKind
  /** For undo and redo: the revision of the edit that it concerns. */
  readonly of: number | null
  /** the tab that made it; empty: none said who it was */
  readonly tab: string
}

export interface UndoState<Entry extends HistoryEntry> {
  /** Edits that can be undone, the next one last. */
  readonly undo: readonly Entry[]
  /** Edits that can be redone, the next one last. */
  readonly redo: readonly Entry[]
  /** The last edit of all that stands, where it is another tab's. */
  readonly elsewhere: Entry | null
}

/**
 * What one tab can undo and redo, by walking the entries in order of revision; null: whatever anybody did. A new edit
 * ends what its own tab could redo.
 */
export function undoState<Entry extends HistoryEntry>(
  entries: readonly Entry[],
  tab: string | null = null,
): UndoState<Entry> {
  const standing = new Map<number, Entry>()
  const edits = new Map<number, Entry>()
  let redo: Entry[] = []
  const own = (entry: Entry): boolean => tab === null || entry.tab === tab
  for (const entry of entries) {
    if (entry.kind === 'edit') {
      edits.set(entry.revision, entry)
      standing.set(entry.revision, entry)
      if (own(entry)) redo = []
      continue
    }
    const edit = edits.get(entry.of ?? -1)
    if (!edit) continue
    redo = redo.filter((candidate) => candidate !== edit)
    if (entry.kind === 'redo') standing.set(edit.revision, edit)
    else {
      standing.delete(edit.revision)
      if (own(entry)) redo.push(edit)
    }
  }
  const all = [...standing.values()].sort((a, b) => a.revision - b.revision)
  const last = all.at(-1)
  return { undo: all.filter(own), redo, elsewhere: last && !own(last) ? last : null }
}

/** The revision at which an edit last began to stand, or was taken back. */
export const lastTurn = (entries: readonly HistoryEntry[], edit: HistoryEntry): number =>
  entries.findLast((entry) => entry.of === edit.revision)?.revision ?? edit.revision
