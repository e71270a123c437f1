import {
  freshId,
  type ChannelId,
  type Controller,
  type ControllerId,
  type HubWay,
  type InputId,
  type LinkId,
  type LoadId,
  type RemoteId,
  type RoomId,
  type SensorId,
  type Site,
  type Way,
  type WayId,
  plainCopy,
} from '../site'

/**
 * "Throwing lamp" of the throwing room is "Glaze lamp" in the glaze room; where the old room is not named, the new one
 * goes before.
 */
const renaming =
  (oldRoom: string, newRoom: string) =>
  (old: string): string => {
    const word = oldRoom.split(' ')[0]!.replace(/[^\p{L}\p{N}]/gu, '')
    const fresh = newRoom.split(' ')[0]!
    const swapped = old.replace(new RegExp(`\\b${word}\\b`, 'iu'), fresh)
    return (swapped !== old ? swapped : `${fresh} ${old.charAt(0).toLowerCase()}${old.slice(1)}`).slice(0, 60)
  }

/** Whose things are copied, to where, under which names, and what has become of each. */
interface Copying {
  readonly site: Site
  readonly from: string
  readonly to: ControllerId
  readonly room: RoomId
  readonly renamed: (old: string) => string
  readonly maps: Maps
}

/** What stands on a controller once more, beside the other. */
function copyThings<T extends { id: string; name: string; controller: ControllerId }>(
  { from, to, room, renamed }: Copying,
  list: T[],
  map: Map<string, T['id']>,
  fallback: string,
): void {
  for (const item of list.filter(({ controller }) => controller === from)) {
    const copy = { ...plainCopy(item), name: renamed(item.name), controller: to }
    copy.id = freshId(list, copy.name, fallback)
    if ('room' in copy) Object.assign(copy, { room })
    map.set(item.id, copy.id)
    list.push(copy)
  }
}

/** The copied channels speak of copied contacts, and switch loads of their own; copied selectors have copied gates. */
function ownLoads({ site, to, renamed, maps }: Copying): void {
  const loads = new Map<string, LoadId>()
  for (const channel of site.channels.filter(({ controller }) => controller === to)) {
    if ('contact' in channel && channel.contact) channel.contact = maps.input.get(channel.contact) ?? null
    const load = site.loads.find((candidate) => candidate.id === channel.load)
    if (!load) continue
    const id = freshId(site.loads, `${channel.id.slice(0, 18)}-load`, 'load') as LoadId
    site.loads.push({ ...plainCopy(load), id, name: renamed(load.name) })
    loads.set(load.id, id)
    channel.load = id
  }
  for (const load of site.loads)
    if (load.feed.from === 'load' && [...loads.values()].includes(load.id))
      load.feed.load = loads.get(load.feed.load) ?? load.feed.load
  for (const input of site.inputs)
    if (input.kind === 'selector' && input.gate && input.controller === to) {
      const gate = maps.input.get(input.gate)
      if (gate) input.gate = gate
      else delete input.gate
    }
}

/**
 * "Same map, next room": a controller once more, with its channels, switches, sensors, remotes, links, rules, points,
 * entities and ways, in another room. Pins and virtual pins stay, since the board and the service's device are others.
 * Changes a draft.
 */
export function duplicateController(site: Site, id: string, name: string, roomName: string): Controller | undefined {
  const source = site.controllers.find((controller) => controller.id === id)
  if (!source) return undefined
  const oldRoom = site.rooms.find((room) => room.id === source.room)?.name ?? source.name
  const room = roomFor(site, roomName)
  const to = freshId(site.controllers, name, 'controller') as ControllerId
  const maps: Maps = {
    channel: new Map(),
    input: new Map(),
    sensor: new Map(),
    remote: new Map(),
    link: new Map(),
    point: new Map(),
  }
  const copying: Copying = { site, from: id, to, room, renamed: renaming(oldRoom, roomName), maps }
  copyThings(copying, site.inputs, maps.input, 'switch')
  copyThings(copying, site.channels, maps.channel, 'channel')
  copyThings(copying, site.sensors, maps.sensor, 'sensor')
  copyThings(copying, site.remotes, maps.remote, 'remote')
  copyThings(copying, site.links, maps.link, 'link')
  ownLoads(copying)
  const pins = Object.entries(plainCopy(source.pins)).map(([role, choice]) => [roleIn(role, maps), choice])
  const controller: Controller = { ...plainCopy(source), id: to, name, room, pins: Object.fromEntries(pins) }
  if (controller.modeEntity) controller.modeEntity.name = `${name} mode`
  site.controllers.push(controller)
  copyRules(copying)
  copyPoints(copying)
  copyWays(copying)
  return controller
}

