import type { Coding, ControllerWires, HearRow, HookLink, LinkWire, SayRow, SignTable, Text } from '../wires'
import { cString } from './imageHeader'
import { LARGER, largest, lengthOf, SIGNATURE_BYTES, VALUE_BYTES } from './lengths'
import { macroFor } from './macros'

/**
 * `wires_image.h`: the wires of a controller as tables. Texts are put together by the compiler from literals and the
 * macros of secrets.h, so that no secret stands in it.
 */
export function wiresHeader(wires: ControllerWires): string {
  const words = new Words()
  const rows = wires.links.map((link, index) => linkRow(words, link, index))
  const says = wires.links.reduce((sum, link) => sum + ('says' in link ? link.says.length : 0), 0)
  const known = wires.links.reduce((sum, link) => sum + (asks(link) ? link.hears.length : 0), 0)
  return `// Written by Vestibule: how controller "${wires.controller}" of site "${wires.site}" reaches its services.
// Do not edit: change the site and build again. What it does not hold stands in secrets.h.
#ifndef VESTIBULE_WIRES_IMAGE_H
#define VESTIBULE_WIRES_IMAGE_H

#include "secrets.h"
#include "wires.h"

namespace wires_image {

using namespace vestibule;
using namespace vestibule::wires;

constexpr char PREFIX[] VESTIBULE_FLASH = ${cString(wires.prefix)};
/// A phone that pairs the controller must say it; empty: it is not paired.
constexpr char PAIRING_PIN[] VESTIBULE_FLASH = ${wires.pin ? wires.pin.map(part).join(' ') : '""'};
${words.rows()}

${rows.map(({ tables }) => tables).join('')}constexpr LinkTable LINKS[] = {
${rows.map(({ row }) => `    ${row},`).join('\n')}
};
${LARGER}
/// The longest topic and payload that are put together, with their ends.
constexpr size_t LONGEST_TOPIC = 1 + ${largest(wires.links.flatMap(topicLengths))};
constexpr size_t LONGEST_PAYLOAD = 1 + ${largest(wires.links.flatMap(payloadLengths))};
static_assert(LONGEST_PAYLOAD <= LONGEST_WIRE_PAYLOAD, "what a wire says is too long");
constexpr uint8_t LINK_COUNT = ${wires.links.length};
constexpr size_t SAY_COUNT = ${says};
constexpr size_t KNOWN_COUNT = ${known};
constexpr Tables TABLES = {PREFIX, LINKS, LINK_COUNT, ${flag(looksInside(wires))}, ${flag(recodes(wires))}};
${uses(wires)}
}  // namespace wires_image

#endif
`
}

const asks = (link: LinkWire): link is Extract<LinkWire, { says: readonly SayRow[] }> =>
  link.transport === 'http' || (link.transport === 'hook' && link.call !== null)

const topicLengths = (link: LinkWire): string[] => [
  ...('says' in link ? link.says.map(({ to }) => lengthOf(to)) : []),
  ...('hears' in link ? link.hears.map(({ from }) => lengthOf(from)) : []),
  ...(link.transport === 'mqtt'
    ? [link.status?.topic, link.log, link.count?.topic].flatMap((topic) => (topic ? [lengthOf(topic)] : []))
    : []),
]

const payloadLengths = (link: LinkWire): string[] => {
  const signed = link.transport === 'mqtt' && link.sign ? SIGNATURE_BYTES : 0
  return [
    ...('says' in link
      ? link.says.map(({ before, after }) => `${VALUE_BYTES + signed} + ${lengthOf(before, after)}`)
      : []),
    ...(link.transport === 'mqtt' && link.status
      ? [link.status.online, link.status.offline].map((word) => lengthOf([word]))
      : []),
  ]
}

const rowsOf = (link: LinkWire): (SayRow | HearRow)[] => [
  ...('says' in link ? link.says : []),
  ...('hears' in link ? link.hears : []),
]

/** Does anything stand in a document? */
const looksInside = ({ links }: ControllerWires): boolean =>
  links.some(
    (link) =>
      ('hears' in link && link.hears.some(({ pointer }) => pointer !== null)) ||
      (link.transport === 'mqtt' && link.count !== null && link.count.pointer !== null),
  )

