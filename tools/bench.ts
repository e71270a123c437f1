import { execFileSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createDevice, instant } from '../core/device'
import { imageHeader, secretsExample, wiresHeader } from '../core/outputs'
import { lampFanStrike } from '../core/outputs/kinds.testkit'
import { compileController, type ControllerImage } from '../core/image'
import { compileWires } from '../core/wires'
import { avrSize, buildAvr, runAvrTrace, simulatorSupported } from '../firmware/avr'
import { RUNTIME_DIR, runtimeSources, WIRES_DIR } from '../firmware/host'
import { busyTrace, plainImage } from '../firmware/test/avr.testkit'

/**
 * `npm run bench`: what docs/benchmarks.md holds. Speed of the interpreter and of the native runtime; size and time on
 * the 8-bit board.
 */

const EVENTS = 2_000_000
const CYCLES_PER_MICROSECOND = 16

/**
 * The same stream as firmware/bench/bench.cpp: levels that change every 1 to 16 ms at inputs taken by a linear
 * congruence.
 */
function interpreterSpeed(image: ControllerImage): { perSecond: number; outputs: number } {
  const device = createDevice(image)
  let outputs = 0
  const count = (list: readonly object[]): void => {
    for (const output of list) if ('out' in output) outputs++
  }
  count(device.advance(instant(0), [{ kind: 'power', on: true }]))
  const levels = new Uint8Array(image.inputs.length).fill(1)
  let state = 1
  let now = 0
  const began = performance.now()
  for (let i = 0; i < EVENTS; i++) {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    const input = (state >>> 16) % image.inputs.length
    now += 1 + (state >>> 28)
    levels[input]! ^= 1
    count(device.advance(instant(now), [{ kind: 'level', input, bit: 0, level: levels[input] as 0 | 1 }]))
  }
  return { perSecond: EVENTS / ((performance.now() - began) / 1000), outputs }
}

async function nativeSpeed(image: ControllerImage): Promise<{ perSecond: number; outputs: number }> {
  const folder = mkdtempSync(join(tmpdir(), 'vestibule-bench-'))
  writeFileSync(join(folder, 'image.h'), imageHeader(image))
  const program = join(folder, 'bench')
  execFileSync('g++', [
    '-std=c++11',
    '-O2',
    '-fno-exceptions',
    '-fno-rtti',
    `-I${RUNTIME_DIR}`,
    `-I${folder}`,
    join('firmware', 'bench', 'bench.cpp'),
    ...(await runtimeSources()),
    '-o',
    program,
  ])
  const [perSecond, outputs] = execFileSync(program, [String(EVENTS)], { encoding: 'utf8' })
    .trim()
    .split(' ')
    .map(Number)
  return { perSecond: perSecond!, outputs: outputs! }
}

const image = plainImage(16, { infrared: false, serial: false })
interpreterSpeed(image) // warm
const interpreter = interpreterSpeed(image)
const native = await nativeSpeed(image)
const million = (value: number): string => (value / 1e6).toFixed(2)
console.log(
  `16 channels, 8 inputs, ${EVENTS.toLocaleString('en')} input events (outputs: ` +
    `${interpreter.outputs} and ${native.outputs})\n`,
)
console.log(
  `| engine | million events a second |\n|---|---|\n| interpreter | ${million(interpreter.perSecond)} ` +
    `|\n| native runtime, -O2 | ${million(native.perSecond)} |\n| ratio | ` +
    `${(native.perSecond / interpreter.perSecond).toFixed(1)} |\n`,
)

await wiresBench()

