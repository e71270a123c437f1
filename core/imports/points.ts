import { freshId, type Point, type PointId, type ServiceId, type Site } from '../site'
import { differences, previewOf, type Change, type Preview } from './preview'
import { readRows, wholeIn, type Row, type RowError } from './rows'

const COLUMNS = [
  'service',
  'controller',
  'vp',
  'name',
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
  const wanted: Wanted[] = []
  const seen = new Map<string, number>()
  const wrong: RowError[] = []
  for (const row of rows) {
    const one = readRow(site, row, wrong)
    if (!one) continue
    const key = `${one.service}/${one.point.controller}/${one.point.vp}`
    const before = seen.get(key)
    if (before !== undefined)
      wrong.push({
        row: row.number,
        column: 'vp',
        what: `vp${one.point.vp} of this device stands in row ${before} already`,
      })
    seen.set(key, row.number)
    wanted.push(one)
  }
  const changes = wanted.map(({ row, old, point }): Change => {
    const flat = (of: Omit<Point, 'id' | 'carries'>): Record<string, unknown> => ({
      name: of.name,
      type: of.type,
      min: of.min,
      max: of.max,
      step: of.step,
      default: of.default,
      unit: of.unit,
      access: of.access,
      update: of.update.policy === 'every' ? of.update.everyMs : 'on change',
    })
    const what = old
      ? differences(flat(old), flat(point))
      : `${point.min}–${point.max}${point.unit ? ` ${point.unit}` : ''}, ${point.access}`
    return { kind: old ? (what ? 'changed' : 'same') : 'new', row, name: `vp${point.vp} ${point.name}`, what }
  })
  return previewOf(site, `points from a table, ${wanted.length} rows`, changes, wrong, (draft) => {
    for (const { service: id, old, point } of wanted) {
      const service = draft.services.find((candidate) => candidate.id === id)!
      const target = old && service.points.find((candidate) => candidate.id === old.id)
      if (target) Object.assign(target, point)
      else
        service.points.push({
          ...point,
          id: freshId(service.points, point.name, 'point') as PointId,
          carries: { kind: 'channel' },
        })
    }
  })
}

function readRow(site: Site, row: Row, errors: RowError[]): Wanted | undefined {
  const count = errors.length
  const cell = (column: string): string => row.cells[column] ?? ''
  const refuse = (column: string, what: string): void => void errors.push({ row: row.number, column, what })
  const service = site.services.find(
    (candidate) => candidate.id === cell('service') || candidate.name.toLowerCase() === cell('service').toLowerCase(),
  )
  const controller = site.controllers.find(
    (candidate) =>
      candidate.id === cell('controller') || candidate.name.toLowerCase() === cell('controller').toLowerCase(),
  )
  if (!service)
    refuse(
      'service',
      `there is no service “${cell('service')}”; there are ${site.services.map((s) => s.id).join(', ') || 'none'}`,
    )
  if (!controller)
    refuse(
      'controller',
      `there is no controller “${cell('controller')}”; there are ` +
        `${site.controllers.map((c) => c.id).join(', ') || 'none'}`,
    )
  const vp = wholeIn({ ...row, cells: { ...row.cells, vp: cell('vp').replace(/^vp/i, '') } }, 'vp', 0, 255, errors)
  const min = wholeIn(row, 'min', -9_999, 9_999, errors)
  const max = wholeIn(row, 'max', -9_999, 9_999, errors)
  if (min !== undefined && max !== undefined && min >= max) refuse('max', 'must be above min')
  const step = cell('step') === '' ? 1 : wholeIn(row, 'step', 1, 9_999, errors)
  const standard = cell('default') === '' ? min : wholeIn(row, 'default', min ?? -9_999, max ?? 9_999, errors)
  if (cell('name') === '' || cell('name').length > 60) refuse('name', 'a name of 1 to 60 characters is needed')
  if (cell('unit').length > 8) refuse('unit', 'at most 8 characters')
  const access = cell('access') || 'read-write'
  if (access !== 'read-write' && access !== 'read' && access !== 'write')
    refuse('access', `“${access}” is none of read-write, read, write`)
  const type = cell('type') || 'integer'
  if (type !== 'integer' && type !== 'decimal') refuse('type', `“${type}” is neither integer nor decimal`)
  const everyMs = cell('update_ms') === '' ? null : wholeIn(row, 'update_ms', 100, 86_400_000, errors)
  if (errors.length > count) return undefined
  const point: Omit<Point, 'id' | 'carries'> = {
    controller: controller!.id,
    vp: vp!,
    name: cell('name'),
    type: type as Point['type'],
    min: min!,
    max: max!,
    step: step!,
    default: standard!,
    unit: cell('unit'),
    access: access as Point['access'],
    update: everyMs === null ? { policy: 'change' } : { policy: 'every', everyMs: everyMs! },
  }
  return {
    row: row.number,
    service: service!.id as ServiceId,
    old: service!.points.find((candidate) => candidate.controller === controller!.id && candidate.vp === vp),
    point,
  }
}
