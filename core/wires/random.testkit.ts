import { linksOf, type ControllerImage } from '../image'
import { choices, type Choices } from '../seeded'
import { topicPrefix } from '../topics'
import { randomImage, randomTrace } from '../device/random.testkit'
import type { AnyLine } from './trace'
import { ownLink } from './compile'
import { plainSign } from './plain'
import { signed } from './sign'
import type { Coding, ControllerWires, HearRow, LinkWire, MqttLink, SayRow, SignTable } from './types'

/** Random wires for random controllers, and traffic for them: sound, damaged, too late, twice, and of nobody's. */

function randomCoding(random: Choices, { min, max }: { min: number; max: number }): Coding {
  const form = random.pick(['number', 'number', 'words', 'range'] as const)
  if (form === 'number') return { form }
  if (form === 'words') {
    const [off, on] = random.pick([
      ['off', 'on'],
      ['false', 'true'],
      ['aus', 'ein'],
      ['закр', 'откр'],
    ] as const)
    return { form, min, max, off, on }
  }
  const [least, most] = random.pick([
    [0, 100],
    [0, 255],
    [1, 3],
    [0, 1],
  ] as const)
  return { form, min, max, least, most }
}

/** Of the points that a link carries. */
const pointsOf = (image: ControllerImage, index: number) => image.points.filter(({ link = 0 }) => link === index)

function randomRows(random: Choices, image: ControllerImage, index: number, inDocument: boolean, http: boolean) {
  const points = pointsOf(image, index)
  const says: SayRow[] = []
  const hears: HearRow[] = []
  const key = (vp: number): string => (vp % 3 === 0 ? `k/${vp}` : `k${vp}`)
  const step = (vp: number): string => key(vp).replaceAll('/', '~1')
  for (const point of points) {
    const coding = point.carries === 'sensor' ? ({ form: 'number' } as const) : randomCoding(random, point)
    if (point.reports)
      says.push({
        from: `vp/${point.vp}/state`,
        to: [`${http ? '/' : ''}is/`, { secret: 'app/key' }, `/${point.vp}`],
        before: inDocument ? [`{"${key(point.vp)}":`] : [],
        coding,
        after: inDocument ? ['}'] : [],
        qos: random.pick([0, 1] as const),
        retain: random.chance(0.3),
        everyMs: random.pick([0, 0, 100, 1000]),
      })
    if (point.carries === 'sensor') continue
    const lasting = point.carries !== 'channel' || !['pulsed', 'paired'].includes(image.channels[point.index]!.kind)
    const row = (from: string, meaning: HearRow['meaning']): HearRow => ({
      from: [from],
      pointer: inDocument ? `/${step(point.vp)}` : null,
      to: `vp/${point.vp}`,
      coding,
      min: point.min,
      max: point.max,
      meaning,
      lasting,
    })
    if (http) hears.push(row(inDocument ? '/all' : `/point/${point.vp}`, 'held'))
    else {
      hears.push(row(inDocument ? 'wish' : `ask/${point.vp}`, 'wish'))
      if (random.chance(0.8)) hears.push(row(inDocument ? 'last' : `kept/${point.vp}`, 'held'))
    }
  }
  return { says, hears }
}

const randomSign = (random: Choices): SignTable => ({
  // keys shorter and longer than a block of the hash (RFC 2104, 2)
  key: random.pick([[{ secret: 'app/key' }], ['k'.repeat(64)], ['k'.repeat(64)], ['k'.repeat(65)]]),
  before: random.pick([[], ['said ']]),
  between: random.pick([null, [], ['\n']]),
  after: random.pick([[], [' end', { secret: 'app/key' }]]),
})

