import { execFile } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join, resolve } from 'node:path'
import { promisify } from 'node:util'
import { describe, expect, it } from 'vitest'
import { eventOf, isLit, runTrace, type DeviceOutput, type LightState, type TraceLine } from '../../core/device'
import { randomImage, randomPair, randomTrace, mirrorTrace } from '../../core/device/random.testkit'
import { linksOf, NO_INPUT, NO_PIN, tablesOf, type ControllerImage, type PairRole } from '../../core/image'
import { encodeFrame } from '../../core/infrared'
import { imageHeader } from '../../core/outputs'
import { readSite } from '../../core/site'
import { RUNTIME_DIR, runtimeSources, STRICT_FLAGS } from '../host'
import { THOROUGH } from './fuzz.testkit'

// The port for board cores has not been run on hardware. Here it runs on a stand-in for such a core (corePort.cpp), a
// pass each millisecond, and does what the interpreter does: pins, messages, subscriptions, characters.

const run = promisify(execFile)
const PORT = join('firmware', 'ports', 'board-core')
const FLAGS = [
  ...STRICT_FLAGS,
  '-O1',
  '-fno-exceptions',
  '-fno-rtti',
  '-Wno-unused-const-variable',
  '-DVESTIBULE_CORE_HEADER="mockCore.h"',
  `-I${resolve('firmware', 'test', 'mock')}`,
  `-I${resolve(PORT)}`,
  `-I${RUNTIME_DIR}`,
]
/** Longer than any space within a frame, µs: then a frame is taken. */
const FRAME_ENDS_US = 6_000

/** Pins of their own for every contact, so that a pin names its contact. */
function withPins(image: ControllerImage, first = 2): ControllerImage {
  let pin = first
  const own = (gpios: readonly number[]): number[] => gpios.map(() => pin++)
  return {
    ...image,
    channels: image.channels.map((channel) => ({ ...channel, gpios: own(channel.gpios) })),
    inputs: image.inputs.map((input) => ({ ...input, gpios: own(input.gpios) })),
    receiver: image.keys.length ? 1 : NO_PIN,
  }
}

/** The runtime, which knows no image: compiled once. */
let runtimeObjects: Promise<string[]> | undefined
async function compileRuntime(): Promise<string[]> {
  const folder = mkdtempSync(join(tmpdir(), 'vestibule-core-'))
  const sources = await runtimeSources()
  await run('g++', [...FLAGS, '-c', ...sources.map((source) => resolve(source))], { cwd: folder })
  return sources.map((source) => join(folder, basename(source).replace(/\.cpp$/, '.o')))
}

async function build(
  image: ControllerImage,
  part: PairRole,
  expander = false,
  more: readonly string[] = [],
): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'vestibule-core-'))
  writeFileSync(join(folder, 'image.h'), imageHeader(image))
  const defines = [
    `-DVESTIBULE_COPROCESSOR=${part === 'mirror' ? 1 : 0}`,
    ...(expander ? ['-DVESTIBULE_EXPANDER=1'] : []),
    ...more,
  ]
  await run('g++', [
    ...FLAGS.filter((flag) => flag !== '-fno-exceptions' && flag !== '-fno-rtti'),
    ...defines,
    `-I${folder}`,
    join(PORT, 'controller.cpp'),
    join('firmware', 'test', 'corePort.cpp'),
    ...(await (runtimeObjects ??= compileRuntime())),
    '-o',
    join(folder, 'port'),
  ])
  return join(folder, 'port')
}

/**
 * One event an instant, in whole ms from 10 on, and no power cuts: the board starts once, and reads its link before its
 * pins.
 */
function spaced(lines: readonly TraceLine[]): TraceLine[] {
  let t = 0
  let before = lines[0]!.t
  return lines
    .filter((line) => !('power' in line) && !('ir' in line))
    .flatMap((line): TraceLine[] => {
      const gap = (line.t - before) >>> 0
      before = line.t
      // an hour at most: the port is called each millisecond
      t += Math.max(10, Math.min(gap, 20_000))
      if ('edges' in line) t += 150
      const moved = { ...line, t } as TraceLine
      if ('edges' in line) t += Math.ceil(line.edges.reduce((sum, us) => sum + us, 0) / 1000) + 20
      return [moved]
    })
}

