import { z } from 'zod'
import { linksOf, thousandths, type ControllerImage, type PairRole } from '../image'
import { PROTOCOLS } from '../infrared'
import { createDevice } from './device'
import { difference, instant } from './time'
import type { DeviceEvent, DeviceOutput, RemoteFrame } from './types'

/** A trace line that cannot be read: its number and what is wrong. */
export class TraceRefused extends Error {
  readonly code = 'trace-refused'
}

const t = z.int().min(0).max(0xffff_ffff)
/** a link by its id; not said: the first, as in every trace that was made before there were more */
const of = z.string().max(40).optional()
const Level = z.union([z.literal(0), z.literal(1)])

/** A frame of a remote, as a trace has it. */
export const TraceFrame = z.union([
  z.strictObject({
    protocol: z.enum(PROTOCOLS),
    address: z.int().min(0).max(0xffff),
    command: z.int().min(0).max(0xff),
    toggle: z.union([Level, z.null()]).optional(),
    repeat: z.boolean().optional(),
  }),
  z.strictObject({
    protocol: z.literal('unknown'),
    hash: z.int().min(0).max(0xffff_ffff),
    repeat: z.boolean().optional(),
  }),
  z.strictObject({ protocol: z.literal('nec-repeat'), repeat: z.boolean().optional() }),
])

/** One line of an input trace (docs/behaviour.md, Traces). */
export const TraceLine = z.union([
  z.strictObject({ t, power: z.enum(['on', 'off']) }),
  z.strictObject({ t, link: z.enum(['up', 'down']), of }),
  z.strictObject({ t, pin: z.string(), level: Level }),
  z.strictObject({
    t,
    msg: z.strictObject({ topic: z.string().max(200), payload: z.string().max(1000), retain: z.boolean() }),
    of,
  }),
  z.strictObject({ t, end: z.literal(true) }),
  z.strictObject({ t, ir: TraceFrame }),
  z.strictObject({ t, edges: z.array(z.int().min(0).max(1_000_000)).max(2_000) }),
  z.strictObject({ t, sensor: z.string(), value: z.number().min(-1_000_000).max(1_000_000) }),
  z.strictObject({ t, clock: z.iso.datetime({ local: true, offset: false }) }),
  z.strictObject({ t, line: z.string().max(1000) }),
  z.strictObject({ t, char: z.string().regex(/^[\u0000-\u007f]$/) }),
])
export type TraceLine = z.infer<typeof TraceLine>

/** Reads JSON lines; blank lines are skipped. Throws TraceRefused with the line's number. */
export function readTrace(text: string): TraceLine[] {
  const lines: TraceLine[] = []
  text.split('\n').forEach((line, i) => {
    if (line.trim() === '') return
    let data: unknown
    try {
      data = JSON.parse(line)
    } catch {
      throw new TraceRefused(`trace line ${i + 1}: not JSON`)
    }
    const parsed = TraceLine.safeParse(data)
    if (!parsed.success) throw new TraceRefused(`trace line ${i + 1}: not an event of a trace`)
    const before = lines.at(-1)
    if (before && difference(parsed.data.t, before.t) < 0)
      throw new TraceRefused(`trace line ${i + 1}: time runs backwards (${before.t} to ${parsed.data.t} ms)`)
    lines.push(parsed.data)
  })
  return lines
}

/** "s1", or "r1.1", "r1.2" … for the contacts of a selector. */
export function pinNamed(image: ControllerImage, name: string): { input: number; bit: number } | undefined {
  for (const [input, table] of image.inputs.entries()) {
    if (table.kind !== 'selector' && table.id === name) return { input, bit: 0 }
    if (table.kind === 'selector')
      for (let bit = 0; bit < table.gpios.length; bit++) if (`${table.id}.${bit + 1}` === name) return { input, bit }
  }
  return undefined
}

/**
 * ms since Monday 00:00 of a local date and time. Days by the civil calendar (ISO 8601: the week begins on Monday;
 * 1970-01-01 was a Thursday).
 */
export function weekMsOf(local: string): number {
  const [year, month, day, hour, minute, second] = local.split(/[-T:.]/).map(Number) as [
    number,
    number,
    number,
    number,
    number,
    number | undefined,
  ]
  const days = Math.floor(Date.UTC(year, month - 1, day) / 86_400_000)
  return ((((days + 3) % 7) + 7) % 7) * 86_400_000 + ((hour * 60 + minute) * 60 + (second ?? 0)) * 1000
}

