import { z } from 'zod'
import { ID_PATTERN } from './names'

const id = <Name extends string>() =>
  z.string().regex(ID_PATTERN, 'an id is 1 to 24 of a-z, 0-9 and -').brand<Name>()

export const SiteId = id<'SiteId'>()
export const RoomId = id<'RoomId'>()
export const ControllerId = id<'ControllerId'>()
export const ChannelId = id<'ChannelId'>()
export const InputId = id<'InputId'>()
export const LoadId = id<'LoadId'>()
export const PartId = id<'PartId'>()
export const ServiceId = id<'ServiceId'>()
export const PointId = id<'PointId'>()
export const WidgetId = id<'WidgetId'>()
export const HubId = id<'HubId'>()
export const EntityId = id<'EntityId'>()
export const WayId = id<'WayId'>()

export type SiteId = z.infer<typeof SiteId>
export type RoomId = z.infer<typeof RoomId>
export type ControllerId = z.infer<typeof ControllerId>
export type ChannelId = z.infer<typeof ChannelId>
export type InputId = z.infer<typeof InputId>
export type PartId = z.infer<typeof PartId>
export type LoadId = z.infer<typeof LoadId>
export type ServiceId = z.infer<typeof ServiceId>
export type PointId = z.infer<typeof PointId>
export type WidgetId = z.infer<typeof WidgetId>
export type HubId = z.infer<typeof HubId>
export type EntityId = z.infer<typeof EntityId>
export type WayId = z.infer<typeof WayId>
