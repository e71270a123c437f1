import { linksOf, tablesOf } from '../image'
import { holderOf, serviceKindIn, wireOf } from '../services'
import type { Controller, Hub, Service, Site } from '../site'
import {
  compileWires,
  HOUSE_SECRETS,
  reachOf,
  wireTrouble,
  type HearRow,
  type HookLink,
  type LinkWire,
  type MqttLink,
  type Text,
  type Transport,
} from '../wires'
import { macroFor } from './macros'
import { section, type Lines } from './sheetTable'

/** What a sheet says of a wire: whether this build reaches a service, and what goes over it. */

/** How each transport reaches its service. */
const BY: Readonly<Record<Transport, string>> = {
  own: 'over the broker of the house, by the topics below',
  mqtt: 'over a broker of the service’s own (MQTT 3.1.1)',
  http: 'by requests (HTTP), as often as its wire says',
  hook: 'by calls to the controller’s own port, with a key',
}

/** Whether this build reaches a service or a hub, and what is missing. */
export function reachWords(site: Site, controller: Controller, holder: Service | Hub): string {
  const reached = reachOf(site, controller, holder)
  const kind = serviceKindIn(site, holder.kind)?.name ?? holder.kind
  switch (reached.how) {
    case 'reached':
      return `**Reached by this build**, ${BY[reached.by]}. ${placeWords(site, controller, holder, reached.by)}`
    case 'no wire':
      return (
        `**Reached after the wire of this kind is entered** (Services, ${kind}: host, login, topics, values). Until ` +
        'then its points are on the broker of the house, by the topics below.'
      )
    case 'no network':
      return `**Not reached**: the program of ${controller.name} has no network.`
    case 'not programmed':
      return '**Not programmed**: set the parameters of the set-up steps; the board’s own firmware reaches the hub.'
    case 'too many':
      return '**Not reached**: a controller has up to three connections, and this one would be the fourth.'
  }
}

/** Writes a text of a wire: with the macros of secrets.h, or with the credentials by their keys. */
type Write = (text: Text) => string
const writer =
  (name: (secret: string) => string): Write =>
  (text) =>
    text.map((part) => (typeof part === 'string' ? part : `<${name(part.secret)}>`)).join('')
const wireText = writer(macroFor)

type OtherLink = Exclude<LinkWire, { transport: 'own' }>

/** What goes over a wire for one point, in words. */
export interface WireRow {
  readonly vp: number
  readonly says: string
  readonly asks: string
  readonly holds: string
}

/** A holder's wire as the board of a controller runs it, from its tables; undefined: it has none there. */
export function wireWords(
  site: Site,
  controller: Controller,
  id: string,
  name: (secret: string) => string = macroFor,
): { readonly rows: readonly WireRow[]; readonly notes: readonly string[] } | undefined {
  const holder = holderOf(site, id)?.service
  if (!holder || !wireOf(site, holder) || wireTrouble(site, controller.id) !== null) return undefined
  const { image } = tablesOf(site, controller.id)
  const index = linksOf(image).findIndex((one) => one.id === id)
  const link = compileWires(site, image, true).links[index]
  if (!link || link.transport === 'own') return undefined
  const write = writer(name)
  const rows = image.points
    .filter((row) => (row.link ?? 0) === index)
    .map(({ vp }): WireRow => ({
      vp,
      says: saidOf(write, link, vp),
      asks: heardOf(write, link, vp, 'wish'),
      holds: heardOf(write, link, vp, 'held'),
    }))
  return { rows, notes: [...valueNotes(link), ...notesOf(write, link)] }
}

/** What goes over a service's own wire, as a part of a sheet. */
export function wireLines(site: Site, controller: Controller, id: string): Lines {
  const words = wireWords(site, controller, id)
  if (!words) return []
  const rows = words.rows.map(({ vp, says, asks, holds }) => [`vp${vp}`, says, asks, holds])
  const columns = ['point', 'sent by the controller', 'set by a person', 'value held by the service']
  return section(`${holderOf(site, id)!.service.name}: over its wire`, columns, rows, words.notes.join(' '))
}

function saidOf(write: Write, link: OtherLink, vp: number): string {
  const say = link.says.find(({ from }) => from === `vp/${vp}/state`)
  if (!say) return ''
  const method =
    link.transport === 'http' ? `${link.method} ` : link.transport === 'hook' ? `${link.call?.method} ` : ''
  return `${method}${write(say.to)}: ${write(say.before)}VALUE${write(say.after)}`
}

