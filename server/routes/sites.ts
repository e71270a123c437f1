import type { BodyOf } from '../../core/api'
import { checkSite, findingRow } from '../../core/findings'
import { isExportFormat, SITE_EXPORTS } from '../../core/outputs'
import {
  applyOperations,
  EditRefused,
  emptySite,
  lastTurn,
  parseSite,
  patchBetween,
  rebased,
  undoState,
  type HistoryEntry,
  type HistoryKind,
  type Operation,
  type Site,
} from '../../core/site'
import { refusedSite, storedSite, type Context } from '../context'
import { recordOf } from '../record'
import { exampleSite } from '../seed'
import { notFound, Refusal } from '../refusal'
import { DONE, serve, type Asked, type Served } from './serve'

/** What the next undo and redo of a tab would concern. */
const undoLabels = (context: Context, id: string, tab: string) => {
  const { undo, redo, elsewhere } = undoState(context.db.sites.history(id), tab || null)
  return {
    undo: undo.at(-1)?.label ?? null,
    redo: redo.at(-1)?.label ?? null,
    elsewhere: elsewhere?.label ?? null,
  }
}

interface Change {
  readonly kind: HistoryKind
  readonly of: number | null
  readonly label: string
  readonly patch: readonly Operation[]
  /** the tab that makes it; empty: none says who it is */
  readonly tab: string
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
  context.live.tell({ kind: 'edit', site: id, revision: next, label: edit.label, tab: edit.tab })
  return { revision: next, ...undoLabels(context, id, edit.tab) }
}

/** What takes an edit back, or makes it again, on a document to which others have done something since. */
function onTopOf(context: Context, id: string, direction: Direction, entry: HistoryEntry): Operation[] {
  const { sites } = context.db
  const { label, inverse, patch } = sites.edit(id, entry.revision)!
  const { site } = storedSite(context, id)
  const since = lastTurn(sites.history(id), entry)
  const then = sites.inversesAfter(id, since).reduce(applyOperations, site)
  const operations = rebased(direction === 'undo' ? inverse : patch, patchBetween(then, site))
  if (operations) return operations
  throw new Refusal(
    409,
    'changed-since',
    `“${label}” cannot be ${direction === 'undo' ? 'taken back' : 'made again'} alone: the same place has been ` +
      'changed in another tab since',
  )
}

type Direction = 'undo' | 'redo'

/** An undo or a redo is itself a change, which names the one that it takes back or makes again. */
function walk(
  context: Context,
  direction: Direction,
  { params, revision, tab, body }: Pick<Asked<Direction>, 'params' | 'revision' | 'tab' | 'body'>,
) {
  const id = params.site
  storedSite(context, id)
  const history = context.db.sites.history(id)
  const entry = undoState(history, body?.whose === 'any' ? null : tab || null)[direction].at(-1)
  if (!entry) throw new Refusal(409, `nothing-to-${direction}`, `there is nothing to ${direction}`)
  const { label, revision: of } = entry
  const patch = onTopOf(context, id, direction, entry)
  const answer = change(context, id, revision, { kind: direction, of, label, patch, tab })
  return { ...answer, label, patch: [...patch] }
}

/** A site document that comes whole, checked as it is when it is opened. */
function newFromDocument(context: Context, document: unknown): Site {
  const parsed = parseSite(document)
  if (!parsed.ok) throw refusedSite(parsed.error)
  if (context.db.sites.get(parsed.value.id))
    throw new Refusal(409, 'id-taken', `id: there is already a site "${parsed.value.id}"`)
  return parsed.value
}

/**
 * A site from a name, from a document, from an example, or as a copy; a copy is the document alone, without what
 * happened to it.
 */
function newSite(context: Context, body: BodyOf<'newSite'>, taken: readonly string[]): Site {
  if ('copyOf' in body)
    return { ...storedSite(context, body.copyOf).site, id: emptySite(body.name, taken).id, name: body.name }
  if ('example' in body) {
    const example = exampleSite(context, body.example)
    return { ...example, id: emptySite(example.name, taken).id }
  }
  return 'name' in body ? emptySite(body.name, taken, body.mains) : newFromDocument(context, body.site)
}

const deletion = (context: Context): Served =>
  serve('deleteSite', async ({ params, body }) => {
    const { site } = storedSite(context, params.site)
    if (body.name.trim() !== site.name)
      throw new Refusal(409, 'name-differs', `the site’s name is “${site.name}”: type it to delete the site`)
    context.db.sites.remove(site.id)
    context.hands.leave(site.id)
    await context.house.leave(site.id)
    context.live.tell({ kind: 'gone', site: site.id })
    return DONE
  })

export function siteRoutes(context: Context): Served[] {
  const { sites } = context.db
  return [
    deletion(context),
    serve('sites', () => ({ sites: sites.list() })),
    serve('newSite', ({ body }) => {
      const taken = sites.list().map((row) => row.id)
      const site = newSite(context, body, taken)
      sites.create(site, context.now())
      context.house.follow(site)
      return { id: site.id, revision: 0 }
    }),
    serve('site', ({ params, tab, response }) => {
      const { revision, site } = storedSite(context, params.site)
      response.set('ETag', `"${revision}"`)
      return { revision, site, ...undoLabels(context, params.site, tab) }
    }),
    serve('keepEdit', ({ params, revision, tab, body: { label, patch } }) =>
      change(context, params.site, revision, { kind: 'edit', of: null, label, patch: patch as Operation[], tab }),
    ),
    serve('undo', (asked) => walk(context, 'undo', asked)),
    serve('redo', (asked) => walk(context, 'redo', asked)),
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
