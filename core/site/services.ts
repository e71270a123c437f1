import { z } from 'zod'
import { ChannelId, ControllerId, EntityId, GroupId, HubId, PointId, SensorId, ServiceId, WidgetId } from './ids'
import { milliseconds, name } from './shapes'
import { Wire } from './wire'

const limit = z.int().min(1).max(1_000_000_000_000).nullable()

/** What a kind of service allows; null: no limit known. */
export const Limits = z.strictObject({
  devices: limit,
  /** points of one device */
  points: limit,
  /** widgets of one device's screen */
  widgets: limit,
  nameLength: limit,
  /** least time between two values of one point, ms */
  updateMs: limit,
  messagesDay: limit,
  messagesMonth: limit,
  bytesMonth: limit,
})

/** A credential that a kind of service wants. The value is never here. */
export const Secret = z.strictObject({
  id: z.string().regex(/^[a-z0-9-]{1,24}$/),
  label: name,
  /** one for each device (controller), or one for the whole service */
  per: z.enum(['device', 'service']),
  shape: z.enum(['text', 'token', 'host', 'url', 'pin', 'password', 'key']),
  secret: z.boolean(),
  /** Shown by the service a single time: lost when it is not kept at once. */
  shownOnce: z.boolean(),
})

/** A kind of service: what it holds, allows and wants. The ten that ship can be corrected, and a maker can add more. */
export const ServiceProfile = z.strictObject({
  id: z.string().regex(/^[a-z0-9-]{1,40}$/),
  name,
  /** service: holds points and widgets; hub: holds entities; voice: holds names */
  family: z.enum(['service', 'hub', 'voice']),
  /** what one number or place of a channel is called there */
  pointWord: z.string().min(1).max(24),
  holds: z.array(z.string().min(1).max(60)).max(12),
  limits: Limits,
  reconnect: z.enum(['resends held values', 'sends nothing', 'is asked by the controller']),
  secrets: z.array(Secret).max(12),
  /** in the order in which one is set up */
  steps: z.array(z.string().min(1).max(200)).max(20),
  /** how a build reaches it; not said: not yet, so its points stay on the broker of the house */
  wire: Wire.optional(),
})

/** What a point carries: a channel by a way of the crossbar, a sensor's reading, a controller's auto mode, a group. */
export const Carries = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('channel') }),
  z.strictObject({ kind: z.literal('sensor'), sensor: SensorId }),
  z.strictObject({ kind: z.literal('mode') }),
  z.strictObject({ kind: z.literal('group'), group: GroupId }),
])

/** A service's virtual pin or variable: one number that both ends hold. */
export const Point = z
  .strictObject({
    id: PointId,
    controller: ControllerId,
    vp: z.int().min(0).max(255),
    name,
    /** what it is called there beside its number: a variable's name in code, the path of a store's key */
    key: z.string().trim().min(1).max(80).optional(),
    carries: Carries,
    /** decimal: only for what a sensor reads */
    type: z.enum(['integer', 'decimal']),
    min: z.int().min(-9_999).max(9_999),
    max: z.int().min(-9_999).max(9_999),
    step: z.int().min(1).max(9_999),
    default: z.int().min(-9_999).max(9_999),
    unit: z.string().max(8),
    /** As the app sees it. */
    access: z.enum(['read-write', 'read', 'write']),
    /** When a value goes up: on each change, or not more often than each `everyMs`. */
    update: z.discriminatedUnion('policy', [
      z.strictObject({ policy: z.literal('change') }),
      z.strictObject({ policy: z.literal('every'), everyMs: milliseconds(100, 86_400_000) }),
    ]),
  })
  .refine((p) => p.min < p.max, { path: ['max'], message: 'max must be above min' })
  .refine((p) => p.default >= p.min && p.default <= p.max, {
    path: ['default'],
    message: 'the default lies outside min to max',
  })

export const WIDGET_KINDS = ['switch', 'push', 'slider', 'stepper', 'value', 'gauge', 'mode'] as const

export const Widget = z.strictObject({
  id: WidgetId,
  name,
  kind: z.enum(WIDGET_KINDS),
  point: PointId,
  inverted: z.boolean(),
  /** what a two-label mode button says at the least and at the greatest value */
  labels: z.tuple([name, name]).nullable(),
  width: z.enum(['half', 'full']),
})

export const Service = z.strictObject({
  /** a service profile's id */
  kind: z.string().min(1).max(40),
  id: ServiceId,
  name,
  host: z.string().max(200),
  /** Who wins after an outage of this service's own link; not said: as the controller does. */
  outage: z.enum(['local', 'service']).optional(),
  /** Anyone may read and write its data; null: the kind has no such rules. */
  rulesOpen: z.boolean().nullable(),
  /** Of a voice service: linked in its own app, through an account at this service or hub; it asks for no key. */
  linkedThrough: z.union([ServiceId, HubId]).optional(),
  /** The phone shows all widgets on one screen, or one screen a room; not said: one. */
  screens: z.enum(['one', 'rooms']).optional(),
  points: z.array(Point).max(2_000),
  widgets: z.array(Widget).max(2_000),
})

export const Entity = z.strictObject({
  id: EntityId,
  channel: ChannelId,
  name,
  /**
   * The topic level that stands for the channel; checked by finding M12, so that a file with a bad one can be opened
   * and mended.
   */
  topic: z.string().min(1).max(200),
})

/** The heartbeat of a hub, as the controllers judge it (docs/behaviour.md, feed). */
export const Watch = z.strictObject({
  watchMs: milliseconds(1_000, 600_000),
  graceMs: milliseconds(0, 600_000),
  steadyMs: milliseconds(0, 600_000),
  /** Where a watchdog beside the controllers runs, if there is one. */
  runsOn: z.enum(['controllers', 'hub machine', 'other machine']),
  /** Programs beside the hub that must live too: the heartbeat is sent only while each of them answers. */
  programs: z.array(name).max(5).optional(),
})

export const Hub = z.strictObject({
  kind: z.string().min(1).max(40),
  id: HubId,
  name,
  host: z.string().max(200),
  entities: z.array(Entity).max(2_000),
  watch: Watch.nullable(),
})

export type Limits = z.infer<typeof Limits>
export type Secret = z.infer<typeof Secret>
export type ServiceProfile = z.infer<typeof ServiceProfile>
export type Point = z.infer<typeof Point>
export type Widget = z.infer<typeof Widget>
export type WidgetKind = Widget['kind']
export type Service = z.infer<typeof Service>
export type Entity = z.infer<typeof Entity>
export type Watch = z.infer<typeof Watch>
export type Hub = z.infer<typeof Hub>
