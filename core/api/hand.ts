import { z } from 'zod'

/** A line of what is heard for a test in hand. */
export const HeardRow = z.strictObject({
  state: z.enum(['heard', 'waiting', 'later']),
  text: z.string(),
  detail: z.string(),
})
/** A test that somebody has in hand, and what was heard for it so far. */
export const HandRow = z.strictObject({
  run: z.int(),
  key: z.string(),
  /** the board is here: what it says counts */
  listening: z.boolean(),
  lines: z.array(HeardRow),
  /** what does not belong to it */
  odd: z.array(z.string()),
  /** why it cannot have gone well; null: nothing says so */
  breach: z.string().nullable(),
  /** what to do first, so that anything can be seen; null: nothing */
  first: z.string().nullable(),
  /** what an eye must see; null: nothing, or it has been seen */
  eye: z.string().nullable(),
  /** what the eye said; null: nothing yet */
  seen: z.boolean().nullable(),
  /** a screen that nobody can hear may be looked at instead */
  mayLook: z.boolean(),
  /** all that can be heard has been heard */
  heard: z.boolean(),
})
export type HandRow = z.infer<typeof HandRow>
