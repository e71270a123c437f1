import { z } from 'zod'
import { PROTOCOLS } from '../infrared'
import {
  ChannelId,
  ControlId,
  ControllerId,
  GroupId,
  HubId,
  InputId,
  KeyId,
  LinkId,
  PartId,
  PointId,
  RemoteId,
  RuleId,
  SensorId,
  ServiceId,
  TemplateId,
} from './ids'
import { milliseconds, name } from './shapes'
import { Gesture } from './ways'

/** Things that stand behind ways: groups, sensors, remotes, links, rules, and what works groups and controllers. */

/** Ways to a whole group: a point of a controller, an entity on each controller that has members, a spoken name. */
export const GroupWay = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('app'), service: ServiceId, point: PointId }),
  z.strictObject({ kind: z.literal('hub'), hub: HubId, name }),
  z.strictObject({ kind: z.literal('voice'), service: ServiceId, name, through: z.enum(['app', 'hub']) }),
])

export const Group = z.strictObject({
  id: GroupId,
  name,
  members: z.array(ChannelId).max(200),
  /** What `on` gives to a member, as a scene has it: 0 is off; a member that is not here goes on. */
  levels: z.record(z.string(), z.int().min(0).max(8)).optional(),
  ways: z.array(GroupWay).max(20).optional(),
})

export const Sensor = z.strictObject({
  id: SensorId,
  name,
  controller: ControllerId,
  part: PartId.nullable(),
  quantity: z.enum(['temperature', 'humidity', 'light', 'other']),
  unit: z.string().max(8),
  /** a reading each … */
  everyMs: milliseconds(100, 3_600_000),
  /** A change beyond it is reported at once. */
  deadBand: z.number().min(0).max(10_000),
  /** A reading older than this counts no more; null: three readings. */
  staleMs: milliseconds(100, 86_400_000).nullable(),
})

const byte = z.int().min(0).max(0xff)
/** What a key sends. Widths of the fields are checked by finding I05, so that a bad table can be opened and mended. */
export const KeyCode = z.discriminatedUnion('protocol', [
  z.strictObject({
    protocol: z.enum(PROTOCOLS),
    address: z.int().min(0).max(0xffff),
    command: byte,
  }),
  z.strictObject({ protocol: z.literal('unknown'), hash: z.int().min(0).max(0xffff_ffff) }),
])
export const Key = z.strictObject({
  id: KeyId,
  name,
  code: KeyCode,
  repeat: z.discriminatedUnion('policy', [
    z.strictObject({ policy: z.literal('once') }),
    z.strictObject({ policy: z.literal('repeat'), everyMs: milliseconds(50, 5_000) }),
  ]),
  /** where it stands on the drawn remote */
  row: z.int().min(0).max(30),
  column: z.int().min(0).max(5),
})
export const Remote = z.strictObject({
  id: RemoteId,
  name,
  /** the one with the receiver */ controller: ControllerId,
  keys: z.array(Key).max(100),
})

/** A nearby or serial link: one table, from which both ends are made. */
export const Link = z.strictObject({
  id: LinkId,
  name,
  kind: z.enum(['nearby', 'serial']),
  controller: ControllerId,
  /** the board at the other end, where it is one of ours */
  other: ControllerId.nullable(),
  baud: z.union([
    z.literal(1_200),
    z.literal(2_400),
    z.literal(4_800),
    z.literal(9_600),
    z.literal(19_200),
    z.literal(38_400),
    z.literal(57_600),
    z.literal(115_200),
  ]),
  statusMs: milliseconds(100, 600_000),
})

/** One printable character (0x21 to 0x7e); a space would be invisible in a table. */
export const CommandChar = z.string().regex(/^[!-~]$/, 'one printable character')

const ruleShape = { id: RuleId, name, channel: ChannelId }
export const ThresholdRule = z
  .strictObject({
    kind: z.literal('threshold'),
    ...ruleShape,
    sensor: SensorId,
    /** above: on when the reading rises to `on`; below: on when it falls to it */
    direction: z.enum(['above', 'below']),
    on: z.number().min(-1_000_000).max(1_000_000),
    off: z.number().min(-1_000_000).max(1_000_000),
    dwellMs: milliseconds(0, 86_400_000),
    whenStale: z.enum(['off', 'keep']),
    /** level that a stepped channel goes to; null: its last */
    level: z.int().min(1).max(8).nullable(),
  })
  .refine((r) => (r.direction === 'above' ? r.on > r.off : r.on < r.off), {
    path: ['off'],
    message: 'the off-value must lie beyond the on-value, on the quiet side: equal values would chatter',
  })
export const ScheduleRule = z.strictObject({
  kind: z.literal('schedule'),
  ...ruleShape,
  /** 0 is Monday */
  days: z.array(z.int().min(0).max(6)).min(1).max(7),
  /** minutes after midnight, local time */
  minute: z.int().min(0).max(1_439),
  action: z.enum(['on', 'off', 'level']),
  level: z.int().min(0).max(8).nullable(),
})
export const Rule = z.discriminatedUnion('kind', [ThresholdRule, ScheduleRule])

export const ControlSource = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('wall'), input: InputId, gesture: Gesture }),
  z.strictObject({ kind: z.literal('remote'), remote: RemoteId, key: KeyId }),
  z.strictObject({ kind: z.literal('link'), link: LinkId, char: CommandChar }),
])
export const GroupControl = z.strictObject({
  id: ControlId,
  kind: z.literal('group'),
  group: GroupId,
  source: ControlSource,
  action: z.enum(['on', 'off', 'toggle', 'up', 'down', 'stop']),
})
export const ControllerControl = z.strictObject({
  id: ControlId,
  kind: z.literal('controller'),
  controller: ControllerId,
  source: ControlSource,
  action: z.enum(['auto', 'manual', 'autoToggle', 'pair', 'reset', 'report']),
})
/** A way to a group or to a controller itself. */
export const Control = z.discriminatedUnion('kind', [GroupControl, ControllerControl])

/** A text template that the maker writes over the compiled mapping (Liquid). */
export const Template = z.strictObject({
  id: TemplateId,
  name,
  fileName: z.string().regex(/^[A-Za-z0-9._-]{1,60}$/, 'letters, digits, dot, dash and underscore'),
  text: z.string().max(50_000),
})

export type GroupWay = z.infer<typeof GroupWay>
export type Group = z.infer<typeof Group>
export type Sensor = z.infer<typeof Sensor>
export type KeyCode = z.infer<typeof KeyCode>
export type Key = z.infer<typeof Key>
export type Remote = z.infer<typeof Remote>
export type Link = z.infer<typeof Link>
export type ThresholdRule = z.infer<typeof ThresholdRule>
export type ScheduleRule = z.infer<typeof ScheduleRule>
export type Rule = z.infer<typeof Rule>
export type ControlSource = z.infer<typeof ControlSource>
export type Control = z.infer<typeof Control>
export type Template = z.infer<typeof Template>