function randomLink(random: Choices, image: ControllerImage, index: number, id: string): LinkWire {
  const own = ownLink(image, id)
  const kind = random.pick(['own', 'mqtt', 'mqtt', 'mqtt', 'http', 'http', 'hook', 'hook'] as const)
  const inDocument = random.chance(0.4)
  if (kind === 'own') return own
  if (kind === 'http') {
    const rows = randomRows(random, image, index, inDocument, true)
    const everyMs = random.pick([500, 2_000, 10_000])
    return {
      transport: 'http',
      id,
      place: own.place,
      headers: [],
      method: 'PUT',
      ...rows,
      read: rows.hears.length > 0 && random.chance(0.8) ? { all: inDocument, everyMs } : null,
    }
  }
  if (kind === 'hook') {
    const { says, hears } = randomRows(random, image, index, false, false)
    const called = hears.flatMap((row): HearRow[] =>
      row.meaning === 'wish' ? [{ ...row, from: [`/set/${row.to.slice(3)}/`] }] : [],
    )
    const call = random.chance(0.5) ? { place: own.place, headers: [], method: 'POST' } : null
    const key = [random.pick(['open', 'open', 'open', 'open', 'open', ''])]
    return { transport: 'hook', id, port: 8080, key, keyInPath: random.chance(0.5), hears: called, says, call }
  }
  return {
    ...own,
    transport: 'mqtt',
    status: random.chance(0.7)
      ? { topic: ['entry/', { secret: 'app/key' }], online: 'here', offline: 'gone', retain: random.chance(0.5) }
      : null,
    log: random.chance(0.8) ? ['entry/log'] : null,
    ...randomRows(random, image, index, inDocument, false),
    count: random.chance(0.5) ? { topic: ['count'], pointer: inDocument ? '/count' : null } : null,
    sign: random.chance(0.5) ? randomSign(random) : null,
  }
}

export const SECRETS: Readonly<Record<string, string>> = { 'app/key': 'K 1"?', 'app/port': '1883' }
export const SECRETS_FILE = '#define VESTIBULE_APP_KEY "K 1\\"\\?"\n'
export const revealed = (secret: string): string => SECRETS[secret] ?? '127.0.0.1'

/**
 * A random controller whose links are of random kinds. Each channel has a point more, and every link says what it
 * refuses, so that little happens unseen.
 */
export function randomWired(seed: number): { image: ControllerImage; wires: ControllerWires } {
  const plain = randomImage(seed)
  const random = choices(seed * 977 + 13)
  const image: ControllerImage = {
    ...plain,
    link: true,
    ...(plain.links ? { links: plain.links.map((link) => ({ ...link, logs: true })) } : {}),
    points: [
      ...plain.points,
      ...plain.channels.map((_, index) => ({
        vp: 200 + index,
        carries: 'channel' as const,
        index,
        min: 0,
        max: random.pick([1, 2, 100]),
        reports: true,
        link: random.whole(0, linksOf(plain).length - 1),
      })),
    ],
  }
  return {
    image,
    wires: {
      site: image.site,
      controller: image.controller,
      prefix: topicPrefix(image.site, image.controller),
      links: linksOf(image).map(({ id }, index) => randomLink(random, image, index, id)),
    },
  }
}

const SOUND = ['0', '1', '2', '1.0', 'on', 'true', 'off', 'false']
const ODD = [
  '3',
  '4',
  '100',
  '101',
  '50',
  '255',
  '256',
  '2.50',
  '-1',
  '',
  'ein',
  'откр',
  '99999',
  '123456',
  'x'.repeat(30),
]
const valueOf = (random: Choices): string => (random.chance(0.65) ? random.pick(SOUND) : random.pick(ODD))

/** A document with some points, more or less whole. */
function document(random: Choices, hears: readonly HearRow[], count: string): string {
  const members = hears.flatMap(({ pointer }) =>
    pointer !== null && random.chance(0.6)
      ? [`"${pointer.slice(1).replaceAll('~1', '/')}"${random.pick([':', ' : '])}${valueIn(random)}`]
      : [],
  )
  if (count !== '') members.push(`"count":${count}`)
  if (random.chance(0.2)) members.unshift(random.pick(['"other":{"k1":[1,{"k2":"}"}]}', '"a\\"b":1', '"k1x":"9"', '[']))
  const whole = `{${members.join(random.pick([',', ', ', ' ,\n']))}}`
  return random.chance(0.1) ? whole.slice(0, random.whole(0, whole.length)) : whole
}

function valueIn(random: Choices): string {
  const value = valueOf(random)
  if (/^-?[0-9.]+$/.test(value) && random.chance(0.6)) return value
  return random.chance(0.7) ? `"${value}"` : random.pick(['null', 'true', '{"x":1}', '[1]', '"1\\u0030"', value])
}

const textOf = (text: HearRow['from']): string =>
  text.map((part) => (typeof part === 'string' ? part : revealed(part.secret))).join('')

