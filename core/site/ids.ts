import { z } from 'zod'

/** What every id looks like: it is also a topic level, so it stays inside MQTT 3.1.1's plain characters. */
export const ID_PATTERN = /^[a-z0-9-]{1,24}$/

const id = <Name extends string>() =>
  z.string().regex(ID_PATTERN, 'an id is 1 to 24 of a-z, 0-9 and -').brand<Name>()

export const SiteId = id<'SiteId'>()
export const RoomId = id<'RoomId'>()
export const ControllerId = id<'ControllerId'>()
export const ChannelId = id<'ChannelId'>()
export const InputId = id<'InputId'>()
export const LoadId = id<'LoadId'>()
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
export type LoadId = z.infer<typeof LoadId>
export type ServiceId = z.infer<typeof ServiceId>
export type PointId = z.infer<typeof PointId>
export type WidgetId = z.infer<typeof WidgetId>
export type HubId = z.infer<typeof HubId>
export type EntityId = z.infer<typeof EntityId>
export type WayId = z.infer<typeof WayId>

/**
 * Makes an id from a spoken name ("Bench lights" gives "bench-lights"), unique among those taken.
 * A name with no usable letter gives the fallback.
 */
export function idFromName<Brand extends string>(name: string, taken: Iterable<string>, fallback = 'thing'): Brand {
  const plain = name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 20)
    .replace(/-+$/, '')
  const base = plain || fallback
  const used = new Set(taken)
  if (!used.has(base)) return base as Brand
  for (let n = 2; ; n++) {
    const candidate = `${base}-${n}`
    if (!used.has(candidate)) return candidate as Brand
  }
}
