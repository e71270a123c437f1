import { describe, expect, it } from 'vitest'
import { encodeFrame, PROTOCOLS, RANGES } from '../infrared'
import { NO_LEVEL } from '../image'
import { choices } from '../seeded'
import { emptySite, newController } from '../site'
import { codeHeard, hear, heardOn, settleFor, type Boards } from '../witness'
import { channel, deed, image, input, publishedOf } from './device.testkit'
import type { TraceLine } from './trace'

// Source: docs/behaviour.md, Version 4: what a board says of keys that nobody has taught it, and of contacts that
// bounce.

const box = image({
  channels: [channel()],
  inputs: [input({ id: 's3', settleMs: 25 })],
  bindings: [{ input: 0, gesture: 'press', ...deed('toggle') }],
  keys: [{ protocol: 'nec', address: 4, command: 26, everyMs: 0, ...deed('toggle', 0, { level: NO_LEVEL }) }],
})
const up: TraceLine[] = [
  { t: 0, power: 'on' },
  { t: 50, link: 'up' },
]
const logs = (lines: TraceLine[], board = box): string[] =>
  publishedOf(board, [...up, ...lines]).filter((line) => / log /.test(line) && !line.includes('tables'))

const key = (t: number, command: number, repeat = false): TraceLine => ({
  t,
  ir: { protocol: 'nec', address: 4, command, repeat },
})
const pin = (t: number, level: 0 | 1): TraceLine => ({ t, pin: 's3', level })

describe('a key that nobody has taught', () => {
  it('is said once a press, and a key that is taught is not', () => {
    expect(
      logs([
        key(1_000, 77),
        key(1_110, 77, true),
        key(1_220, 77, true),
        key(2_000, 26),
        key(3_000, 77),
        { t: 3_500, end: true },
      ]),
    ).toEqual(['1000 log key nec 4 77', '3000 log key nec 4 77'])
  })
  it('is said by a board that was taught none, as its receiver gives it: the first key of a house', () => {
    const edges = [...encodeFrame({ protocol: 'nec', address: 4, command: 77 })]
    const lines: TraceLine[] = [
      { t: 1_000, edges },
      { t: 2_000, end: true },
    ]
    expect(logs(lines, { ...box, keys: [] })).toEqual(['1000 log key nec 4 77'])
  })
})

describe('a contact that bounces', () => {
  it('is timed from its first move to its last, and said where it is longer than before', () => {
    const press = (t: number, ...moves: readonly number[]): TraceLine[] =>
      moves.map((ms, at) => pin(t + ms, at % 2 === 0 ? 0 : 1))
    expect(
      logs([
        ...press(1_000, 0, 3, 7), // 7 ms, and settled 25 ms later
        pin(2_000, 1),
        ...press(3_000, 0, 2, 4), // shorter
        pin(4_000, 1),
        ...press(5_000, 0, 5, 6, 8, 11),
        { t: 6_000, end: true },
      ]),
    ).toEqual(['1032 log input s3: bounced 7 ms', '5036 log input s3: bounced 11 ms'])
  })
  it('two presses of a finger are two, however quick', () => {
    expect(logs([pin(1_000, 0), pin(1_060, 1), pin(1_120, 0), pin(1_180, 1), { t: 2_000, end: true }])).toEqual([])
  })
})

describe('what was said', () => {
  const site = emptySite('Corner')
  site.controllers.push(newController(site, 'Corner', 'single-core-wifi-16'))
  const board = site.controllers[0]!.id
  const said = (text: string, boards: Boards = {}, t = 1): Boards =>
    hear(boards, heardOn(site, `vestibule/${site.id}/${board}/log`, text, t)!)

  it('is the code of the key again, whatever its protocol', () => {
    const random = choices(7)
    for (const protocol of PROTOCOLS)
      for (let i = 0; i < 20; i++) {
        const range = RANGES[protocol]
        const code = { protocol, address: random.whole(0, range.address), command: random.whole(0, range.command) }
        const { keys } = said(`key ${protocol} ${code.address} ${code.command}`)[board]!
        expect(codeHeard(keys[0]!)).toEqual(code)
      }
    expect(codeHeard(said('key unknown 51966 4660')[board]!.keys[0]!)).toEqual({
      protocol: 'unknown',
      hash: 0xcafe1234,
    })
  })
  it('is the newest key first, each once, five at most; a code out of its range is none', () => {
    let boards: Boards = {}
    for (const command of [1, 2, 3, 4, 5, 6, 2]) boards = said(`key nec 4 ${command}`, boards, command)
    expect(boards[board]!.keys.map(({ command }) => command)).toEqual([2, 6, 5, 4, 3])
    expect(codeHeard({ protocol: 'rc5', address: 99, command: 1 })).toBeUndefined()
    expect(codeHeard({ protocol: 'elsewhere', address: 1, command: 1 })).toBeUndefined()
  })
  it('proposes twice the longest bounce, ten at least', () => {
    expect(said('input s3: bounced 7 ms')[board]!.bounces).toEqual({ s3: 7 })
    expect([1, 7, 11, 60].map(settleFor)).toEqual([10, 15, 25, 100])
  })
})
