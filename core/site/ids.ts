import { z } from 'zod'
import { ID_PATTERN } from './names'

const id = <Name extends string>() => z.string().regex(ID_PATTERN, 'an id is 1 to 24 of a-z, 0-9 and -').brand<Name>()

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
export const GroupId = id<'GroupId'>()
export const SensorId = id<'SensorId'>()
export const RemoteId = id<'RemoteId'>()
export const KeyId = id<'KeyId'>()
export const LinkId = id<'LinkId'>()
export const RuleId = id<'RuleId'>()
export const ControlId = id<'ControlId'>()
export const TemplateId = id<'TemplateId'>()

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
export type GroupId = z.infer<typeof GroupId>
export type SensorId = z.infer<typeof SensorId>
export type RemoteId = z.infer<typeof RemoteId>
export type KeyId = z.infer<typeof KeyId>
export type LinkId = z.infer<typeof LinkId>
export type RuleId = z.infer<typeof RuleId>
export type ControlId = z.infer<typeof ControlId>
export type TemplateId = z.infer<typeof TemplateId>