/** Is any value other on the wire than here? */
const recodes = ({ links }: ControllerWires): boolean =>
  links.some((link) => rowsOf(link).some(({ coding }) => coding.form !== 'number'))

/** Which transports the program needs: what it does not need is not compiled in. */
const uses = ({ links }: ControllerWires): string =>
  [
    ['MQTT', links.some(({ transport }) => transport === 'own' || transport === 'mqtt')],
    ['HTTP', links.some(asks)],
    ['HOOK', links.some(({ transport }) => transport === 'hook')],
  ]
    .map(([name, used]) => `#define VESTIBULE_USES_${name} ${used ? 1 : 0}\n`)
    .join('')

/** Texts as arrays of their own, each once; a text that is longer than the engine's buffer does not compile. */
class Words {
  private readonly names = new Map<string, string>()
  readonly add = (text: Text): string => {
    const written = text.length === 0 ? '""' : text.map(part).join(' ')
    const name = this.names.get(written) ?? `T${this.names.size}`
    this.names.set(written, name)
    return name
  }
  readonly orNull = (text: Text | null): string => (text === null ? 'nullptr' : this.add(text))
  rows(): string {
    return [...this.names]
      .map(
        ([written, name]) =>
          `constexpr char ${name}[] VESTIBULE_FLASH = ${written};\n` +
          `static_assert(sizeof ${name} <= LONGEST_WIRE_TOPIC, "a text of a wire is too long");`,
      )
      .join('\n')
  }
}

const part = (one: Text[number]): string => (typeof one === 'string' ? cString(one) : macroFor(one.secret))
const flag = (value: boolean): string => (value ? 'true' : 'false')
const plain = (text: string): Text => [text]

function codingRow(words: Words, coding: Coding): string {
  switch (coding.form) {
    case 'number':
      return '{Form::number, 0, 1, 0, 1, nullptr, nullptr}'
    case 'words':
      return `{Form::words, ${coding.min}, ${coding.max}, 0, 1, ${words.add(plain(coding.off))}, ${words.add(plain(coding.on))}}`
    case 'range':
      return `{Form::range, ${coding.min}, ${coding.max}, ${coding.least}, ${coding.most}, nullptr, nullptr}`
  }
}

const sayRow = (words: Words, say: SayRow): string =>
  `{${words.add(plain(say.from))}, ${words.add(say.to)}, ${words.add(say.before)}, ${words.add(say.after)}, ` +
  `${codingRow(words, say.coding)}, ${say.qos}, ${flag(say.retain)}, ${say.everyMs}UL}`

const hearRow = (words: Words, hear: HearRow): string =>
  `{${words.add(hear.from)}, ${words.orNull(hear.pointer === null ? null : plain(hear.pointer))}, ` +
  `${words.add(plain(hear.to))}, ${codingRow(words, hear.coding)}, ${hear.min}, ${hear.max}, ` +
  `${flag(hear.meaning === 'wish')}, ${flag(hear.lasting)}}`

function table(type: string, name: string, rows: readonly string[]): string {
  if (rows.length === 0) return `constexpr const ${type}* ${name} = nullptr;\n`
  return `constexpr ${type} ${name}[] VESTIBULE_FLASH = {\n${rows.map((row) => `    ${row},`).join('\n')}\n};\n`
}

/** A request's head, each line with its end. */
const headLines = (headers: readonly Text[]): Text => headers.flatMap((line) => [...line, '\r\n'])

/** What every kind of link has, in the order of the table; what a kind does not have is empty. */
interface Columns {
  readonly address: Text
  readonly port: string
  readonly tls: boolean
  readonly client: Text
  readonly user: Text
  readonly password: Text
  readonly keepAliveS: number
  readonly status: readonly [Text | null, string, string, boolean]
  readonly log: Text | null
  readonly count: readonly [Text | null, string | null]
  readonly says: readonly SayRow[]
  readonly hears: readonly HearRow[]
  readonly headers: Text
  readonly method: string | null
  readonly readAll: boolean
  readonly readMs: number
  readonly key: Text
  readonly keyInPath: boolean
  /** where the controller is called */
  readonly ownPort: number
  readonly sign: SignTable | null
}

