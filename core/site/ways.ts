import { z } from 'zod'
import { ChannelId, EntityId, HubId, InputId, KeyId, LinkId, PointId, RemoteId, ServiceId, WayId } from './ids'
import { name } from './shapes'

/** How the state comes back along a way. */
export const Feedback = z.enum(['reports', 'silent', 'unknown'])

export const Gesture = z.enum(['press', 'release', 'hold', 'flip', 'follow', 'select'])
export const CHANNEL_ACTIONS = [
  'on',
  'off',
  'toggle',
  'up',
  'down',
  'follow',
  'level',
  'pulse',
  'open',
  'close',
  'a',
  'b',
  'stop',
] as const
export const ChannelAction = z.enum(CHANNEL_ACTIONS)
export const GestureBinding = z
  .strictObject({ gesture: Gesture, action: ChannelAction })
  .refine((b) => (b.gesture === 'follow') === (b.action === 'follow'), {
    message: 'the gesture follow goes with the action follow, and no other',
  })
  .refine((b) => (b.gesture === 'select') === (b.action === 'level'), {
    message: 'the gesture select goes with the action level, and no other',
  })

/** What a key or a character does: an action, with the level where it sets one. */
const told = {
  action: ChannelAction.exclude(['follow']),
  /** for the action `level` */ level: z.int().min(0).max(8).nullable(),
}

export const WallWay = z.strictObject({
  kind: z.literal('wall'),
  id: WayId,
  channel: ChannelId,
  input: InputId,
  bindings: z.array(GestureBinding).min(1).max(6),
})
export const RemoteWay = z.strictObject({
  kind: z.literal('remote'),
  id: WayId,
  channel: ChannelId,
  remote: RemoteId,
  key: KeyId,
  ...told,
})
export const AppWay = z.strictObject({
  kind: z.literal('app'),
  id: WayId,
  channel: ChannelId,
  service: ServiceId,
  point: PointId,
  feedback: Feedback,
})
export const HubWay = z.strictObject({
  kind: z.literal('hub'),
  id: WayId,
  channel: ChannelId,
  hub: HubId,
  entity: EntityId,
  feedback: Feedback,
})
/** A name that is spoken. It arrives at the controller as a point or as a hub command: `through` says by which way. */
export const VoiceWay = z.strictObject({
  kind: z.literal('voice'),
  id: WayId,
  channel: ChannelId,
  service: ServiceId,
  name,
  through: WayId.nullable(),
  /** what a bridge gave to this lamp: its id there; not said: none, or not kept yet */
  key: z.string().trim().min(1).max(80).optional(),
  /** the service asks for a spoken PIN before it acts */
  pin: z.boolean(),
})
export const LinkWay = z.strictObject({
  kind: z.literal('link'),
  id: WayId,
  channel: ChannelId,
  link: LinkId,
  char: z.string().regex(/^[!-~]$/, 'one printable character'),
  ...told,
})
export const Way = z.discriminatedUnion('kind', [WallWay, RemoteWay, AppWay, HubWay, VoiceWay, LinkWay])

export type Feedback = z.infer<typeof Feedback>
export type Gesture = z.infer<typeof Gesture>
export type ChannelAction = z.infer<typeof ChannelAction>
export type GestureBinding = z.infer<typeof GestureBinding>
export type WallWay = z.infer<typeof WallWay>
export type RemoteWay = z.infer<typeof RemoteWay>
export type AppWay = z.infer<typeof AppWay>
export type HubWay = z.infer<typeof HubWay>
export type VoiceWay = z.infer<typeof VoiceWay>
export type LinkWay = z.infer<typeof LinkWay>
export type Way = z.infer<typeof Way>
