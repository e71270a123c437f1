import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js'
import { decodeFrame, encodeFrame, encodeRepeat, PROTOCOLS } from '../infrared'
import {
  MOST_LINKS,
  NO_INPUT,
  NO_LEVEL,
  NO_PIN,
  type ControllerImage,
  type ImageAction,
  type ImageBinding,
  type ImageChannel,
  type ImageDeed,
  type ImageInput,
  type ImageKey,
} from '../image'
import { choices, type Choices } from '../seeded'
import { topics } from '../topics'
import type { TraceLine } from './trace'

function randomInput(random: Choices, index: number): ImageInput {
  const kind = random.pick(['momentary', 'rocker', 'momentary', 'rocker', 'selector', 'contact'] as const)
  const bits = kind === 'selector' ? random.whole(1, 4) : 1
  return {
    id: `s${index + 1}`,
    gpios: Array.from({ length: bits }, (_, bit) => index * 4 + bit),
    kind,
    pull: random.pick(['none', 'up', 'down'] as const),
    analogue: random.chance(0.1),
    closedLevel: random.pick([0, 1] as const),
    settle: random.pick(['settle', 'eager'] as const),
    settleMs: random.pick([0, 1, 5, 25, 25, 60]),
    holdMs: kind === 'momentary' && random.chance(0.7) ? random.pick([200, 800]) : 0,
    table:
      kind === 'selector' ? Array.from({ length: 2 ** bits }, () => random.pick([0, 1, 2, 3, 4, 8, NO_LEVEL])) : [],
  }
}

const CHANNEL_ACTIONS: readonly ImageAction[] = [
  'on',
  'off',
  'toggle',
  'toggle',
  'up',
  'up',
  'down',
  'pulse',
  'pulse',
  'open',
  'close',
  'a',
  'b',
  'stop',
  'level',
]
const GROUP_ACTIONS: readonly ImageAction[] = ['on', 'off', 'toggle', 'up', 'down', 'stop']
const CONTROLLER_ACTIONS: readonly ImageAction[] = ['auto', 'manual', 'autoToggle', 'pair', 'reset', 'report']

/** Words that a kind knows, so that most deeds do something. */
const KIND_ACTIONS: Record<ImageChannel['kind'], readonly ImageAction[]> = {
  switched: CHANNEL_ACTIONS,
  stepped: CHANNEL_ACTIONS,
  feed: ['toggle', 'toggle', 'on', 'off'],
  pulsed: ['pulse', 'pulse', 'open', 'close', 'level'],
  paired: ['toggle', 'toggle', 'a', 'b', 'stop', 'level'],
}

/** What a source does: mostly to a channel, sometimes to a group or the controller. */
function randomDeed(random: Choices, channels: readonly ImageChannel[], groups: number): ImageDeed {
  if (random.chance(0.12)) return { action: random.pick(CONTROLLER_ACTIONS), level: 0, on: 'controller', index: 0 }
  if (groups > 0 && random.chance(0.15))
    return { action: random.pick(GROUP_ACTIONS), level: 0, on: 'group', index: random.whole(0, groups - 1) }
  const index = random.whole(0, channels.length - 1)
  return {
    action: random.pick(random.chance(0.8) ? KIND_ACTIONS[channels[index]!.kind] : CHANNEL_ACTIONS),
    level: random.whole(0, 4),
    on: 'channel',
    index,
  }
}

function randomBinding(
  random: Choices,
  inputs: readonly ImageInput[],
  channels: readonly ImageChannel[],
  groups: number,
): ImageBinding {
  const input = random.whole(0, inputs.length - 1)
  const { kind, holdMs } = inputs[input]!
  const gesture =
    kind === 'selector'
      ? ('select' as const)
      : kind === 'rocker'
        ? random.pick(['flip', 'follow'] as const)
        : random.pick(holdMs > 0 ? (['press', 'release', 'hold'] as const) : (['press', 'release'] as const))
  const deed = randomDeed(random, channels, groups)
  const channel = { level: 0, on: 'channel' as const, index: random.whole(0, channels.length - 1) }
  if (gesture === 'follow') return { input, gesture, action: 'follow', ...channel }
  if (gesture === 'select') return { input, gesture, action: 'level', ...channel }
  return { input, gesture, ...deed, action: deed.action === 'level' ? 'toggle' : deed.action }
}

