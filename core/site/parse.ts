import { z } from 'zod'
import { SITE_VERSION } from './limits'
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

/** Every reference in the document with the set it must be in. */
function* referencesOf(site: Site): Generator<Reference> {
  const rooms = idsOf(site.rooms)
  const controllers = idsOf(site.controllers)
  const channels = idsOf(site.channels)
  const inputs = idsOf(site.inputs)
  const loads = idsOf(site.loads)
  for (const list of ['controllers', 'channels', 'inputs'] as const) {
    for (const [i, item] of site[list].entries()) {
      if (item.room) yield { place: [list, i, 'room'], id: item.room, among: rooms, thing: 'room' }
    }
  }
  for (const list of ['channels', 'inputs'] as const) {
    for (const [i, item] of site[list].entries()) yield { place: [list, i, 'controller'], id: item.controller, among: controllers, thing: 'controller' }
  }
  for (const [i, channel] of site.channels.entries()) {
    if (channel.load) yield { place: ['channels', i, 'load'], id: channel.load, among: loads, thing: 'load' }
  }
  const points = new Map(site.services.map((service) => [service.id as string, idsOf(service.points)]))
  for (const [s, service] of site.services.entries()) {
    for (const [i, point] of service.points.entries()) yield { place: ['services', s, 'points', i, 'controller'], id: point.controller, among: controllers, thing: 'controller' }
    for (const [i, widget] of service.widgets.entries()) yield { place: ['services', s, 'widgets', i, 'point'], id: widget.point, among: points.get(service.id)!, thing: 'point' }
  }
  const entities = new Map(site.hubs.map((hub) => [hub.id as string, idsOf(hub.entities)]))
  for (const [h, hub] of site.hubs.entries()) {
    for (const [i, entity] of hub.entities.entries()) yield { place: ['hubs', h, 'entities', i, 'channel'], id: entity.channel, among: channels, thing: 'channel' }
  }
  for (const [i, way] of site.ways.entries()) {
    yield { place: ['ways', i, 'channel'], id: way.channel, among: channels, thing: 'channel' }
    if (way.kind === 'wall') yield { place: ['ways', i, 'input'], id: way.input, among: inputs, thing: 'input' }
    if (way.kind === 'app') {
      yield { place: ['ways', i, 'service'], id: way.service, among: idsOf(site.services), thing: 'service' }
      yield { place: ['ways', i, 'point'], id: way.point, among: points.get(way.service) ?? new Set(), thing: 'point' }
    }
    if (way.kind === 'hub') {
      yield { place: ['ways', i, 'hub'], id: way.hub, among: idsOf(site.hubs), thing: 'hub' }
      yield { place: ['ways', i, 'entity'], id: way.entity, among: entities.get(way.hub) ?? new Set(), thing: 'entity' }
    }
  }
}

/** Lists whose ids must be unique within the list. */
function* listsOf(site: Site): Generator<{ place: (string | number)[]; ids: string[] }> {
  for (const key of ['rooms', 'controllers', 'channels', 'inputs', 'loads', 'services', 'hubs', 'ways'] as const) {
    yield { place: [key], ids: site[key].map((item) => item.id) }
  }
  for (const [s, service] of site.services.entries()) {
    yield { place: ['services', s, 'points'], ids: service.points.map((point) => point.id) }
    yield { place: ['services', s, 'widgets'], ids: service.widgets.map((widget) => widget.id) }
  }
  for (const [h, hub] of site.hubs.entries()) yield { place: ['hubs', h, 'entities'], ids: hub.entities.map((entity) => entity.id) }
}

/** The site document, checked whole: shape, unique ids, and every reference. */
export const SiteDocument = SiteShape.superRefine((site, context) => {
  for (const { place, ids } of listsOf(site)) {
    const seen = new Set<string>()
    for (const [i, id] of ids.entries()) {
      if (seen.has(id)) context.addIssue({ code: 'custom', path: [...place, i, 'id'], message: `the id "${id}" stands twice in this list` })
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

/** Checks plain data against the document's shape. The version comes first: a file from another time gets one line, not forty. */
export function parseSite(data: unknown): Parsed<Site> {
  if (typeof data !== 'object' || data === null || Array.isArray(data)) {
    return { ok: false, error: new SiteRefused('', `a site is a JSON object, this is ${Array.isArray(data) ? 'a list' : data === null ? 'null' : `a ${typeof data}`}`) }
  }
  const { format, version } = data as { format?: unknown; version?: unknown }
  if (format !== 'vestibule-site') return { ok: false, error: new SiteRefused('format', 'is not "vestibule-site": this is not a site file') }
  if (version !== SITE_VERSION) return { ok: false, error: new SiteRefused('version', `is ${JSON.stringify(version)}; this program reads version ${SITE_VERSION}`) }
  const result = SiteDocument.safeParse(data)
  return result.success ? { ok: true, value: result.data } : { ok: false, error: refusalOf(result.error) }
}

/** Reads a site file's text. Too large, truncated or otherwise unreadable text is refused with its place. */
export function readSite(text: string): Parsed<Site> {
  if (text.length > LARGEST_SITE_BYTES) {
    return { ok: false, error: new SiteRefused('', `the file holds ${(text.length / 1048576).toFixed(1)} MiB; a site is at most ${LARGEST_SITE_BYTES / 1048576} MiB`) }
  }
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch (error) {
    return { ok: false, error: new SiteRefused(whereJsonEnds(text, String((error as Error).message)), 'the text is not whole JSON') }
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
  return { $id: 'https://vestibule.invalid/site-1.schema.json', title: 'Vestibule site, version 1', ...z.toJSONSchema(SiteShape, { target: 'draft-2020-12', io: 'input' }) }
}
