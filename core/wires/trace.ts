import { z } from 'zod'
import {
  createDevice,
  difference,
  eventOf,
  instant,
  TraceLine,
  TraceRefused,
  type DeviceEvent,
  type DeviceOutput,
} from '../device'
import { linksOf, type ControllerImage } from '../image'
import { createWires, type WireEngine } from './engine'
import type { DeviceWord, WireAction, WireEvent } from './events'
import type { ControllerWires } from './types'

/**
 * Traces of a controller with its wires: beside the lines of a plain trace what comes over each wire, and in place of
 * the runtime's messages what goes out there. `of` is the link, as in plain traces; not said: the first.
 */
const t = z.int().min(0).max(0xffff_ffff)
const of = z.string().max(40).optional()
export const WireLine = z.union([
  z.strictObject({ t, of, open: z.boolean() }),
  z.strictObject({
    t,
    of,
    heard: z.strictObject({ topic: z.string().max(200), payload: z.string().max(1000), stale: z.boolean() }),
  }),
  z.strictObject({ t, of, answer: z.strictObject({ status: z.int().min(0).max(599), body: z.string().max(1000) }) }),
  z.strictObject({
    t,
    of,
    call: z.strictObject({
      method: z.string().max(10),
      path: z.string().max(200),
      key: z.string().max(100),
      once: z.string().max(100),
    }),
  }),
])
export type WireLine = z.infer<typeof WireLine>
export type AnyLine = TraceLine | WireLine
export type AnyOutput = DeviceOutput | WireAction

/** Reads JSON lines of both kinds; blank ones are skipped. Throws TraceRefused with the line's number. */
export function readWireTrace(written: string): AnyLine[] {
  return written.split('\n').flatMap((line, i): AnyLine[] => {
    if (line.trim() === '') return []
    let data: unknown
    try {
      data = JSON.parse(line)
    } catch {
      throw new TraceRefused(`trace line ${i + 1}: not JSON`)
    }
    const parsed = z.union([TraceLine, WireLine]).safeParse(data)
    if (!parsed.success) throw new TraceRefused(`trace line ${i + 1}: not an event of a trace`)
    return [parsed.data]
  })
}

const isWireLine = (line: AnyLine): line is WireLine =>
  'open' in line || 'heard' in line || 'answer' in line || 'call' in line

function wireEventOf(image: ControllerImage, line: WireLine): WireEvent {
  const link = line.of === undefined ? 0 : linksOf(image).findIndex(({ id }) => id === line.of)
  if (link < 0) throw new TraceRefused(`there is no link "${line.of}" on controller ${image.controller}`)
  if ('open' in line) return { kind: 'open', link, open: line.open }
  if ('heard' in line) return { kind: 'heard', link, ...line.heard }
  if ('answer' in line) return { kind: 'answer', link, ...line.answer }
  return { kind: 'call', link, ...line.call }
}

const deviceEvent = (word: DeviceWord): DeviceEvent =>
  word.kind === 'link'
    ? { kind: 'link', up: word.up, of: word.link }
    : { kind: 'message', topic: word.topic, payload: word.payload, retain: word.retain, of: word.link }

/**
 * Plays a trace through the interpreter and the wire engine. What comes over a wire is worked off by itself, in its
 * order, before anything else of its instant; requests begin at the instant's end.
 */
export function runWireTrace(
  image: ControllerImage,
  wires: ControllerWires,
  reveal: (secret: string) => string,
  lines: readonly AnyLine[],
): AnyOutput[] {
  const device = createDevice(image)
  const engine = createWires(wires, reveal)
  const outputs: AnyOutput[] = []
  const step = (now: number, events: readonly DeviceEvent[]): void =>
    take(image, engine, device.advance(now, events), outputs)
  const wakes = (now: number): void => {
    const words = engine.tick(now)
    if (words.length > 0) step(now, words.map(deviceEvent))
    flush(engine, outputs)
  }
  const ends = (now: number): void => {
    wakes(now)
    engine.pump(now)
    flush(engine, outputs)
  }
  for (let i = 0; i < lines.length;) {
    const now = instant(lines[i]!.t)
    if (i > 0) runUpTo(now, device.nextDeadline, engine, (at) => (step(at, []), ends(at)))
    const first = i === 0
    const here: AnyLine[] = []
    for (; i < lines.length && lines[i]!.t === now; i++) here.push(lines[i]!)
    const own = here.filter((line): line is TraceLine => !isWireLine(line))
    const events = own.flatMap((line) => eventOf(image, line) ?? [])
    if (first && !events.some(({ kind }) => kind === 'power')) step(now, [{ kind: 'power', on: true }])
    for (const line of here.filter(isWireLine)) {
      const words = engine.event(now, wireEventOf(image, line))
      flush(engine, outputs)
      step(now, words.map(deviceEvent))
    }
    step(now, events)
    ends(now)
  }
  return outputs
}

/** Steps from deadline to deadline of either, so that what one does finds the other at the same instant. */
function runUpTo(
  now: number,
  deviceDeadline: () => number | null,
  engine: WireEngine,
  step: (at: number) => void,
): void {
  for (;;) {
    const due = [deviceDeadline(), engine.nextDeadline()].filter((at): at is number => at !== null)
    const next = due.reduce<number | null>(
      (first, at) => (first === null || difference(at, first) < 0 ? at : first),
      null,
    )
    if (next === null || difference(next, now) >= 0) return
    step(next)
  }
}

/** What the runtime says goes to its wires; everything else it does stands as it is. */
function take(image: ControllerImage, engine: WireEngine, done: readonly DeviceOutput[], outputs: AnyOutput[]): void {
  const index = (link: string | undefined): number =>
    link === undefined ? 0 : linksOf(image).findIndex(({ id }) => id === link)
  for (const output of done) {
    if ('pub' in output) {
      const { topic, payload, retain } = output.pub
      engine.says(output.t, index(output.of), topic, payload, retain)
    } else if ('sub' in output) engine.subscribes(output.t, index(output.of), output.sub)
    else if ('link' in output) engine.joins(output.t, index(output.of))
    else outputs.push(output)
    flush(engine, outputs)
  }
}

const flush = (engine: WireEngine, outputs: AnyOutput[]): void => void outputs.push(...engine.takeActions())

/** Output lines as text: byte for byte what the firmware's `wires` mode prints. */
export const writeWireOutputs = (outputs: readonly AnyOutput[]): string =>
  outputs
    .map((output) =>
      'what' in output
        ? `${JSON.stringify({ t: output.t, of: output.of, ...output.what })}\n`
        : `${JSON.stringify(output)}\n`,
    )
    .join('')
