import { runTrace, writeOutputs, type DeviceOutput, type TraceLine } from '../../core/device'
import { randomImage, randomTrace } from '../../core/device/random.testkit'
import { dangersOf } from '../../core/device/safety.testkit'
import type { ControllerImage, PairRole } from '../../core/image'
import { buildHost, runHostTraces, type HostOptions } from '../host'

/** Differential fuzzing: random images and traces through interpreter and firmware, whose bytes must be the same. */

export const writeTrace = (trace: readonly TraceLine[]): string =>
  trace.map((line) => `${JSON.stringify(line)}\n`).join('')

/** Ten traces take about 0.1 s; a program that takes this long hangs, ms. */
const LONGEST_MS = 10_000
const TOGETHER = 10

export interface Disagreement {
  readonly image: number
  readonly trace: number
}

export interface FuzzResult {
  readonly compared: number
  readonly bytes: number
  readonly disagreements: readonly Disagreement[]
  /** what the firmware did that must not happen to anybody, by its own outputs */
  readonly dangers: readonly string[]
}

export interface FuzzOptions extends HostOptions {
  readonly images: number
  readonly tracesPerImage: number
  /** seed of the first image */
  readonly seed?: number
  readonly stopAtFirst?: boolean
  /** the image of a number; random ones unless another is asked for */
  readonly imageOf?: (number: number) => ControllerImage
  readonly as?: PairRole
  /** what the interpreter says of an image's trace; for callers that hold several firmwares against the same traces */
  readonly reference?: (image: ControllerImage, seed: number) => { trace: string; expected: string }
  readonly progress?: (compared: number) => void
}

const linesOf = <Line>(text: string): Line[] =>
  text
    .split('\n')
    .filter(Boolean)
    .map((line) => JSON.parse(line) as Line)

const interpreted = (image: ControllerImage, seed: number): { trace: string; expected: string } => {
  const lines = randomTrace(seed, image)
  return { trace: writeTrace(lines), expected: writeOutputs(runTrace(image, lines)) }
}

/** Seeds of a trace follow from its image's, so that a disagreement can be played again. */
export const traceSeed = (image: number, k: number): number => image * 1000 + k

export async function fuzz(options: FuzzOptions): Promise<FuzzResult> {
  const {
    images,
    tracesPerImage,
    seed = 1,
    stopAtFirst = false,
    reference = interpreted,
    imageOf = randomImage,
    as = 'main',
  } = options
  const disagreements: Disagreement[] = []
  const dangers: string[] = []
  let compared = 0
  let bytes = 0
  for (let number = seed; number < seed + images; number++) {
    const image = imageOf(number)
    const { program } = await buildHost(image, options)
    for (let first = 1; first <= tracesPerImage; first += TOGETHER) {
      const seeds = Array.from({ length: Math.min(TOGETHER, tracesPerImage - first + 1) }, (_, k) =>
        traceSeed(number, first + k),
      )
      const references = seeds.map((one) => reference(image, one))
      // a program that hangs or crashes agrees with nothing
      const actual = await runHostTraces(
        program,
        references.map(({ trace }) => trace),
        LONGEST_MS,
        as,
      ).catch(() => [])
      references.forEach(({ trace, expected }, k) => {
        compared++
        bytes += expected.length
        if (actual[k] !== expected) disagreements.push({ image: number, trace: seeds[k]! })
        if (as === 'mirror' || actual[k] === undefined) return
        const done = dangersOf(image, linesOf<TraceLine>(trace), linesOf<DeviceOutput>(actual[k]))
        dangers.push(...done.map((what) => `${number}/${seeds[k]!} ${what}`))
      })
      if (stopAtFirst && disagreements.length) return { compared, bytes, disagreements, dangers }
    }
    options.progress?.(compared)
  }
  return { compared, bytes, disagreements, dangers }
}

/**
 * The smallest part of a list that still fails, found by leaving out ever smaller runs of it (delta debugging: Zeller
 * and Hildebrandt, 2002). `fails` must hold for the whole list.
 */
export async function shrink<T>(list: readonly T[], fails: (part: readonly T[]) => Promise<boolean>): Promise<T[]> {
  let best = [...list]
  for (let size = Math.ceil(best.length / 2); size >= 1; size = size === 1 ? 0 : Math.ceil(size / 2)) {
    for (let at = 0; at < best.length;) {
      const part = [...best.slice(0, at), ...best.slice(at + size)]
      if (part.length < best.length && (await fails(part))) best = part
      else at += size
    }
  }
  return best
}

/** The shortest trace with which the firmware of a random image still differs. */
export async function shrinkDisagreement(
  { image: number, trace: seed }: Disagreement,
  options: HostOptions = {},
): Promise<TraceLine[]> {
  const image = randomImage(number)
  const { program } = await buildHost(image, options)
  return shrink(randomTrace(seed, image), async (part) => {
    if (part.length === 0) return false
    const [actual] = await runHostTraces(program, [writeTrace(part)], LONGEST_MS).catch(() => [''])
    return actual !== writeOutputs(runTrace(image, part))
  })
}

/**
 * `npm run firmware` looks at everything; a run of all tests plays fewer traces (tools/test.mjs), every sixth mutant,
 * and leaves out the further instruction set.
 */
const asked = process.env['VESTIBULE_FUZZ']
export const THOROUGH = asked === undefined || Number(asked) >= 20_000
/** What is slow to try is tried at each `n`th in a run of all tests. */
export const every = <T>(n: number, list: readonly T[]): T[] => list.filter((_, i) => THOROUGH || i % n === 0)
export const everyThird = <T>(list: readonly T[]): T[] => list.filter((_, i) => THOROUGH || i % 3 === 0)
