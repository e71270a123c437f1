import {
  freshId,
  idFromName,
  type ChannelId,
  type Controller,
  type ControllerId,
  type InputId,
  type LinkId,
  type LoadId,
  type RemoteId,
  type RoomId,
  type SensorId,
  type Site,
  plainCopy,
} from '../site'

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
  const controller: Controller = {
    ...plainCopy(source),
    id: freshId(site.controllers, name, 'controller') as ControllerId,
    name,
    room,
    pins: {},
  }
  /** "Throwing lamp" in the glaze room is "Glaze lamp"; where the old room is not named, the new one goes before. */
  const renamed = (old: string): string => {
    const word = oldRoom.split(' ')[0]!
    const fresh = roomName.split(' ')[0]!
    const swapped = old.replace(new RegExp(`\\b${word.replace(/[^\p{L}\p{N}]/gu, '')}\\b`, 'iu'), fresh)
    return (swapped !== old ? swapped : `${fresh} ${old.charAt(0).toLowerCase()}${old.slice(1)}`).slice(0, 60)
  }
  const maps = {
    channel: new Map<string, ChannelId>(),
    input: new Map<string, InputId>(),
    sensor: new Map<string, SensorId>(),
    remote: new Map<string, RemoteId>(),
    link: new Map<string, LinkId>(),
    point: new Map<string, string>(),
  }
  const again = <T extends { id: string; name: string }, Id extends string>(
    list: T[],
    mine: (item: T) => boolean,
    map: Map<string, Id>,
    fallback: string,
  ): void => {
    for (const item of list.filter(mine)) {
      const copy = { ...plainCopy(item), name: renamed(item.name) }
      copy.id = idFromName<string>(
        copy.name,
        list.map((other) => other.id),
        fallback,
      )
      map.set(item.id, copy.id as Id)
      list.push(copy)
    }
  }
  const here = (item: { controller: string }): boolean => item.controller === id
  again(site.inputs, here, maps.input, 'switch')
  again(site.channels, here, maps.channel, 'channel')
  again(site.sensors, here, maps.sensor, 'sensor')
  again(site.remotes, here, maps.remote, 'remote')
  again(site.links, here, maps.link, 'link')
  for (const list of [site.inputs, site.channels, site.sensors, site.remotes, site.links])
    for (const item of list)
      if (isCopy(maps, item.id)) {
        item.controller = controller.id
        if ('room' in item) item.room = room
      }
  for (const channel of site.channels) {
    if (![...maps.channel.values()].includes(channel.id)) continue
    if ('contact' in channel && channel.contact) channel.contact = maps.input.get(channel.contact) ?? null
    const load = site.loads.find((candidate) => candidate.id === channel.load)
    if (load) {
      const copy = {
        ...plainCopy(load),
        id: freshId(site.loads, `${channel.id.slice(0, 18)}-load`, 'load') as LoadId,
        name: renamed(load.name),
      }
      site.loads.push(copy)
      channel.load = copy.id
    }
  }
  controller.pins = Object.fromEntries(
    Object.entries(source.pins).map(([role, choice]) => [roleIn(role, maps), { ...choice }]),
  )
  site.controllers.push(controller)
  copyRules(site, maps)
  copyPoints(site, id, controller.id, maps, renamed)
  copyWays(site, maps, renamed)
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

const isCopy = (maps: Maps, id: string): boolean =>
  Object.values(maps).some((map) => [...map.values()].includes(id as never))

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

function copyRules(site: Site, maps: Maps): void {
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
      if (copy) group.members.push(copy)
    }
}

function copyPoints(site: Site, from: string, to: ControllerId, maps: Maps, renamed: (name: string) => string): void {
  for (const service of site.services) {
    for (const point of service.points.filter((candidate) => candidate.controller === from)) {
      const copy = plainCopy(point)
      copy.controller = to
      copy.name = renamed(point.name)
      copy.id = freshId(service.points, copy.name, 'point') as typeof copy.id
      if (copy.carries.kind === 'sensor')
        copy.carries.sensor = maps.sensor.get(copy.carries.sensor) ?? copy.carries.sensor
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

function copyWays(site: Site, maps: Maps, renamed: (name: string) => string): void {
  const ways = new Map<string, string>()
  for (const way of [...site.ways]) {
    const channel = maps.channel.get(way.channel)
    if (!channel) continue
    const copy = {
      ...plainCopy(way),
      id: freshId(site.ways, `${channel}-${way.kind}`, 'way') as typeof way.id,
      channel,
    }
    ways.set(way.id, copy.id)
    if (copy.kind === 'wall') copy.input = maps.input.get(copy.input) ?? copy.input
    if (copy.kind === 'remote') copy.remote = maps.remote.get(copy.remote) ?? copy.remote
    if (copy.kind === 'link') copy.link = maps.link.get(copy.link) ?? copy.link
    if (copy.kind === 'app')
      copy.point = (maps.point.get(`${copy.service}/${copy.point}`) ?? copy.point) as typeof copy.point
    if (copy.kind === 'voice') {
      copy.name = renamed(copy.name).toLowerCase()
      copy.through = ((copy.through && ways.get(copy.through)) ?? copy.through) as typeof copy.through
    }
    if (copy.kind === 'hub') {
      const hub = site.hubs.find((candidate) => candidate.id === copy.hub)!
      const entity = hub.entities.find((candidate) => candidate.id === copy.entity)!
      const twin = {
        ...plainCopy(entity),
        id: freshId(hub.entities, channel, 'entity') as typeof entity.id,
        channel,
        name: renamed(entity.name),
      }
      hub.entities.push(twin)
      copy.entity = twin.id
    }
    site.ways.push(copy)
  }
  for (const way of site.ways)
    if (
      way.kind === 'voice' &&
      way.through &&
      ways.has(way.through) &&
      [...maps.channel.values()].includes(way.channel)
    )
      way.through = ways.get(way.through) as typeof way.through
}