/** Place of a link. Throws TraceRefused on an unknown one. */
function linkNamed(image: ControllerImage, id: string | undefined): number {
  const index = id === undefined ? 0 : linksOf(image).findIndex((link) => link.id === id)
  if (index < 0) throw new TraceRefused(`there is no link "${id}" on controller ${image.controller}`)
  return index
}

/**
 * The device's event for a trace line; undefined where the line does not concern it. Throws TraceRefused on an unknown
 * pin or link.
 */
export function eventOf(image: ControllerImage, line: TraceLine): DeviceEvent | undefined {
  if ('power' in line) return { kind: 'power', on: line.power === 'on' }
  if ('link' in line) return { kind: 'link', up: line.link === 'up', of: linkNamed(image, line.of) }
  if ('msg' in line) return { kind: 'message', ...line.msg, of: linkNamed(image, line.of) }
  if ('pin' in line) {
    const pin = pinNamed(image, line.pin)
    if (!pin) throw new TraceRefused(`there is no input "${line.pin}" on controller ${image.controller}`)
    return { kind: 'level', ...pin, level: line.level }
  }
  if ('clock' in line) return { kind: 'clock', weekMs: weekMsOf(line.clock) }
  if ('edges' in line) return { kind: 'edges', durations: line.edges }
  if ('char' in line) return { kind: 'char', char: line.char }
  if ('line' in line) return { kind: 'line', line: line.line }
  if ('ir' in line)
    return {
      kind: 'frame',
      frame: {
        ...line.ir,
        ...('toggle' in line.ir || !('address' in line.ir) ? {} : { toggle: null }),
        repeat: line.ir.repeat ?? false,
      } as RemoteFrame,
    }
  if ('sensor' in line) {
    // a sensor of another controller passes by
    const sensor = image.sensors.findIndex((candidate) => candidate.id === line.sensor)
    return sensor < 0 ? undefined : { kind: 'sensor', sensor, value: thousandths(line.value) }
  }
  return undefined
}

/** A date and time of the first week that begins with a Monday (1970-01-05), so many ms into it. */
const localOf = (weekMs: number): string => new Date(4 * 86_400_000 + weekMs).toISOString().slice(0, 23)

/** An event at an instant as a line of a trace: what eventOf reads back. `t`: ms, below 2³². */
export function traceLineOf(image: ControllerImage, at: number, event: DeviceEvent): TraceLine {
  const named = (link: number | undefined): { of?: string } => (link ? { of: linksOf(image)[link]!.id } : {})
  switch (event.kind) {
    case 'power':
      return { t: at, power: event.on ? 'on' : 'off' }
    case 'link':
      return { t: at, link: event.up ? 'up' : 'down', ...named(event.of) }
    case 'clock':
      return { t: at, clock: localOf(event.weekMs) }
    case 'level': {
      const { id, kind } = image.inputs[event.input]!
      return { t: at, pin: kind === 'selector' ? `${id}.${event.bit + 1}` : id, level: event.level }
    }
    case 'frame':
      return { t: at, ir: event.frame }
    case 'edges':
      return { t: at, edges: [...event.durations] }
    case 'message': {
      const { topic, payload, retain } = event
      return { t: at, msg: { topic, payload, retain }, ...named(event.of) }
    }
    case 'char':
      return { t: at, char: event.char }
    case 'line':
      return { t: at, line: event.line }
    case 'sensor':
      return { t: at, sensor: image.sensors[event.sensor]!.id, value: event.value / 1000 }
  }
}

/**
 * Plays a trace through the interpreter. The controller is powered at the first line's instant, unless a power event
 * stands there. As a mirror it is the coprocessor of a pair, on the main board's image.
 */
export function runTrace(image: ControllerImage, lines: readonly TraceLine[], as: PairRole = 'main'): DeviceOutput[] {
  const device = createDevice(image, as)
  const outputs: DeviceOutput[] = []
  for (let i = 0; i < lines.length;) {
    const now = instant(lines[i]!.t)
    const events: DeviceEvent[] = []
    const first = i === 0
    for (; i < lines.length && lines[i]!.t === now; i++) {
      const event = eventOf(image, lines[i]!)
      if (event) events.push(event)
    }
    if (first && !events.some((event) => event.kind === 'power')) events.unshift({ kind: 'power', on: true })
    for (const output of device.advance(now, events)) outputs.push(output)
  }
  return outputs
}

/**
 * Output lines as text, keys in the order of docs/behaviour.md: byte for byte what the firmware's trace mode prints.
 */
export function writeOutputs(outputs: readonly DeviceOutput[]): string {
  return outputs.map((output) => `${JSON.stringify(output)}\n`).join('')
}
