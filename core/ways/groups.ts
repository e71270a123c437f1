import {
  freshId,
  type Control,
  type ControlId,
  type ControllerId,
  type Gesture,
  type Group,
  type GroupId,
  type Input,
  type Point,
  type ServiceId,
  type Site,
} from '../site'
import { freeChar } from './links'
import { firstHub } from './newWays'
import { firstService, newPoint, newWidget } from './points'
import { removePoint } from './remove'

/** Groups, and the ways to groups and to controllers themselves. */

export function addGroup(site: Site, name: string, members: readonly string[]): Site['groups'][number] {
  const group = {
    id: freshId(site.groups, name, 'group') as GroupId,
    name,
    members: site.channels.filter((channel) => members.includes(channel.id)).map((channel) => channel.id),
  }
  site.groups.push(group)
  return site.groups.at(-1)!
}

/** A channel joins a group or leaves it; members stay in channel order. Changes a draft. */
export function setMember(site: Site, id: string, channel: string, joins: boolean): void {
  const group = site.groups.find((candidate) => candidate.id === id)
  if (!group) return
  const stays = (one: string): boolean => (one === channel ? joins : group.members.some((member) => member === one))
  group.members = site.channels.filter((one) => stays(one.id)).map((one) => one.id)
  if (group.levels && !joins) delete group.levels[channel]
}

/** What `on` gives to a member: a level, 0 for off; null: on. Changes a draft. */
export function setMemberLevel(site: Site, id: string, channel: string, level: number | null): void {
  const group = site.groups.find((candidate) => candidate.id === id)
  if (!group) return
  const { [channel]: _, ...others } = group.levels ?? {}
  const levels = level === null ? others : { ...others, [channel]: level }
  if (Object.keys(levels).length > 0) group.levels = levels
  else delete group.levels
}

/**
 * A point of one controller that works the group there, with a push for all off (value 0) or a switch. A group with
 * members on several controllers takes a point on each: a controller works its own.
 */
export function addGroupPoint(site: Site, group: Group, controller: ControllerId, service = firstService(site)): Point {
  const holder = site.services.find(({ id }) => id === service)!
  const point = newPoint(site, holder.id, controller, group.name, {
    carries: { kind: 'group', group: group.id },
    access: 'write',
  })
  holder.points.push(point)
  holder.widgets.push(newWidget(site, holder.id, point, 'switch'))
  ;(group.ways ??= []).push({ kind: 'app', service: holder.id, point: point.id })
  return point
}

/** An entity of the group on a hub, under its id on each controller with members. */
export function addGroupEntity(site: Site, group: Group, hub = firstHub(site)): void {
  ;(group.ways ??= []).push({ kind: 'hub', hub, name: group.name })
}

/** A name as it can be said: signs that nobody speaks left out. */
const spokenOf = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}'’]+/gu, ' ')
    .trim() || 'everything'

/** A spoken name, by the way that the group has: its entity, else its point. */
export function addGroupName(group: Group, service: ServiceId): void {
  const through = group.ways?.some(({ kind }) => kind === 'hub') ? 'hub' : 'app'
  ;(group.ways ??= []).push({ kind: 'voice', service, name: spokenOf(group.name), through })
}

/** Takes a way of a group out, with the point that only it used. */
export function removeGroupWay(site: Site, id: string, at: number): void {
  const way = site.groups.find((group) => group.id === id)?.ways?.[at]
  if (way?.kind === 'app') removePoint(site, way.service, way.point)
  else site.groups.find((group) => group.id === id)?.ways?.splice(at, 1)
}

export function removeGroup(site: Site, id: string): void {
  for (const service of site.services)
    for (const { id: point, carries } of [...service.points])
      if (carries.kind === 'group' && carries.group === id) removePoint(site, service.id, point)
  site.groups = site.groups.filter((group) => group.id !== id)
  site.controls = site.controls.filter((control) => control.kind !== 'group' || control.group !== id)
}

type Wish = Control extends infer One ? (One extends Control ? Omit<One, 'id'> : never) : never

export function addControl(site: Site, wish: Wish): Control {
  const what = wish.kind === 'group' ? wish.group : wish.controller
  site.controls.push({
    ...wish,
    id: freshId(site.controls, `${what}-${wish.action}`, 'control') as ControlId,
  } as Control)
  return site.controls.at(-1)!
}

export function removeControl(site: Site, id: string): void {
  site.controls = site.controls.filter((control) => control.id !== id)
}

/** A control's source as a person says it. */
export function sourceWords(site: Site, source: Control['source']): string {
  switch (source.kind) {
    case 'wall':
      return `${site.inputs.find((input) => input.id === source.input)?.name ?? source.input} ${source.gesture}`
    case 'remote':
      return `key “${site.remotes.find((r) => r.id === source.remote)?.keys.find((k) => k.id === source.key)?.name ?? source.key}”`
    case 'link':
      return `character ${source.char} on ${site.links.find((l) => l.id === source.link)?.name ?? source.link}`
  }
}

/** What a controller can be told, as a person says it. */
export const CONTROLLER_ACTIONS = {
  auto: 'auto',
  manual: 'manual',
  autoToggle: 'toggle auto and manual',
  report: 'report everything',
  pair: 'start pairing',
  reset: 'delete its credentials',
} as const

/** What a control does, and to whom. */
export function controlWords(site: Site, control: Control): string {
  if (control.kind === 'group')
    return `${site.groups.find(({ id }) => id === control.group)?.name ?? control.group} ${control.action}`
  const name = site.controllers.find(({ id }) => id === control.controller)?.name ?? control.controller
  return `${name}: ${CONTROLLER_ACTIONS[control.action]}`
}

/** Gestures of a switch that can work a group or a controller. */
const CONTROL_GESTURES: Record<Input['kind'], readonly Gesture[]> = {
  momentary: ['press', 'hold'],
  rocker: ['flip'],
  selector: [],
  contact: [],
}

/** What can work a group or a controller: gestures of switches, keys, and a free character of each link. */
export const controlSources = (site: Site): Control['source'][] => [
  ...site.inputs.flatMap((input) =>
    CONTROL_GESTURES[input.kind].map((gesture) => ({ kind: 'wall' as const, input: input.id, gesture })),
  ),
  ...site.remotes.flatMap((remote) =>
    remote.keys.map((key) => ({ kind: 'remote' as const, remote: remote.id, key: key.id })),
  ),
  ...site.links.map((link) => ({ kind: 'link' as const, link: link.id, char: freeChar(site, link.controller) })),
]
