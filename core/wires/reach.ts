import { boardIn } from '../boards'
import { linksWanted, MOST_LINKS, tablesOf } from '../image'
import { serviceKindIn, wireOf } from '../services'
import { coprocessorOf, type Controller, type Hub, type Service, type Site } from '../site'
import { compileWires } from './compile'
import { WireRefused } from './template'
import type { ControllerWires, LinkWire, Place, Text, Transport } from './types'

/** How a build of a controller reaches a service or a hub. */
export type Reached =
  /** by this build, over this transport */
  | { readonly how: 'reached'; readonly by: Transport }
  /** the kind has no wire yet: its points are on the broker of the house */
  | { readonly how: 'no wire' }
  /** the board's program has no network, or the board is not programmed */
  | { readonly how: 'no network' | 'not programmed' }
  /** more links than a controller keeps */
  | { readonly how: 'too many' }

export function reachOf(site: Site, controller: Controller, holder: Service | Hub): Reached {
  const board = boardIn(site, controller.board)
  if (board?.boxed?.parameters) return { how: 'not programmed' }
  if (!hasNetwork(site, controller)) return { how: 'no network' }
  const wire = serviceKindIn(site, holder.kind)?.wire
  if (!wire) return { how: 'no wire' }
  if (wireOf(site, holder)) {
    const at = linksWanted(site, controller).findIndex(({ id, own }) => !own && id === holder.id)
    if (at >= MOST_LINKS) return { how: 'too many' }
  }
  return { how: 'reached', by: wire.transport }
}

/** A program with a network: its own, or a coprocessor's; the 8-bit port has none. */
export function hasNetwork(site: Site, controller: Controller): boolean {
  const speaks = coprocessorOf(site, controller.id) ?? controller
  return speaks.link !== 'none' && (boardIn(site, speaks.board)?.port ?? 'board-core') === 'board-core'
}

/** The wires of a board, as it is built; undefined: a wire of the site cannot be filled in. */
function wiresOf(site: Site, board: string): ControllerWires | undefined {
  const controller = site.controllers.find(({ id }) => id === board)!
  try {
    return compileWires(site, tablesOf(site, board).image, controller.link !== 'none')
  } catch (error) {
    if (error instanceof WireRefused) return undefined
    throw error
  }
}

/** Secrets that the program of a board reads, by their keys, each with what reads it. */
export function secretsRead(site: Site, board: string): ReadonlyMap<string, string> {
  const controller = site.controllers.find(({ id }) => id === board)
  const read = new Map<string, string>()
  if (!controller || (boardIn(site, controller.board)?.port ?? 'board-core') !== 'board-core') return read
  if (controller.link === 'wifi') for (const key of ['wifi/name', 'wifi/password']) read.set(key, 'wifi.cpp')
  for (const link of wiresOf(site, board)?.links ?? [])
    for (const text of textsOf(link))
      for (const part of text) if (typeof part !== 'string') read.set(part.secret, 'wires_image.h')
  return read
}

const placeTexts = ({ address, portSecret }: Place): Text[] => [
  address,
  ...(portSecret ? [[{ secret: portSecret }]] : []),
]

function textsOf(link: LinkWire): Text[] {
  if (link.transport === 'hook')
    return [
      link.key,
      ...(link.call ? [...placeTexts(link.call.place), ...link.call.headers] : []),
      ...link.says.flatMap(({ to, before, after }) => [to, before, after]),
      ...link.hears.map(({ from }) => from),
    ]
  const rows =
    link.transport === 'own'
      ? []
      : [...link.says.flatMap(({ to, before, after }) => [to, before, after]), ...link.hears.map(({ from }) => from)]
  const place = placeTexts(link.place)
  if (link.transport === 'http') return [...place, ...link.headers, ...rows]
  const login = [link.client, link.user, link.password]
  if (link.transport === 'own') return [...place, ...login]
  const { status, log, count, sign } = link
  return [
    ...place,
    ...login,
    ...rows,
    ...(status ? [status.topic] : []),
    ...(log ? [log] : []),
    ...(count ? [count.topic] : []),
    ...(sign ? [sign.key, sign.before, sign.between ?? [], sign.after] : []),
  ]
}

/** Why a wire of a service cannot be filled in; null: it can. */
export function wireTrouble(site: Site, board: string): string | null {
  try {
    compileWires(site, tablesOf(site, board).image)
    return null
  } catch (error) {
    if (error instanceof WireRefused) return error.message
    throw error
  }
}