function randomChannel(random: Choices, i: number, inputs: readonly ImageInput[]): ImageChannel {
  const kind = random.pick([
    'switched',
    'switched',
    'switched',
    'stepped',
    'stepped',
    'pulsed',
    'paired',
    'feed',
  ] as const)
  const powerUp =
    kind === 'switched' || kind === 'stepped'
      ? random.pick(['off', 'on', 'on', 'last', 'last', 'wall', 'service', 'timetable'] as const)
      : kind === 'feed'
        ? ('on' as const)
        : ('off' as const)
  const contacts = kind === 'stepped' ? random.whole(1, 4) : kind === 'paired' ? 2 : 1
  const top = kind === 'stepped' ? random.whole(1, 8) : kind === 'paired' ? 2 : 1
  const positions = inputs.flatMap((input, index) => (input.kind === 'contact' ? [index] : []))
  return {
    kind,
    id: `k${i + 1}`,
    topic: random.chance(0.2) ? `other-${i + 1}` : `k${i + 1}`,
    gpios: Array.from({ length: contacts }, (_, contact) => 30 + i * 4 + contact),
    patterns:
      kind === 'stepped'
        ? [0, ...Array.from({ length: top }, () => random.whole(0, 2 ** contacts - 1))]
        : kind === 'paired'
          ? [0, 1, 2]
          : [0, 1],
    gapMs: kind === 'stepped' ? random.pick([0, 1, 30, 30, 500]) : kind === 'paired' ? random.pick([100, 500]) : 0,
    wrap: kind === 'stepped' && random.chance(0.4),
    onLevel: kind === 'stepped' ? random.whole(1, top) : kind === 'paired' ? 2 : 1,
    activeLow: random.chance(0.6),
    maxOnMs:
      kind === 'pulsed'
        ? random.pick([50, 500, 500])
        : kind === 'feed'
          ? 0
          : random.chance(0.3)
            ? random.pick([100, 1000, 5000])
            : 0,
    minOffMs:
      kind === 'pulsed'
        ? random.pick([0, 100, 2000])
        : kind !== 'paired' && kind !== 'feed' && random.chance(0.4)
          ? random.pick([100, 3000])
          : 0,
    powerUp,
    waitMs: powerUp === 'service' || powerUp === 'timetable' ? random.pick([100, 15_000]) : 0,
    otherwise: random.pick(['off', 'last'] as const),
    takesSet: random.chance(0.8),
    reports: random.chance(0.8),
    essential: random.chance(0.2),
    contact: kind === 'pulsed' && positions.length && random.chance(0.7) ? random.pick(positions) : NO_INPUT,
    contactMeansClosed: random.chance(0.5),
  }
}

/** A frame of an invented protocol, whose hash some keys are taught. */
const INVENTED = [3400, 2600, ...[1, 0, 0, 1, 1, 0, 1].flatMap((bit) => [430, bit ? 1290 : 430]), 430]
const INVENTED_HASH = (() => {
  const frame = decodeFrame({ list: INVENTED, from: 0, to: INVENTED.length })?.frame
  return frame?.protocol === 'unknown' ? frame.hash : 0
})()

function randomKey(random: Choices, channels: readonly ImageChannel[], groups: number): ImageKey {
  const protocol = random.pick([...PROTOCOLS, 'unknown'] as const)
  return {
    protocol,
    address: protocol === 'unknown' ? Math.floor(INVENTED_HASH / 0x1_0000) : random.whole(0, 2),
    command: protocol === 'unknown' ? INVENTED_HASH % 0x1_0000 : random.whole(0, 3),
    everyMs: random.pick([0, 0, 100, 400]),
    ...randomDeed(random, channels, groups),
  }
}

