import { tablesOf } from '../image'
import { codeName } from '../infrared'
import { boardIn } from '../boards'
import { connectionsOf } from '../wiring'
import { channelOf, keyOf, loadOf, outputRoles, roomOf, topLevel, type Site, setWords } from '../site'
import { topics } from '../topics'
import { columnOf, linkTable, ruleWords, sourceWords } from '../ways'
import { hasMains, MAINS_CAUTIONS } from './cautions'

/**
 * The compiled mapping as plain data for the maker's templates: lists in document order, names beside ids, nothing to
 * compute. The keys are listed by `mappingReference`, which the template editor shows.
 */
export function mappingOf(site: Site): Record<string, unknown> {
  return {
    site: { id: site.id, name: site.name, volts: site.mains.volts, hertz: site.mains.hertz },
    rooms: site.rooms.map((room) => ({
      id: room.id,
      name: room.name,
      channels: site.channels.filter((channel) => channel.room === room.id).map((channel) => channel.id),
    })),
    controllers: site.controllers.map((controller) => ({
      id: controller.id,
      name: controller.name,
      room: roomOf(site, controller.room)?.name ?? '',
      board: boardIn(site, controller.board)?.name ?? controller.board,
      link: controller.link,
      tables: boardIn(site, controller.board) ? tablesOf(site, controller.id).image.hash : '',
      status: topics(site.id, controller.id).status,
      mains: hasMains(site, controller.id),
      cautions: hasMains(site, controller.id) ? MAINS_CAUTIONS : [],
      connections: boardIn(site, controller.board)
        ? connectionsOf(site, controller.id).map(({ device, from, to, colour, note, mains }) => ({
            device,
            from,
            to,
            colour,
            note,
            mains,
          }))
        : [],
    })),
    channels: site.channels.map((channel) => {
      const controller = site.controllers.find((candidate) => candidate.id === channel.controller)!
      const load = loadOf(site, channel.load)
      return {
        id: channel.id,
        name: channel.name,
        kind: channel.kind,
        room: roomOf(site, channel.room)?.name ?? '',
        controller: channel.controller,
        levels: topLevel(channel),
        essential: channel.essential,
        active: channel.active,
        pins: outputRoles(channel).map((role) => controller.pins[role]?.pin ?? ''),
        load: load?.name ?? '',
        watts: load?.watts ?? 0,
        set: topics(site.id, channel.controller).set(channel.id),
        state: topics(site.id, channel.controller).state(channel.id),
        words: [...setWords(channel)],
        ways: site.ways.filter((way) => way.channel === channel.id).map((way) => columnOf(site, way)),
      }
    }),
    points: site.services.flatMap((service) =>
      service.points.map((point) => ({
        service: service.name,
        controller: point.controller,
        vp: point.vp,
        name: point.name,
        type: point.type,
        min: point.min,
        max: point.max,
        step: point.step,
        default: point.default,
        unit: point.unit,
        access: point.access,
        widgets: service.widgets.filter((widget) => widget.point === point.id).map((widget) => widget.kind),
      })),
    ),
    entities: site.hubs.flatMap((hub) =>
      hub.entities.map((entity) => {
        const channel = channelOf(site, entity.channel)!
        const scheme = topics(site.id, channel.controller)
        return {
          hub: hub.name,
          id: entity.topic,
          name: entity.name,
          channel: channel.id,
          kind: channel.kind,
          room: roomOf(site, channel.room)?.name ?? '',
          set: scheme.set(entity.topic),
          state: scheme.state(entity.topic),
          words: [...setWords(channel)],
        }
      }),
    ),
    voice: site.ways.flatMap((way) =>
      way.kind === 'voice'
        ? [
            {
              name: way.name,
              channel: way.channel,
              room: roomOf(site, channelOf(site, way.channel)!.room)?.name ?? '',
              pin: way.pin,
            },
          ]
        : [],
    ),
    keys: site.ways.flatMap((way) => {
      const key = way.kind === 'remote' ? keyOf(site, way.remote, way.key) : undefined
      return way.kind === 'remote' && key
        ? [{ remote: way.remote, name: key.name, code: codeName(key.code), channel: way.channel, action: way.action }]
        : []
    }),
    links: site.links.map((link) => ({
      name: link.name,
      kind: link.kind,
      controller: link.controller,
      other: link.other ?? '',
      baud: link.baud,
      rows: linkTable(site, link).map((row) => ({ ...row })),
    })),
    rules: site.rules.map((rule) => ({
      name: rule.name,
      channel: rule.channel,
      kind: rule.kind,
      ...ruleWords(site, rule),
    })),
    groups: site.groups.map((group) => ({ id: group.id, name: group.name, members: group.members })),
    controls: site.controls.map((control) => ({
      source: sourceWords(site, control.source),
      action: control.action,
      target: control.kind === 'group' ? control.group : control.controller,
    })),
  }
}

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
