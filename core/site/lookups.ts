import { moduleIn, type Signal } from '../boards'
import type { Channel, Controller, Input, Load, Part, Point, Room, Service, Site, Way, Widget } from './schema'

const byId = <T extends { id: string }>(list: readonly T[], id: string | null): T | undefined => (id === null ? undefined : list.find((item) => item.id === id))

export const controllerOf = (site: Site, id: string): Controller | undefined => byId(site.controllers, id)
export const channelOf = (site: Site, id: string): Channel | undefined => byId(site.channels, id)
export const inputOf = (site: Site, id: string): Input | undefined => byId(site.inputs, id)
export const loadOf = (site: Site, id: string | null): Load | undefined => byId(site.loads, id)
export const roomOf = (site: Site, id: string | null): Room | undefined => byId(site.rooms, id)
export const serviceOf = (site: Site, id: string): Service | undefined => byId(site.services, id)

export const channelsOn = (site: Site, controller: string): Channel[] => site.channels.filter((channel) => channel.controller === controller)
export const inputsOn = (site: Site, controller: string): Input[] => site.inputs.filter((input) => input.controller === controller)
export const waysTo = (site: Site, channel: string): Way[] => site.ways.filter((way) => way.channel === channel)

/** A point with the service that holds it. */
export function pointOf(site: Site, service: string, point: string): Point | undefined {
  return byId(serviceOf(site, service)?.points ?? [], point)
}

export function widgetsOf(site: Site, service: string, point: string): Widget[] {
  return serviceOf(site, service)?.widgets.filter((widget) => widget.point === point) ?? []
}

/** A role is what a pin is for: the output of a channel, an input, or a signal of a part. */
export type Role =
  | { readonly id: string; readonly kind: 'output'; readonly channel: Channel }
  | { readonly id: string; readonly kind: 'input'; readonly input: Input }
  | { readonly id: string; readonly kind: 'signal'; readonly part: Part; readonly signal: Signal }

export const roleName = (role: Role): string => (role.kind === 'output' ? role.channel.name : role.kind === 'input' ? role.input.name : `${role.part.name} ${role.signal.id}`)

/** The roles of a controller in document order: outputs, inputs, then the signals of its parts. */
export function rolesOf(site: Site, controller: string): Role[] {
  return [
    ...channelsOn(site, controller).map((channel): Role => ({ id: `out:${channel.id}`, kind: 'output', channel })),
    ...inputsOn(site, controller).map((input): Role => ({ id: `in:${input.id}`, kind: 'input', input })),
    ...(controllerOf(site, controller)?.parts ?? []).flatMap((part) => (moduleIn(site, 'part', part.profile)?.signals ?? []).map((signal): Role => ({ id: `part:${part.id}:${signal.id}`, kind: 'signal', part, signal }))),
  ]
}
