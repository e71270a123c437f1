import { freshId, type Control, type ControlId, type GroupId, type Site, type Gesture, type Input } from '../site'
import { freeChar } from './links'

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
}

export function removeGroup(site: Site, id: string): void {
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
