import { cp, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { runTrace, writeOutputs } from '../../core/device'
import { randomImage, randomTrace } from '../../core/device/random.testkit'
import { buildHost, runHostTrace, RUNTIME_DIR } from '../host'

const IMAGES = 24
const TRACES_PER_IMAGE = 100

const linesOf = (trace: readonly object[]): string => trace.map((line) => `${JSON.stringify(line)}\n`).join('')

/** Seeds at which interpreter and firmware print different bytes. */
async function disagreements(images: number, tracesPerImage: number, runtimeDir = RUNTIME_DIR, stopAtFirst = false): Promise<{ seeds: string[]; compared: number; bytes: number }> {
  const seeds: string[] = []
  let compared = 0
  let bytes = 0
  for (let i = 1; i <= images; i++) {
    const image = randomImage(i)
    const { program } = await buildHost(image, runtimeDir)
    for (let first = 1; first <= tracesPerImage; first += 10) {
      await Promise.all(
        Array.from({ length: Math.min(10, tracesPerImage - first + 1) }, async (_, k) => {
          const trace = randomTrace(i * 1000 + first + k, image)
          const expected = writeOutputs(runTrace(image, trace))
          const actual = await runHostTrace(program, linesOf(trace))
          compared++
          bytes += expected.length
          if (actual !== expected) seeds.push(`image ${i}, trace ${i * 1000 + first + k}`)
        }),
      )
      if (stopAtFirst && seeds.length) return { seeds, compared, bytes }
    }
  }
  return { seeds, compared, bytes }
}

describe('interpreter and firmware', () => {
  it(`print the same bytes over ${IMAGES} random images and ${IMAGES * TRACES_PER_IMAGE} random traces`, async () => {
    const { seeds, compared, bytes } = await disagreements(IMAGES, TRACES_PER_IMAGE)
    console.log(`differential: ${compared} traces over ${IMAGES} images, ${(bytes / 1e6).toFixed(1)} MB of output compared`)
    expect(seeds).toEqual([])
    expect(compared).toBe(IMAGES * TRACES_PER_IMAGE)
    expect(bytes).toBeGreaterThan(1_000_000) // the traces really make the controllers do something
  }, 300_000)
})

/** One small change of meaning each, as a tired programmer would make it. */
const MUTATIONS: { file: string; from: string; to: string }[] = [
  { file: 'channels.cpp', from: 'level > 0 && wasOff && table', to: 'level > 0 && (wasOff || true) && table' },
  { file: 'channels.cpp', from: 'device.staggerNext = at + device.image->staggerMs', to: 'device.staggerNext = device.now + device.image->staggerMs' },
  { file: 'channels.cpp', from: 'if (meant == 0) meant = channel.waitingLevel;', to: '' },
  { file: 'channels.cpp', from: 'channel.closed != wanted && !isArmed(device, gap)', to: 'channel.closed != wanted' },
  { file: 'inputs.cpp', from: 'if (!input.holdFired) fire', to: 'fire' },
  { file: 'inputs.cpp', from: 'if (table.settle == Settle::eager) arm', to: 'if (table.settle == Settle::settle) arm' },
  { file: 'messages.cpp', from: 'span - 1) / span', to: 'span / 2) / span' },
  { file: 'link.cpp', from: '% 401', to: '% 400' },
  { file: 'timers.cpp', from: 'difference(timer.order, device.timers[best].order) > 0', to: 'difference(timer.order, device.timers[best].order) < 0' },
]

describe('a change of meaning in the firmware is caught by the differential test', () => {
  const folders: string[] = []
  afterAll(() => Promise.all(folders.map((folder) => rm(folder, { recursive: true, force: true }))))

  it.each(MUTATIONS)('$file: $from', async ({ file, from, to }) => {
    const folder = await mkdtemp(join(tmpdir(), 'vestibule-mutant-'))
    folders.push(folder)
    await cp(RUNTIME_DIR, folder, { recursive: true })
    const source = await readFile(join(folder, file), 'utf8')
    expect(source.split(from).length).toBeGreaterThan(1)
    await writeFile(join(folder, file), source.replace(from, to))
    const { seeds, compared } = await disagreements(IMAGES, TRACES_PER_IMAGE, folder, true)
    console.log(`caught after ${compared} traces: ${file}, ${from}`)
    expect(seeds.length).toBeGreaterThan(0)
  })
})
