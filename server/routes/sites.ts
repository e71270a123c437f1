import { z } from 'zod'
import {
  applyOperations,
  EditRefused,
  emptySite,
  parseSite,
  patchBetween,
  siteJsonSchema,
  writeSite,
  type HistoryKind,
  type Operation,
  type Site,
} from '../../core/site'
import {
  asyncApiText,
  channelsCsv,
  hubFiles,
  hubSecretsExample,
  infraredTable,
  pointsCsv,
  quotaTable,
  serialTable,
  voiceTable,
} from '../../core/outputs'
import { checkSite, fixEdit, whereKey } from '../../core/findings'
import { refusedSite, storedSite, type Context } from '../context'
import { recordOf } from '../record'
import { notFound, Refusal } from '../refusal'
import { matchedRevision, parameter, route, type Route } from './define'

const Pointer = z.string().max(400)
const PatchOperation = z.discriminatedUnion('op', [
  z.strictObject({ op: z.literal('add'), path: Pointer, value: z.unknown() }),
  z.strictObject({ op: z.literal('remove'), path: Pointer }),
  z.strictObject({ op: z.literal('replace'), path: Pointer, value: z.unknown() }),
  z.strictObject({ op: z.literal('move'), from: Pointer, path: Pointer }),
  z.strictObject({ op: z.literal('copy'), from: Pointer, path: Pointer }),
  z.strictObject({ op: z.literal('test'), path: Pointer, value: z.unknown() }),
])
const EditBody = z.strictObject({
  label: z.string().trim().min(1).max(200),
  patch: z.array(PatchOperation).min(1).max(5000),
})
const NewSite = z.union([
  z.strictObject({ name: z.string().trim().min(1).max(60) }),
  z.strictObject({ site: z.unknown() }),
])

/** Tables and documents that are made of the whole site. */
const FORMATS: Record<string, { file: string; type: string; make: (site: Site) => string }> = {
  csv: { file: 'channels.csv', type: 'text/csv', make: channelsCsv },
  'points-csv': { file: 'points.csv', type: 'text/csv', make: pointsCsv },
  'hub-yaml': { file: 'hub.yaml', type: 'application/yaml', make: hubFiles },
  'hub-secrets': { file: 'hub-secrets.example.yaml', type: 'application/yaml', make: hubSecretsExample },
  asyncapi: { file: 'asyncapi.yaml', type: 'application/yaml', make: asyncApiText },
  'serial-table': { file: 'serial-table.csv', type: 'text/csv', make: serialTable },
  voice: { file: 'voice.csv', type: 'text/csv', make: voiceTable },
  infrared: { file: 'infrared.csv', type: 'text/csv', make: infraredTable },
  quota: { file: 'quota.csv', type: 'text/csv', make: quotaTable },
}

const undoLabels = (context: Context, id: string) => {
  const { undo, redo } = context.db.sites.history(id)
  return { undo: undo.at(-1)?.label ?? null, redo: redo.at(-1)?.label ?? null }
}

/**
 * Applies a change against the revision that its maker saw, checks the document whole, stores it, and tells the other
 * tabs.
 */
function change(
  context: Context,
  id: string,
  revision: number,
  edit: { kind: HistoryKind; of: number | null; label: string; patch: readonly Operation[] },
) {
  const stored = storedSite(context, id)
  if (stored.revision !== revision)
    throw new Refusal(
      412,
      'revision-moved',
      `the site is at revision ${stored.revision}, this change was made on ${revision}: load it again`,
    )
  let after: Site
  try {
    after = applyOperations(stored.site, edit.patch)
  } catch (error) {
    if (error instanceof EditRefused) throw new Refusal(422, error.code, error.message)
    throw error
  }
  const parsed = parseSite(after)
  if (!parsed.ok) throw refusedSite(parsed.error)
  if (parsed.value.id !== id) throw new Refusal(422, 'id-is-fixed', 'id: a site keeps its id')
  const next = stored.revision + 1
  context.db.sites.append(
    parsed.value,
    next,
    { ...edit, inverse: patchBetween(parsed.value, stored.site) },
    context.now(),
  )
  context.house.follow(parsed.value)
  context.live.tell({ kind: 'edit', site: id, revision: next })
  return { revision: next, ...undoLabels(context, id) }
}