/** Speed of engine and client with the runtime behind them, and what each transport costs on the 8-bit core. */
async function wiresBench(): Promise<void> {
  const site = lampFanStrike(['datapoint'])
  const own = compileController(site, 'box')
  const folder = mkdtempSync(join(tmpdir(), 'vestibule-bench-'))
  writeFileSync(join(folder, 'image.h'), imageHeader(own))
  writeFileSync(join(folder, 'wires_image.h'), wiresHeader(compileWires(site, own)))
  const controller = site.controllers[0]!
  writeFileSync(join(folder, 'secrets.h'), secretsExample(site, controller))
  const program = join(folder, 'wires')
  const includes = [`-I${RUNTIME_DIR}`, `-I${WIRES_DIR}`, `-I${folder}`]
  const sources = [...(await runtimeSources()), ...(await runtimeSources(WIRES_DIR))]
  execFileSync('g++', ['-std=c++11', '-O2', ...includes, 'firmware/bench/wires.cpp', ...sources, '-o', program])
  const [perSecond, longest] = execFileSync(program, ['500000'], { encoding: 'utf8' }).trim().split(' ').map(Number)
  console.log(
    '\n| wires | |\n|---|---|\n' +
      `| engine, client and runtime together: messages a second, a wish in and a state out | ${perSecond!.toLocaleString('en')} |\n` +
      `| longest pass, µs (this machine's scheduler included) | ${longest} |\n\n` +
      '| on the 8-bit core | flash, bytes | memory beside its buffers, bytes |\n|---|---|---|',
  )
  transportSizes(folder, includes)
  console.log('')
}

/** Flash and memory of each transport on the 8-bit core. */
function transportSizes(folder: string, includes: readonly string[]): void {
  const memory = { mqtt: 'mqtt::Client', request: 'http::Client', callers: 'hook::Server', engine: 'wires::LinkState' }
  for (const [name, files] of Object.entries({
    mqtt: ['mqtt.cpp'],
    request: ['request.cpp'],
    callers: ['callers.cpp'],
    engine: ['engine.cpp', 'coding.cpp', 'pointer.cpp', 'http.cpp', 'hook.cpp'],
  })) {
    const flags = ['-mmcu=atmega1284p', '-std=c++11', '-Os', '-fno-exceptions', '-fno-rtti', ...includes, '-c']
    const flash = files.reduce((sum, file) => {
      execFileSync('avr-g++', [...flags, join(WIRES_DIR, file), '-o', join(folder, 'one.o')])
      return (
        sum +
        Number(
          execFileSync('avr-size', [join(folder, 'one.o')], { encoding: 'utf8' })
            .split('\n')[1]!
            .trim()
            .split(/\s+/)[0],
        )
      )
    }, 0)
    const type = memory[name as keyof typeof memory]
    writeFileSync(join(folder, 'size.cpp'), `#include "transports.h"\nchar bytes[sizeof(vestibule::${type})];\n`)
    execFileSync('avr-g++', [...flags, join(folder, 'size.cpp'), '-o', join(folder, 'size.o')])
    const bytes = execFileSync('avr-size', [join(folder, 'size.o')], { encoding: 'utf8' })
      .split('\n')[1]!
      .trim()
      .split(/\s+/)[2]
    console.log(`| ${name} | ${flash} | ${bytes} |`)
  }
}

if (simulatorSupported()) {
  console.log(
    '| 8-bit board | flash, bytes | memory, bytes | with stack | worst pass, cycles | µs | at power-up, ' +
      'µs | decoding a frame, µs | press to output, ms |\n|---|---|---|---|---|---|---|---|---|',
  )
  for (const infrared of [false, true]) {
    for (const channels of [2, 8, 16]) {
      const small = plainImage(channels, { infrared, serial: true })
      const name = `${channels} channels, serial${infrared ? ', infrared' : ''}`
      const program = await buildAvr(small).catch((error: Error) => error)
      if (program instanceof Error) {
        console.log(
          `| ${name} | does not fit: ${/takes (\d+) bytes/.exec(program.message)?.[0] ?? program.message} ` +
            'of memory | | | | | | | |',
        )
        continue
      }
      const size = await avrSize(program)
      const trace = busyTrace(small)
      const run = await runAvrTrace(program, small, trace)
      const presses = trace.filter((line) => 'pin' in line && line.level === 0)
      const late = Math.max(...presses.map((press, i) => (run.outputs[i]?.t ?? Number.NaN) - press.t))
      const microseconds = (cycles: number): number => Math.round(cycles / CYCLES_PER_MICROSECOND)
      console.log(
        `| ${name} | ${size.flash} | ${size.memory} | ${run.memory} | ${run.worstCycles} | ` +
          `${microseconds(run.worstCycles)} | ${microseconds(run.startCycles)} | ` +
          `${infrared ? microseconds(run.decodeCycles) : '–'} | ${late} |`,
      )
    }
  }
}
