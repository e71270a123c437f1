import { z } from 'zod'
import { SITE_VERSION } from './limits'
import { migrate } from './migrate'
import { SiteShape, type Site } from './schema'

/** Data that does not fit: `place` is where in the file, as a path a person can follow. */
export class SiteRefused extends Error {
  readonly code = 'site-refused'
  readonly place: string
  constructor(place: string, what: string) {
    super(place ? `${place}: ${what}` : what)
    this.place = place
  }
}

export type Parsed<T> = { ok: true; value: T } | { ok: false; error: SiteRefused }

/** Largest site file that is read, bytes. */
export const LARGEST_SITE_BYTES = 4 * 1024 * 1024

interface Reference {
  place: (string | number)[]
  id: string
  among: ReadonlySet<string>
  thing: string
}

const idsOf = (things: readonly { id: string }[]): ReadonlySet<string> => new Set(things.map((thing) => thing.id))

const LISTS = [
  'rooms',
  'controllers',
  'channels',
  'inputs',
  'loads',
  'sensors',
  'groups',
  'links',
  'services',
  'ways',
] as const
type List = (typeof LISTS)[number]
/** The ids of the document's own lists, each made once. */
type Sets = Readonly<Record<List, ReadonlySet<string>>>
const setsOf = (site: Site): Sets =>
  Object.fromEntries(LISTS.map((list) => [list, idsOf(site[list])])) as Record<List, ReadonlySet<string>>

/** A reference to a thing of one of the document's own lists. */
const to = (sets: Sets, list: List, id: string, ...place: (string | number)[]): Reference => ({
  place,
  id,
  among: sets[list],
  thing: list.slice(0, -1),
})

/**
 * A reference to a thing inside of another: a point of a service, a key of a remote; `things` of nobody: there is none.
 */
const within = (
  thing: string,
  things: readonly { id: string }[] | undefined,
  id: string,
  ...place: (string | number)[]
): Reference => ({ place, id, among: idsOf(things ?? []), thing })

const keysOf = (site: Site, remote: string) => site.remotes.find(({ id }) => id === remote)?.keys

function* boardReferences(site: Site, sets: Sets): Generator<Reference> {
  for (const list of ['controllers', 'channels', 'inputs'] as const)
    for (const [i, item] of site[list].entries()) if (item.room) yield to(sets, 'rooms', item.room, list, i, 'room')
  for (const list of ['channels', 'inputs', 'sensors', 'remotes', 'links'] as const)
    for (const [i, item] of site[list].entries()) yield to(sets, 'controllers', item.controller, list, i, 'controller')
  for (const [i, channel] of site.channels.entries()) {
    if (channel.load) yield to(sets, 'loads', channel.load, 'channels', i, 'load')
    if (channel.kind === 'pulsed' && channel.contact)
      yield to(sets, 'inputs', channel.contact, 'channels', i, 'contact')
  }
  for (const [i, { feed }] of site.loads.entries())
    if (feed.from === 'load') yield to(sets, 'loads', feed.load, 'loads', i, 'feed', 'load')
  for (const [i, input] of site.inputs.entries())
    if (input.kind === 'selector' && input.gate) yield to(sets, 'inputs', input.gate, 'inputs', i, 'gate')
  for (const [i, { part, controller }] of site.sensors.entries()) {
    const parts = site.controllers.find(({ id }) => id === controller)?.parts
    if (part) yield within('part', parts, part, 'sensors', i, 'part')
  }
  for (const [i, link] of site.links.entries())
    if (link.other) yield to(sets, 'controllers', link.other, 'links', i, 'other')
}

function* serviceReferences(site: Site, sets: Sets): Generator<Reference> {
  for (const [s, { points, widgets }] of site.services.entries()) {
    for (const [i, { controller, carries }] of points.entries()) {
      yield to(sets, 'controllers', controller, 'services', s, 'points', i, 'controller')
      if (carries.kind === 'sensor')
        yield to(sets, 'sensors', carries.sensor, 'services', s, 'points', i, 'carries', 'sensor')
      if (carries.kind === 'group')
        yield to(sets, 'groups', carries.group, 'services', s, 'points', i, 'carries', 'group')
    }
    for (const [i, widget] of widgets.entries())
      yield within('point', points, widget.point, 'services', s, 'widgets', i, 'point')
  }
  for (const [h, hub] of site.hubs.entries())
    for (const [i, entity] of hub.entities.entries())
      yield to(sets, 'channels', entity.channel, 'hubs', h, 'entities', i, 'channel')
  const accounts = new Set([...sets.services, ...idsOf(site.hubs)])
  for (const [s, { linkedThrough }] of site.services.entries())
    if (linkedThrough)
      yield { place: ['services', s, 'linkedThrough'], id: linkedThrough, among: accounts, thing: 'service or hub' }
}

