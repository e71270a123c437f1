import { describe, expect, it } from 'vitest'
import { mirrorTrace, randomPair, stormTrace } from '../../core/device/random.testkit'
import { runTrace, writeOutputs } from '../../core/device'
import { fuzz, shrinkDisagreement, writeTrace } from './fuzz.testkit'

// The budget comes from `npm run firmware -- --fuzz N` (tools/test.mjs), which plays 20,000 traces unless it is told
// otherwise.
const BUDGET = Number(process.env.VESTIBULE_FUZZ ?? 2_000)
const IMAGES = 40
/** Other images than those of the differential test. */
const SEED = 1_000
/** Under sanitizers a trace takes several times as long. */
const SANITIZED = 0.1

describe('interpreter and firmware over many random images and traces', () => {
  it(`print the same bytes, and hurt nobody: ${BUDGET} traces`, async () => {
    const { disagreements, dangers, compared, bytes } = await fuzz({
      images: IMAGES,
      tracesPerImage: Math.ceil(BUDGET / IMAGES),
      seed: SEED,
    })
    console.log(`fuzz: ${compared} traces over ${IMAGES} images, ${(bytes / 1e6).toFixed(1)} MB of output compared`)
    const first = disagreements[0]
    if (first)
      console.log(
        `image ${first.image}, trace ${first.trace}, the shortest trace that still ` +
          `differs:\n${writeTrace(await shrinkDisagreement(first))}`,
      )
    expect(disagreements).toEqual([])
    expect(dangers).toEqual([])
    expect(compared).toBeGreaterThanOrEqual(BUDGET)
  }, 900_000)

  it('storms: hundreds of edges, characters, frames and messages in a moment', async () => {
    const reference = (image: Parameters<typeof stormTrace>[1], seed: number) => {
      const lines = stormTrace(seed, image)
      return { trace: writeTrace(lines), expected: writeOutputs(runTrace(image, lines)) }
    }
    const { disagreements, dangers, compared, bytes } = await fuzz({
      images: 12,
      tracesPerImage: 10,
      seed: 1,
      reference,
    })
    console.log(`storms: ${compared} traces, ${(bytes / 1e6).toFixed(1)} MB of output compared`)
    expect(disagreements).toEqual([])
    expect(dangers).toEqual([])
  }, 300_000)

  it('the coprocessor of a pair: random lines and messages', async () => {
    const reference = (image: Parameters<typeof mirrorTrace>[1], seed: number) => {
      const lines = mirrorTrace(seed, image)
      return { trace: writeTrace(lines), expected: writeOutputs(runTrace(image, lines, 'mirror')) }
    }
    for (const sanitize of [false, true]) {
      const { disagreements, compared, bytes } = await fuzz({
        images: sanitize ? 3 : 16,
        tracesPerImage: 60,
        seed: 1,
        reference,
        imageOf: randomPair,
        as: 'mirror',
        sanitize,
      })
      console.log(
        `coprocessor${sanitize ? ', under sanitizers' : ''}: ${compared} traces, ` +
          `${(bytes / 1e6).toFixed(1)} MB of output compared`,
      )
      expect(disagreements).toEqual([])
      expect(bytes).toBeGreaterThan(sanitize ? 100_000 : 1_000_000)
    }
  }, 300_000)

  it('under AddressSanitizer and UndefinedBehaviorSanitizer: the same bytes, and no misstep', async () => {
    const images = Math.max(4, Math.min(IMAGES, Math.ceil((BUDGET * SANITIZED) / 100)))
    const { disagreements, compared } = await fuzz({
      images,
      tracesPerImage: Math.ceil((BUDGET * SANITIZED) / images),
      seed: 500,
      sanitize: true,
    })
    console.log(`under sanitizers: ${compared} traces`)
    expect(disagreements).toEqual([])
  }, 900_000)
})
