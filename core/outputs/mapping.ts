import { tablesOf } from '../image'
import { codeName } from '../infrared'
import { boardIn } from '../boards'
import { connectionsOf } from '../wiring'
import {
  channelOf,
  controllerOf,
  keyOf,
  loadOf,
  outputRoles,
  roomOf,
  setWords,
  topLevel,
  waysTo,
  type Channel,
  type Controller,
  type Hub,
  type Link,
  type Service,
  type Site,
  type Way,
} from '../site'
import { wireOf } from '../services'
import { topics } from '../topics'
import { columnOf, linkTable, ruleWords, sourceWords } from '../ways'
import { cautionsFor, hasMains } from './cautions'

const roomName = (site: Site, id: Channel['room']): string => roomOf(site, id)?.name ?? ''

function controllerRow(site: Site, controller: Controller): object {
  const board = boardIn(site, controller.board)
  const mains = hasMains(site, controller.id)
  return {
    id: controller.id,
    name: controller.name,
    room: roomName(site, controller.room),
    board: board?.name ?? controller.board,
    link: controller.link,
    tables: board ? tablesOf(site, controller.id).image.hash : '',
    status: topics(site.id, controller.id).status,
    mains,
    cautions: cautionsFor(site, controller.id),
    connections: (board ? connectionsOf(site, controller.id) : []).map(({ device, from, to, colour, note, mains }) => ({
      device,
      from,
      to,
      colour,
      note,
      mains,
    })),
  }
}

function channelRow(site: Site, channel: Channel): object {
  const controller = controllerOf(site, channel.controller)!
  const load = loadOf(site, channel.load)
  const scheme = topics(site.id, channel.controller)
  return {
    id: channel.id,
    name: channel.name,
    kind: channel.kind,
    room: roomName(site, channel.room),
    controller: channel.controller,
    levels: topLevel(channel),
    essential: channel.essential,
    active: channel.active,
    pins: outputRoles(channel).map((role) => controller.pins[role]?.pin ?? ''),
    load: load?.name ?? '',
    watts: load?.watts ?? 0,
    set: scheme.set(channel.id),
    state: scheme.state(channel.id),
    words: [...setWords(channel)],
    ways: waysTo(site, channel.id).map((way) => columnOf(site, way)),
  }
}

const pointRows = ({ name, points, widgets }: Service): object[] =>
  points.map((point) => ({
    service: name,
    controller: point.controller,
    vp: point.vp,
    name: point.name,
    key: point.key ?? '',
    type: point.type,
    min: point.min,
    max: point.max,
    step: point.step,
    default: point.default,
    unit: point.unit,
    access: point.access,
    widgets: widgets.filter((widget) => widget.point === point.id).map((widget) => widget.kind),
  }))

const entityRows = (site: Site, hub: Hub): object[] =>
  hub.entities.map(({ topic, name, channel: id }) => {
    const channel = channelOf(site, id)!
    const scheme = topics(site.id, channel.controller)
    return {
      hub: hub.name,
      id: topic,
      name,
      channel: channel.id,
      kind: channel.kind,
      room: roomName(site, channel.room),
      // a hub with a wire of its own knows no topics of the house
      ...(wireOf(site, hub) ? { set: '', state: '' } : { set: scheme.set(topic), state: scheme.state(topic) }),
      words: [...setWords(channel)],
    }
  })

function voiceRow(site: Site, way: Way): object[] {
  if (way.kind !== 'voice') return []
  const { name, channel, pin } = way
  return [{ name, channel, room: roomName(site, channelOf(site, channel)!.room), pin }]
}

function keyRow(site: Site, way: Way): object[] {
  const key = way.kind === 'remote' ? keyOf(site, way.remote, way.key) : undefined
  if (way.kind !== 'remote' || !key) return []
  return [{ remote: way.remote, name: key.name, code: codeName(key.code), channel: way.channel, action: way.action }]
}

const linkRow = (site: Site, link: Link): object => ({
  name: link.name,
  kind: link.kind,
  controller: link.controller,
  other: link.other ?? '',
  baud: link.baud,
  rows: linkTable(site, link).map((row) => ({ ...row })),
})

/**
 * The compiled mapping as plain data for the maker's templates: lists in document order, names beside ids, nothing to
 * compute. The keys are listed by `mappingReference`, which the template editor shows.
 */
export const mappingOf = (site: Site): Record<string, unknown> => ({
  site: { id: site.id, name: site.name, volts: site.mains.volts, hertz: site.mains.hertz, phases: site.mains.phases },
  rooms: site.rooms.map(({ id, name }) => ({
    id,
    name,
    channels: site.channels.filter((channel) => channel.room === id).map((channel) => channel.id),
  })),
  controllers: site.controllers.map((controller) => controllerRow(site, controller)),
  channels: site.channels.map((channel) => channelRow(site, channel)),
  points: site.services.flatMap(pointRows),
  entities: site.hubs.flatMap((hub) => entityRows(site, hub)),
  voice: site.ways.flatMap((way) => voiceRow(site, way)),
  keys: site.ways.flatMap((way) => keyRow(site, way)),
  links: site.links.map((link) => linkRow(site, link)),
  rules: site.rules.map((rule) => ({
    name: rule.name,
    channel: rule.channel,
    kind: rule.kind,
    ...ruleWords(site, rule),
  })),
  groups: site.groups.map(({ id, name, members, levels = {}, ways = [] }) => ({
    id,
    name,
    members,
    levels: members.map((member) => `${member} ${levels[member] ?? 'on'}`),
    ways: ways.map((way) => way.kind),
  })),
  controls: site.controls.map((control) => ({
    source: sourceWords(site, control.source),
    action: control.action,
    target: control.kind === 'group' ? control.group : control.controller,
  })),
})

/**
 * Names of a template's data with what stands in them, one line each: read off the mapping itself, so that it is never
 * out of date.
 */
export function mappingReference(site: Site): { readonly path: string; readonly example: string }[] {
  return Object.entries(mappingOf(site)).flatMap(([name, value]) => {
    const one = Array.isArray(value)
      ? (value[0] as Record<string, unknown> | undefined)
      : (value as Record<string, unknown>)
    if (!one) return [{ path: `${name} (list, empty)`, example: '' }]
    const prefix = Array.isArray(value) ? `${name}[]` : name
    return Object.entries(one).map(([key, example]) => ({
      path: `${prefix}.${key}`,
      example: Array.isArray(example)
        ? typeof example[0] === 'object'
          ? 'list'
          : example.slice(0, 3).join(', ')
        : String(example),
    }))
  })
}