/** Some selectors with a rocker before them. */
function withGates(random: Choices, inputs: readonly ImageInput[]): ImageInput[] {
  const rockers = inputs.flatMap(({ kind }, index) => (kind === 'rocker' ? [index] : []))
  return inputs.map((input) =>
    input.kind === 'selector' && rockers.length > 0 && random.chance(0.6)
      ? { ...input, gate: random.pick(rockers) }
      : input,
  )
}

/** A random controller image, of any shape that the schema lets through. */
export function randomImage(seed: number): ControllerImage {
  const random = choices(seed)
  // what came later draws from a stream of its own, so that each seed keeps the rest of its image
  const more = choices(seed * 7_919 + 5)
  const inputs = withGates(
    more,
    Array.from({ length: random.pick([0, 2, 3, 4, 5, 6]) }, (_, i) => randomInput(random, i)),
  )
  const channelCount = random.whole(1, 6)
  const channels = Array.from({ length: channelCount }, (_, i) => randomChannel(random, i, inputs))
  const groups = Array.from({ length: random.whole(0, 2) }, (_, i) => {
    const members = channels.flatMap((_channel, index) => (random.chance(0.6) ? [index] : []))
    const levels = members.map(() => more.pick([NO_LEVEL, 0, 1, 2, 8]))
    return { id: `g${i + 1}`, members, takesSet: more.chance(0.7), ...(more.chance(0.5) ? { levels } : {}) }
  }).filter((group) => group.members.length > 0)
  const sensors = Array.from({ length: random.whole(0, 2) }, (_, i) => ({
    id: `t${i + 1}`,
    deadBand: random.pick([0, 500]),
    staleMs: random.pick([500, 5_000, 60_000]),
  }))
  const lasting = channels.flatMap((channel, index) => (channel.kind === 'pulsed' ? [] : [index]))
  const tables = {
    format: 'vestibule-image' as const,
    version: 2 as const,
    site: 'random',
    controller: `c${seed}`,
    board: 'dual-core-wifi-30',
    link: random.chance(0.9),
    ...(more.chance(0.3) ? { modeTopic: true as const } : {}),
    outage: random.pick(['local', 'service'] as const),
    staggerMs: random.pick([0, 1, 150, 150]),
    storeMs: random.pick([100, 2000]),
    minReportMs: random.pick([0, 200, 200, 1500]),
    heartbeatMs: random.pick([5000, 300_000]),
    sensorMs: random.pick([1_000, 60_000]),
    seed: random.whole(1, 0xffff_ffff),
    auto: {
      start: random.chance(0.7),
      hand: random.pick(['yield', 'leave', 'ignore'] as const),
      yieldMs: random.pick([60_000, 3_000]),
    },
    watch:
      channels.some((channel) => channel.kind === 'feed') && random.chance(0.8)
        ? {
            watchMs: random.pick([1000, 10_000]),
            graceMs: random.pick([0, 500, 5000]),
            steadyMs: random.pick([0, 800, 10_000]),
          }
        : null,
    serial: random.chance(0.5) ? { baud: 9600, statusMs: random.pick([500, 2000]) } : null,
    line: { sends: NO_PIN, hears: NO_PIN },
    receiver: NO_PIN,
    inputs,
    channels,
    groups,
    bindings:
      inputs.length === 0
        ? []
        : Array.from({ length: random.whole(2, 14) }, () => randomBinding(random, inputs, channels, groups.length)),
    keys: Array.from({ length: random.whole(0, 6) }, () => randomKey(random, channels, groups.length)),
    chars: [...'ABab1'].map((char) => ({
      char,
      source: random.pick(['serial', 'nearby'] as const),
      ...randomDeed(random, channels, groups.length),
    })),
    points: Array.from({ length: random.whole(0, 6) }, (_, i) => {
      const [min, max] = random.pick([
        [0, 1],
        [0, 1],
        [0, 100],
        [0, 4],
        [-5, 5],
        [1, 2],
      ] as const)
      const nought = random.chance(0.1)
      const picked = random.pick([
        'channel',
        'channel',
        'channel',
        'mode',
        ...(sensors.length ? (['sensor'] as const) : []),
      ] as const)
      const ofGroup = groups.length > 0 && more.chance(0.15)
      const carries = ofGroup ? ('group' as const) : picked
      const carried =
        picked === 'channel'
          ? random.whole(0, channelCount - 1)
          : picked === 'sensor'
            ? random.whole(0, sensors.length - 1)
            : 0
      return {
        vp: nought ? 0 : i * 37,
        carries,
        index: ofGroup ? more.whole(0, groups.length - 1) : carried,
        min,
        max,
        reports: random.chance(0.7) && !ofGroup,
      }
    }),
    sensors,
    rules:
      sensors.length === 0 || lasting.length === 0
        ? []
        : Array.from({ length: random.whole(0, 3) }, () => {
            const above = random.chance(0.5)
            const [low, high] = random.pick([
              [20_000, 22_000],
              [60_500, 70_000],
              [-500, 500],
            ] as const)
            return {
              sensor: random.whole(0, sensors.length - 1),
              above,
              on: above ? high : low,
              off: above ? low : high,
              dwellMs: random.pick([0, 500, 5000]),
              staleOff: random.chance(0.6),
              channel: random.pick(lasting),
              level: random.pick([0, 0, 1, 2]),
            }
          }),
    schedules:
      lasting.length === 0
        ? []
        : Array.from({ length: random.pick([0, 0, 1, 2]) }, () => ({
            days: random.whole(1, 127),
            minute: random.pick([0, 1, 390, 1439]),
            channel: random.pick(lasting),
            action: random.pick(['on', 'off', 'level'] as const),
            level: random.whole(0, 2),
            catchUp: random.chance(0.5),
          })),
  }
  const linked = withLinks(tables, choices(seed * 31 + 5))
  return { ...linked, hash: bytesToHex(sha256(utf8ToBytes(JSON.stringify(linked)))).slice(0, 12) }
}

