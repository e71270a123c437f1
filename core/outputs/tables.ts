import Papa from 'papaparse'

import { boardIn, type BoardProfile, type GpioSpot } from '../boards'
import { connectionsOf } from '../wiring'
import { readPinOn } from '../pins'
import { cautionsFor } from './cautions'
import { loadOf, outputRoles, pointOf, roleName, rolesOf, roomOf, type Site } from '../site'

/**
 * A cell that a spreadsheet would work out (common practice: "CSV injection"): it gets an apostrophe before it. The
 * library's own guard misses cells with a line end in them.
 */
const FORMULA = /^(\s*[=+\-@]|[\t\r])/

/** Rows as CSV (RFC 4180): a header line, CRLF line ends, and no cell that a spreadsheet would run as a formula. */
export function toCsv(fields: readonly string[], rows: readonly (readonly (string | number)[])[]): string {
  const table = { fields: [...fields], data: rows.map((row) => [...row]) }
  return `${Papa.unparse(table, { newline: '\r\n', escapeFormulae: FORMULA })}\r\n`
}

/** Every channel with its place, pin, load and ways. */
export function channelsCsv(site: Site): string {
  const rows = site.channels.map((channel) => {
    const controller = site.controllers.find((candidate) => candidate.id === channel.controller)!
    const load = loadOf(site, channel.load)
    const ways = site.ways.filter((way) => way.channel === channel.id)
    const wall = ways.flatMap((way) =>
      way.kind === 'wall' ? [site.inputs.find((input) => input.id === way.input)!.name] : [],
    )
    const app = ways.flatMap((way) => (way.kind === 'app' ? [`vp${pointOf(site, way.service, way.point)!.vp}`] : []))
    const hub = ways.flatMap((way) =>
      way.kind === 'hub'
        ? [site.hubs.find((h) => h.id === way.hub)!.entities.find((e) => e.id === way.entity)!.topic]
        : [],
    )
    return [
      channel.id,
      channel.name,
      channel.kind,
      controller.name,
      roomOf(site, channel.room)?.name ?? '',
      outputRoles(channel)
        .map((role) => controller.pins[role]?.pin ?? '')
        .join(' '),
      load?.name ?? '',
      load?.watts ?? '',
      wall.join(' '),
      app.join(' '),
      hub.join(' '),
    ]
  })
  return toCsv(['id', 'name', 'kind', 'controller', 'room', 'pin', 'load', 'watts', 'wall', 'app', 'hub'], rows)
}

/** Where a pin stands on its board's two rows: "left 4" is the fourth from above. */
function placeOn(board: BoardProfile | undefined, spot: GpioSpot | undefined): string {
  for (const side of ['left', 'right'] as const) {
    const at = board?.[side].findIndex((one) => one.kind === 'gpio' && one.gpio === spot?.gpio) ?? -1
    if (at >= 0) return `${side} ${at + 1}`
  }
  return ''
}

export function pinsCsv(site: Site, controllerId: string): string {
  const controller = site.controllers.find((candidate) => candidate.id === controllerId)!
  const board = boardIn(site, controller.board)
  const rows = rolesOf(site, controllerId).map((role) => {
    const written = controller.pins[role.id]?.pin ?? ''
    const reading = written ? readPinOn(site, controller, written) : undefined
    const spot = reading?.kind === 'spot' ? reading.spot : undefined
    return [role.id, roleName(role), role.kind, spot?.label ?? written, spot?.gpio ?? '', placeOn(board, spot)]
  })
  return toCsv(['role', 'name', 'kind', 'label', 'gpio', 'header'], rows)
}

export function connectionsCsv(site: Site, controllerId: string): string {
  return toCsv(
    ['device', 'from', 'to', 'colour', 'note', 'mains'],
    [
      ...cautionsFor(site, controllerId).map((line) => ['Caution', '', '', '', line, '']),
      ...connectionsOf(site, controllerId).map((row) => [
        row.device,
        row.from,
        row.to,
        row.colour,
        row.note,
        row.mains ? 'mains' : '',
      ]),
    ],
  )
}
