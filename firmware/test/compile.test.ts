import { execFile } from 'node:child_process'
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { promisify } from 'node:util'
import { describe, expect, it } from 'vitest'
import { compileController, tablesOf } from '../../core/image'
import { buildController, imageHeader, portOf, secretsExample, wiresHeader } from '../../core/outputs'
import { runTrace, writeOutputs } from '../../core/device'
import { mirrorTrace, randomTrace } from '../../core/device/random.testkit'
import { readSite } from '../../core/site'
import { firmwareFiles } from '../files'
import { THOROUGH, writeTrace } from './fuzz.testkit'
import { RUNTIME_DIR, runHostTrace, runtimeSources, STRICT_FLAGS, WIRES_DIR } from '../host'
import { compileWires } from '../../core/wires'

const run = promisify(execFile)
const FLAGS = [...STRICT_FLAGS, '-Os', '-fno-exceptions', '-fno-rtti', '-ffreestanding', '-c']

/** The host, the two bare Wi-Fi architectures and the 8-bit one. */
const TARGETS = [
  { name: 'host', compiler: 'g++', flags: [] },
  { name: 'single-core Wi-Fi (xtensa lx106)', compiler: 'xtensa-lx106-elf-g++', flags: ['-mlongcalls'] },
  {
    name: 'small RISC-V Wi-Fi (rv32imc)',
    compiler: 'riscv64-unknown-elf-g++',
    flags: ['-march=rv32imc', '-mabi=ilp32'],
  },
  { name: '8-bit (AVR)', compiler: 'avr-g++', flags: ['-mmcu=avr5'] },
]
const MOCK = join('firmware', 'test', 'mock')
const installed = (compiler: string) =>
  ['/usr/bin', '/usr/local/bin'].some((folder) => existsSync(join(folder, compiler)))

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const site = parsed.value

describe.each(TARGETS)('the firmware compiles without a warning for $name', ({ compiler, flags }) => {
  it.skipIf(!installed(compiler))(compiler, async () => {
    const folder = mkdtempSync(join(tmpdir(), 'vestibule-compile-'))
    for (const source of [...(await runtimeSources()), ...(await runtimeSources(WIRES_DIR))])
      await run(compiler, [...FLAGS, ...flags, `-I${RUNTIME_DIR}`, `-I${WIRES_DIR}`, source, '-o', join(folder, 'x.o')])
    for (const controller of site.controllers) {
      writeFileSync(join(folder, 'image.h'), imageHeader(compileController(site, controller.id)))
      writeFileSync(
        join(folder, 'image.cpp'),
        '#include "image.h"\nconst vestibule::Image* theImage() { return &image::IMAGE; }\n',
      )
      await run(compiler, [
        ...FLAGS,
        ...flags,
        '-Wno-unused-const-variable',
        `-I${RUNTIME_DIR}`,
        `-I${folder}`,
        join(folder, 'image.cpp'),
        '-o',
        join(folder, 'image.o'),
      ])
    }
  })
})

