import { checkSite, findingRow } from '../../core/findings'
import { isExportFormat, SITE_EXPORTS } from '../../core/outputs'
import {
  applyOperations,
  EditRefused,
  emptySite,
  parseSite,
  patchBetween,
  type HistoryKind,
  type Operation,
  type Site,
} from '../../core/site'
import { refusedSite, storedSite, type Context } from '../context'
import { recordOf } from '../record'
import { notFound, Refusal } from '../refusal'
import { serve, type Served } from './serve'

const undoLabels = (context: Context, id: string) => {
  const { undo, redo } = context.db.sites.history(id)
  return { undo: undo.at(-1)?.label ?? null, redo: redo.at(-1)?.label ?? null }
}

interface Change {
  readonly kind: HistoryKind
  readonly of: number | null
  readonly label: string
  readonly patch: readonly Operation[]
}

/** The document after a patch, checked whole. */
function changed(site: Site, patch: readonly Operation[]): Site {
  let after: Site
  try {
    after = applyOperations(site, patch)
  } catch (error) {
    if (error instanceof EditRefused) throw new Refusal(422, error.code, error.message)
    throw error
  }
  const parsed = parseSite(after)
  if (!parsed.ok) throw refusedSite(parsed.error)
  if (parsed.value.id !== site.id) throw new Refusal(422, 'id-is-fixed', 'id: a site keeps its id')
  return parsed.value
}

/** Applies a change against the revision that its maker saw, stores it, and tells the other tabs. */
function change(context: Context, id: string, revision: number, edit: Change) {
  const stored = storedSite(context, id)
  if (stored.revision !== revision)
    throw new Refusal(
      412,
      'revision-moved',
      `the site is at revision ${stored.revision}, this change was made on ${revision}: load it again`,
    )
  const after = changed(stored.site, edit.patch)
  const next = stored.revision + 1
  const inverse = patchBetween(after, stored.site)
  context.db.sites.append(after, next, { ...edit, inverse }, context.now())
  context.house.follow(after)
  context.live.tell({ kind: 'edit', site: id, revision: next })
  return { revision: next, ...undoLabels(context, id) }
}

/** An undo or a redo is itself a change, which names the one that it takes back or makes again. */
function walk(context: Context, direction: 'undo' | 'redo', id: string, revision: number) {
  const { sites } = context.db
  storedSite(context, id)
  const entry = sites.history(id)[direction].at(-1)
  if (!entry) throw new Refusal(409, `nothing-to-${direction}`, `there is nothing to ${direction}`)
  const { label, inverse, patch, revision: of } = sites.edit(id, entry.revision)!
  const operations = direction === 'undo' ? inverse : patch
  const answer = change(context, id, revision, { kind: direction, of, label, patch: operations })
  return { ...answer, label, patch: [...operations] }
}

/** A site document that comes whole, checked as it is when it is opened. */
function newFromDocument(context: Context, document: unknown): Site {
  const parsed = parseSite(document)
  if (!parsed.ok) throw refusedSite(parsed.error)
  if (context.db.sites.get(parsed.value.id))
    throw new Refusal(409, 'id-taken', `id: there is already a site "${parsed.value.id}"`)
  return parsed.value
}

export function siteRoutes(context: Context): Served[] {
  const { sites } = context.db
  return [
    serve('sites', () => ({ sites: sites.list() })),
    serve('newSite', ({ body }) => {
      const taken = sites.list().map((row) => row.id)
      const site = 'name' in body ? emptySite(body.name, taken) : newFromDocument(context, body.site)
      sites.create(site, context.now())
      context.house.follow(site)
      return { id: site.id, revision: 0 }
    }),
    serve('site', ({ params, response }) => {
      const { revision, site } = storedSite(context, params.site)
      response.set('ETag', `"${revision}"`)
      return { revision, site, ...undoLabels(context, params.site) }
    }),
    serve('keepEdit', ({ params, revision, body: { label, patch } }) =>
      change(context, params.site, revision, { kind: 'edit', of: null, label, patch: patch as Operation[] }),
    ),
    serve('undo', ({ params, revision }) => walk(context, 'undo', params.site, revision)),
    serve('redo', ({ params, revision }) => walk(context, 'redo', params.site, revision)),
    serve('findings', ({ params }) => {
      const { site } = storedSite(context, params.site)
      return { findings: checkSite(site, recordOf(context, site)).map((finding) => findingRow(site, finding)) }
    }),
    serve('export', ({ params, response }) => {
      const { site } = storedSite(context, params.site)
      if (!isExportFormat(params.format)) throw notFound(`the format "${params.format}"`)
      const { file, type, make } = SITE_EXPORTS[params.format]
      response.attachment(`${site.id}${file}`).type(type)
      return make(site)
    }),
  ]
}
