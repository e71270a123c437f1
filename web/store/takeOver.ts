import { toast } from 'sonner'
import type { UndoLabels } from '../../core/api'
import { applyOperations, patchBetween, rebased, type Edit, type Operation, type Site } from '../../core/site'
import { siteActions } from './siteSlice'
import type { Thunk } from './store'

export interface Stored extends UndoLabels {
  readonly site: Site
  readonly revision: number
}

/** Edits on another document than they were made on, as far as that goes; and those that are about the same thing. */
function onTopOf(kept: Site, waiting: readonly Edit[], stored: Site) {
  const moved: Edit[] = []
  const lost: Edit[] = []
  let [ours, theirs] = [kept, stored]
  for (const edit of waiting) {
    const patch = rebased(edit.patch, patchBetween(ours, theirs))
    ours = applyOperations(ours, edit.patch)
    if (patch === null) lost.push(edit)
    else {
      theirs = applyOperations(theirs, patch)
      moved.push({ ...edit, patch })
    }
  }
  return { site: theirs, moved, lost }
}

/** What a person had typed in an edit, as far as it is a word or a figure. */
const typed = (patch: readonly Operation[]): string =>
  patch
    .flatMap((operation) => ('value' in operation ? [operation.value as unknown] : []))
    .filter((value) => typeof value === 'string' || typeof value === 'number')
    .map((value) => `“${value}”`)
    .join(', ')

/**
 * The document of the server, on which others have worked: what waits here is made on top of it. What is about the same
 * thing as theirs is said, with what was typed; it is never kept over theirs without a word.
 */
export const takeOver =
  (stored: Stored): Thunk =>
  (dispatch, getState) => {
    const { kept, waiting } = getState().site
    if (!kept) return
    const { site, moved, lost } = onTopOf(kept, waiting, stored.site)
    dispatch(siteActions.takenOver({ stored, site, waiting: moved }))
    for (const { label, patch } of lost) {
      const had = typed(patch)
      toast.error(`Not saved: ${label}. The same place was changed in another tab.${had && ` You had ${had}.`}`, {
        duration: Infinity,
        closeButton: true,
      })
    }
  }
