import { cp, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { runTrace, writeOutputs } from '../../core/device'
import { mirrorTrace, randomPair, randomTrace } from '../../core/device/random.testkit'
import type { ControllerImage } from '../../core/image'
import { every, fuzz, THOROUGH, shrinkDisagreement, writeTrace } from './fuzz.testkit'
import { RUNTIME_DIR } from '../host'

const IMAGES = 24
const TRACES_PER_IMAGE = 100
/** What a run of all tests plays. */
const PLAYED = THOROUGH ? TRACES_PER_IMAGE : 40

/** What the interpreter says of a seed's trace; worked out once, however many firmwares are held against it. */
const known = new Map<number, { trace: string; expected: string }>()
function reference(image: ControllerImage, seed: number): { trace: string; expected: string } {
  const before = known.get(seed)
  if (before) return before
  const lines = randomTrace(seed, image)
  const made = { trace: writeTrace(lines), expected: writeOutputs(runTrace(image, lines)) }
  known.set(seed, made)
  return made
}

describe('interpreter and firmware', () => {
  it(`print the same bytes over ${IMAGES} random images and ${IMAGES * PLAYED} random traces`, async () => {
    const { disagreements, compared, bytes } = await fuzz({
      images: IMAGES,
      tracesPerImage: PLAYED,
      reference,
    })
    console.log(
      `differential: ${compared} traces over ${IMAGES} images, ${(bytes / 1e6).toFixed(1)} MB of output compared`,
    )
    expect(disagreements).toEqual([])
    expect(compared).toBe(IMAGES * PLAYED)
    expect(bytes).toBeGreaterThan(1_000_000) // the traces really make the controllers do something
  }, 300_000)
})

/** One small change of meaning each, as a tired programmer would make it. */
const MUTATIONS: { file: string; from: string; to: string }[] = [
  { file: 'channels.cpp', from: 'arm(device, gap, wait)', to: '(void)wait' },
  { file: 'channels.cpp', from: 'device.timers[rest].at - device.now :', to: 'REST_MS :' },
  { file: 'contacts.cpp', from: 'if (!isArmed(device, limit)) arm', to: 'arm' },
  { file: 'inside.h', from: 'REST_MS = 100', to: 'REST_MS = 99' },
  {
    file: 'channels.cpp',
    from: 'return channel.waitingLevel != 0 ? channel.waitingLevel : channel.staggeredLevel;',
    to: 'return channel.staggeredLevel;',
  },
  { file: 'channels.cpp', from: 'closed == (action == Action::open)', to: 'closed == (action == Action::close)' },
  { file: 'channels.cpp', from: 'channel.lastLevel == 1 ? 2 : 1', to: '1' },
  {
    file: 'powerup.cpp',
    from: 'device.staggerNext = device.now + device.image->staggerMs',
    to: 'device.staggerNext += device.image->staggerMs',
  },
  { file: 'contacts.cpp', from: 'if (isArmed(device, gap) && (row', to: 'if (false && (row' },
  { file: 'contacts.cpp', from: 'row(&table->kind) != ChannelKind::paired || wanted', to: 'wanted' },
  { file: 'inputs.cpp', from: 'if (!input.pressed) return;', to: '' },
  { file: 'inputs.cpp', from: 'if (!input.holdFired) fire', to: 'fire' },
  { file: 'inputs.cpp', from: 'if (table.settle == Settle::eager) arm', to: 'if (table.settle == Settle::settle) arm' },
  { file: 'messages.cpp', from: 'span - 1) / span', to: 'span / 2) / span' },
  { file: 'link.cpp', from: '% 401', to: '% 400' },
  { file: 'link.cpp', from: '!outage || !row', to: '(!outage && false) || !row' },
  { file: 'device.cpp', from: 'workOffGestures(device);\n  messageArrives', to: 'messageArrives' },
  {
    file: 'timers.cpp',
    from: 'difference(device.timers[*link].at, at) <= 0',
    to: 'difference(device.timers[*link].at, at) < 0',
  },
  { file: 'timers.cpp', from: ' && (timer.next == NO_PLACE || device.timers[timer.next].at != at)', to: '' },
  { file: 'watch.cpp', from: 'if (device.local) arm', to: 'arm' },
  { file: 'rules.cpp', from: ' && device.sensors[rule.sensor].heard', to: '' },
  { file: 'rules.cpp', from: ' || isArmed(device, slotOf(*device.image, Slot::dwell, r))', to: '' },
  { file: 'auto.cpp', from: ' && target == 0', to: '' },
  { file: 'auto.cpp', from: 'channel.reportDue = true;\n      return true;', to: 'return true;' },
  { file: 'deeds.cpp', from: '(action == Action::off || given == 0)', to: '(action == Action::off)' },
  { file: 'deeds.cpp', from: '(action == Action::off || given == 0)', to: '(given == 0)' },
  { file: 'messages.cpp', from: 'value > 0 ? Action::on : Action::off', to: 'Action::on' },
  { file: 'inputs.cpp', from: 'gateOf(device, index) == 1', to: 'true' },
  { file: 'inputs.cpp', from: 'gateOf(device, index) == 0', to: 'false' },
  { file: 'remote.cpp', from: 'key.everyMs == 0 || !mayRepeat', to: 'key.everyMs == 0 || mayRepeat' },
  { file: 'infrared.cpp', from: 'hash = (hash ^ word) * 0x01000193ul', to: 'hash = hash * 0x01000193ul ^ word' },
  { file: 'schedule.cpp', from: 'ahead == 0 && !inclusive', to: 'ahead == 0 && inclusive' },
  { file: 'schedule.cpp', from: 'any || schedule.catchUp', to: 'true' },
  { file: 'schedule.cpp', from: 'ahead >= WEEK_MS / 2 ? 0 : ', to: '' },
  { file: 'serial.cpp', from: 'if (!known && device.unknownCharacters', to: 'if (known && device.unknownCharacters' },
  { file: 'reports.cpp', from: 'sensor.reported = sensor.value;', to: '' },
  { file: 'reports.cpp', from: 'announce(device, i, others == 0)', to: 'announce(device, i, true)' },
  { file: 'reports.cpp', from: 'point.reports || !has(links, point.link)', to: 'point.reports' },
  { file: 'messages.cpp', from: 'point.link == link && ', to: 'link < MOST_LINKS && ' },
  { file: 'messages.cpp', from: 'levels == 2 && own && ', to: 'levels == 2 && ' },
  { file: 'link.cpp', from: 'if (!anyUp(device)) nobodyHears', to: 'nobodyHears' },
  { file: 'link.cpp', from: 'if (point.link == index) device.heldBack', to: 'device.heldBack' },
]

/** The same for the coprocessor of a pair. */
const MIRROR_MUTATIONS: typeof MUTATIONS = [
  { file: 'mirror.cpp', from: 'SILENT_PERIODS = 3', to: 'SILENT_PERIODS = 4' },
  { file: 'mirror.cpp', from: "letter(text, length, at, ' ') && at == length", to: "letter(text, length, at, ' ')" },
  { file: 'mirror.cpp', from: '(value == 0) == row', to: '(value != 0) == row' },
  { file: 'mirror.cpp', from: 'if (device.heard) return;', to: '' },
  { file: 'sayToMain.cpp', from: 'device.channels[index].level > 0 ? Action::off : Action::on', to: 'Action::on' },
  {
    file: 'sayToMain.cpp',
    from: 'if (!device.heard) return log(device, topic',
    to: 'if (false) return log(device, topic',
  },
]
function mirrored(image: ControllerImage, seed: number): { trace: string; expected: string } {
  const lines = mirrorTrace(seed, image)
  return { trace: writeTrace(lines), expected: writeOutputs(runTrace(image, lines, 'mirror')) }
}

describe('a change of meaning in the firmware is caught by the differential test', () => {
  const folders: string[] = []
  afterAll(() => Promise.all(folders.map((folder) => rm(folder, { recursive: true, force: true }))))

  async function mutant(file: string, from: string, to: string): Promise<string> {
    const folder = await mkdtemp(join(tmpdir(), 'vestibule-mutant-'))
    folders.push(folder)
    await cp(RUNTIME_DIR, folder, { recursive: true })
    const source = await readFile(join(folder, file), 'utf8')
    expect(source.split(from).length).toBeGreaterThan(1)
    await writeFile(join(folder, file), source.replace(from, to))
    return folder
  }

  it.each(every(6, MIRROR_MUTATIONS))('coprocessor, $file: $from', async ({ file, from, to }) => {
    const { disagreements, compared } = await fuzz({
      images: IMAGES,
      tracesPerImage: 40,
      runtimeDir: await mutant(file, from, to),
      stopAtFirst: true,
      reference: mirrored,
      imageOf: randomPair,
      as: 'mirror',
    })
    console.log(`caught after ${compared} traces: ${file}, ${from}`)
    expect(disagreements.length).toBeGreaterThan(0)
  })

  it.each(every(6, MUTATIONS))('$file: $from', async ({ file, from, to }) => {
    const folder = await mutant(file, from, to)
    const { disagreements, compared } = await fuzz({
      // it stops at the first: only what is hard to see looks at all of them
      images: 4 * IMAGES,
      tracesPerImage: TRACES_PER_IMAGE,
      runtimeDir: folder,
      stopAtFirst: true,
      reference,
    })
    console.log(`caught after ${compared} traces: ${file}, ${from}`)
    expect(disagreements.length).toBeGreaterThan(0)
    if (file !== 'channels.cpp') return
    // what is found is also made small enough to be read
    const small = await shrinkDisagreement(disagreements[0]!, { runtimeDir: folder })
    console.log(`${disagreements[0]!.trace} shrunk to ${small.length} lines`)
    expect(small.length).toBeLessThan(15)
  })
})
