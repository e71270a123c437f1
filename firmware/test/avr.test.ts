import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { compileController, type ControllerImage } from '../../core/image'
import { readSite } from '../../core/site'
import { avrSize, avrSupported, buildAvr, runAvrTrace, simulatorSupported } from '../avr'
import { THOROUGH } from './fuzz.testkit'
import { avrImage, avrTrace, busyTrace, compare, plainImage, withoutOthers } from './avr.testkit'

// Source of the check: simavr, an independent simulator of the 8-bit core, runs the very program that a maker flashes.

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const demo = (id: string): ControllerImage => compileController(parsed.value, id)
/** A run of all tests plays fewer. */
const TRACES = THOROUGH ? 15 : 6
const MICROSECOND = 16 // cycles
/** The longest that a pass may take. */
const WORST_US = 400

describe.skipIf(!simulatorSupported())('the 8-bit board on an independent simulator of its core', () => {
  it.each(['drying', 'yard'])(
    '%s of the demo: pins to the very millisecond, the serial link byte for byte',
    async (id) => {
      let edges = 0
      let worst = 0
      let bytes = 0
      for (let seed = 1; seed <= TRACES; seed++) {
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
      console.log(
        `${id} on simavr: ${edges} pin edges and ${bytes} bytes of the serial link over ${TRACES} traces equal, ` +
          `worst pass ${Math.round(worst / MICROSECOND)} µs`,
      )
      expect(edges).toBeGreaterThan(6 * TRACES)
    },
    120_000,
  )

  it('random controllers of every kind of channel, with infrared and power cuts: the same edges in the same millisecond', async () => {
    let edges = 0
    let worst = 0
    let stack = 0
    let frames = 0
    let lateEdges = 0
    let traces = 0
    for (const seed of THOROUGH ? [1, 3, 4, 5, 6] : [1, 4, 6]) {
      const image = avrImage(seed)!
      for (let k = 1; k <= 4; k++) {
        const { expected, actual, late, lines, run } = await compare(image, avrTrace(image, k))
        expect(actual, `image ${seed}, trace ${k}`).toEqual(expected)
        // a line that is overtaken while the one before it is being sent is left out; what is sent is in order, and the
        // last is true
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
    console.log(
      `random controllers on simavr: ${edges} pin edges and ${frames} infrared frames over ${traces} ` +
        `traces, ${lateEdges} edges one millisecond later; worst pass ${Math.round(worst / MICROSECOND)} ` +
        `µs, stack ${stack} bytes`,
    )
    expect(lateEdges).toBe(0)
    expect(edges).toBeGreaterThan(THOROUGH ? 150 : 60)
    expect(frames).toBeGreaterThan(THOROUGH ? 50 : 20)
  }, 240_000)

  it('eight channels with infrared and a serial link: a press is out within a millisecond of its settling', async () => {
    const image = plainImage(8, { infrared: true, serial: true })
    const { expected, actual, late, run } = await compare(image, busyTrace(image))
    expect(actual).toEqual(expected)
    expect(late).toBe(0)
    const size = await avrSize(await buildAvr(image))
    console.log(
      `8 channels, infrared, serial: ${size.flash} bytes of flash, ${size.memory} of memory and ` +
        `${run.memory} with its stack; worst pass ${Math.round(run.worstCycles / MICROSECOND)} µs, ` +
        `${Math.round(run.startCycles / MICROSECOND)} µs at power-up`,
    )
    expect(size.flash).toBeLessThanOrEqual(20 * 1024)
    expect(run.memory).toBeLessThanOrEqual(1.5 * 1024)
    expect(run.worstCycles / MICROSECOND).toBeLessThanOrEqual(WORST_US)
  }, 60_000)
})

describe.skipIf(!simulatorSupported())('power that goes while the 8-bit board writes its store', () => {
  it('cut every five ms of the write: all of the old states come back or all of the new, never some of each', async () => {
    const image = plainImage(8, { infrared: false, serial: true })
    const kept = image.channels.flatMap((channel) => (channel.powerUp === 'last' ? [channel.id] : []))
    expect(kept.length).toBe(3)
    const program = await buildAvr(image)
    const came = new Map<string, number>()
    for (let cut = 0; cut <= 130; cut += 5) {
      // all on, which is stored two seconds later; the power goes some ms after the writing has begun
      const off = 1000 + image.storeMs + cut
      const { outputs, troubles } = await runAvrTrace(program, image, [
        { t: 0, power: 'on' },
        { t: 1000, char: '+' },
        { t: off, power: 'off' },
        { t: off + 100, power: 'on' },
        { t: off + 2000, end: true },
      ])
      const back = outputs.filter(({ t, level }) => t >= off + 100 && level === 1).map(({ out }) => out)
      expect([[], kept], `cut ${cut} ms after the store was due`).toContainEqual(back)
      expect(troubles).toEqual([])
      const which = back.length ? 'new' : 'old'
      came.set(which, (came.get(which) ?? 0) + 1)
    }
    console.log(`store cut on simavr: old ${came.get('old')}, new ${came.get('new')}`)
    // a record of 29 bytes takes some 100 ms: both happen
    expect(came.get('old')).toBeGreaterThan(10)
    expect(came.get('new')).toBeGreaterThan(5)
  }, 120_000)
})

describe.skipIf(!avrSupported())('building for the 8-bit board', () => {
  it('refuses a pin that the board does not have', async () => {
    const image = demo('drying')
    await expect(
      buildAvr({
        ...image,
        channels: image.channels.map((channel, i) => (i === 0 ? { ...channel, gpios: [104] } : channel)),
      }),
    ).rejects.toThrow('pin 104 is not on the 8-bit board')
  })
  it('refuses a serial link on pins that have no port of their own', async () => {
    const image = demo('drying')
    expect(image.line).toEqual({ sends: 1, hears: 0 })
    await expect(buildAvr({ ...image, line: { sends: 9, hears: 8 } })).rejects.toThrow(
      'the serial link of this board is on D1 (sends) and D0 (hears)',
    )
  })
})