/** With its signature, where the link wants one: mostly the right one. */
function sealed(random: Choices, { sign }: MqttLink, topic: string, payload: string): string {
  if (!sign || random.chance(0.05)) return payload
  const filled = plainSign(sign, textOf)!
  const message = signed(filled, random.chance(0.05) ? 'elsewhere' : topic, payload)
  if (random.chance(0.05)) return message.replace(/ (?=[0-9a-f]{64}$)/, '_')
  return random.chance(0.05) ? message.replace(/.$/, 'f') : random.chance(0.03) ? message.slice(0, -1) : message
}

function traffic(random: Choices, wires: ControllerWires, t: number, counts: number[]): AnyLine {
  const at = random.whole(0, wires.links.length - 1)
  const link = wires.links[at]!
  const of = at === 0 && random.chance(0.5) ? {} : { of: link.id }
  if (random.chance(0.08)) return { t, ...of, open: random.chance(0.7) }
  if (link.transport === 'own')
    return {
      t,
      ...of,
      heard: { topic: `${wires.prefix}vp/1/set`, payload: valueOf(random), stale: random.chance(0.2) },
    }
  if (link.transport === 'http') {
    const status = random.chance(0.9) ? random.pick([200, 200, 204]) : random.pick([429, 429, 401, 500, 302, 0])
    return {
      t,
      ...of,
      answer: { status, body: link.read?.all ? document(random, link.hears, '') : valueOf(random) },
    }
  }
  if (link.transport === 'hook') {
    if (random.chance(0.2)) return { t, ...of, answer: { status: random.pick([200, 200, 500, 429, 0]), body: '' } }
    const moving = link.hears.filter(({ lasting }) => !lasting)
    const row: HearRow | undefined = random.pick(moving.length && random.chance(0.6) ? moving : link.hears)
    const key = random.chance(0.95) ? 'open' : random.pick(['wrong', ''])
    const rest = row && random.chance(0.9) ? `${textOf(row.from)}${valueOf(random)}` : '/nowhere'
    return {
      t,
      ...of,
      call: {
        method: random.pick(['POST', 'POST', 'POST', 'GET', 'PUT']),
        path: link.keyInPath ? `/${key}${rest}` : rest,
        key: link.keyInPath ? '' : key,
        once: random.pick(['', 'a', 'b', 'c', 'd', 'e', 'f']),
      },
    }
  }
  const { count } = link
  if (count && random.chance(0.2)) {
    const said = String(random.pick([0, counts[at]! - 3, counts[at]!, counts[at]! + 5, 'x', '4294967296']))
    const topic = textOf(count.topic)
    const payload = sealed(random, link, topic, count.pointer === null ? said : `{"count":${said}}`)
    return { t, ...of, heard: { topic, payload, stale: random.chance(0.3) } }
  }
  const row = link.hears.length && random.chance(0.9) ? random.pick(link.hears) : undefined
  counts[at] = counts[at]! + 1
  const number = String(random.pick([counts[at]!, counts[at]!, counts[at]!, counts[at]! - 1, 'x']))
  const counted = count && row?.meaning === 'wish'
  const payload =
    row && row.pointer !== null
      ? document(random, link.hears, counted && random.chance(0.9) ? number : '')
      : `${valueOf(random)}${counted && random.chance(0.9) ? ` ${number}` : ''}`
  const topic = row ? textOf(row.from) : 'nowhere'
  return { t, ...of, heard: { topic, payload: sealed(random, link, topic, payload), stale: random.chance(0.15) } }
}

/** A trace of the controller with what comes over its wires in between; some start just before the clock wraps. */
export function randomWireTrace(seed: number, image: ControllerImage, wires: ControllerWires): AnyLine[] {
  const random = choices(seed * 5701 + 29)
  const counts = wires.links.map(() => 3)
  const opened = wires.links.map((link, i): AnyLine => ({ t: 0, ...(i === 0 ? {} : { of: link.id }), open: true }))
  // what a plain trace tells the runtime of links and messages comes over the wires here
  const own = randomTrace(seed, image).filter((line) => !('link' in line) && !('msg' in line))
  const first = own[0]!.t
  return own.flatMap((line, i): AnyLine[] => {
    const after = (own[i + 1]?.t ?? line.t) - line.t
    const more = Array.from({ length: i === own.length - 1 ? 0 : random.whole(0, 5) }, () =>
      random.whole(0, Math.max(0, after)),
    )
      .sort((a, b) => a - b)
      .map((ms) => traffic(random, wires, (line.t + ms) >>> 0, counts))
    return [line, ...(i === 0 ? opened.map((open) => ({ ...open, t: first })) : []), ...more]
  })
}
