import { sha256 } from '@noble/hashes/sha2.js'
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js'
import { NO_LEVEL, type ControllerImage, type ImageBinding, type ImageInput } from '../image'
import { topics } from '../topics'
import type { TraceLine } from './trace'

/** A seeded generator (mulberry32, memory): the same seed gives the same images and traces on every machine. */
export function seeded(seed: number) {
  let a = seed >>> 0
  const next = () => {
    a = (a + 0x6d2b79f5) >>> 0
    let x = a
    x = Math.imul(x ^ (x >>> 15), x | 1)
    x ^= x + Math.imul(x ^ (x >>> 7), x | 61)
    return ((x ^ (x >>> 14)) >>> 0) / 4294967296
  }
  return {
    real: next,
    whole: (least: number, most: number) => least + Math.floor(next() * (most - least + 1)),
    pick: <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!,
    chance: (p: number) => next() < p,
  }
}
export type Seeded = ReturnType<typeof seeded>

function randomInput(random: Seeded, index: number): ImageInput {
  const kind = random.pick(['momentary', 'rocker', 'momentary', 'rocker', 'selector'] as const)
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
    table: kind === 'selector' ? Array.from({ length: 2 ** bits }, () => random.pick([0, 1, 2, 3, 4, 8, NO_LEVEL])) : [],
  }
}

function randomBinding(random: Seeded, inputs: readonly ImageInput[], channels: number): ImageBinding {
  const input = random.whole(0, inputs.length - 1)
  const { kind, holdMs } = inputs[input]!
  const gesture = kind === 'selector' ? ('select' as const) : kind === 'rocker' ? random.pick(['flip', 'follow'] as const) : random.pick(holdMs > 0 ? (['press', 'release', 'hold'] as const) : (['press', 'release'] as const))
  return { input, gesture, action: gesture === 'follow' ? 'follow' : gesture === 'select' ? 'level' : random.pick(['on', 'off', 'toggle', 'toggle', 'up', 'up', 'down'] as const), channel: random.whole(0, channels - 1) }
}

/** A random controller image, of any shape that the schema lets through. */
export function randomImage(seed: number): ControllerImage {
  const random = seeded(seed)
  const inputs = Array.from({ length: random.pick([0, 2, 3, 4, 5, 6]) }, (_, i) => randomInput(random, i))
  const channelCount = random.whole(1, 6)
  const tables = {
    format: 'vestibule-image' as const,
    version: 1 as const,
    site: 'random',
    controller: `c${seed}`,
    board: 'dual-core-wifi-30',
    link: random.chance(0.9),
    outage: random.pick(['local', 'service'] as const),
    staggerMs: random.pick([0, 1, 150, 150]),
    storeMs: random.pick([100, 2000]),
    minReportMs: random.pick([0, 200, 200, 1500]),
    heartbeatMs: random.pick([5000, 300_000]),
    seed: random.whole(1, 0xffff_ffff),
    inputs,
    channels: Array.from({ length: channelCount }, (_, i) => {
      const powerUp = random.pick(['off', 'on', 'last', 'last', 'wall', 'service'] as const)
      const stepped = random.chance(0.4)
      const contacts = stepped ? random.whole(1, 4) : 1
      const top = stepped ? random.whole(1, 8) : 1
      return {
        kind: stepped ? ('stepped' as const) : ('switched' as const),
        id: `k${i + 1}`,
        topic: random.chance(0.2) ? `other-${i + 1}` : `k${i + 1}`,
        gpios: Array.from({ length: contacts }, (_, contact) => 30 + i * 4 + contact),
        patterns: stepped ? [0, ...Array.from({ length: top }, () => random.whole(0, 2 ** contacts - 1))] : [0, 1],
        gapMs: stepped ? random.pick([0, 1, 30, 30, 500]) : 0,
        wrap: stepped && random.chance(0.4),
        onLevel: stepped ? random.whole(1, top) : 1,
        activeLow: random.chance(0.6),
        maxOnMs: random.chance(0.3) ? random.pick([100, 1000, 5000]) : 0,
        minOffMs: random.chance(0.4) ? random.pick([100, 3000]) : 0,
        powerUp,
        waitMs: powerUp === 'service' ? random.pick([100, 15_000]) : 0,
        otherwise: random.pick(['off', 'last'] as const),
        takesSet: random.chance(0.8),
        reports: random.chance(0.8),
      }
    }),
    bindings: inputs.length === 0 ? [] : Array.from({ length: random.whole(2, 14) }, () => randomBinding(random, inputs, channelCount)),
    points: Array.from({ length: random.whole(0, 5) }, (_, i) => {
      const [min, max] = random.pick([[0, 1], [0, 1], [0, 100], [0, 4], [-5, 5], [1, 2]] as const)
      return { vp: random.chance(0.1) ? 0 : i * 37, channel: random.whole(0, channelCount - 1), min, max, reports: random.chance(0.7) }
    }),
  }
  return { ...tables, hash: bytesToHex(sha256(utf8ToBytes(JSON.stringify(tables)))).slice(0, 12) }
}

