import { useState } from 'react'
import { z } from 'zod'
import { ANSWERS, type Answer, type Given } from '../../../../core/diagnosis'

/** A search as it stands: kept while the tab lives, so that a look at the connection list loses nothing. */
export interface SearchState {
  readonly channel: string | null
  readonly given: readonly Given[]
  readonly skipped: readonly string[]
  /** the answers may be wrong now and then */
  readonly unsure: boolean
  readonly changed: string
  /** practice: number of the suspect that is hidden in the simulated house; null: a real house is looked at */
  readonly hidden: number | null
}

const NEW: SearchState = { channel: null, given: [], skipped: [], unsure: false, changed: '', hidden: null }
const Kept = z.object({
  channel: z.string().nullable(),
  given: z.array(z.object({ observation: z.string(), answer: z.enum(ANSWERS) })),
  skipped: z.array(z.string()),
  unsure: z.boolean(),
  changed: z.string(),
  hidden: z.number().nullable(),
})

function kept(key: string): SearchState {
  try {
    const parsed = Kept.safeParse(JSON.parse(sessionStorage.getItem(key) ?? ''))
    return parsed.success ? parsed.data : NEW
  } catch {
    return NEW
  }
}

export function useSearch(site: string) {
  const key = `vestibule-search-${site}`
  const [search, setSearch] = useState(() => kept(key))
  const set = (changes: Partial<SearchState>): void => {
    const next = { ...search, ...changes }
    setSearch(next)
    try {
      sessionStorage.setItem(key, JSON.stringify(next))
    } catch {
      // a browser that keeps nothing keeps the search on the page
    }
  }
  return {
    search,
    set,
    begin: (channel: string, hidden: number | null = null) => set({ ...NEW, channel, hidden, unsure: search.unsure }),
    answer: (observation: string, answer: Answer) => set({ given: [...search.given, { observation, answer }] }),
    /** An answer to what is seen at first: another one takes its place, the same one takes it back. */
    say: (observation: string, answer: Answer) => {
      const others = search.given.filter((one) => one.observation !== observation)
      const same = search.given.some((one) => one.observation === observation && one.answer === answer)
      set({ given: same ? others : [...others, { observation, answer }] })
    },
    back: () => set({ given: search.given.slice(0, -1) }),
    skip: (observation: string) => set({ skipped: [...search.skipped, observation] }),
  }
}
export type Searching = ReturnType<typeof useSearch>
