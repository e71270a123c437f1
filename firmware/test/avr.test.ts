import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { runTrace, type DeviceOutput, type TraceLine } from '../../core/device'
import { compileController, type ControllerImage } from '../../core/image'
import { readSite } from '../../core/site'
import { avrSize, avrSupported, buildAvr, runAvrTrace, simulatorSupported, type AvrRun } from '../avr'
import { avrImage, avrTrace, busyTrace, plainImage } from './avr.testkit'

// Source of the check: simavr, an independent simulator of the 8-bit core, runs the very program that a maker flashes.

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const demo = (id: string): ControllerImage => compileController(parsed.value, id)
const MICROSECOND = 16 // cycles
/** The longest that a pass may take. */
const WORST_US = 400

interface Compared {
  readonly expected: readonly string[]
  readonly actual: readonly string[]
  /** edges that come with the next millisecond */
  readonly late: number
  readonly lines: { readonly expected: readonly string[]; readonly actual: readonly string[] }
  readonly run: AvrRun
}

/** Outputs that change something; at power-up all rest. The interpreter also says what it writes without a change. */
function changes(outputs: readonly DeviceOutput[], powerUps: readonly number[]): { t: number; out: string; level: 0 | 1 }[] {
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
function withoutOthers(all: readonly string[], some: readonly string[]): string[] {
  let at = 0
  return all.filter((line) => line === some[at] && ++at > 0)
}

async function compare(image: ControllerImage, trace: readonly TraceLine[]): Promise<Compared> {
  const run = await runAvrTrace(await buildAvr(image), image, trace)
  // a frame holds from where the board hands it over: its quiet and its decoding take some ms, which the trace does not know
  let frame = 0
  const timed = trace.map((line) => ('edges' in line ? { ...line, t: run.frames[frame++] ?? line.t } : line))
  const outputs = runTrace(image, timed)
  const expected = changes(outputs, timed.flatMap((line) => ('power' in line && line.power === 'on' ? [line.t] : [])))
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

describe.skipIf(!simulatorSupported())('the 8-bit board on an independent simulator of its core', () => {
  it.each(['drying', 'yard'])('%s of the demo: pins to the very millisecond, the serial link byte for byte', async (id) => {
    let edges = 0
    let worst = 0
    let bytes = 0
    for (let seed = 1; seed <= 15; seed++) {
      const { expected, actual, late, lines, run } = await compare(demo(id), avrTrace(demo(id), seed))
      expect(actual, `trace ${seed}`).toEqual(expected)
      // the trace may end while its last line is being sent
      expect(lines.actual, `trace ${seed}`).toEqual(lines.expected.slice(0, lines.actual.length))
      expect(lines.expected.length - lines.actual.length).toBeLessThanOrEqual(1)
      bytes += lines.actual.join('\n').length
      expect(late, `trace ${seed}`).toBe(0)
      expect(run.troubles).toEqual([])
      edges += actual.length
      worst = Math.max(worst, run.worstCycles)
    }
    console.log(`${id} on simavr: ${edges} pin edges and ${bytes} bytes of the serial link over 15 traces equal, worst pass ${Math.round(worst / MICROSECOND)} µs`)
    expect(edges).toBeGreaterThan(100)
  }, 120_000)

  it('random controllers of every kind of channel, with infrared and power cuts: the same edges in the same millisecond', async () => {
    let edges = 0
    let worst = 0
    let stack = 0
    let frames = 0
    let lateEdges = 0
    let traces = 0
    for (const seed of [1, 3, 4, 5, 6]) {
      const image = avrImage(seed)!
      for (let k = 1; k <= 4; k++) {
        const { expected, actual, late, lines, run } = await compare(image, avrTrace(image, k))
        expect(actual, `image ${seed}, trace ${k}`).toEqual(expected)
        // a line that is overtaken while the one before it is being sent is left out; what is sent is in order, and the last is true
        expect(withoutOthers(lines.expected, lines.actual), `image ${seed}, trace ${k}`).toEqual(lines.actual)
        expect(lines.actual.at(-1)).toBe(lines.expected.at(-1))
        expect(run.troubles).toEqual([])
        edges += actual.length
        frames += run.frames.length
        lateEdges += late
        worst = Math.max(worst, run.worstCycles)
        stack = Math.max(stack, run.memory - (await avrSize(await buildAvr(image))).memory)
        traces++
      }
    }
    console.log(`random controllers on simavr: ${edges} pin edges and ${frames} infrared frames over ${traces} traces, ${lateEdges} edges one millisecond later; worst pass ${Math.round(worst / MICROSECOND)} µs, stack ${stack} bytes`)
    expect(lateEdges).toBe(0)
    expect(edges).toBeGreaterThan(200)
    expect(frames).toBeGreaterThan(50)
  }, 240_000)

  it('eight channels with infrared and a serial link: a press is out within a millisecond of its settling', async () => {
    const image = plainImage(8, { infrared: true, serial: true })
    const { expected, actual, late, run } = await compare(image, busyTrace(image))
    expect(actual).toEqual(expected)
    expect(late).toBe(0)
    const size = await avrSize(await buildAvr(image))
    console.log(`8 channels, infrared, serial: ${size.flash} bytes of flash, ${size.memory} of memory and ${run.memory} with its stack; worst pass ${Math.round(run.worstCycles / MICROSECOND)} µs, ${Math.round(run.startCycles / MICROSECOND)} µs at power-up`)
    expect(size.flash).toBeLessThanOrEqual(20 * 1024)
    expect(run.memory).toBeLessThanOrEqual(1.5 * 1024)
    expect(run.worstCycles / MICROSECOND).toBeLessThanOrEqual(WORST_US)
  }, 60_000)
})

describe.skipIf(!avrSupported())('building for the 8-bit board', () => {
  it('refuses a pin that the board does not have', async () => {
    const image = demo('drying')
    await expect(buildAvr({ ...image, channels: image.channels.map((channel, i) => (i === 0 ? { ...channel, gpios: [104] } : channel)) })).rejects.toThrow('pin 104 is not on the 8-bit board')
  })
})