const NONE: Omit<Columns, 'address' | 'port' | 'tls'> = {
  client: [],
  user: [],
  password: [],
  keepAliveS: 0,
  status: [null, '', '', false],
  log: null,
  count: [null, null],
  says: [],
  hears: [],
  headers: [],
  method: null,
  readAll: false,
  readMs: 0,
  key: [],
  keyInPath: false,
  ownPort: 0,
  sign: null,
}

const portOf = ({ port, portSecret }: { port: number; portSecret: string | null }): string =>
  portSecret === null ? String(port) : macroFor(portSecret)

const hookColumns = (link: HookLink): Columns => ({
  ...NONE,
  address: link.call?.place.address ?? [],
  port: link.call ? portOf(link.call.place) : '0',
  tls: link.call?.place.tls ?? false,
  ownPort: link.port,
  says: link.says,
  hears: link.hears,
  headers: headLines(link.call?.headers ?? []),
  method: link.call?.method ?? null,
  key: link.key,
  keyInPath: link.keyInPath,
})

function columnsOf(link: LinkWire): Columns {
  if (link.transport === 'hook') return hookColumns(link)
  const { address, tls } = link.place
  const place = { address, tls, port: portOf(link.place) }
  if (link.transport === 'http')
    return {
      ...NONE,
      ...place,
      says: link.says,
      hears: link.hears,
      headers: headLines(link.headers),
      method: link.method,
      readAll: link.read?.all ?? false,
      readMs: link.read?.everyMs ?? 0,
    }
  const { client, user, password, keepAliveS } = link
  const own = { ...NONE, ...place, client, user, password, keepAliveS }
  if (link.transport === 'own') return own
  const { status, log, count, says, hears } = link
  return {
    ...own,
    status: status ? [status.topic, status.online, status.offline, status.retain] : NONE.status,
    log,
    count: count ? [count.topic, count.pointer] : NONE.count,
    says,
    hears,
    sign: link.sign,
  }
}

const signRow = (words: Words, { key, before, between, after }: SignTable, index: number): string =>
  `constexpr Sign SIGN_${index} VESTIBULE_FLASH = {${words.add(key)}, ${words.add(before)}, ` +
  `${words.orNull(between)}, ${words.add(after)}, macOf};\n`

function linkRow(words: Words, link: LinkWire, index: number): { row: string; tables: string } {
  const c = columnsOf(link)
  const tables =
    table(
      'SayRow',
      `SAYS_${index}`,
      c.says.map((say) => sayRow(words, say)),
    ) +
    table(
      'HearRow',
      `HEARS_${index}`,
      c.hears.map((hear) => hearRow(words, hear)),
    ) +
    (c.sign ? signRow(words, c.sign, index) : '') +
    '\n'
  return { row: `{${cells(words, link, c, index).join(', ')}}`, tables }
}

/** A link's row, cell by cell, in the order of LinkTable. */
function cells(words: Words, link: LinkWire, c: Columns, index: number): (string | number)[] {
  const [statusTopic, online, offline, retain] = c.status
  const [countTopic, pointer] = c.count
  return [
    `Transport::${link.transport}`,
    words.add(plain(link.id)),
    words.add(c.address),
    c.port,
    flag(c.tls),
    ...[c.client, c.user, c.password].map(words.add),
    c.keepAliveS,
    words.orNull(statusTopic),
    words.add(plain(online)),
    words.add(plain(offline)),
    flag(retain),
    words.orNull(c.log),
    words.orNull(countTopic),
    words.orNull(pointer === null ? null : plain(pointer)),
    `SAYS_${index}`,
    c.says.length,
    `HEARS_${index}`,
    c.hears.length,
    words.add(c.headers),
    words.orNull(c.method === null ? null : plain(c.method)),
    flag(c.readAll),
    `${c.readMs}UL`,
    words.add(c.key),
    flag(c.keyInPath),
    c.ownPort,
    c.sign ? `&SIGN_${index}` : 'nullptr',
  ]
}
