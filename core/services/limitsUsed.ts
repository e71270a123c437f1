import { idFromName, plainCopy } from '../site'
import type { Hub, HubId, Limits, Service, ServiceId, Site, Wire } from '../site'
import { controllersOf } from './credentials'
import type { Quota } from './quota'
import { familyOf, keepServiceKind, serviceKindIn } from './serviceKinds'

/** Most of a list that one device has. */
const mostOnOneDevice = (devices: readonly string[], list: readonly { readonly controller: string }[]): number =>
  Math.max(0, ...devices.map((device) => list.filter((one) => one.controller === device).length))

/** What of a plan's limits the mapping uses; what is not counted is left out. */
export function limitsUsed(
  site: Site,
  item: Service | Hub,
  quota: Quota | undefined,
): Partial<Record<keyof Limits, number>> {
  const devices = controllersOf(site, item.id)
  const deviceOf = (service: Service, point: string): string =>
    service.points.find((one) => one.id === point)?.controller ?? ''
  return {
    devices: familyOf(site, item.kind) === 'voice' ? voiceCount(site, item.id) : devices.length,
    ...('points' in item && {
      points: mostOnOneDevice(devices, item.points),
      widgets: mostOnOneDevice(
        devices,
        item.widgets.map((widget) => ({ controller: deviceOf(item, widget.point) })),
      ),
      nameLength: Math.max(0, ...item.points.map((point) => point.name.length)),
    }),
    ...(quota && { messagesDay: quota.perDay, messagesMonth: quota.perMonth, bytesMonth: quota.bytesPerMonth }),
    ...(quota?.fastestMs && { updateMs: quota.fastestMs }),
  }
}

/** Is more used than a plan allows? Of the time between values, less. */
export const limitExceeded = (limit: keyof Limits, allowed: number | null, used: number): boolean =>
  allowed !== null && (limit === 'updateMs' ? used < allowed : used > allowed)

/** Corrects a limit of a kind in the site's own copy of it; null: none is known. Changes a draft. */
export function setLimit(site: Site, kind: string, limit: keyof Limits, value: number | null): void {
  const present = serviceKindIn(site, kind)
  if (!present) return
  const copy = plainCopy(present)
  keepServiceKind(site, { ...copy, limits: { ...copy.limits, [limit]: value } })
}

/** Corrects how builds reach a kind, in the site's own copy of it. Changes a draft. */
export function setWire(site: Site, kind: string, wire: Wire): void {
  const present = serviceKindIn(site, kind)
  if (present) keepServiceKind(site, { ...plainCopy(present), wire })
}

/** A service or a hub of a kind, named after it. Changes a draft. */
export function addServiceOfKind(site: Site, kind: string): void {
  const name = serviceKindIn(site, kind)!.name
  const title = name.charAt(0).toUpperCase() + name.slice(1)
  const free = (list: readonly { readonly id: string }[], wish: string): string =>
    idFromName<string>(
      wish,
      list.map((one) => one.id),
      wish,
    )
  if (familyOf(site, kind) === 'hub') {
    const id = free(site.hubs, 'hub') as HubId
    site.hubs.push({ kind, id, name: title, host: '', entities: [], watch: null })
  } else {
    const id = free(site.services, kind) as ServiceId
    // a store has rules, which are closed unless somebody opens them
    const rulesOpen = kind === 'room-store' ? false : null
    site.services.push({ kind, id, name: title, host: '', rulesOpen, points: [], widgets: [] })
  }
}

/** Devices that a voice service holds: one for each name. */
export const voiceCount = (site: Site, service: string): number =>
  site.ways.filter((way) => way.kind === 'voice' && way.service === service).length
