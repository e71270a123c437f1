import { describe, expect, it } from 'vitest'
import { FANS } from '../boards'
import { cleanSite } from '../findings/cleanSite.testkit'
import { newInput, newStepped, type SelectorInput, type SteppedChannel } from '../site'
import { forbiddenPatterns, readSelector, smallestRewiring } from '.'

const site = cleanSite()
const fan = (changes: Partial<SteppedChannel> = {}) => newStepped(site, 'Fan', site.controllers[0]!, FANS[0]!, changes)
const knob = (bits: number, table: (number | null)[]) =>
  newInput(site, 'R1', site.controllers[0]!, 'selector', { bits, table }) as SelectorInput

/** The least number of wires by trying every placing of the missing levels. */
function byBruteForce(input: SelectorInput, channel: SteppedChannel): number | null {
  const { missing, collisions, beyond } = readSelector(input, channel)
  const count = (code: number) => [0, 1, 2, 3].filter((bit) => code & (1 << bit)).length
  const spare = collisions.flatMap(({ codes }) => [...codes].sort((a, b) => count(a) - count(b)).slice(1))
  const free = input.table.flatMap((level, code) =>
    level === null || spare.includes(code) || beyond.includes(code) ? [code] : [],
  )
  let best: number | null = null
  const place = (k: number, used: number[], wires: number): void => {
    if (k === missing.length) {
      if (best === null || wires < best) best = wires
      return
    }
    for (const code of free)
      if (!used.includes(code) && (code !== 0 || missing[k] === 0))
        place(k + 1, [...used, code], wires + Math.max(1, count(code)))
  }
  place(0, [], 0)
  return best
}

describe('selector', () => {
  it('says which levels it can express, which collide, and which codes lead nowhere', () => {
    expect(readSelector(knob(3, [0, 1, 2, null, 4, 4, 7, null]), fan())).toEqual({
      expressed: [0, 1, 2, 4],
      missing: [3],
      collisions: [{ level: 4, codes: [4, 5] }],
      beyond: [6],
    })
  })
  it('joins bits 1 and 2 for the level that three detents 1 2 4 cannot say', () =>
    expect(smallestRewiring(knob(3, [0, 1, 2, null, 4, null, null, null]), fan())).toEqual([
      { level: 3, code: 3, bits: [1, 2], wires: 2 },
    ]))
  it('has nothing to do where all levels can be said', () =>
    expect(smallestRewiring(knob(3, [0, 1, 2, 3, 4, null, null, null]), fan())).toEqual([]))
  it('says when a further bit is needed', () => expect(smallestRewiring(knob(2, [0, 1, 2, 3]), fan())).toBeNull())
  it('equals brute force over all tables of three bits with levels 0–2', () => {
    const channel = fan({ patterns: [[], [0], [1]], never: [] })
    const values = [null, 0, 1, 2]
    for (let n = 0; n < 4 ** 8; n += 37) {
      const input = knob(
        3,
        Array.from({ length: 8 }, (_, i) => values[Math.floor(n / 4 ** i) % 4]!),
      )
      const ours = smallestRewiring(input, channel)
      expect(ours === null ? null : ours.reduce((sum, one) => sum + one.wires, 0)).toBe(byBruteForce(input, channel))
    }
  })
})

it('patterns that close what must never be closed together', () =>
  expect(forbiddenPatterns(fan({ patterns: [[], [0], [0, 1, 2]] }))).toEqual([
    { level: 2, contacts: [0, 2] },
    { level: 2, contacts: [1, 2] },
  ]))