/** Two in five have more than one link, in any order, and their points belong to any of them. */
function withLinks<T extends Pick<ControllerImage, 'points' | 'outage'>>(tables: T, random: Choices): T {
  if (random.chance(0.6)) return tables
  const count = random.pick([2, 2, MOST_LINKS])
  const own = random.pick([0, 0, 0, 1, -1])
  return {
    ...tables,
    links: Array.from({ length: count }, (_, i) => ({
      id: ['house', 'app', 'store'][i]!,
      outage: random.pick(['local', 'service'] as const),
      own: i === own,
      logs: random.chance(0.6),
    })),
    points: tables.points.map((point) => ({ ...point, link: random.whole(0, count - 1) })),
  }
}

/** The same trace on a controller of several links: each message and each change is one of theirs. */
function overLinks(image: ControllerImage, random: Choices, lines: TraceLine[]): TraceLine[] {
  const { links } = image
  if (!links) return lines
  const of = (): { of?: string } => {
    const at = random.whole(0, links.length - 1)
    return at === 0 && random.chance(0.5) ? {} : { of: links[at]!.id }
  }
  /** mostly the link that carries the point */
  const ofMessage = (topic: string): { of?: string } => {
    const vp = /\/vp\/(\d+)\//.exec(topic)?.[1]
    const point = image.points.find((candidate) => String(candidate.vp) === vp)
    return point && random.chance(0.8) ? { of: links[point.link ?? 0]!.id } : of()
  }
  return lines.flatMap((line): TraceLine[] => {
    if ('msg' in line) return [{ ...line, ...ofMessage(line.msg.topic) }]
    if (!('link' in line)) return [line]
    // they often come and go together, as they do with the house's network
    return random.chance(0.5) ? links.map(({ id }) => ({ ...line, of: id })) : [{ ...line, ...of() }]
  })
}