function heardOf(write: Write, link: OtherLink, vp: number, meaning: HearRow['meaning']): string {
  const row = link.hears.find((one) => one.to === `vp/${vp}` && one.meaning === meaning)
  if (!row) return ''
  if (link.transport === 'hook') return callOf(write, link, row)
  if (link.transport === 'http' && !row.lasting) return '(never: a pulse is not set by what is read)'
  const method = link.transport === 'http' ? 'GET ' : ''
  return `${method}${write(row.from)}${row.pointer ? ` at ${row.pointer}` : ''}`
}

/** A call of the controller's own port. */
function callOf(write: Write, { key, keyInPath }: HookLink, { from, lasting }: HearRow): string {
  const path = `${keyInPath ? `/${write(key)}` : ''}${write(from)}VALUE`
  return lasting ? `GET or POST ${path}` : `POST ${path}, with Idempotency-Key`
}

/** What a value is there, where it is not the point's own number. */
function valueNotes({ says, hears }: OtherLink): string[] {
  const coding = [...says, ...hears].map((row) => row.coding).find(({ form }) => form !== 'number')
  if (coding?.form === 'words') return [`VALUE is “${coding.off}” for the lowest value, “${coding.on}” for any other.`]
  if (coding?.form === 'range')
    return [`VALUE is ${coding.least} to ${coding.most} for a point’s range, ${coding.least} for its lowest value.`]
  return []
}

/** What all of its messages have in common. */
function notesOf(write: Write, link: OtherLink): string[] {
  switch (link.transport) {
    case 'mqtt':
      return mqttNotes(write, link)
    case 'http':
      return link.headers.length ? [`Each request has ${link.headers.map(write).join(' and ')}.`] : []
    case 'hook':
      return hookNotes(write, link)
  }
}

function mqttNotes(write: Write, { count, sign }: MqttLink): string[] {
  const where = count?.pointer ? `at ${count.pointer}` : 'behind a blank'
  return [
    ...(count
      ? [
          `A value that a person sets has a number that only rises, ${where}: one that is sent again does nothing. ` +
            `The last number is on ${write(count.topic)}.`,
        ]
      : []),
    ...(sign
      ? [
          'Each of these messages ends with a blank and its signature, 64 hexadecimal digits: HMAC-SHA-256 with ' +
            `${write(sign.key)} over “${write(sign.before)}${sign.between ? `TOPIC${write(sign.between)}` : ''}` +
            `MESSAGE${write(sign.after)}”.`,
        ]
      : []),
  ]
}

function hookNotes(write: Write, { port, key, keyInPath, call }: HookLink): string[] {
  const header = keyInPath ? '' : `, with the header X-Key: ${write(key)}`
  return [
    `The controller is called at its own address, port ${port}, from inside the network only${header}. ` +
      'A wrong key closes its door for 1 s, then longer.',
    ...(call
      ? [
          `Changes are reported to ${write(call.place.address)}` +
            `${call.headers.length ? `, with ${call.headers.map(write).join(' and ')}` : ''}.`,
        ]
      : []),
  ]
}

/** Where it is: by the macros of secrets.h, or as the wire itself says. */
function placeWords(site: Site, controller: Controller, holder: Service | Hub, by: Transport): string {
  if (by === 'hook') return 'Its port and paths are in wires_image.h; the key is in secrets.h.'
  if (by === 'own') return macroWords(HOUSE_SECRETS.address, HOUSE_SECRETS.port)
  if (wireTrouble(site, controller.id) !== null) return ''
  const link = compileWires(site, tablesOf(site, controller.id).image, true).links.find(({ id }) => id === holder.id)
  if (!link || link.transport === 'hook') return ''
  const [address] = link.place.address
  const isMacro = link.place.address.length === 1 && address !== undefined && typeof address !== 'string'
  return isMacro && link.place.portSecret
    ? macroWords(address.secret, link.place.portSecret)
    : `Its address is ${wireText(link.place.address)}:${link.place.port}, in wires_image.h.`
}

const macroWords = (address: string, port: string): string =>
  `Its address is ${macroFor(address)} and ${macroFor(port)} in secrets.h, read by wires_image.h.`
