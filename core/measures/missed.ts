import type { Site } from '../site'
import { draw } from '../trial'

/** Presses that no one hears: shorter than the settle time, or between two looks of a program that looks seldom. */

export interface Watching {
  /** a contact must be quiet for so long, ms */
  readonly settleMs: number
  /** the program looks so often, ms; 0: it misses nothing */
  readonly scanMs: number
}

/**
 * The chance that a press of so long is missed. A look at a random phase falls into the press with p/T; where a change
 * must also settle, the part that is left of the press after the first look must last until it has (common practice).
 * Without a period it is missed where it is shorter than the settle time, and never else.
 */
export function missChance(pressMs: number, { settleMs, scanMs }: Watching): number {
  if (pressMs < settleMs) return 1
  if (scanMs === 0) return 0
  // looks needed: the first, and each until the settle time has passed
  const needed = Math.ceil(settleMs / scanMs) * scanMs
  return Math.min(1, Math.max(0, 1 - (pressMs - needed) / scanMs))
}

/** The share that is missed of presses whose lengths lie between two, tried so often. */
export function missedShare(
  [least, most]: readonly [least: number, most: number],
  { settleMs, scanMs }: Watching,
  { samples = 10_000, seed = 1 }: { readonly samples?: number; readonly seed?: number } = {},
): number {
  const drawing = { random: seed }
  let missed = 0
  for (let i = 0; i < samples; i++) {
    const length = least + draw(drawing) * (most - least)
    if (!isHeard(length, draw(drawing), { settleMs, scanMs })) missed++
  }
  return missed / samples
}

/** Follows the looks of a program: the first that falls into the press starts the settle time. `phase`: 0 to 1. */
function isHeard(length: number, phase: number, { settleMs, scanMs }: Watching): boolean {
  if (scanMs === 0) return length >= settleMs
  for (let look = phase * scanMs, first = -1; look < length; look += scanMs) {
    if (first < 0) first = look
    if (look - first >= settleMs) return true
  }
  return false
}

export interface InputMisses {
  readonly input: string
  readonly name: string
  /** the shortest press that is heard, ms */
  readonly leastMs: number
  /** share of ordinary presses that are missed by this controller, and by a program that looks every half second */
  readonly missed: number
  readonly missedBySlow: number
}

/** How long a finger stays on a button, ms (common practice). */
export const PRESS_MS = [50, 250] as const
/** A program that waits half a second in its loop (common practice of first programs). */
export const SLOW_SCAN_MS = 500

/** What each push of a site misses, and what it would miss under a program that looks seldom. */
export const inputMisses = (site: Site): InputMisses[] =>
  site.inputs.flatMap(({ id, name, kind, settle, settleMs }): InputMisses[] => {
    if (kind !== 'momentary') return []
    const leastMs = settle === 'eager' ? 0 : settleMs
    return [
      {
        ...{ input: id, name, leastMs },
        missed: missedShare(PRESS_MS, { settleMs: leastMs, scanMs: 0 }),
        missedBySlow: missedShare(PRESS_MS, { settleMs: leastMs, scanMs: SLOW_SCAN_MS }),
      },
    ]
  })