function randomMessage(random: Choices, image: ControllerImage): { topic: string; payload: string; retain: boolean } {
  const scheme = topics(image.site, image.controller)
  const channel = random.pick(image.channels)
  const point = image.points.length ? random.pick(image.points) : undefined
  const topic = random.pick([
    scheme.set(channel.topic),
    scheme.set(channel.topic),
    scheme.set(channel.id),
    scheme.set('nobody'),
    ...(point
      ? [scheme.pointSet(point.vp), scheme.pointSet(point.vp), scheme.pointHeld(point.vp), scheme.pointHeld(point.vp)]
      : []),
    `${scheme.prefix}vp/007/set`,
    `${scheme.prefix}vp//set`,
    `${scheme.prefix}vp/999/held`,
    `${scheme.prefix}a/b/c/set`,
    scheme.prefix,
    'elsewhere/set',
    ...(image.watch ? [scheme.watch, scheme.watch, scheme.watch] : []),
  ])
  const payload = random.pick([
    'on',
    'off',
    'toggle',
    '0',
    '1',
    '1',
    '0',
    '100',
    '50',
    '-5',
    '-0',
    '2',
    '',
    'ON',
    'on ',
    '1.0',
    '123456',
    '-',
    '+1',
    'ö"\\\n',
    'off\u0000',
    'up',
    'down',
    '3',
    '4',
    '9',
    '03',
    'pulse',
    'pulse',
    'open',
    'close',
    'a',
    'b',
    'stop',
  ])
  const retain = random.chance(0.15)
  if (!topic.endsWith('nobody/set')) return { topic, payload, retain }
  const group = image.groups[payload.length % 3]
  if (group) return { topic: scheme.set(group.id), payload, retain }
  const word = { up: 'auto', down: 'manual' }[payload] ?? payload
  return image.modeTopic ? { topic: scheme.set('mode'), payload: word, retain } : { topic, payload, retain }
}

/** Instants at or just before the minutes that random schedules have. */
const CLOCKS = [
  '2026-03-02T00:00:00',
  '2026-03-01T06:29:59',
  '2026-02-28T23:58:30',
  '2024-02-29T06:30:00',
  '2026-03-03T00:00:59',
  '2026-03-05T23:59:00',
] as const

/** A frame of one of the image's keys or of none, decoded or as edges, held on or not. */
function randomRemote(random: Choices, image: ControllerImage): object {
  const key = image.keys.length && random.chance(0.8) ? random.pick(image.keys) : undefined
  if (!key || key.protocol === 'unknown') {
    if (random.chance(0.3)) return { ir: { protocol: 'nec-repeat' } }
    if (key && random.chance(0.6)) return { edges: INVENTED.map((us) => Math.round(us * (0.95 + 0.1 * random.real()))) }
    if (key)
      return { ir: { protocol: 'unknown', hash: key.address * 0x1_0000 + key.command, repeat: random.chance(0.2) } }
    return {
      edges: Array.from({ length: random.whole(1, 60) }, () =>
        random.pick([random.whole(50, 3000), 560, 1690, 9000, 70_000]),
      ),
    }
  }
  const { protocol, address, command } = key
  const toggle = random.pick([0, 1] as const)
  if (random.chance(0.4))
    return { ir: { protocol, address, command, repeat: random.chance(0.3), ...(random.chance(0.3) ? { toggle } : {}) } }
  const jittered = encodeFrame({ protocol, address, command }, toggle).map(
    (us, i) => Math.round(us * (0.92 + 0.16 * random.real())) + (i % 2 === 0 ? 40 : -40),
  )
  return {
    edges: [
      ...jittered,
      40_000,
      ...(random.chance(0.5) ? encodeRepeat() : jittered),
      ...(random.chance(0.5) ? [95_000] : []),
    ],
  }
}

/** The names of an input's contacts in a trace. */
const pinNames = (input: ImageInput): string[] =>
  input.kind === 'selector' ? input.gpios.map((_, bit) => `${input.id}.${bit + 1}`) : [input.id]

/**
 * More in a moment than any house can make: edges of all contacts, characters, noise of a receiver and messages, many
 * at one instant.
 */