type Maps = {
  channel: Map<string, ChannelId>
  input: Map<string, InputId>
  sensor: Map<string, SensorId>
  remote: Map<string, RemoteId>
  link: Map<string, LinkId>
  /** by service/point */ point: Map<string, string>
}

function roomFor(site: Site, name: string): RoomId {
  const known = site.rooms.find((room) => room.name.toLowerCase() === name.toLowerCase())
  if (known) return known.id
  const room = {
    id: freshId(site.rooms, name, 'room') as RoomId,
    name,
  }
  site.rooms.push(room)
  return room.id
}

/** "out:lamp:2" for the copied lamp. */
function roleIn(role: string, maps: Maps): string {
  const [kind, thing, rest] = role.split(':') as [string, string, string | undefined]
  const map: ReadonlyMap<string, string> | undefined =
    kind === 'out' ? maps.channel : kind === 'in' ? maps.input : undefined
  return [kind, map?.get(thing) ?? thing, ...(rest === undefined ? [] : [rest])].join(':')
}

function copyRules({ site, maps }: Copying): void {
  for (const rule of [...site.rules]) {
    const channel = maps.channel.get(rule.channel)
    if (!channel) continue
    const copy = {
      ...plainCopy(rule),
      id: freshId(site.rules, `${channel}-rule`, 'rule') as typeof rule.id,
      channel,
    }
    if (copy.kind === 'threshold') copy.sensor = maps.sensor.get(copy.sensor) ?? copy.sensor
    site.rules.push(copy)
  }
  for (const group of site.groups)
    for (const member of [...group.members]) {
      const copy = maps.channel.get(member)
      if (!copy) continue
      group.members.push(copy)
      const level = group.levels?.[member]
      if (group.levels && level !== undefined) group.levels[copy] = level
    }
}

function copyPoints({ site, from, to, maps, renamed }: Copying): void {
  for (const service of site.services) {
    for (const point of service.points.filter((candidate) => candidate.controller === from)) {
      const copy = plainCopy(point)
      copy.controller = to
      copy.name = renamed(point.name)
      copy.id = freshId(service.points, copy.name, 'point') as typeof copy.id
      if (copy.carries.kind === 'sensor')
        copy.carries.sensor = maps.sensor.get(copy.carries.sensor) ?? copy.carries.sensor
      if (copy.carries.kind === 'group') {
        const { group } = copy.carries
        site.groups.find(({ id }) => id === group)?.ways?.push({ kind: 'app', service: service.id, point: copy.id })
      }
      maps.point.set(`${service.id}/${point.id}`, copy.id)
      service.points.push(copy)
      for (const widget of service.widgets.filter((candidate) => candidate.point === point.id))
        service.widgets.push({
          ...plainCopy(widget),
          id: freshId(service.widgets, copy.id, 'widget') as typeof widget.id,
          name: renamed(widget.name),
          point: copy.id,
        })
    }
  }
}

/** An entity once more, for the copied channel; returns its id. */
function copyEntity(site: Site, way: HubWay, channel: ChannelId, renamed: Copying['renamed']): HubWay['entity'] {
  const hub = site.hubs.find((candidate) => candidate.id === way.hub)!
  const entity = hub.entities.find((candidate) => candidate.id === way.entity)!
  const id = freshId(hub.entities, channel, 'entity') as typeof entity.id
  hub.entities.push({ ...plainCopy(entity), id, channel, name: renamed(entity.name) })
  return id
}

/** A way that is already a copy is made to speak of copies. */
function repoint({ site, maps, renamed }: Copying, copy: Way): void {
  switch (copy.kind) {
    case 'wall':
      copy.input = maps.input.get(copy.input) ?? copy.input
      break
    case 'remote':
      copy.remote = maps.remote.get(copy.remote) ?? copy.remote
      break
    case 'link':
      copy.link = maps.link.get(copy.link) ?? copy.link
      break
    case 'app':
      copy.point = (maps.point.get(`${copy.service}/${copy.point}`) ?? copy.point) as typeof copy.point
      break
    case 'voice':
      copy.name = renamed(copy.name).toLowerCase()
      break
    case 'hub':
      copy.entity = copyEntity(site, copy, copy.channel, renamed)
      break
  }
}

function copyWays(copying: Copying): void {
  const { site, maps } = copying
  const ways = new Map<string, WayId>()
  const copies = [...site.ways].flatMap((way) => {
    const channel = maps.channel.get(way.channel)
    if (!channel) return []
    const id = freshId(site.ways, `${channel}-${way.kind}`, 'way') as WayId
    const copy: Way = { ...plainCopy(way), id, channel }
    ways.set(way.id, id)
    repoint(copying, copy)
    site.ways.push(copy)
    return [copy]
  })
  // a spoken name may go by a way that is copied only after it
  for (const copy of copies)
    if (copy.kind === 'voice' && copy.through) copy.through = ways.get(copy.through) ?? copy.through
}
