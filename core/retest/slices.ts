import { tablesOf, type ControllerImage, type ImageDeed } from '../image'
import type { TestItem } from '../outputs'
import { holdersOf } from '../services'
import {
  channelOf,
  controllerOf,
  coprocessorOf,
  groupOf,
  inputOf,
  loadOf,
  mainOf,
  waysTo,
  type Channel,
  type Site,
  type Way,
} from '../site'

/**
 * What a test hangs on, by name: “switch S1”, “limits and power-up of Kiln fan”. Where nothing of it has changed, the
 * test need not be made again.
 */
export type Slice = Readonly<Record<string, { readonly name: string; readonly value: string }>>

/** One thing that a test hangs on: known by its id, so that another name is no other thing. */
const part = (id: string, name: string, value: unknown): Slice => ({ [id]: { name, value: text(value) } })

/** A site with the tables of one controller, null where they do not compile. */
export interface Whole {
  readonly site: Site
  readonly controller: string
  readonly image: ControllerImage | null
}

export function wholeOf(site: Site, controller: string): Whole {
  try {
    return { site, controller, image: tablesOf(site, controller).image }
  } catch {
    return { site, controller, image: null }
  }
}

const text = (value: unknown): string => JSON.stringify(value ?? null)

/** What a deed is aimed at, by its id and not by its place in a list. */
function aimed(image: ControllerImage, deed: ImageDeed): unknown {
  const { action, level, on, index } = deed
  const target = on === 'channel' ? image.channels[index]?.id : on === 'group' ? groupRow(image, index) : 'controller'
  return { action, level, on, target }
}

function groupRow(image: ControllerImage, index: number): unknown {
  const group = image.groups[index]
  return group && { id: group.id, levels: group.levels, members: group.members.map((i) => image.channels[i]?.id) }
}

/** The board and what stands on it: every test needs them. */
function boardSlice({ site, controller, image }: Whole): Slice {
  const own = controllerOf(site, controller)!
  return {
    ...part('board', 'board', [own.board, image?.board]),
    ...part('module', 'relay module', own.module),
    ...part('auto', 'what a hand does in auto mode', image?.auto),
    // without tables nothing of the board can be told apart: any change of the site counts
    ...(image ? {} : part('tables', 'tables that cannot be made', site)),
  }
}

/** How the board speaks to the world. */
function linkSlice({ site, controller, image }: Whole): Slice {
  const own = controllerOf(site, controller)!
  const radio = coprocessorOf(site, controller)
  const links = [own.link, own.outage, image?.links, image?.link, image?.minReportMs, image?.heartbeatMs]
  const line = radio && [radio.board, radio.link, site.links.filter(({ other }) => other === radio.id)]
  return { ...part('link', 'link of the board', links), ...part('pair', 'the other board of the pair', line) }
}

/** A channel's row in the tables, by ids; its rules and schedules, which act on it too. */
function channelSlice({ site, image }: Whole, channel: Channel): Slice {
  const row = image?.channels.find(({ id }) => id === channel.id)
  const index = image && row ? image.channels.indexOf(row) : -1
  const position = row && image!.inputs[row.contact]?.id
  const sensors = (image?.rules ?? [])
    .filter((rule) => rule.channel === index)
    .map((rule) => ({ ...rule, channel: null, sensor: image!.sensors[rule.sensor] }))
  const schedules = (image?.schedules ?? [])
    .filter((one) => one.channel === index)
    .map((one) => ({ ...one, channel: null }))
  const { powerUp: _powerUp, waitMs: _waitMs, otherwise: _otherwise, ...always } = row ?? {}
  return {
    ...part(`relay ${channel.id}`, `relay and limits of ${channel.name}`, [
      row && { ...always, contact: position },
      channel.kind,
    ]),
    ...part(`rules ${channel.id}`, `rules of ${channel.name}`, [sensors, schedules]),
    ...(position === undefined ? {} : inputSlice({ site, image } as Whole, position)),
  }
}

/** What a channel does when power comes: for tests that let it come. */
const powerUpSlice = ({ image }: Whole, channel: Channel): Slice => {
  const row = image?.channels.find(({ id }) => id === channel.id)
  return part(`power ${channel.id}`, `what ${channel.name} does after a power cut`, [
    row?.powerUp,
    row?.waitMs,
    row?.otherwise,
  ])
}

/** A switch with everything that it does, its gate among it. */
function inputSlice({ site, image }: Whole, id: string): Slice {
  const input = inputOf(site, id)
  const index = image?.inputs.findIndex((row) => row.id === id) ?? -1
  if (!input || !image || index < 0) return part(`switch ${id}`, `switch ${input?.name ?? id}`, input)
  const row = image.inputs[index]!
  const does = image.bindings
    .filter(({ input: of }) => of === index)
    .map((binding) => [binding.gesture, aimed(image, binding)])
  const gate = row.gate === undefined ? {} : inputSlice({ site, image } as Whole, image.inputs[row.gate]!.id)
  return { ...part(`switch ${id}`, `switch ${input.name}`, [{ ...row, gate: null }, does]), ...gate }
}

