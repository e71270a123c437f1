import type { Point, Site } from '../site'
import { toCsv } from './tables'

/** Columns of the points table; the import reads the same ones (core/imports). */
export const POINT_COLUMNS = [
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

const carried = (site: Site, service: string, point: Point): string => {
  if (point.carries.kind === 'sensor') return `sensor:${point.carries.sensor}`
  if (point.carries.kind === 'mode') return 'mode'
  if (point.carries.kind === 'group') return `group:${point.carries.group}`
  const way = site.ways.find(
    (candidate) => candidate.kind === 'app' && candidate.service === service && candidate.point === point.id,
  )
  return way ? way.channel : ''
}

/** What a service asks of a point when it is made there: type, least, greatest, step, default, unit, access. */
export const rangeOf = ({
  type,
  min,
  max,
  step,
  default: first,
  unit,
  access,
}: Point): readonly (string | number)[] => [type, min, max, step, first, unit, access]

/**
 * Every point of every service, one a row. `carries` is a channel's id, `sensor:<id>`, `group:<id>` or `mode`; an empty
 * `update_ms` is on each change.
 */
export function pointsCsv(site: Site): string {
  const rows = site.services.flatMap((service) =>
    service.points.map((point) => [
      service.id,
      point.controller,
      point.vp,
      point.name,
      point.key ?? '',
      carried(site, service.id, point),
      ...rangeOf(point),
      point.update.policy === 'every' ? point.update.everyMs : '',
    ]),
  )
  return toCsv(POINT_COLUMNS, rows)
}