function* wayReferences(site: Site, sets: Sets): Generator<Reference> {
  for (const [i, way] of site.ways.entries()) {
    yield to(sets, 'channels', way.channel, 'ways', i, 'channel')
    switch (way.kind) {
      case 'wall':
        yield to(sets, 'inputs', way.input, 'ways', i, 'input')
        break
      case 'remote':
        yield within('key', keysOf(site, way.remote), way.key, 'ways', i, 'key')
        break
      case 'app': {
        const service = site.services.find(({ id }) => id === way.service)
        yield within('point', service?.points, way.point, 'ways', i, 'point')
        break
      }
      case 'hub': {
        const hub = site.hubs.find(({ id }) => id === way.hub)
        yield within('entity', hub?.entities, way.entity, 'ways', i, 'entity')
        break
      }
      case 'voice':
        yield to(sets, 'services', way.service, 'ways', i, 'service')
        if (way.through) yield to(sets, 'ways', way.through, 'ways', i, 'through')
        break
      case 'link':
        yield to(sets, 'links', way.link, 'ways', i, 'link')
        break
    }
  }
}

function* groupWayReferences(site: Site, sets: Sets): Generator<Reference> {
  const hubs = idsOf(site.hubs)
  for (const [i, { modeEntity }] of site.controllers.entries())
    if (modeEntity)
      yield { place: ['controllers', i, 'modeEntity', 'hub'], id: modeEntity.hub, among: hubs, thing: 'hub' }
  for (const [i, { ways = [] }] of site.groups.entries())
    for (const [w, way] of ways.entries()) {
      const place = ['groups', i, 'ways', w] as const
      if (way.kind === 'hub') yield { place: [...place, 'hub'], id: way.hub, among: hubs, thing: 'hub' }
      else yield to(sets, 'services', way.service, ...place, 'service')
      const points = way.kind === 'app' ? site.services.find(({ id }) => id === way.service)?.points : undefined
      if (way.kind === 'app') yield within('point', points, way.point, ...place, 'point')
    }
}

function* togetherReferences(site: Site, sets: Sets): Generator<Reference> {
  for (const [i, group] of site.groups.entries())
    for (const [m, member] of group.members.entries()) yield to(sets, 'channels', member, 'groups', i, 'members', m)
  for (const [i, rule] of site.rules.entries()) {
    yield to(sets, 'channels', rule.channel, 'rules', i, 'channel')
    if (rule.kind === 'threshold') yield to(sets, 'sensors', rule.sensor, 'rules', i, 'sensor')
  }
  for (const [i, control] of site.controls.entries()) {
    const { source } = control
    const place = ['controls', i, 'source'] as const
    if (control.kind === 'group') yield to(sets, 'groups', control.group, 'controls', i, 'group')
    else yield to(sets, 'controllers', control.controller, 'controls', i, 'controller')
    if (source.kind === 'wall') yield to(sets, 'inputs', source.input, ...place, 'input')
    else if (source.kind === 'remote') yield within('key', keysOf(site, source.remote), source.key, ...place, 'key')
    else yield to(sets, 'links', source.link, ...place, 'link')
  }
}

/** Every reference in the document with the set it must be in. */
function* referencesOf(site: Site): Generator<Reference> {
  const sets = setsOf(site)
  yield* boardReferences(site, sets)
  yield* serviceReferences(site, sets)
  yield* wayReferences(site, sets)
  yield* togetherReferences(site, sets)
  yield* groupWayReferences(site, sets)
}

/** Lists whose ids must be unique within the list. */
function* listsOf(site: Site): Generator<{ place: (string | number)[]; ids: string[] }> {
  for (const key of [
    'rooms',
    'controllers',
    'channels',
    'groups',
    'inputs',
    'sensors',
    'loads',
    'services',
    'hubs',
    'remotes',
    'links',
    'rules',
    'ways',
    'controls',
    'templates',
  ] as const) {
    yield { place: [key], ids: site[key].map((item) => item.id) }
  }
  for (const [c, controller] of site.controllers.entries())
    yield { place: ['controllers', c, 'parts'], ids: controller.parts.map((part) => part.id) }
  for (const [s, service] of site.services.entries()) {
    yield { place: ['services', s, 'points'], ids: service.points.map((point) => point.id) }
    yield { place: ['services', s, 'widgets'], ids: service.widgets.map((widget) => widget.id) }
  }
  for (const [h, hub] of site.hubs.entries())
    yield { place: ['hubs', h, 'entities'], ids: hub.entities.map((entity) => entity.id) }
  for (const [r, remote] of site.remotes.entries())
    yield { place: ['remotes', r, 'keys'], ids: remote.keys.map((key) => key.id) }
}