/** All that a way goes over, from the hand to the board. */
export function waySlice(whole: Whole, way: Way): Slice {
  const { site, image } = whole
  switch (way.kind) {
    case 'wall':
      return inputSlice(whole, way.input)
    case 'remote': {
      const remote = site.remotes.find(({ id }) => id === way.remote)
      const key = remote?.keys.find(({ id }) => id === way.key)
      const does = (image?.keys ?? []).map((row) => [
        row.protocol,
        row.address,
        row.command,
        row.everyMs,
        aimed(image!, row),
      ])
      return {
        ...part(`key ${way.remote} ${way.key}`, `key ${key?.name ?? way.key}`, [key?.code, key?.repeat]),
        ...part('keys', 'keys of the receiver', [image?.receiver, does]),
      }
    }
    case 'link': {
      const link = site.links.find(({ id }) => id === way.link)
      const does = (image?.chars ?? []).map((row) => [row.char, row.source, aimed(image!, row)])
      return part(`line ${way.link}`, `line ${link?.name ?? way.link}`, [
        link && { ...link, name: null },
        image?.serial,
        image?.line,
        does,
      ])
    }
    case 'app':
      return { ...linkSlice(whole), ...serviceSlice(whole, way.service, way.point) }
    case 'hub':
      return { ...linkSlice(whole), ...hubSlice(whole, way.hub, way.entity) }
    case 'voice':
      return { ...linkSlice(whole), ...voiceSlice(whole, way) }
  }
}

function serviceSlice({ site, controller, image }: Whole, id: string, point: string): Slice {
  const service = holdersOf(site).find((held) => held.service.id === id)?.service
  const found = service?.points.find((one) => one.id === point)
  const rows = (image?.points ?? []).filter(({ vp }) => vp === found?.vp)
  const widgets = service?.widgets.filter((widget) => widget.point === point)
  const {
    points: _points,
    widgets: _widgets,
    name: _name,
    ...settings
  } = service ?? { points: [], widgets: [], name: '' }
  return {
    ...part(`service ${id}`, `service ${service?.name ?? id}`, settings),
    ...part(`point ${point}`, `point ${found?.vp === undefined ? point : `vp${found.vp}`}`, [
      found && { ...found, name: null },
      rows.map((row) => [row.carries, row.min, row.max, row.reports, row.link, image!.channels[row.index]?.id]),
      widgets?.map((widget) => ({ ...widget, name: null })),
      controller,
    ]),
  }
}

function hubSlice({ site, controller, image }: Whole, id: string, entity: string): Slice {
  const hub = site.hubs.find((one) => one.id === id)
  const found = hub?.entities.find((one) => one.id === entity)
  const rows = (image?.points ?? []).map((row) => [
    row.vp,
    row.carries,
    row.min,
    row.max,
    row.link,
    image!.channels[row.index]?.id,
  ])
  const { entities: _entities, name: _name, ...settings } = hub ?? { entities: [], name: '' }
  return {
    ...part(`hub ${id}`, `hub ${hub?.name ?? id}`, [settings, controller]),
    ...part(`entity ${entity}`, `entity ${found?.name ?? entity}`, [
      found?.topic,
      hub?.kind === 'broker' ? null : rows,
    ]),
  }
}

/** What is spoken: other names can sound like it. */
function voiceSlice(whole: Whole, way: Extract<Way, { kind: 'voice' }>): Slice {
  const { site } = whole
  const names = site.ways.flatMap((one) => (one.kind === 'voice' ? [[one.name, one.channel]] : []))
  const groups = site.groups.map((group) => [group.id, group.ways])
  const through = way.through === null ? undefined : site.ways.find(({ id }) => id === way.through)
  const service = holdersOf(site).find((held) => held.service.id === way.service)?.service
  return {
    ...part('spoken', 'spoken names', [way, names, groups]),
    ...part(
      `voice ${way.service}`,
      `voice service ${service?.name ?? way.service}`,
      service && { ...service, name: null },
    ),
    ...(through ? waySlice(whole, through) : {}),
  }
}

/** Everything of the board: for tests of the whole. */
function everything(whole: Whole): Slice {
  const { site, controller, image } = whole
  return {
    ...part('image', 'tables of the board', image),
    ...linkSlice(whole),
    ...part('services', 'services and hubs', [site.services, site.hubs]),
    ...site.channels
      .filter((channel) => channel.controller === controller)
      .reduce<Slice>(
        (all, { id, name }) => ({ ...all, ...part(`ways ${id}`, `ways of ${name}`, waysTo(site, id)) }),
        {},
      ),
  }
}

const everyWay = (whole: Whole, channel: Channel): Slice =>
  Object.assign({}, ...waysTo(whole.site, channel.id).map((way) => waySlice(whole, way))) as Slice

/** When outputs come on, and when a state is kept. */
const startSlice = ({ image }: Whole): Slice => part('start', 'times of the start', [image?.staggerMs, image?.storeMs])

/** What one test of the list hangs on. */
export function sliceOf(whole: Whole, item: Pick<TestItem, 'key' | 'stage' | 'channel' | 'way'>): Slice {
  const { site } = whole
  const board = boardSlice(whole)
  const channel = item.channel === null ? undefined : channelOf(site, item.channel)
  const way = item.way === null ? undefined : site.ways.find(({ id }) => id === item.way)
  if (channel && way) return { ...board, ...channelSlice(whole, channel), ...waySlice(whole, way) }
  if (channel && item.stage === 'load')
    return {
      ...board,
      ...channelSlice(whole, channel),
      ...part(`load ${channel.id}`, `load of ${channel.name}`, loadOf(site, channel.load)),
    }
  if (channel && !/:(outage|never|rule):/.test(`:${item.key}`))
    return {
      ...board,
      ...linkSlice(whole),
      ...channelSlice(whole, channel),
      ...powerUpSlice(whole, channel),
      ...everyWay(whole, channel),
      ...(item.stage === 'no-load' ? startSlice(whole) : {}),
    }
  const group = /^alone:group:([a-z0-9-]+):/.exec(item.key)?.[1]
  if (group !== undefined && groupOf(site, group))
    return {
      ...board,
      ...everything(whole),
      ...part(`group ${group}`, `group ${groupOf(site, group)!.name}`, groupOf(site, group)),
    }
  const main = mainOf(site, whole.controller)
  return { ...board, ...everything(whole), ...(main ? everything(wholeOf(site, main.id)) : {}) }
}