/** The harness's words for a trace line. */
function wordsOf(image: ControllerImage, line: TraceLine): string[] {
  const event = eventOf(image, line)
  if ('end' in line) return [`${line.t} E`]
  switch (event?.kind) {
    case 'level':
      return [`${line.t} P ${image.inputs[event.input]!.gpios[event.bit]} ${event.level}`]
    case 'char':
      return [`${line.t} C ${event.char.charCodeAt(0)}`]
    case 'line':
      return [...event.line, '\n'].map((character) => `${line.t} C ${character.charCodeAt(0)}`)
    case 'message':
      return /[\n\0 ]/.test(event.topic + event.payload) || event.topic === ''
        ? []
        : [`${line.t} M ${event.of ?? 0} ${event.retain ? 1 : 0} ${event.topic} ${event.payload}`]
    case 'link':
      return [`${line.t} L ${event.of ?? 0} ${event.up ? 1 : 0}`]
    case 'sensor':
      return [`${line.t} S ${event.sensor} ${event.value}`]
    case 'clock':
      return [`${line.t} T ${event.weekMs}`]
    case 'edges':
      return [`${line.t} I ${event.durations.join(' ')}`]
    default:
      return []
  }
}

/**
 * What the interpreter's outputs are on the port. Lines that change nothing at power-up, and what the port keeps to
 * itself, are left out.
 */
function portWords(image: ControllerImage, outputs: readonly DeviceOutput[]): string[] {
  const contacts = new Map(
    image.channels.flatMap((channel) =>
      channel.gpios.map(
        (gpio, i) =>
          [
            channel.kind === 'stepped' || channel.kind === 'paired' ? `${channel.id}.${i + 1}` : channel.id,
            { gpio, low: channel.activeLow },
          ] as const,
      ),
    ),
  )
  const closed = new Map<string, number>()
  return outputs.flatMap((output): string[] => {
    if ('out' in output) {
      if ((closed.get(output.out) ?? 0) === output.level) return []
      closed.set(output.out, output.level)
      const { gpio, low } = contacts.get(output.out)!
      return [`${output.t} D ${gpio} ${(output.level === 1) !== low ? 1 : 0}`]
    }
    const link = 'of' in output ? linksOf(image).findIndex(({ id }) => id === output.of) : 0
    if ('pub' in output)
      return [`${output.t} P ${link} ${output.pub.retain ? 1 : 0} ${output.pub.topic} ${output.pub.payload}`]
    if ('sub' in output) return [`${output.t} U ${link} ${output.sub}`]
    if ('link' in output) return [`${output.t} J ${link}`]
    if ('line' in output) return [...output.line, '\n'].map((character) => `${output.t} B ${character.charCodeAt(0)}`)
    if ('do' in output) return [`${output.t} G ${output.do}`]
    if ('char' in output) return [`${output.t} B ${output.char.charCodeAt(0)}`]
    return []
  })
}

/** Bytes of one instant as one text. */
function together(words: readonly string[]): string[] {
  const joined: string[] = []
  for (const word of words) {
    const [, t, code] = /^(\d+) B (\d+)$/.exec(word) ?? []
    if (t === undefined) joined.push(word)
    else if (joined.at(-1)?.startsWith(`${t} B `)) joined[joined.length - 1] += String.fromCharCode(Number(code))
    else joined.push(`${t} B ${String.fromCharCode(Number(code))}`)
  }
  return joined
}

async function held(
  program: string,
  image: ControllerImage,
  trace: readonly TraceLine[],
  part: PairRole,
): Promise<{ expected: string[]; actual: string[] }> {
  // what the harness cannot say on one line is not said to the interpreter either
  const told = trace.filter((line) => 'end' in line || wordsOf(image, line).length > 0)
  const opened = image.inputs.flatMap((input) => input.gpios.map((gpio) => `0 P ${gpio} ${1 - input.closedLevel}`))
  const child = run(program, [], { maxBuffer: 1 << 26 })
  child.child.stdin!.end([...opened, ...told.flatMap((line) => wordsOf(image, line))].join('\n') + '\n')
  const actual = (await child).stdout.split('\n').filter(Boolean)
  // a frame is taken in the pass that finds its quiet long enough
  const timed = told.map((line): TraceLine => {
    if (!('edges' in line)) return line
    const heard = line.edges.length % 2 === 1 ? line.edges : line.edges.slice(0, -1)
    return {
      ...line,
      edges: heard,
      t: Math.floor((line.t * 1000 + heard.reduce((sum, us) => sum + us, 0) + FRAME_ENDS_US) / 1000) + 1,
    }
  })
  return {
    expected: together(portWords(image, runTrace(image, [{ t: 0, power: 'on' }, ...timed], part))),
    actual: together(actual),
  }
}

