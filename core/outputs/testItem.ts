import type { Watch } from '../witness'
import { NOTHING, type Heard } from './testWatches'

/** The three stages of a test on the real thing, in the order that keeps people and parts safe (common practice). */
export const STAGES = ['alone', 'no-load', 'load'] as const
export type Stage = (typeof STAGES)[number]
export const STAGE_NAMES: Record<Stage, string> = {
  alone: 'Controller alone',
  'no-load': 'Relays with no load',
  load: 'With the load',
}

export interface TestItem {
  readonly key: string
  readonly stage: Stage
  /** null: of the controller as a whole */
  readonly channel: string | null
  readonly way: string | null
  /** what to do */
  readonly action: string
  /** what must be seen */
  readonly expected: string
  /** what its board must say, and what only an eye can see */
  readonly watch: Watch
}

/** A test before it is put into its stage. */
export type Draft = Omit<TestItem, 'stage' | 'watch'> & { readonly heard: Heard }

export const draft = (
  key: string,
  channel: string | null,
  action: string,
  expected: string,
  heard: Heard = NOTHING,
): Draft => ({
  key,
  channel,
  way: null,
  action,
  expected,
  heard,
})

export const listed = (words: readonly string[]): string => words.join(', ')
/** A power cut for a test, long enough that everybody hears of it. */
export const cutFor = (seconds: number): string =>
  `turn the power off for ${seconds === 5 ? 'five seconds' : `${seconds} seconds`}, then on again`
