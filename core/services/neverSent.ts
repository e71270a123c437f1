import { controllerOf, coprocessorOf, type Point, type Site } from '../site'

/**
 * Why what a point carries never goes up to its service; null: it does. The line of a coprocessor tells the levels of
 * channels, and neither modes nor readings (docs/behaviour.md, the status line).
 */
export function neverSent(site: Site, point: Point): 'only written' | 'no network' | 'not on the line' | null {
  if (point.access === 'write') return 'only written'
  const controller = controllerOf(site, point.controller)
  if (!controller || controller.link !== 'none') return null
  if (!coprocessorOf(site, controller.id)) return 'no network'
  return point.carries.kind === 'channel' ? null : 'not on the line'
}
