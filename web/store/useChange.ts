import type { Site } from '../../core/site'
import { edit } from './editing'
import { useAppDispatch } from './store'

/** Says what changes ("settle time"), and changes it. */
export type Change<T> = (what: string, mutate: (target: T) => void) => void

/** Changes of one thing of the document: `find` picks it out of the draft; where it is gone, nothing happens. */
export function useChange<T>(name: string, find: (draft: Site) => T | null | undefined): Change<T> {
  const dispatch = useAppDispatch()
  return (what, mutate) =>
    dispatch(
      edit(`${name}: ${what}`, (draft) => {
        const target = find(draft)
        if (target) mutate(target)
      }),
    )
}

/** One of a list, by its id. */
export const withId = <T extends { readonly id: string }>(list: readonly T[], id: string): T | undefined =>
  list.find((item) => item.id === id)