/** The site document, checked whole: shape, unique ids, and every reference. */
export const SiteDocument = SiteShape.superRefine((site, context) => {
  for (const { place, ids } of listsOf(site)) {
    const seen = new Set<string>()
    for (const [i, id] of ids.entries()) {
      if (seen.has(id))
        context.addIssue({
          code: 'custom',
          path: [...place, i, 'id'],
          message: `the id "${id}" stands twice in this list`,
        })
      seen.add(id)
    }
  }
  for (const { place, id, among, thing } of referencesOf(site)) {
    if (!among.has(id)) context.addIssue({ code: 'custom', path: place, message: `there is no ${thing} "${id}"` })
  }
})

/** Writes a Zod path as a person would say it: `channels[2].name`. */
export function placeOf(path: readonly PropertyKey[]): string {
  return path.map((step, i) => (typeof step === 'number' ? `[${step}]` : `${i ? '.' : ''}${String(step)}`)).join('')
}

/** Turns the first of Zod's issues into one line with its place. */
export function refusalOf(error: z.ZodError): SiteRefused {
  const issue = error.issues[0]
  if (!issue) return new SiteRefused('', 'not a site')
  const more = error.issues.length > 1 ? ` (and ${error.issues.length - 1} more)` : ''
  return new SiteRefused(placeOf(issue.path), `${issue.message}${more}`)
}

/**
 * Checks plain data against the document's shape. The version comes first: a file from another time gets one line, not
 * forty.
 */
export function parseSite(data: unknown): Parsed<Site> {
  if (typeof data !== 'object' || data === null || Array.isArray(data)) {
    return {
      ok: false,
      error: new SiteRefused(
        '',
        'a site is a JSON object, this is ' +
          `${Array.isArray(data) ? 'a list' : data === null ? 'null' : `a ${typeof data}`}`,
      ),
    }
  }
  const { format, version } = data as { format?: unknown; version?: unknown }
  if (format !== 'vestibule-site')
    return { ok: false, error: new SiteRefused('format', 'is not "vestibule-site": this is not a site file') }
  const present = migrate(data)
  if ((present as { version?: unknown }).version !== SITE_VERSION)
    return {
      ok: false,
      error: new SiteRefused(
        'version',
        `is ${JSON.stringify(version)}; this program reads versions 1 to ${SITE_VERSION}`,
      ),
    }
  const result = SiteDocument.safeParse(present)
  return result.success ? { ok: true, value: result.data } : { ok: false, error: refusalOf(result.error) }
}

/** Reads a site file's text. Too large, truncated or otherwise unreadable text is refused with its place. */
export function readSite(text: string): Parsed<Site> {
  if (text.length > LARGEST_SITE_BYTES) {
    return {
      ok: false,
      error: new SiteRefused(
        '',
        `the file holds ${(text.length / 1048576).toFixed(1)} MiB; a site is at most ` +
          `${LARGEST_SITE_BYTES / 1048576} MiB`,
      ),
    }
  }
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch (error) {
    return {
      ok: false,
      error: new SiteRefused(whereJsonEnds(text, String((error as Error).message)), 'the text is not whole JSON'),
    }
  }
  return parseSite(data)
}

/** "line 12, column 4" from the position that the JSON parser names, or the end of the text. */
function whereJsonEnds(text: string, message: string): string {
  const at = /position (\d+)/.exec(message)
  const before = text.slice(0, at ? Number(at[1]) : text.length).split('\n')
  return `line ${before.length}, column ${(before.at(-1) ?? '').length + 1}`
}

/** The document as text: two-space JSON in the schema's key order, ending in a line feed. */
export function writeSite(site: Site): string {
  return `${JSON.stringify(SiteShape.parse(site), null, 2)}\n`
}

/** The published JSON Schema (draft 2020-12) of a site file. */
export function siteJsonSchema(): object {
  return {
    $id: `https://vestibule.invalid/site-${SITE_VERSION}.schema.json`,
    title: `Vestibule site, version ${SITE_VERSION}`,
    ...z.toJSONSchema(SiteShape, { target: 'draft-2020-12', io: 'input' }),
  }
}
