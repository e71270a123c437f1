import { idFromName, type Control, type ControlId, type GroupId, type Site } from '../site'

/** Groups, and the ways to groups and to controllers themselves. */

export function addGroup(site: Site, name: string, members: readonly string[]): Site['groups'][number] {
  const group = {
    id: idFromName<string>(
      name,
      site.groups.map((g) => g.id),
      'group',
    ) as GroupId,
    name,
    members: site.channels.filter((channel) => members.includes(channel.id)).map((channel) => channel.id),
  }
  site.groups.push(group)
  return site.groups.at(-1)!
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
    id: idFromName<string>(
      `${what}-${wish.action}`,
      site.controls.map((c) => c.id),
      'control',
    ) as ControlId,
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
