import { idMaker, Point, type PointId, type Site } from '../site'
import { differences, previewOf, type Change, type Preview } from './preview'
import { filledColumns, named, NAME_WANTED, readRows, wholeIn, type Row, type RowError } from './rows'

const COLUMNS = [
  'service',
  'controller',
  'vp',
  'name',
  'key',
  'carries',
  'type',
  'min',
  'max',
  'step',
  'default',
  'unit',
  'access',
  'update_ms',
] as const
const NEEDED = ['service', 'controller', 'vp', 'name', 'min', 'max'] as const

const {
  vp: VP,
  min: MIN,
  max: MAX,
  step: STEP,
  default: DEFAULT,
  unit: UNIT,
  access: ACCESS,
  type: TYPE,
  key: KEY,
} = Point.shape
const EVERY_MS = Point.shape.update.options[1].shape.everyMs

interface Wanted {
  readonly row: number
  readonly service: string
  /** the point that is there already, by its device and number */
  readonly old: Point | undefined
  readonly point: Omit<Point, 'id' | 'carries'>
}

/**
 * Points from a table: a row meets the point of the same service, controller and virtual pin, or makes a new one.
 * Points that are not in the table stay as they are. What a point carries is not changed by a table: ways are made in
 * the crossbar.
 */
export function importPoints(site: Site, text: string): Preview {
  const { rows, errors } = readRows(text, COLUMNS, NEEDED)
  if (errors.length) return { ok: false, errors }
  const wrong: RowError[] = []
  const wanted = rows.flatMap((row) => readRow(site, row, wrong) ?? [])
  refuseTwice(wanted, wrong)
  const label = `points from a table, ${wanted.length} rows`
  const left = filledColumns(rows, ['carries'])
  return previewOf(site, label, wanted.map(changeOf), wrong, (draft) => take(site, draft, wanted), left)
}

/** A device has each virtual pin once. */
function refuseTwice(wanted: readonly Wanted[], errors: RowError[]): void {
  const seen = new Map<string, number>()
  for (const { row, service, point } of wanted) {
    const key = `${service}/${point.controller}/${point.vp}`
    const before = seen.get(key)
    if (before !== undefined)
      errors.push({ row, column: 'vp', what: `vp${point.vp} of this device stands in row ${before} already` })
    seen.set(key, row)
  }
}

const flat = ({ name, key = '', type, min, max, step, default: usual, unit, access, update }: Wanted['point']) => ({
  name,
  key,
  type,
  min,
  max,
  step,
  default: usual,
  unit,
  access,
  update: update.policy === 'every' ? update.everyMs : 'on change',
})

function changeOf({ row, old, point }: Wanted): Change {
  const { vp, name, min, max, unit, access } = point
  const what = old ? differences(flat(old), flat(point)) : `${min}–${max}${unit ? ` ${unit}` : ''}, ${access}`
  return { kind: old ? (what ? 'changed' : 'same') : 'new', row, name: `vp${vp} ${name}`, what }
}

/** Puts the rows into a draft; places and ids are read from the plain document, since a table can have thousands. */
function take(site: Site, draft: Site, wanted: readonly Wanted[]): void {
  for (const [at, service] of site.services.entries()) {
    const rows = wanted.filter((one) => one.service === service.id)
    const places = new Map(service.points.map(({ id }, place) => [id, place]))
    const idOf = idMaker(places.keys())
    const { points } = draft.services[at]!
    const added = rows.flatMap(({ old, point }) => {
      if (!old) return { ...point, id: idOf(point.name, 'point') as PointId, carries: { kind: 'channel' as const } }
      Object.assign(points[places.get(old.id)!]!, point)
      return []
    })
    points.push(...added)
  }
}

/** A cell that is one of a schema's words; empty: the usual one. */
function wordOf<Word extends string>(
  { number, cells }: Row,
  column: string,
  words: readonly Word[],
  usual: Word,
  errors: RowError[],
): Word {
  const cell = cells[column] || usual
  const found = words.find((word) => word === cell)
  const list = words.length === 2 ? `neither ${words.join(' nor ')}` : `none of ${words.join(', ')}`
  if (!found) errors.push({ row: number, column, what: `“${cell}” is ${list}` })
  return found ?? usual
}

