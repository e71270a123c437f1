import { runTrace, type DeviceOutput, type TraceLine } from '../../core/device'
import { randomImage } from '../../core/device/random.testkit'
import { choices } from '../../core/seeded'
import { NO_PIN, type ControllerImage } from '../../core/image'
import { encodeFrame } from '../../core/infrared'
import { buildAvr, runAvrTrace, type AvrRun } from '../avr'

/**
 * Random controllers and traces that fit the 8-bit board: pins 0 to 19, no network, frames as edges, one event at a
 * time.
 */

const FIRST_FREE = 3
const RECEIVER = 2
/** The command of the key that turns all off. */
const ALL_OFF = 99

/** A random image with its pins moved onto the board; undefined where it has more contacts than the board has pins. */
export function avrImage(seed: number): ControllerImage | undefined {
  const image = randomImage(seed)
  let pin = FIRST_FREE
  const onto = (gpios: readonly number[]): number[] => gpios.map(() => pin++)
  const moved: ControllerImage = {
    ...image,
    board: 'eight-bit-5v',
    link: false,
    receiver: image.keys.length ? RECEIVER : NO_PIN,
    serial: image.serial && { ...image.serial, baud: 38_400 },
    channels: image.channels.map((channel) => ({ ...channel, gpios: onto(channel.gpios) })),
    inputs: image.inputs.map((input) => ({ ...input, analogue: false, gpios: onto(input.gpios) })),
  }
  return pin <= 20 ? moved : undefined
}

/** A trace with bounces, held keys and characters, and power that comes and goes. */
export function avrTrace(image: ControllerImage, seed: number, length = 22): TraceLine[] {
  const random = choices(seed * 104_729 + 5)
  const lines: TraceLine[] = []
  const contacts = image.inputs.flatMap((input) =>
    input.kind === 'selector'
      ? input.gpios.map((_, bit) => ({ pin: `${input.id}.${bit + 1}`, open: 1 - input.closedLevel }))
      : [{ pin: input.id, open: 1 - input.closedLevel }],
  )
  const levels = new Map(contacts.map(({ pin, open }) => [pin, open]))
  let t = 0
  lines.push({ t, power: 'on' })
  const wait = (): void => {
    t += random.pick([
      random.whole(60, 300),
      random.whole(60, 300),
      random.whole(300, 1200),
      random.chance(0.2) ? 3000 : 500,
    ])
  }
  for (let i = 0; i < length; i++) {
    wait()
    const kind = random.pick([
      'pin',
      'pin',
      'pin',
      ...(image.serial ? ['char' as const] : []),
      ...(image.keys.length && image.receiver !== NO_PIN ? ['edges' as const, 'edges' as const] : []),
      ...(random.chance(0.15) ? ['power' as const] : []),
    ])
    if (kind === 'pin' && contacts.length) {
      const { pin } = random.pick(contacts)
      const level = (1 - levels.get(pin)!) as 0 | 1
      for (let bounce = random.pick([0, 0, 1, 3]); bounce > 0; bounce--) {
        lines.push({ t, pin, level })
        t += random.whole(1, 4)
        lines.push({ t, pin, level: (1 - level) as 0 | 1 })
        t += random.whole(1, 4)
      }
      lines.push({ t, pin, level })
      levels.set(pin, level)
    } else if (kind === 'char') {
      lines.push({ t, char: random.chance(0.9) && image.chars.length ? random.pick(image.chars).char : '~' })
    } else if (kind === 'edges') {
      t += 120 // a frame takes up to 70 ms, and what it says holds from its end on
      const key = random.pick(image.keys)
      if (key.protocol === 'unknown') continue
      const stretch = random.whole(0, 80)
      lines.push({
        t,
        edges: encodeFrame(
          { protocol: key.protocol, address: key.address, command: key.command },
          random.pick([0, 1] as const),
        ).map((us, k) => Math.round(us * (0.94 + 0.12 * random.real())) + (k % 2 === 0 ? stretch : -stretch)),
      })
    } else if (kind === 'power') {
      t += image.storeMs + 400 // what is stored takes a while to be written; a cut within it is the torn-write test's
      lines.push({ t, power: 'off' })
      t += random.whole(50, 600)
      lines.push({ t, power: 'on' })
    }
  }
  t += 1500
  lines.push({ t, end: true })
  return lines
}

/**
 * All that a plain controller is asked at its busiest: each switch, everything on and off at once by character and by
 * remote, a press while a frame is decoded.
 */
export function busyTrace(image: ControllerImage): TraceLine[] {
  const presses = image.inputs.map((input, i): TraceLine => ({ t: 400 + 200 * i, pin: input.id, level: 0 }))
  const frame = (command: number, protocol: 'nec' | 'rc5' = 'nec'): number[] =>
    encodeFrame({ protocol, address: 4, command }, 0)
  const characters: TraceLine[] = image.serial ? [...'+-+a+'].map((char, i) => ({ t: 3000 + 1000 * i, char })) : []
  const frames: TraceLine[] = image.keys.length
    ? [
        { t: 9000, edges: frame(ALL_OFF) },
        { t: 10_000, edges: frame(1) },
        { t: 11_000, edges: frame(1, 'rc5') },
        { t: 11_075, pin: image.inputs[0]!.id, level: 1 },
      ]
    : []
  return [{ t: 0, power: 'on' }, ...presses, ...characters, ...frames, { t: 12_000, end: true }]
}

