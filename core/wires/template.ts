import type { Controller, Point, Service, Site } from '../site'
import type { Text } from './types'

/** A text of a wire that cannot be filled in: where, and which place. */
export class WireRefused extends Error {
  readonly code = 'wire-refused'
}

export interface Places {
  readonly site: Site
  readonly service: Service
  readonly controller: Controller
  readonly point?: Point
}

/** `{word}` and `{credential:id}`; other braces are the text's own, as JSON needs them. */
const PLACE = /\{([a-z]+)(?::([a-z0-9-]+))?\}/g

/** What a point is called at its service: its key, else its id. */
export const keyOfPoint = (point: Point): string => point.key ?? point.id

function filled({ site, service, controller, point }: Places, word: string): string | undefined {
  switch (word) {
    case 'site':
      return site.id
    case 'controller':
      return controller.id
    case 'service':
      return service.id
    case 'number':
      return point && String(point.vp)
    case 'key':
      return point && keyOfPoint(point)
    case 'name':
      return point?.name
    default:
      return undefined
  }
}

/**
 * A text with its places filled in; credentials stay for the secrets file. `{host}` is the address of the service.
 * Where `{value}` is allowed it splits the text in two. Throws WireRefused on a place that nobody knows.
 */
export function textOf(template: string, places: Places, credentialKey: (id: string) => string | undefined): Text {
  const parts: (string | { secret: string })[] = []
  let from = 0
  for (const match of template.matchAll(PLACE)) {
    const [whole, word, id] = match
    parts.push(template.slice(from, match.index))
    from = match.index + whole.length
    parts.push(partOf(word!, id, places, credentialKey) ?? refuse(whole, template, places))
  }
  parts.push(template.slice(from))
  return joined(parts)
}

function partOf(
  word: string,
  id: string | undefined,
  places: Places,
  credentialKey: (id: string) => string | undefined,
): string | { secret: string } | undefined {
  if (word === 'host' && id === undefined) return { secret: `${places.service.id}/address` }
  if (word !== 'credential' || id === undefined) return id === undefined ? filled(places, word) : undefined
  const key = credentialKey(id)
  return key === undefined ? undefined : { secret: key }
}

function refuse(place: string, template: string, { service }: Places): never {
  throw new WireRefused(`${service.name}: the wire's text “${template}” has the place ${place}, which is not known`)
}

const joined = (parts: readonly (string | { secret: string })[]): Text =>
  parts.reduce<(string | { secret: string })[]>((sum, part) => {
    const last = sum.at(-1)
    if (part === '') return sum
    if (typeof part === 'string' && typeof last === 'string') sum[sum.length - 1] = last + part
    else sum.push(part)
    return sum
  }, [])

/** The two sides of `{value}`; without it the value comes last. */
export function aroundValue(template: string): readonly [string, string] {
  const at = template.indexOf('{value}')
  return at < 0 ? [template, ''] : [template.slice(0, at), template.slice(at + '{value}'.length)]
}
