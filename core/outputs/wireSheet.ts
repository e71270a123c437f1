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

/** A text of a wire, with the macros of what secrets.h fills in. */
const wireText = (text: Text): string =>
  text.map((part) => (typeof part === 'string' ? part : `<${macroFor(part.secret)}>`)).join('')

type OtherLink = Exclude<LinkWire, { transport: 'own' }>

/** What goes over a service's own wire, from the tables that the board runs. */
export function wireLines(site: Site, controller: Controller, id: string): Lines {
  const service = holderOf(site, id)?.service
  if (!service || !wireOf(site, service) || wireTrouble(site, controller.id) !== null) return []
  const { image } = tablesOf(site, controller.id)
  const index = linksOf(image).findIndex((one) => one.id === service.id)
  const link = compileWires(site, image, true).links[index]
  if (!link || link.transport === 'own') return []
  const rows = image.points
    .filter((row) => (row.link ?? 0) === index)
    .map(({ vp }) => [`vp${vp}`, saidOf(link, vp), heardOf(link, vp, 'wish'), heardOf(link, vp, 'held')])
  const columns = ['point', 'sent by the controller', 'set by a person', 'value held by the service']
  return section(`${service.name}: over its wire`, columns, rows, notesOf(link).join(' '))
}

function saidOf(link: OtherLink, vp: number): string {
  const say = link.says.find(({ from }) => from === `vp/${vp}/state`)
  if (!say) return ''
  const method =
    link.transport === 'http' ? `${link.method} ` : link.transport === 'hook' ? `${link.call?.method} ` : ''
  return `${method}${wireText(say.to)}: ${wireText(say.before)}value${wireText(say.after)}`
}

function heardOf(link: OtherLink, vp: number, meaning: HearRow['meaning']): string {
  const row = link.hears.find((one) => one.to === `vp/${vp}` && one.meaning === meaning)
  if (!row) return ''
  if (link.transport === 'hook') return callOf(link, row)
  if (link.transport === 'http' && !row.lasting) return '(never: a pulse is not set by what is read)'
  const method = link.transport === 'http' ? 'GET ' : ''
  return `${method}${wireText(row.from)}${row.pointer ? ` at ${row.pointer}` : ''}`
}

/** A call of the controller's own port. */
function callOf({ key, keyInPath }: HookLink, { from, lasting }: HearRow): string {
  const path = `${keyInPath ? `/${wireText(key)}` : ''}${wireText(from)}VALUE`
  return lasting ? `GET or POST ${path}` : `POST ${path}, with Idempotency-Key`
}

/** What all of its messages have in common. */
function notesOf(link: OtherLink): string[] {
  switch (link.transport) {
    case 'mqtt':
      return mqttNotes(link)
    case 'http':
      return link.headers.length ? [`Each request has ${link.headers.map(wireText).join(' and ')}.`] : []
    case 'hook':
      return hookNotes(link)
  }
}

const mqttNotes = ({ count, sign }: MqttLink): string[] => [
  ...(count
    ? [
        'A value that a person sets has a number that only rises, ' +
          `${count.pointer === null ? 'behind a blank' : `at ${count.pointer}`}: one that is sent again does nothing. The last ` +
          `number is on ${wireText(count.topic)}.`,
      ]
    : []),
  ...(sign
    ? [
        'Each of these messages ends with a blank and its signature, 64 hexadecimal digits: HMAC-SHA-256 with ' +
          `${wireText(sign.key)} over “${wireText(sign.before)}${sign.between ? `TOPIC${wireText(sign.between)}` : ''}` +
          `MESSAGE${wireText(sign.after)}”.`,
      ]
    : []),
]

const hookNotes = ({ port, key, keyInPath, call }: HookLink): string[] => [
  `The controller is called at its own address, port ${port}, from inside the network only` +
    `${keyInPath ? '' : `, with the header X-Key: ${wireText(key)}`}. A wrong key closes its door for 1 s, then longer.`,
  ...(call
    ? [
        `Changes are reported to ${wireText(call.place.address)}` +
          `${call.headers.length ? `, with ${call.headers.map(wireText).join(' and ')}` : ''}.`,
      ]
    : []),
]

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