export function siteRoutes(context: Context): Route[] {
  const { sites } = context.db
  const walk = (direction: 'undo' | 'redo') => (id: string, revision: number) => {
    const entry = sites.history(id)[direction].at(-1)
    if (!entry) throw new Refusal(409, `nothing-to-${direction}`, `there is nothing to ${direction}`)
    const edit = sites.edit(id, entry.revision)!
    const patch = direction === 'undo' ? edit.inverse : edit.patch
    const answer = change(context, id, revision, { kind: direction, of: edit.revision, label: edit.label, patch })
    return { ...answer, label: edit.label, patch }
  }
  return [
    route({ method: 'get', path: '/api/sites', summary: 'Sites', handle: () => ({ sites: sites.list() }) }),
    route({
      method: 'post',
      path: '/api/sites',
      summary: 'A new site, empty or from a site document',
      body: NewSite,
      handle: (_request, response, body) => {
        let site: Site
        if ('name' in body)
          site = emptySite(
            body.name,
            sites.list().map((row) => row.id),
          )
        else {
          const parsed = parseSite(body.site)
          if (!parsed.ok) throw refusedSite(parsed.error)
          site = parsed.value
          if (sites.get(site.id)) throw new Refusal(409, 'id-taken', `id: there is already a site "${site.id}"`)
        }
        sites.create(site, context.now())
        context.house.follow(site)
        response.status(201)
        return { id: site.id, revision: 0 }
      },
    }),
    route({
      method: 'get',
      path: '/api/sites/:site',
      summary: 'A site document with its revision and what can be undone',
      handle: (request, response) => {
        const id = parameter(request, 'site')
        const stored = storedSite(context, id)
        response.set('ETag', `"${stored.revision}"`)
        return { revision: stored.revision, site: stored.site, ...undoLabels(context, id) }
      },
    }),
    route({
      method: 'patch',
      path: '/api/sites/:site',
      summary: 'Change a site by RFC 6902 operations',
      body: EditBody,
      matches: true,
      handle: (request, _response, body) =>
        change(context, parameter(request, 'site'), matchedRevision(request), {
          kind: 'edit',
          of: null,
          label: body.label,
          patch: body.patch as Operation[],
        }),
    }),
    route({
      method: 'post',
      path: '/api/sites/:site/undo',
      summary: 'Take the last change back',
      matches: true,
      handle: (request) =>
        walk('undo')(storedSite(context, parameter(request, 'site')).site.id, matchedRevision(request)),
    }),
    route({
      method: 'post',
      path: '/api/sites/:site/redo',
      summary: 'Make the change again that was taken back',
      matches: true,
      handle: (request) =>
        walk('redo')(storedSite(context, parameter(request, 'site')).site.id, matchedRevision(request)),
    }),
    route({
      method: 'get',
      path: '/api/sites/:site/findings',
      summary: 'Findings of a site, with their fixes as patches',
      handle: (request) => {
        const { site } = storedSite(context, parameter(request, 'site'))
        return {
          findings: checkSite(site, recordOf(context, site)).map((finding) => ({
            ...finding,
            key: whereKey(finding.where),
            fixes: finding.fixes.map((fix) => ({ label: fix.label, patch: fixEdit(site, finding, fix).patch })),
          })),
        }
      },
    }),
    route({
      method: 'get',
      path: '/api/sites/:site/export/:format',
      summary:
        'The site in an open format: site, schema, csv, points-csv, hub-yaml, hub-secrets, asyncapi, ' +
        'serial-table, voice, infrared, quota',
      answers: '*/*',
      handle: (request, response) => {
        const { site } = storedSite(context, parameter(request, 'site'))
        const format = parameter(request, 'format')
        const table = Object.hasOwn(FORMATS, format) ? FORMATS[format]! : undefined
        if (table) response.attachment(`${site.id}-${table.file}`).type(table.type).send(table.make(site))
        else if (format === 'site')
          response.attachment(`${site.id}.json`).type('application/json').send(writeSite(site))
        else if (format === 'schema')
          response.type('application/schema+json').send(JSON.stringify(siteJsonSchema(), null, 2))
        else throw notFound(`the format "${format}"`)
      },
    }),
  ]
}
