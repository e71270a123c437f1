import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { acceptanceRun } from '../../core/acceptance'
import { runTrace, traceLineOf, writeOutputs, type DeviceOutput, type TraceLine } from '../../core/device'
import { tablesOf } from '../../core/image'
import { readSite } from '../../core/site'
import { World } from '../../core/trial'
import { simulatorSupported } from '../avr'
import { buildHost, runHostTrace } from '../host'
import { compare } from './avr.testkit'

// The acceptance run of the pottery as each board hears it: the interpreter in the house, the firmware on this machine,
// and for the 8-bit boards the very program that is flashed on an independent simulator of their core.

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const pottery = parsed.value

interface Heard {
  readonly trace: TraceLine[]
  /** "t output level", as the house's own interpreter did it */
  readonly pins: string[]
}

const pinsOf = (outputs: readonly DeviceOutput[]): string[] =>
  outputs.flatMap((output) => ('out' in output ? [`${output.t} ${output.out} ${output.level}`] : []))

/** What each board was told in the whole run, and which pins moved. */
function heardInAcceptance(): { heard: Map<string, Heard>; lasts: number } {
  const { tryout, lastsMs } = acceptanceRun(pottery)
  const heard = new Map<string, Heard>()
  const world = World.begin(pottery, tryout.run.seed, {
    onTold: ({ id }, t, events, outputs) => {
      const one = heard.get(id) ?? { trace: [], pins: [] }
      heard.set(id, one)
      for (const event of events) one.trace.push(traceLineOf(tablesOf(pottery, id).image, t, event))
      one.pins.push(...pinsOf(outputs))
    },
  })
  for (const { t, action } of tryout.run.deeds) {
    world.advance(t)
    world.act(action)
  }
  world.advance(lastsMs)
  return { heard, lasts: lastsMs }
}

const { heard, lasts } = heardInAcceptance()
/** A pause is gone through in so long on the simulator, ms: it takes the time that the board would. */
const LONGEST_PAUSE_MS = 3_000
const MOST_LINES = 400

/** The first lines of a trace, with its pauses cut short: a script of its own, by the same hands. */
function hurried(trace: readonly TraceLine[]): TraceLine[] {
  let t = 0
  let before = 0
  const lines = trace
    .filter((line) => 'pin' in line || 'char' in line || 'power' in line)
    .slice(0, MOST_LINES)
    .map((line) => {
      t += Math.min(LONGEST_PAUSE_MS, line.t - before)
      before = line.t
      return { ...line, t }
    })
  return [...lines, { t: t + 2_000, end: true }]
}

describe.each(pottery.controllers.map(({ id }) => id as string))('the acceptance run as %s hears it', (id) => {
  const { image, part } = tablesOf(pottery, id)
  const { trace, pins } = heard.get(id)!
  const whole: TraceLine[] = [...trace, { t: lasts, end: true }]

  it('the house, a trace of it and the firmware move the same pins in the same milliseconds', async () => {
    const played = runTrace(image, whole, part)
    expect(pinsOf(played)).toEqual(pins)
    const { program } = await buildHost(image)
    const text = whole.map((line) => `${JSON.stringify(line)}\n`).join('')
    const printed = await runHostTrace(program, text, 0, part)
    expect(printed).toBe(writeOutputs(played))
    if (image.channels.length > 0 && part === 'main') expect(pins.length).toBeGreaterThan(10)
  }, 120_000)

  if (image.board !== 'eight-bit-5v' || part === 'mirror') return
  it.skipIf(!simulatorSupported())(
    'the simulated board moves the same pins',
    async () => {
      const { expected, actual, run } = await compare(image, hurried(trace))
      expect(actual).toEqual(expected)
      expect(run.troubles).toEqual([])
      expect(expected.length).toBeGreaterThan(4)
    },
    240_000,
  )
})