describe('the port for board cores of the setup()/loop() style', () => {
  it('compiles against a stand-in for such a core, for every controller that may use it', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'vestibule-core-'))
    const here = join('firmware', 'ports', 'board-core')
    const words = [
      ...STRICT_FLAGS,
      '-fno-exceptions',
      '-fno-rtti',
      '-c',
      `-DVESTIBULE_CORE_HEADER="mockCore.h"`,
      `-I${MOCK}`,
      `-I${here}`,
      `-I${RUNTIME_DIR}`,
      `-I${WIRES_DIR}`,
      `-I${folder}`,
    ]
    const controllers = site.controllers.filter((controller) => portOf(site, controller) === 'board-core')
    expect(controllers.length).toBeGreaterThanOrEqual(3)
    for (const controller of controllers) {
      const { image, part } = tablesOf(site, controller.id)
      writeFileSync(join(folder, 'image.h'), imageHeader(image))
      writeFileSync(join(folder, 'wires_image.h'), wiresHeader(compileWires(site, image, controller.link !== 'none')))
      writeFileSync(join(folder, 'secrets.h'), secretsExample(site, controller))
      for (const source of ['controller.cpp', 'example.cpp', 'wifi.cpp', 'boardStore.cpp'])
        await run('g++', [
          ...words,
          `-DVESTIBULE_COPROCESSOR=${part === 'mirror' ? 1 : 0}`,
          `-DVESTIBULE_JOINS=${controller.link === 'none' ? 0 : 1}`,
          '-Wno-unused-const-variable',
          join(here, source),
          '-o',
          join(folder, 'port.o'),
        ])
    }
    expect(controllers.some((controller) => tablesOf(site, controller.id).part === 'mirror')).toBe(true)
  })
  it.each(THOROUGH ? ['throwing', 'drying-radio'] : ['throwing'])(
    'its README, taken literally, gives a sketch of %s',
    async (id) => {
      const folder = mkdtempSync(join(tmpdir(), 'vestibule-sketch-'))
      for (const file of buildController(site, id, firmwareFiles()).files) {
        mkdirSync(dirname(join(folder, file.name)), { recursive: true })
        writeFileSync(join(folder, file.name), file.text)
      }
      const firmware = join(folder, 'firmware')
      await run('make', ['-s', '-C', firmware, 'sketch'])
      const sketch = join(firmware, 'sketch')
      expect(readdirSync(sketch)).toEqual(
        expect.arrayContaining(['image.h', 'wires_image.h', 'secrets.h', 'settings.h', 'vestibule.h', 'mqtt.h']),
      )
      const settings = readFileSync(join(sketch, 'settings.h'), 'utf8')
      expect(settings).toContain('#define VESTIBULE_JOINS 1')
      // step 2, and nothing else
      writeFileSync(join(sketch, 'settings.h'), `#define VESTIBULE_CORE_HEADER "mockCore.h"\n${settings}`)
      for (const header of readdirSync(MOCK)) copyFileSync(join(MOCK, header), join(sketch, header))
      const sources = readdirSync(sketch).filter((name) => name.endsWith('.cpp'))
      await run(
        'g++',
        [...STRICT_FLAGS, '-fno-exceptions', '-fno-rtti', '-Wno-unused-const-variable', '-I.', '-c', ...sources],
        {
          cwd: sketch,
        },
      )
    },
  )
  it('a build for a coprocessor has its main board’s tables, and says in its settings what it is', () => {
    const text = (id: string, name: string) =>
      buildController(site, id, firmwareFiles()).files.find((file) => file.name === name)!.text
    expect(text('drying-radio', 'firmware/image.h')).toBe(text('drying', 'firmware/image.h'))
    expect(text('drying-radio', 'firmware/ports/board-core/settings.h')).toContain('#define VESTIBULE_COPROCESSOR 1')
    expect(text('glaze', 'firmware/ports/board-core/settings.h')).toContain('#define VESTIBULE_COPROCESSOR 0')
    expect(text('drying-radio', 'sheets/flash-steps.md')).toContain('coprocessor of Drying:')
  })
})

describe('a build', () => {
  it.each(THOROUGH ? ['drying', 'drying-radio'] : ['drying'])(
    'of %s compiles as it is, and its program does what the interpreter does',
    async (id) => {
      const folder = mkdtempSync(join(tmpdir(), 'vestibule-build-'))
      for (const file of buildController(site, id, firmwareFiles()).files) {
        mkdirSync(dirname(join(folder, file.name)), { recursive: true })
        writeFileSync(join(folder, file.name), file.text)
      }
      await run('make', ['-s', '-j2', '-C', join(folder, 'firmware'), 'host'])
      const { image, part } = tablesOf(site, id)
      const trace = part === 'mirror' ? mirrorTrace(7, image) : randomTrace(7, image)
      expect(
        await runHostTrace(join(folder, 'firmware', 'ports', 'host', 'controller'), writeTrace(trace), 0, part),
      ).toBe(writeOutputs(runTrace(image, trace, part)))
      if (id === 'drying' && installed('avr-g++')) await run('make', ['-s', '-C', join(folder, 'firmware'), 'avr'])
    },
    120_000,
  )
})

