import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { decodeCapture, encodeFrame, RANGES, readCapture, writeVcd, type Protocol } from '.'
import { seeded } from '../seeded'

/**
 * Our encoder and decoder against an independent logic-analyser program and its own decoders (sigrok-cli 0.7, ir_nec,
 * ir_rc5, ir_rc6). It knows no SIRC; that protocol is checked against its publication only (from memory).
 */
const FRAMES = 150
const folder = mkdtempSync(join(tmpdir(), 'vestibule-ir-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

interface Seen {
  readonly address: number
  readonly command: number
}

function independent(
  protocol: string,
  decoder: string,
  durations: readonly number[],
  words: { address: RegExp; command: RegExp; base: number },
): Seen[] {
  const file = join(folder, `${protocol}.vcd`)
  writeFileSync(file, writeVcd(durations))
  const text = execFileSync(
    'sigrok-cli',
    ['-i', file, '-I', 'vcd', '-P', `${decoder}:ir=ir:polarity=active-high`, '-A', decoder],
    { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] },
  )
  const all = (pattern: RegExp) =>
    [...text.matchAll(new RegExp(pattern, 'g'))].map((match) => Number.parseInt(match[1]!, words.base))
  const addresses = all(words.address)
  return all(words.command).map((command, i) => ({ address: addresses[i]!, command }))
}

const CASES: { protocol: Protocol; decoder: string; words: { address: RegExp; command: RegExp; base: number } }[] = [
  {
    protocol: 'nec',
    decoder: 'ir_nec',
    words: { address: /Address: 0x([0-9A-F]+)/, command: /Command: 0x([0-9A-F]+)/, base: 16 },
  },
  { protocol: 'rc5', decoder: 'ir_rc5', words: { address: /Address: (\d+)/, command: /Command: (\d+)/, base: 10 } },
  {
    protocol: 'rc6',
    decoder: 'ir_rc6',
    words: { address: /Address: ([0-9A-F]+)/, command: /Data: ([0-9A-F]+)/, base: 16 },
  },
]

describe.skipIf(!existsSync('/usr/bin/sigrok-cli'))('against an independent decoder', () => {
  it.each(CASES)(`$protocol: ${FRAMES} frames, address and command`, ({ protocol, decoder, words }) => {
    const random = seeded(77)
    const range = RANGES[protocol]
    // the independent decoder reads the plain form of RC-5 only: six bits of command
    const top = protocol === 'rc5' ? 0x3f : range.command
    const codes = Array.from({ length: FRAMES }, () => ({
      protocol,
      address: Math.floor(random() * (range.address + 1)),
      command: Math.floor(random() * (top + 1)),
    }))
    const durations = codes.flatMap((code, i) => [...encodeFrame(code, (i & 1) as 0 | 1), 60_000])
    const theirs = independent(protocol, decoder, durations, words)
    const ours = decodeCapture(readCapture(writeVcd(durations)).durations).map(({ frame }) =>
      'address' in frame ? { address: frame.address, command: frame.command } : null,
    )
    expect(theirs).toHaveLength(FRAMES)
    expect(theirs).toEqual(codes.map(({ address, command }) => ({ address, command })))
    expect(ours).toEqual(theirs)
  })
})
