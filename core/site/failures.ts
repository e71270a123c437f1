import { z } from 'zod'
import { name } from './shapes'

/** How often a kind of part fails, and how long it is out then, by somebody's own knowledge. */
export const OwnRate = z.strictObject({
  /** hours between two failures, in the mean */
  betweenHours: z.number().min(1).max(1e9),
  /** hours until it works again, in the mean */
  repairHours: z.number().min(0.01).max(1e5),
  /** where the figures come from */
  source: z.string().trim().min(1).max(120),
})

/** What hangs on one plug, strip or circuit and goes out with it. */
export const Strip = z.strictObject({
  id: z.string().regex(/^[a-z0-9-]{1,24}$/),
  name,
  feeds: z
    .array(z.string().regex(/^(router|hub-machine|power:[a-z0-9-]{1,24})$/))
    .min(1)
    .max(50),
})

/** What a maker knows of failures in this house. */
export const Failures = z.strictObject({
  /** by kind of part, and by how it fails where that is not “gone”: "router", "contact!stuck" */
  rates: z.record(z.string().regex(/^[a-z-]{1,20}(!(stuck|lying))?$/), OwnRate),
  /** what goes on while the mains is out */
  onBattery: z.array(z.enum(['router', 'hub-machine'])).max(2),
  strips: z.array(Strip).max(50),
})

export type OwnRate = z.infer<typeof OwnRate>
export type Strip = z.infer<typeof Strip>
export type Failures = z.infer<typeof Failures>

/** What is said where nothing is. */
export const NO_FAILURES: Failures = { rates: {}, onBattery: [], strips: [] }