describe('the runtime keeps its promises', () => {
  it('uses no heap, no floating point, no standard library beyond integers', async () => {
    const headers = (folder: string) =>
      readdirSync(folder)
        .filter((name) => name.endsWith('.h'))
        .map((name) => join(folder, name))
    const wires = [...(await runtimeSources(WIRES_DIR)), ...headers(WIRES_DIR)]
    for (const source of [...(await runtimeSources()), ...headers(RUNTIME_DIR), ...wires]) {
      const text = readFileSync(source, 'utf8').replace(/\/\/.*$/gm, '')
      expect(text, source).not.toMatch(/\b(new|delete|malloc|free|float|double|std::|throw|dynamic_cast)\b/)
      // the board's own header for reading flash is asked for by a build option only
      for (const [, header] of text
        .replace(/#ifdef VESTIBULE_FLASH_TABLES[\s\S]*?#else/, '')
        .matchAll(/#include <([^>]+)>/g))
        expect(['stdint.h', 'stddef.h'], source).toContain(header)
    }
  })
  it('calls itself nowhere, by whatever way round', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'vestibule-calls-'))
    const calls = new Map<string, Set<string>>()
    for (const source of await runtimeSources()) {
      const object = join(folder, 'one.o')
      // every function stands for itself, so that each call is seen
      await run('g++', [...FLAGS, '-O0', '-fno-inline', `-I${RUNTIME_DIR}`, source, '-o', object])
      const { stdout } = await run('objdump', ['-dr', '--no-show-raw-insn', object], { maxBuffer: 1 << 26 })
      let inside = ''
      for (const line of stdout.split('\n')) {
        const begins = /^[0-9a-f]+ <([^>+]+)>:/.exec(line)
        if (begins) {
          // a function of the same name in another file is another function, when it is static
          inside = begins[1]!
          calls.set(inside, calls.get(inside) ?? new Set())
        }
        const called =
          /R_X86_64_PL(?:T)?32\s+([\w.]+)/.exec(line)?.[1] ?? /\bcall\s+[0-9a-f]+ <([^>+]+)>/.exec(line)?.[1]
        if (called && inside) calls.get(inside)!.add(called)
      }
    }
    expect(calls.size).toBeGreaterThan(120)
    const reaches = (from: string): Set<string> => {
      const seen = new Set<string>()
      const open = [...(calls.get(from) ?? [])]
      for (let next = open.pop(); next !== undefined; next = open.pop()) {
        if (seen.has(next)) continue
        seen.add(next)
        open.push(...(calls.get(next) ?? []))
      }
      return seen
    }
    expect([...calls.keys()].filter((name) => reaches(name).has(name))).toEqual([])
    // the walk does see what there is
    expect(reaches('_ZN9vestibule6finishERNS_6DeviceE').size).toBeGreaterThan(40)
  })
  it('needs nothing from outside but itself', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'vestibule-symbols-'))
    const objects: string[] = []
    for (const source of await runtimeSources()) {
      const object = join(folder, `${objects.length}.o`)
      await run('g++', [...FLAGS, `-I${RUNTIME_DIR}`, source, '-o', object])
      objects.push(object)
    }
    await run('ld', ['-r', ...objects, '-o', join(folder, 'all.o')])
    const { stdout } = await run('nm', ['--undefined-only', join(folder, 'all.o')])
    expect(
      stdout
        .split('\n')
        .filter((line) => line.trim() && !/_GLOBAL_OFFSET_TABLE_|memset|memcpy|__stack_chk_fail/.test(line)),
    ).toEqual([])
  })
})
