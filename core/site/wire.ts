import { z } from 'zod'
import { milliseconds } from './shapes'

/**
 * What stands between a controller and one kind of service, as data (docs/wires.md): addresses, topics and payloads are
 * texts with places to fill in, such as {controller}, {number} or {credential:board-key}.
 */
const Text = z.string().max(200)
const Qos = z.union([z.literal(0), z.literal(1)])

/** no longer than the controller's buffer for a value */
const Word = z.string().min(1).max(24)

/** What a value looks like on the wire. */
export const WireValue = z.discriminatedUnion('form', [
  /** the point's own number */
  z.strictObject({ form: z.literal('number') }),
  /** a word for the least value and one for any other; heard, the greatest */
  z.strictObject({ form: z.literal('words'), off: Word, on: Word }),
  /** the point's range on another, in whole numbers */
  z
    .strictObject({ form: z.literal('range'), least: z.int().min(0).max(9_999), most: z.int().min(1).max(9_999) })
    .refine((range) => range.least < range.most, { path: ['most'], message: 'must be above the least' }),
])

/** Where a value stands in what is heard: the whole of it, or a place in a JSON document (RFC 6901). */
const Pointer = z
  .string()
  .regex(/^(\/[^/]{1,60}){1,4}$/, 'a JSON Pointer begins with /, as in /lamp or /values/lamp')
  .nullable()

/** Something that the service says. */
const Heard = z.strictObject({ topic: Text.min(1), value: Pointer })

export const MqttWire = z.strictObject({
  transport: z.literal('mqtt'),
  host: Text.min(1),
  port: z.int().min(1).max(65_535),
  tls: z.boolean(),
  client: Text.min(1),
  user: Text,
  password: Text,
  keepAliveS: z.int().min(5).max(1_200),
  /** said when the link is up, and by the broker in its stead when it is gone; null: nothing */
  status: z.strictObject({ topic: Text.min(1), online: Text, offline: Text, retain: z.boolean() }).nullable(),
  /** where log lines go; null: nowhere */
  log: Text.min(1).nullable(),
  value: WireValue,
  /** what a point is */
  say: z.strictObject({ topic: Text.min(1), payload: Text.min(1), qos: Qos, retain: z.boolean() }),
  /** what a person wishes; at most once, so that nothing is done twice */
  ask: Heard,
  /** what the service remembers; null: it tells nothing */
  held: Heard.nullable(),
  /**
   * Each wish bears a number that only rises, so that one that is sent again does nothing: where it stands in a wish (a
   * pointer; null: behind a blank), and where the service says the last one when the link comes up; null: no numbers
   */
  count: z.strictObject({ topic: Text.min(1), value: Pointer }).nullable(),
  /**
   * Each value and each wish bears a signature behind a blank, HMAC-SHA-256 (RFC 2104) in hexadecimal: over this text
   * with {topic} and {payload}; not said: none. What is neither, status and log, bears none.
   */
  sign: z
    .strictObject({
      key: Text.min(1),
      over: Text.regex(/\{payload\}/, 'has the place {payload}'),
    })
    .optional(),
})

/** Lines of a request's head, as in "Authorization: Bearer {credential:store-key}". */
const HeadLines = z
  .array(
    z
      .string()
      .regex(/^[A-Za-z0-9-]+: .+$/)
      .max(200),
  )
  .max(6)
/** Requests that the controller makes. */
const Request = z.strictObject({
  method: z.enum(['GET', 'POST', 'PUT', 'PATCH']),
  path: z.string().startsWith('/').max(200),
  body: Text,
})

export const HttpWire = z.strictObject({
  transport: z.literal('http'),
  host: Text.min(1),
  port: z.int().min(1).max(65_535),
  tls: z.boolean(),
  headers: HeadLines,
  value: WireValue,
  /** what a point is; null: the service is only asked */
  write: Request.nullable(),
  /** what the service holds, asked for again and again; null: never */
  read: z
    .strictObject({
      path: z.string().startsWith('/').max(200),
      /** one request for each point, or one for all */
      of: z.enum(['each', 'all']),
      value: Pointer,
      everyMs: milliseconds(500, 86_400_000),
    })
    .nullable(),
})

export const HookWire = z.strictObject({
  transport: z.literal('hook'),
  /** the controller's own port */
  port: z.int().min(1).max(65_535),
  /** the key that each call bears: in its path, or in this line of its head */
  key: Text.min(1),
  keyIn: z.enum(['path', 'head']),
  value: WireValue,
  /** calls of a point: "/{number}/{value}" behind the key */
  path: z.string().startsWith('/').max(200),
  /** where a change is told; null: nowhere */
  call: z
    .strictObject({
      host: Text.min(1),
      port: z.int().min(1).max(65_535),
      tls: z.boolean(),
      headers: HeadLines,
      request: Request,
    })
    .nullable(),
})

/** own: the controller's own topics, as a hub on the broker of the house hears them. */
export const OwnWire = z.strictObject({ transport: z.literal('own') })

export const Wire = z.discriminatedUnion('transport', [OwnWire, MqttWire, HttpWire, HookWire])

export type WireValue = z.infer<typeof WireValue>
export type MqttWire = z.infer<typeof MqttWire>
export type HttpWire = z.infer<typeof HttpWire>
export type HookWire = z.infer<typeof HookWire>
export type Wire = z.infer<typeof Wire>