/** A thing of the site by its id or its name. */
function byIdOrName<T extends { readonly id: string; readonly name: string }>(
  { number, cells }: Row,
  column: string,
  things: readonly T[],
  errors: RowError[],
): T | undefined {
  const cell = cells[column] ?? ''
  const found = things.find(({ id, name }) => id === cell || name.toLowerCase() === cell.toLowerCase())
  const list = things.map(({ id }) => id).join(', ') || 'none'
  if (!found) errors.push({ row: number, column, what: `there is no ${column} “${cell}”; there are ${list}` })
  return found
}

/** The numbers of a row, each within what the point's schema allows; undefined: one is refused. */
function numbersOf(row: Row, errors: RowError[]) {
  const empty = (column: string): boolean => (row.cells[column] ?? '') === ''
  const bare = { ...row, cells: { ...row.cells, vp: (row.cells['vp'] ?? '').replace(/^vp/i, '') } }
  const vp = wholeIn(bare, 'vp', VP, errors)
  const min = wholeIn(row, 'min', MIN, errors)
  const max = wholeIn(row, 'max', MAX, errors)
  if (min !== undefined && max !== undefined && min >= max)
    errors.push({ row: row.number, column: 'max', what: 'must be above min' })
  const within = { minValue: min ?? DEFAULT.minValue, maxValue: max ?? DEFAULT.maxValue }
  const usual = empty('default') ? min : wholeIn(row, 'default', within, errors)
  const step = empty('step') ? 1 : wholeIn(row, 'step', STEP, errors)
  const everyMs = empty('update_ms') ? null : wholeIn(row, 'update_ms', EVERY_MS, errors)
  if (vp === undefined || min === undefined || max === undefined || step === undefined) return undefined
  return usual === undefined || everyMs === undefined ? undefined : { vp, min, max, step, default: usual, everyMs }
}

/** What a table without a column says nothing of stays as it is. */
function withOld(site: Site, row: Row): Row {
  const { service = '', controller = '', vp = '' } = row.cells
  const is = (thing: { readonly id: string; readonly name: string }, cell: string): boolean =>
    thing.id === cell || thing.name.toLowerCase() === cell.toLowerCase()
  const on = site.controllers.find((one) => is(one, controller))
  const old = site.services
    .find((one) => is(one, service))
    ?.points.find((point) => point.controller === on?.id && String(point.vp) === vp.replace(/^vp/i, ''))
  if (!old) return row
  const { update, ...values } = flat(old)
  const kept = { ...values, update_ms: update === 'on change' ? '' : update }
  const texts = Object.entries(kept).map(([name, value]) => [name, String(value)] as const)
  return { ...row, cells: { ...Object.fromEntries(texts), ...row.cells } }
}

function readRow(site: Site, written: Row, errors: RowError[]): Wanted | undefined {
  const row = withOld(site, written)
  const count = errors.length
  const service = byIdOrName(row, 'service', site.services, errors)
  const controller = byIdOrName(row, 'controller', site.controllers, errors)
  const numbers = numbersOf(row, errors)
  const { name = '', unit = '', key = '' } = row.cells
  if (key.length > KEY.unwrap().maxLength!)
    errors.push({ row: row.number, column: 'key', what: `at most ${KEY.unwrap().maxLength} characters` })
  if (!named(name)) errors.push({ row: row.number, column: 'name', what: NAME_WANTED })
  if (unit.length > UNIT.maxLength!)
    errors.push({ row: row.number, column: 'unit', what: `at most ${UNIT.maxLength} characters` })
  const access = wordOf(row, 'access', ACCESS.options, 'read-write', errors)
  const type = wordOf(row, 'type', TYPE.options, 'integer', errors)
  if (errors.length > count || !service || !controller || !numbers) return undefined
  const { everyMs, ...range } = numbers
  return {
    row: row.number,
    service: service.id,
    old: service.points.find((point) => point.controller === controller.id && point.vp === range.vp),
    point: {
      controller: controller.id,
      name,
      ...(key ? { key } : {}),
      type,
      unit,
      access,
      ...range,
      update: everyMs === null ? { policy: 'change' } : { policy: 'every', everyMs },
    },
  }
}
