import type { Site } from '../../core/site'
import { edit } from './editing'
import { useAppDispatch } from './store'

/** Says what changes ("settle time"), and changes it; false: the thing is not there any more, and nothing happens. */
export type Change<T> = (what: string, mutate: (target: T) => void) => boolean

/** Changes of one thing of the document: `find` picks it out of the draft. */
export function useChange<T>(name: string, find: (draft: Site) => T | null | undefined): Change<T> {
  const dispatch = useAppDispatch()
  return (what, mutate) => {
    let there = false
    dispatch(
      edit(`${name}: ${what}`, (draft) => {
        const target = find(draft)
        there = Boolean(target)
        if (target) mutate(target)
      }),
    )
    return there
  }
}

/** One of a list, by its id. */
export const withId = <T extends { readonly id: string }>(list: readonly T[], id: string): T | undefined =>
  list.find((item) => item.id === id)
