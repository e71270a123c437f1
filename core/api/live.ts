import { z } from 'zod'
import { HandRow } from './hand'

const site = z.string()

/** What other tabs are told. Never holds a secret. */
export const LiveMessage = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('edit'), site, revision: z.int(), label: z.string(), tab: z.string() }),
  z.strictObject({ kind: z.literal('gone'), site }),
  z.strictObject({ kind: z.literal('logbook'), site }),
  z.strictObject({ kind: z.literal('credentials'), site }),
  z.strictObject({
    kind: z.literal('points'),
    site,
    service: z.string(),
    values: z.record(z.string(), z.number()),
    online: z.record(z.string(), z.boolean()),
  }),
  /** a board came, went, or said something of itself */
  z.strictObject({ kind: z.literal('boards'), site }),
  /** something was heard for a test in hand */
  z.strictObject({ kind: z.literal('hand'), site, hand: HandRow }),
  /** something at the rig is another */
  z.strictObject({ kind: z.literal('rig'), site }),
  /** something on the page of the hub's stand-in is another */
  z.strictObject({ kind: z.literal('hub'), site }),
  /** something on a stand-in's page is another */
  z.strictObject({ kind: z.literal('standIn'), site, service: z.string() }),
])
export type LiveMessage = z.infer<typeof LiveMessage>
