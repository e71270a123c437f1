import { boardIn } from '../boards'
import { linksWanted, MOST_LINKS, tablesOf } from '../image'
import { holderOf, serviceKindIn, wireOf } from '../services'
import { coprocessorOf, modemOf, type Controller, type Hub, type Service, type Site } from '../site'
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

/** A program with a network: its own, or a coprocessor's. */
export const hasNetwork = (site: Site, controller: Controller): boolean => noNetworkWhy(site, controller) === null

/** Why the program of a controller has no network, as the end of a sentence; null: it has one. */
export function noNetworkWhy(site: Site, controller: Controller): string | null {
  const speaks = coprocessorOf(site, controller.id) ?? controller
  const board = boardIn(site, speaks.board)
  if (speaks.link === 'none') return 'it is set to have none'
  if ((board?.port ?? 'board-core') === 'board-core')
    return speaks.link === 'modem' ? `the program of ${board?.name ?? 'this board'} speaks to no modem` : null
  return speaks.link === 'modem' ? modemWhy(site, speaks) : `${board!.name} has no Wi-Fi`
}

/** A modem of the 8-bit board keeps one connection, of MQTT and without TLS. */
function modemWhy(site: Site, controller: Controller): string | null {
  if (!modemOf(site, controller)) return 'no part of it is a modem whose profile has its commands'
  const linkBeside = site.links.find((link) => link.controller === controller.id)
  if (linkBeside) return `${linkBeside.name} is on its only serial port, which the modem needs`
  const wanted = linksWanted(site, controller)
  if (wanted.length > 1) return `its modem keeps one connection, and it would need ${wanted.length}`
  const link = wanted[0]!
  const wire = link.own ? null : serviceKindIn(site, holderOf(site, link.id)!.service.kind)?.wire
  if (wire && wire.transport !== 'mqtt') return `its modem carries MQTT, and ${nameOf(site, link.id)} wants requests`
  return wire?.tls ? `its modem carries no TLS, which ${nameOf(site, link.id)} wants` : null
}

const nameOf = (site: Site, id: string): string => holderOf(site, id)?.service.name ?? id

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
  // of a pair the coprocessor's program reads them
  if (!controller || coprocessorOf(site, board) || !hasNetwork(site, controller)) return read
  if (controller.link === 'modem')
    for (const key of [`modem/user/${board}`, `modem/password/${board}`]) read.set(key, 'modem_image.h')
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
