import type { PartId } from '../parts'

/**
 * Something that a person can look at, press or measure, to find out what has failed. Each says what it costs: minutes,
 * and how near it comes to mains.
 */
export type Observation =
  /** worked by one of its ways: does it come on? Where a level is said: is it at that level? */
  | {
      readonly kind: 'way'
      readonly id: string
      readonly channel: string
      readonly way: string
      readonly level?: number
    }
  /** turned on by another way: does this screen show it? */
  | { readonly kind: 'screen'; readonly id: string; readonly channel: string; readonly way: string }
  /** with no hand on anything: is it off? */
  | { readonly kind: 'rest'; readonly id: string; readonly channel: string }
  /** its first way pressed: does the relay click? */
  | { readonly kind: 'click'; readonly id: string; readonly channel: string; readonly way: string }
  /** the light beside the relay on the module, while its channel is told to be on */
  | { readonly kind: 'indicator'; readonly id: string; readonly channel: string; readonly way: string }
  /** a screen says that the board is online */
  | { readonly kind: 'online'; readonly id: string; readonly controller: string }
  /** something of the house shows by itself that it works: a light, a page, a breaker's lever */
  | { readonly kind: 'shows'; readonly id: string; readonly part: PartId }
  /** a part taken by itself: swapped, metered, looked at */
  | { readonly kind: 'part'; readonly id: string; readonly part: PartId }

/** What is seen: as it should be, not so, seconds late, or another channel did it. */
export const ANSWERS = ['yes', 'no', 'late', 'other'] as const
export type Answer = (typeof ANSWERS)[number]

/** How near a step comes to mains. */
export const DANGERS = ['outside', 'cover', 'live'] as const
/** outside: nothing is opened · cover: the box is open, its supply off and locked · live: open, and with power */
export type Danger = (typeof DANGERS)[number]

/** An answer that was given. */
export interface Given {
  readonly observation: string
  readonly answer: Answer
}
