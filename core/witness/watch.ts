import { z } from 'zod'

/** Where a channel must have gone: over from what it was, on, off, a step, anything new, or a level. */
const To = z.union([z.enum(['turned', 'on', 'off', 'up', 'down', 'any']), z.int()])
export type To = z.infer<typeof To>

/** A new report of a channel. */
export const Turn = z.strictObject({
  channel: z.string(),
  to: To,
  /** sources of docs/behaviour.md by which it must have come; null: any but the power */
  by: z.array(z.string()).nullable(),
})
export type Turn = z.infer<typeof Turn>

/** One thing that is listened for. */
export const Expect = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('turn'),
    turn: Turn,
    /** it may not come earlier after the step before, ms */
    notBeforeMs: z.int().optional(),
    /** nor later, ms */
    withinMs: z.int().optional(),
  }),
  /** all of them, in any order */
  z.strictObject({ kind: z.literal('all'), turns: z.array(Turn).min(1) }),
  /** one of them */
  z.strictObject({ kind: z.literal('any'), turns: z.array(Turn).min(1) }),
  /** no further report of the channel for so long, ms */
  z.strictObject({ kind: z.literal('still'), channel: z.string(), ms: z.int() }),
  z.strictObject({ kind: z.literal('away'), controller: z.string() }),
  /** `restarted`: it must have been without power */
  z.strictObject({ kind: z.literal('here'), controller: z.string(), restarted: z.boolean() }),
  /** after a start, the state so much later, ms; `before`: that of before the power went */
  z.strictObject({
    kind: z.literal('comesUp'),
    channel: z.string(),
    to: z.enum(['on', 'off', 'before']),
    afterMs: z.int(),
  }),
  /** a screen shows what the board has said */
  z.strictObject({ kind: z.literal('screen'), channel: z.string(), holder: z.string() }),
  z.strictObject({ kind: z.literal('gesture'), channel: z.string() }),
  z.strictObject({ kind: z.literal('mode'), channel: z.string().nullable(), mode: z.string() }),
  z.strictObject({ kind: z.literal('log'), says: z.string() }),
  /** the hub's heartbeat is heard, or no longer */
  z.strictObject({ kind: z.literal('beat'), heard: z.boolean(), silentMs: z.int() }),
  z.strictObject({ kind: z.literal('broker'), up: z.boolean() }),
])
export type Expect = z.infer<typeof Expect>

/** What only an eye can see. */
export const Eye = z.strictObject({
  asks: z.string(),
  /** what it finds out; asked only where no test of this run has shown it yet. null: always asked */
  about: z.string().nullable(),
  /** an answer of yes here shows it for the tests that come */
  shows: z.boolean(),
})
export type Eye = z.infer<typeof Eye>

/** How a test is told by what its board says: what must be heard, one after another, and what an eye must see. */
export const Watch = z.strictObject({
  controller: z.string(),
  hears: z.array(Expect),
  /** other channels that may move too: the same switch, key or group works them */
  also: z.array(z.string()),
  eye: Eye.nullable(),
})
export type Watch = z.infer<typeof Watch>

/** Nothing of it can be heard: a person says how it went. */
export const unheard = (controller: string): Watch => ({ controller, hears: [], also: [], eye: null })
