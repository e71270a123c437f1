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
}

export interface UndoState<Entry extends HistoryEntry> {
  /** Edits that can be undone, the next one last. */
  readonly undo: readonly Entry[]
  /** Edits that can be redone, the next one last. */
  readonly redo: readonly Entry[]
}

/** Walks the entries in order of revision. A new edit ends what could be redone. */
export function undoState<Entry extends HistoryEntry>(entries: readonly Entry[]): UndoState<Entry> {
  const undo: Entry[] = []
  let redo: Entry[] = []
  for (const entry of entries) {
    if (entry.kind === 'edit') {
      undo.push(entry)
      redo = []
    } else if (entry.kind === 'undo') {
      const edit = undo.pop()
      if (edit) redo.push(edit)
    } else {
      const edit = redo.pop()
      if (edit) undo.push(edit)
    }
  }
  return { undo, redo }
}
