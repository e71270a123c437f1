import { z } from 'zod'
import { FAULT_KINDS, PLACES } from '../parts'

/** A scenario as it is written down: what is done in the house and when, and what must be seen (docs/formats.md). */

const UNITS = { ms: 1, s: 1_000, min: 60_000, h: 3_600_000, d: 86_400_000 } as const
const TIME = /^(\d+(?:\.\d+)?) ?(ms|s|min|h|d)$/

/** "80 ms", "2 s", "10 min", "1 h", "3 d"; ms. */
const time = z
  .string()
  .regex(TIME, 'a time is a number with ms, s, min, h or d')
  .transform((text) => {
    const [, number, unit] = TIME.exec(text)!
    return Math.round(Number(number) * UNITS[unit as keyof typeof UNITS])
  })
const name = z.string().min(1).max(60)
/** `on` and `off` are words of YAML 1.1 and strings of 1.2; both are taken. */
const state = z.union([z.literal('on'), z.literal('off'), z.int().min(0).max(10), z.boolean()])

/** A part of the house: by a word of its own, by its kind and a name, or by its id as the list of parts has it. */
const Breakable = z.union([
  z.enum(['mains', 'router', 'wifi', 'internet', 'hub-machine', 'broker', 'hub', 'phone', 'voice']),
  z.strictObject({ power: name }),
  z.strictObject({ breaker: name }),
  z.strictObject({ board: name }),
  z.strictObject({ service: name }),
  z.strictObject({ switch: name }),
  z.strictObject({ wire: name }),
  z.strictObject({ contact: name }),
  z.strictObject({ coil: name }),
  z.strictObject({ load: name }),
  z.strictObject({ sensor: name }),
  z.strictObject({ remote: name }),
  z.strictObject({ link: name }),
  z.strictObject({ part: z.string().min(1).max(80) }),
])
const as = z.enum(FAULT_KINDS).optional()

export const Deed = z.union([
  /** `for`: how long it is held; `hold`: until it is released by a deed of its own */
  z.strictObject({ press: name, for: time.optional() }),
  z.strictObject({ hold: name }),
  z.strictObject({ rock: name }),
  z.strictObject({ turn: name, to: z.int().min(0).max(255) }),
  z.strictObject({ key: name, of: name, times: z.int().min(1).max(1_000).optional() }),
  z.strictObject({ say: z.string().min(1).max(120) }),
  z.strictObject({ tap: name, to: state }),
  z.strictObject({ hub: name, says: z.string().min(1).max(40) }),
  z.strictObject({ reading: name, is: z.number() }),
  z.strictObject({ character: z.string().length(1), over: name }),
  z.strictObject({ clock: z.iso.datetime({ local: true, offset: false }) }),
  z.strictObject({ break: Breakable, /** not said: it is gone */ as }),
  z.strictObject({ mend: Breakable }),
  z.strictObject({ replay: z.literal('commands') }),
  z.strictObject({ group: name, says: z.enum(['on', 'off', 'toggle', 'up', 'down', 'stop']) }),
  z.strictObject({ mode: name, says: z.enum(['auto', 'manual']) }),
  z.strictObject({ stand: z.enum(PLACES) }),
  /** a sensor follows a day's curve from now on */
  z.strictObject({ curve: name, low: z.number(), high: z.number() }),
  z.strictObject({ pair: name, pin: z.enum(['right', 'wrong']) }),
  z.strictObject({ release: name }),
])
export type Deed = z.infer<typeof Deed>

export const Expectation = z.union([
  z.strictObject({ channel: name, is: state }),
  /** what is seen of it, whatever its controller says */
  z.strictObject({ load: name, is: state }),
  z.strictObject({ link: name, is: z.enum(['up', 'down']) }),
  z.strictObject({ phone: name, shows: state }),
  /** every screen that can be reached shows what is */
  z.strictObject({ screens: z.literal('agree') }),
])
export type Expectation = z.infer<typeof Expectation>

export const Never = z.union([
  /** a contact of it closes more often than that, in the whole run */
  z.strictObject({ channel: name, closesMoreOftenThan: z.int().min(0).max(100_000) }),
  /** it is on for longer than that at a stretch */
  z.strictObject({ channel: name, onLongerThan: time }),
])
export type Never = z.infer<typeof Never>

export const ScenarioStep = z
  .strictObject({
    /** since the start */
    at: time.optional(),
    /** since the step before */
    after: time.optional(),
    do: z.union([Deed, z.array(Deed).min(1).max(200)]).optional(),
    expect: z.union([Expectation, z.array(Expectation).min(1).max(200)]).optional(),
    /** how long may pass until it holds */
    within: time.optional(),
  })
  .refine(({ at, after }) => at === undefined || after === undefined, 'a step is at a time or after the one before')
export type ScenarioStep = z.infer<typeof ScenarioStep>

export const Scenario = z.strictObject({
  scenario: z.string().trim().min(1).max(80),
  about: z.string().max(300).optional(),
  steps: z.array(ScenarioStep).min(1).max(500),
  never: z.array(Never).max(50).optional(),
  /** the run goes on for so long after its last step */
  until: time.optional(),
})
export type Scenario = z.infer<typeof Scenario>
