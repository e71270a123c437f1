import { describe, expect, it } from 'vitest'
import { runTrace, writeOutputs } from '../../core/device'
import { mirrorTrace, randomImage, randomPair, randomTrace } from '../../core/device/random.testkit'
import { runWireTrace, writeWireOutputs } from '../../core/wires'
import { randomWired, randomWireTrace, revealed, SECRETS_FILE } from '../../core/wires/random.testkit'
import { NO_SECRETS } from '../host'
import { buildRiscv, riscvSupported, runRiscvTraces } from '../riscv'
import { THOROUGH, writeTrace } from './fuzz.testkit'

// A fourth witness beside interpreter, host and 8-bit board: the same traces on the RISC-V of the small Wi-Fi board,
// under an emulator, byte for byte.

const written = (lines: readonly object[]): string => lines.map((line) => `${JSON.stringify(line)}\n`).join('')

describe.skipIf(!riscvSupported() || !THOROUGH)('the firmware on RISC-V (rv32imc)', () => {
  it('prints the interpreter’s bytes over random controllers and traces', async () => {
    let bytes = 0
    for (const seed of [1, 2, 4, 7, 11, 13]) {
      const image = randomImage(seed)
      const traces = Array.from({ length: 40 }, (_, i) => randomTrace(seed * 1000 + i, image))
      const got = await runRiscvTraces(await buildRiscv(image), traces.map(writeTrace))
      traces.forEach((lines, i) => {
        const expected = writeOutputs(runTrace(image, lines))
        expect(got[i], `image ${seed}, trace ${i}`).toBe(expected)
        bytes += expected.length
      })
    }
    console.log(`RISC-V: 240 traces, ${(bytes / 1e6).toFixed(1)} MB equal`)
    expect(bytes).toBeGreaterThan(1_000_000)
  }, 240_000)
  it('as the coprocessor of a pair', async () => {
    const image = randomPair(3)
    const traces = Array.from({ length: 30 }, (_, i) => mirrorTrace(i + 1, image))
    const got = await runRiscvTraces(await buildRiscv(image), traces.map(writeTrace), 'mirror')
    expect(got).toEqual(traces.map((lines) => writeOutputs(runTrace(image, lines, 'mirror'))))
  }, 120_000)
  it('with its wires', async () => {
    let bytes = 0
    for (const seed of [1, 3, 5, 6, 9, 12]) {
      const { image, wires } = randomWired(seed)
      const secrets = SECRETS_FILE + NO_SECRETS.replaceAll('""', '"127.0.0.1"')
      const traces = Array.from({ length: 30 }, (_, i) => randomWireTrace(seed * 1000 + i, image, wires))
      const got = await runRiscvTraces(await buildRiscv(image, { wires, secrets }), traces.map(written), 'wires')
      traces.forEach((lines, i) => {
        const expected = writeWireOutputs(runWireTrace(image, wires, revealed, lines))
        expect(got[i], `controller ${seed}, trace ${i}`).toBe(expected)
        bytes += expected.length
      })
    }
    console.log(`RISC-V with wires: 180 traces, ${(bytes / 1e6).toFixed(1)} MB equal`)
    expect(bytes).toBeGreaterThan(500_000)
  }, 240_000)
})
