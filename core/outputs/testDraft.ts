import type { TestItem } from './testRun'

/** A test before it is put into its stage. */
export type Draft = Omit<TestItem, 'stage'>

export const draft = (key: string, channel: string | null, action: string, expected: string): Draft => ({
  key,
  channel,
  way: null,
  action,
  expected,
})

export const listed = (words: readonly string[]): string => words.join(', ')
export const CUT = 'take power away for five seconds, and give it back'