export function stormTrace(seed: number, image: ControllerImage, length = 800): TraceLine[] {
  const random = choices(seed * 6271 + 3)
  const lines: TraceLine[] = [
    { t: 0, power: 'on' },
    { t: 0, link: 'up' },
  ]
  let t = 40
  for (let i = 0; i < length; i++) {
    if (random.chance(0.3)) t += random.pick([1, 1, 1, 2, 5, 26])
    const dice = random.real()
    if (dice < 0.7 && image.inputs.length)
      lines.push({ t, pin: random.pick(pinNames(random.pick(image.inputs))), level: random.pick([0, 1] as const) })
    else if (dice < 0.8) lines.push({ t, char: String.fromCharCode(random.whole(33, 126)) })
    else if (dice < 0.85)
      lines.push({ t, edges: Array.from({ length: random.whole(1, 200) }, () => random.whole(1, 12_000)) })
    else if (dice < 0.98) lines.push({ t, msg: randomMessage(random, image) })
    else lines.push({ t, link: random.chance(0.7) ? 'up' : 'down' })
  }
  lines.push({ t: t + 100_000, end: true })
  return overLinks(image, choices(seed * 6271 + 3 + 1), lines)
}

/** A random image with a serial line, as the main board of a pair has one. */
export const randomPair = (number: number): ControllerImage => {
  const image = randomImage(number)
  return { ...image, serial: image.serial ?? { baud: 9600, statusMs: 2000 } }
}

/**
 * What the coprocessor of a pair hears: lines true, damaged, of other tables or none for a while; messages; links that
 * come and go.
 */
export function mirrorTrace(seed: number, image: ControllerImage, length = 60): TraceLine[] {
  const random = choices(seed * 4253 + 11)
  let t = random.chance(0.2) ? 0xffff_ffff - random.whole(0, 20_000) : 0
  const lines: TraceLine[] = random.chance(0.6) ? [{ t, link: 'up' }] : []
  const levels = image.channels.map(() => 0)
  const line = (): string => {
    image.channels.forEach((table, i) => {
      if (random.chance(0.3))
        levels[i] = random.whole(0, table.contact < image.inputs.length ? 1 : table.patterns.length - 1)
    })
    const words = image.channels
      .map(
        (table, i) =>
          `${table.id}=${table.contact < image.inputs.length && random.chance(0.1) ? '?' : random.chance(0.02) ? random.pick(['9', '', '-1', '256', '01', 'x']) : levels[i]} `,
      )
      .join('')
    const text = `S ${words}${random.pick(['', '', '', '?=1 ', '?=1 ?=2 ', '?=65535 ', '?=123456 ', 'x=1 '])}`
    const sum = [...text].reduce((xor, c) => xor ^ c.charCodeAt(0), random.chance(0.05) ? 1 : 0)
    const whole = `${text}*${sum.toString(16).toUpperCase().padStart(2, '0')}`
    return random.chance(0.05)
      ? whole.slice(0, random.whole(0, whole.length))
      : random.chance(0.03)
        ? whole.toLowerCase()
        : whole
  }
  for (let i = 0; i < length; i++) {
    t = (t + random.pick([0, 1, 90, 500, 2000, 2000, 2000, 6000, random.whole(0, 9000)])) >>> 0
    const dice = random.real()
    if (dice < 0.45) lines.push({ t, line: line() })
    else if (dice < 0.75) lines.push({ t, msg: randomMessage(random, image) })
    else if (dice < 0.9) lines.push({ t, link: random.chance(0.65) ? 'up' : 'down' })
    else if (dice < 0.94) lines.push({ t, power: random.chance(0.7) ? 'on' : 'off' })
    else if (image.inputs.length && dice < 0.97)
      lines.push({ t, pin: random.pick(pinNames(random.pick(image.inputs))), level: random.pick([0, 1] as const) })
    else lines.push({ t, char: random.pick([...'ABab1?z']) })
  }
  lines.push({ t: (t + 100_000) >>> 0, end: true })
  return overLinks(image, choices(seed * 4253 + 11 + 1), lines)
}

/**
 * A random trace for an image: bursts of edges, messages good and bad, links and powers that come and go; some start
 * just before the clock wraps.
 */