describe('the port for board cores, on a stand-in for such a core', () => {
  it('does what the interpreter does, over random controllers and traces', async () => {
    let words = 0
    for (const seed of THOROUGH ? [2, 3, 5, 8, 13, 21] : [2, 5, 8]) {
      const image = { ...withPins(randomImage(seed)), keys: [], receiver: NO_PIN }
      const program = await build(image, 'main')
      for (let k = 1; k <= 5; k++) {
        const trace = spaced(randomTrace(seed * 100 + k, image).filter((line) => !('edges' in line)))
        const { expected, actual } = await held(program, image, trace, 'main')
        expect(actual, `image ${seed}, trace ${k}`).toEqual(expected)
        words += actual.length
      }
    }
    console.log(`port for board cores: ${words} edges, messages, subscriptions and bytes equal over the traces`)
    expect(words).toBeGreaterThan(THOROUGH ? 2_000 : 800)
  }, 240_000)

  it.each([0, 1] as const)(
    'shows on the board’s own light how its link stands (lit at level %i)',
    async (lit) => {
      const { links: _several, ...plain } = withPins(randomImage(2))
      const points = plain.points.map(({ link: _link, ...point }) => point)
      const image = { ...plain, points, link: true, keys: [], receiver: NO_PIN, light: { gpio: 77, lit } }
      const child = run(await build(image, 'main'), [], { maxBuffer: 1 << 26 })
      const told = ['1200 R 1', '3100 R 0', '3100 L 0 1', '5000 W 1', '8050 W 0', '9000 L 0 0', '11000 E']
      child.child.stdin!.end(`${told.join('\n')}\n`)
      const edges = (await child).stdout.split('\n').flatMap((line) => {
        const [, t, level] = /^(\d+) D 77 (\d)$/.exec(line) ?? []
        return t === undefined ? [] : [[Number(t), Number(level) === lit] as const]
      })
      const stateAt = (t: number): LightState => {
        if (t >= 5000 && t < 8050) return 'pairing'
        if (t >= 3100 && t < 9000) return 'up'
        return t >= 1200 && t < 3100 ? 'refused' : 'joining'
      }
      const expected = Array.from({ length: 11_000 }, (_, t) => isLit(stateAt(t), t)).flatMap((is, t, all) =>
        // the first pass comes a millisecond after the start
        is === (all[t - 1] ?? false) ? [] : [[Math.max(1, t), is] as const],
      )
      expect(edges.filter(([t]) => t < 11_000)).toEqual(expected)
      expect(expected.length).toBeGreaterThan(30)
    },
    60_000,
  )

  it('tells relays that hang on no pin by their frames, over the serial line, where no log speaks', async () => {
    const relays = [1, 2].map((n) => ({ off: [0xa5, n, 0, 0xa5 + n], on: [0xa5, n, 1, 0xa6 + n] }))
    const plain = withPins(randomImage(7))
    const [first] = plain.channels
    const lamp = {
      ...first!,
      kind: 'switched' as const,
      powerUp: 'off' as const,
      minOffMs: 0,
      maxOnMs: 0,
      patterns: [0, 1],
    }
    const image = {
      ...plain,
      channels: [90, 91].map((gpio, i) => ({
        ...lamp,
        id: `lamp${i}`,
        topic: `lamp${i}`,
        gpios: [gpio],
        activeLow: false,
        takesSet: true,
        contact: NO_INPUT,
      })),
      ...{
        inputs: [],
        bindings: [],
        groups: [],
        keys: [],
        chars: [],
        points: [],
        sensors: [],
        rules: [],
        schedules: [],
      },
      ...{ serial: null, watch: null, receiver: NO_PIN, link: true, told: { baud: 19_200, relays } },
    }
    const child = run(await build(image, 'main', false, ['-DVESTIBULE_SERIAL_LOG=1']), [], { maxBuffer: 1 << 26 })
    const topic = (id: string) => `vestibule/${image.site}/${image.controller}/${id}/set`
    child.child.stdin!.end(
      ['10 L 0 1', `100 M 0 0 ${topic('lamp1')} on`, `900 M 0 0 ${topic('lamp1')} off`, '1500 E'].join('\n') + '\n',
    )
    const bytes = (await child).stdout.split('\n').flatMap((line) => {
      const [, t, code] = /^(\d+) B (\d+)$/.exec(line) ?? []
      return t === undefined ? [] : [[Number(t), Number(code)] as const]
    })
    const at = (t: number) => bytes.filter(([when]) => when === t).map(([, code]) => code)
    // both rest from the first moment, each told before its direction is set and once more after
    expect(at(0).slice(0, 8)).toEqual([...relays[0]!.off, ...relays[1]!.off])
    expect(at(100)).toEqual(relays[1]!.on)
    expect(at(900)).toEqual(relays[1]!.off)
    expect(bytes.every(([t]) => [0, 100, 900].includes(t))).toBe(true)
  }, 60_000)

  it('puts the function that an interrupt calls where the core wants it', async () => {
    const image = withPins(randomImage(1))
    const program = await build({ ...image, receiver: 1 }, 'main', false, [
      '-DVESTIBULE_INTERRUPT=__attribute__((section(".in_memory")))',
    ])
    const { stdout } = await run('objdump', ['--syms', '--demangle', program])
    const symbol = stdout.split('\n').find((line) => line.includes('receiverEdge'))
    expect(symbol).toContain('.in_memory')
  }, 60_000)

  it('as the coprocessor of a pair', async () => {
    let words = 0
    for (const seed of [1, 4]) {
      const image = withPins(randomPair(seed))
      const program = await build(image, 'mirror')
      for (let k = 1; k <= 4; k++) {
        // a line that is longer than these tables can make it is none to the port, and one of other tables to the
        // interpreter
        const trace = spaced(
          mirrorTrace(seed * 100 + k, image).filter(
            (line) =>
              ('line' in line && !/\?=\d{6}|[1x]=\d (\?|x)=|=256/.test(line.line)) ||
              'msg' in line ||
              'link' in line ||
              'end' in line,
          ),
        )
        const { expected, actual } = await held(program, image, trace, 'mirror')
        expect(actual, `image ${seed}, trace ${k}`).toEqual(expected)
        words += actual.length
      }
    }
    console.log(`port for board cores as a coprocessor: ${words} messages and characters equal over 8 traces`)
    expect(words).toBeGreaterThan(200)
  }, 120_000)

  it('says its tables on a serial port that is free for a log', async () => {
    const image = { ...withPins(randomImage(2)), keys: [], receiver: NO_PIN, serial: null }
    const { actual } = await held(
      await build(image, 'main', false, ['-DVESTIBULE_SERIAL_LOG=1']),
      image,
      [{ t: 10, end: true }],
      'main',
    )
    expect(actual).toContain(`0 B tables ${image.hash}\r\n`)
  }, 60_000)

  it('hears a remote through its interrupt', async () => {
    const read = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
    if (!read.ok) throw read.error
    const image = withPins(tablesOf(read.value, 'throwing').image)
    const trace = spaced(
      randomTrace(7, image, 40)
        .filter((line) => 'edges' in line)
        .map((line, i) => ({ ...line, t: 500 * (i + 1) })),
    )
    const frames: TraceLine[] = [1, 2, 5, 5, 7].map((command, i) => ({
      t: 1000 + 600 * i,
      edges: encodeFrame({ protocol: 'nec', address: 77, command }, 0),
    }))
    const { expected, actual } = await held(
      await build(image, 'main'),
      image,
      [...trace.filter((line) => line.t < 900), ...frames, { t: 6000, end: true }],
      'main',
    )
    expect(actual).toEqual(expected)
    expect(actual.filter((word) => word.includes(' D ')).length).toBeGreaterThan(4)
  }, 60_000)

  it('drives the pins of an expander through the sketch, and does not compile without', async () => {
    const image = withPins({ ...randomImage(3), keys: [] }, 100)
    await expect(build(image, 'main')).rejects.toThrow('hang on an expander')
    const trace = spaced(randomTrace(301, image).filter((line) => !('edges' in line)))
    const { expected, actual } = await held(await build(image, 'main', true), image, trace, 'main')
    expect(actual).toEqual(expected)
  }, 60_000)
})