/**
 * Switched channels with a wall switch each, as a maker's box has them; with infrared, a key each; and a serial link.
 */
export function plainImage(
  count: number,
  more: { readonly infrared: boolean; readonly serial: boolean },
): ControllerImage {
  const base = randomImage(1)
  const ids = Array.from({ length: count }, (_, i) => i)
  return {
    ...base,
    controller: `plain-${count}`,
    board: 'eight-bit-5v',
    link: false,
    watch: null,
    serial: more.serial ? { baud: 9_600, statusMs: 2_000 } : null,
    receiver: more.infrared ? RECEIVER : NO_PIN,
    inputs: ids
      .filter((i) => i < 8)
      .map((i) => ({
        id: `s${i + 1}`,
        gpios: [11 + i],
        kind: i % 2 ? 'rocker' : 'momentary',
        pull: 'up',
        analogue: false,
        closedLevel: 0,
        settle: 'settle',
        settleMs: 25,
        holdMs: 0,
        table: [],
      })),
    // with more channels than pins the last ones share: what counts here is what tables and timers take
    channels: ids.map((i) => ({
      kind: 'switched',
      id: `lamp-${i + 1}`,
      topic: `lamp-${i + 1}`,
      gpios: [3 + (i % 8)],
      patterns: [0, 1],
      gapMs: 0,
      wrap: false,
      onLevel: 1,
      activeLow: true,
      maxOnMs: 0,
      minOffMs: 0,
      powerUp: i % 3 === 0 ? 'last' : 'off',
      waitMs: 0,
      otherwise: 'off',
      takesSet: false,
      reports: true,
      essential: false,
      contact: 255,
      contactMeansClosed: false,
    })),
    groups: [{ id: 'all', members: ids }],
    bindings: ids
      .filter((i) => i < 8)
      .map((i) => ({
        input: i,
        gesture: i % 2 ? 'flip' : 'press',
        action: 'toggle',
        level: 0,
        on: 'channel',
        index: i,
      })),
    keys: more.infrared
      ? [
          ...ids.map((i) => ({
            protocol: 'nec' as const,
            address: 4,
            command: i,
            everyMs: 0,
            action: 'toggle' as const,
            level: 0,
            on: 'channel' as const,
            index: i,
          })),
          { protocol: 'nec', address: 4, command: ALL_OFF, everyMs: 0, action: 'off', level: 0, on: 'group', index: 0 },
        ]
      : [],
    chars: more.serial
      ? [
          ...ids.map((i) => ({
            char: String.fromCharCode(97 + i),
            source: 'serial' as const,
            action: 'toggle' as const,
            level: 0,
            on: 'channel' as const,
            index: i,
          })),
          { char: '+', source: 'serial', action: 'on', level: 0, on: 'group', index: 0 },
          { char: '-', source: 'serial', action: 'off', level: 0, on: 'group', index: 0 },
        ]
      : [],
    points: [],
    sensors: [],
    rules: [],
    schedules: [],
  }
}

/** A trace on the simulated board, held against the interpreter. */
export interface Compared {
  readonly expected: readonly string[]
  readonly actual: readonly string[]
  /** edges that come with the next millisecond */
  readonly late: number
  readonly lines: { readonly expected: readonly string[]; readonly actual: readonly string[] }
  readonly run: AvrRun
}

/** Outputs that change something; at power-up all rest. The interpreter also says what it writes without a change. */
function changes(
  outputs: readonly DeviceOutput[],
  powerUps: readonly number[],
): { t: number; out: string; level: 0 | 1 }[] {
  let closed = new Map<string, 0 | 1>()
  let next = 0
  return outputs.flatMap((output) => {
    if (!('out' in output)) return []
    for (; next < powerUps.length && powerUps[next]! <= output.t; next++) closed = new Map()
    if ((closed.get(output.out) ?? 0) === output.level) return []
    closed.set(output.out, output.level)
    return [output]
  })
}

/** Those of `all` that `some` holds too, in the order of `all`. */
export function withoutOthers(all: readonly string[], some: readonly string[]): string[] {
  let at = 0
  return all.filter((line) => line === some[at] && ++at > 0)
}

export async function compare(image: ControllerImage, trace: readonly TraceLine[]): Promise<Compared> {
  const run = await runAvrTrace(await buildAvr(image), image, trace)
  // a frame holds from where the board hands it over: its quiet and its decoding take some ms, which the trace does not
  // know
  let frame = 0
  const timed = trace.map((line) => ('edges' in line ? { ...line, t: run.frames[frame++] ?? line.t } : line))
  const outputs = runTrace(image, timed)
  const expected = changes(
    outputs,
    timed.flatMap((line) => ('power' in line && line.power === 'on' ? [line.t] : [])),
  )
  const late = expected.filter((edge, i) => run.outputs[i]?.t === edge.t + 1).length
  const words = (edge: { t: number; out: string; level: number }, t: number) => `${t} ${edge.out} ${edge.level}`
  return {
    expected: expected.map((edge) => words(edge, edge.t)),
    actual: run.outputs.map((edge, i) => words(edge, edge.t === (expected[i]?.t ?? 0) + 1 ? edge.t - 1 : edge.t)),
    late,
    lines: { expected: outputs.flatMap((output) => ('line' in output ? [output.line] : [])), actual: run.lines },
    run,
  }
}