export function randomTrace(seed: number, image: ControllerImage, length = 60): TraceLine[] {
  const random = choices(seed * 7919 + 17)
  let t = random.chance(0.2) ? 0xffff_ffff - random.whole(0, 20_000) : random.whole(0, 1000)
  // a link that never comes up carries nothing: most have one soon
  const lines: TraceLine[] = random.chance(0.6) ? [{ t, link: 'up' }] : []
  // and what the broker has kept comes with the subscription
  if (lines.length > 0 && random.chance(0.5))
    for (const { vp, max } of image.points)
      lines.push({
        t: (t = (t + random.pick([0, 0, 20])) >>> 0),
        msg: { topic: topics(image.site, image.controller).pointHeld(vp), payload: String(max), retain: true },
      })
  for (let i = 0; i < length; i++) {
    if (random.chance(0.8))
      t =
        (t +
          random.pick([
            0,
            1,
            3,
            8,
            20,
            24,
            25,
            26,
            60,
            150,
            199,
            200,
            201,
            800,
            1500,
            2000,
            5000,
            random.whole(0, 40),
            random.whole(0, 70_000),
          ])) >>>
        0
    // half of the lines speak of what only some images have, so that it is exercised as much as the rest
    if (random.chance(0.3)) {
      const extra = random.real()
      if (extra < 0.35 && image.sensors.length)
        lines.push({
          t,
          sensor: random.pick(image.sensors).id,
          value: random.pick([19.5, 20, 21, 22, 22.4, 60.5, 65.125, 70, 71, -0.5, 0, 0.5]),
        })
      else if (extra < 0.65 && (image.keys.length || random.chance(0.1)))
        lines.push({ t, ...randomRemote(random, image) } as TraceLine)
      else if (extra < 0.8 && image.watch)
        lines.push({
          t,
          msg: { topic: topics(image.site, image.controller).watch, payload: 'alive', retain: random.chance(0.1) },
        })
      else if (image.schedules.length && extra < 0.9) lines.push({ t, clock: random.pick(CLOCKS) })
      else if (image.serial) lines.push({ t, char: random.pick([...'ABab1?z']) })
      continue
    }
    const dice = random.real()
    if (dice < 0.15 && image.inputs.length) {
      // a contact that bounces: edges closer together than any settle time
      const pin = random.pick(pinNames(random.pick(image.inputs)))
      for (let edge = random.whole(2, 7); edge > 0; edge--) {
        lines.push({ t, pin, level: edge % 2 === 0 ? 0 : 1 })
        t = (t + random.pick([0, 1, 2, 5, 12, 24, 25, 26, 40])) >>> 0
      }
    } else if (dice < 0.22 && image.inputs.length) {
      // a press that is held for a human while, and let go
      const input = random.pick(image.inputs)
      const pin = random.pick(pinNames(input))
      lines.push({ t, pin, level: input.closedLevel })
      t = (t + random.pick([100, 210, 400, 850, 900, 1500])) >>> 0
      lines.push({ t, pin, level: input.closedLevel === 1 ? 0 : 1 })
      t = (t + random.pick([70, 200])) >>> 0
    } else if (dice < 0.5 && image.inputs.length)
      lines.push({ t, pin: random.pick(pinNames(random.pick(image.inputs))), level: random.pick([0, 1] as const) })
    else if (dice < 0.75) lines.push({ t, msg: randomMessage(random, image) })
    else if (dice < 0.93) lines.push({ t, link: random.chance(0.6) ? 'up' : 'down' })
    else if (dice < 0.96) lines.push({ t, power: random.chance(0.65) ? 'on' : 'off' })
    else if (dice < 0.965) lines.push({ t, clock: random.pick(CLOCKS) })
    else lines.push({ t, char: random.pick([...'ABab1?z']) })
  }
  lines.push({ t: (t + random.pick([0, 1000, 100_000])) >>> 0, end: true })
  return overLinks(image, choices(seed * 7919 + 17 + 1), lines)
}