function randomMessage(random: Seeded, image: ControllerImage): { topic: string; payload: string; retain: boolean } {
  const scheme = topics(image.site, image.controller)
  const channel = random.pick(image.channels)
  const point = image.points.length ? random.pick(image.points) : undefined
  const topic = random.pick([
    scheme.set(channel.topic), scheme.set(channel.topic), scheme.set(channel.id), scheme.set('nobody'),
    ...(point ? [scheme.pointSet(point.vp), scheme.pointSet(point.vp), scheme.pointHeld(point.vp), scheme.pointHeld(point.vp)] : []),
    `${scheme.prefix}vp/007/set`, `${scheme.prefix}vp//set`, `${scheme.prefix}vp/999/held`, `${scheme.prefix}a/b/c/set`, scheme.prefix, 'elsewhere/set',
  ])
  const payload = random.pick(['on', 'off', 'toggle', '0', '1', '1', '0', '100', '50', '-5', '-0', '2', '', 'ON', 'on ', '1.0', '123456', '-', '+1', 'ö"\\\n', 'off\u0000', 'up', 'down', '3', '4', '9', '03'])
  return { topic, payload, retain: random.chance(0.15) }
}

/** A random trace for an image: bursts of edges, messages good and bad, links and powers that come and go; some start just before the clock wraps. */
/** The names of an input's contacts in a trace. */
const pinNames = (input: ImageInput): string[] => (input.kind === 'selector' ? input.gpios.map((_, bit) => `${input.id}.${bit + 1}`) : [input.id])

export function randomTrace(seed: number, image: ControllerImage, length = 60): TraceLine[] {
  const random = seeded(seed * 7919 + 17)
  let t = random.chance(0.2) ? 0xffff_ffff - random.whole(0, 20_000) : random.whole(0, 1000)
  const lines: TraceLine[] = []
  for (let i = 0; i < length; i++) {
    if (random.chance(0.8)) t = (t + random.pick([0, 1, 3, 8, 20, 24, 25, 26, 60, 150, 199, 200, 201, 800, 1500, 2000, 5000, random.whole(0, 40), random.whole(0, 70_000)])) >>> 0
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
    } else if (dice < 0.5 && image.inputs.length) lines.push({ t, pin: random.pick(pinNames(random.pick(image.inputs))), level: random.pick([0, 1] as const) })
    else if (dice < 0.75) lines.push({ t, msg: randomMessage(random, image) })
    else if (dice < 0.93) lines.push({ t, link: random.chance(0.6) ? 'up' : 'down' })
    else if (dice < 0.96) lines.push({ t, power: random.chance(0.65) ? 'on' : 'off' })
    else lines.push({ t, char: 'A' })
  }
  lines.push({ t: (t + random.pick([0, 1000, 100_000])) >>> 0, end: true })
  return lines
}
