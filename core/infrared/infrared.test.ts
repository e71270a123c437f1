import { cpuMilliseconds } from '../cpuTime.testkit'
import { describe, expect, it } from 'vitest'
import {
  closeLengths,
  codeTrouble,
  decodeCapture,
  decodeFrame,
  encodeFrame,
  encodeRepeat,
  PROTOCOLS,
  RANGES,
  signalDistance,
  closestPair,
  type Code,
  type Frame,
  type Protocol,
} from '.'
import { seeded } from '../seeded'
import { disturbed } from './random.testkit'

const decode = (list: readonly number[]): Frame | undefined => decodeFrame({ list, from: 0, to: list.length })?.frame

/** Every code where the field is small, a sample of the large ones. */
function* codes(protocol: Protocol, most = 20_000): Generator<Code> {
  const { address, command } = RANGES[protocol]
  const all = (address + 1) * (command + 1)
  const random = seeded(PROTOCOLS.indexOf(protocol) + 1)
  for (let n = 0; n < Math.min(all, most); n++) {
    const at = all <= most ? n : Math.floor(random() * all)
    yield { protocol, address: Math.floor(at / (command + 1)), command: at % (command + 1) }
  }
}

/** An extended address that is a byte and its inverse is, by the protocol, the 8-bit form. */
const expected = (code: Code): Code =>
  code.protocol === 'nec-ext' && ((code.address & 0xff) ^ (code.address >> 8)) === 0xff
    ? { ...code, protocol: 'nec', address: code.address & 0xff }
    : code

const same = (frame: Frame | undefined, code: Code): boolean => {
  const want = expected(code)
  return (
    frame !== undefined &&
    frame.protocol === want.protocol &&
    'address' in frame &&
    frame.address === want.address &&
    frame.command === want.command
  )
}

describe('worked frames (durations from the protocols’ publications, from memory)', () => {
  it('NEC 04·1A: 9 ms, 4.5 ms, 32 bits, stop', () => {
    const list = encodeFrame({ protocol: 'nec', address: 4, command: 26 })
    expect(list).toHaveLength(67)
    expect(list.slice(0, 8)).toEqual([9000, 4500, 563, 563, 563, 563, 563, 1688])
  })
  it('RC-5 00·01 begins with a mark of one half, then a space of one half', () =>
    expect(encodeFrame({ protocol: 'rc5', address: 0, command: 1 }).slice(0, 4)).toEqual([889, 889, 1778, 889]))
  it('RC-6 has runs of three units at its wide toggle bit', () =>
    expect(encodeFrame({ protocol: 'rc6', address: 0, command: 0 }, 1)).toContain(1333))
  it('SIRC sends its command first', () =>
    expect(encodeFrame({ protocol: 'sirc12', address: 1, command: 21 }).slice(0, 9)).toEqual([
      2400, 600, 1200, 600, 600, 600, 1200, 600, 600,
    ]))
  it('a repeat is three durations', () => expect(decode(encodeRepeat())).toEqual({ protocol: 'nec-repeat' }))
  it('numbers beyond the field are refused by name', () =>
    expect(codeTrouble({ protocol: 'rc5', address: 40, command: 1 })).toBe('address 40: rc5 has 0 to 31'))
})

describe.each(PROTOCOLS)('%s', (protocol) => {
  it('encode and decode agree on every address and command (sampled where large), both toggles', () => {
    const wrong: Code[] = []
    for (const code of codes(protocol))
      for (const toggle of [0, 1] as const) {
        const frame = decode(encodeFrame(code, toggle))
        if (!same(frame, code) || (frame && 'toggle' in frame && frame.toggle !== null && frame.toggle !== toggle))
          wrong.push(code)
      }
    expect(wrong).toEqual([])
  })
  it('±10 % jitter and up to 100 µs of stretch at once: at least 99.9 % right, none wrong', () => {
    const random = seeded(99)
    let right = 0
    let wrong = 0
    let count = 0
    for (const code of codes(protocol, 4_000)) {
      const frame = decode(disturbed(encodeFrame(code, count % 2 ? 1 : 0), random, Math.round(random() * 100)))
      count++
      if (same(frame, code)) right++
      else if (frame && frame.protocol !== 'unknown') wrong++
    }
    expect(right / count).toBeGreaterThanOrEqual(0.999)
    expect(wrong).toBe(0)
  })
})

describe('what is no frame', () => {
  it('5,000 of them never become a command', () => {
    const random = seeded(5)
    const wrong: string[] = []
    for (let n = 0; n < 5_000; n++) {
      const protocol = PROTOCOLS[n % PROTOCOLS.length]!
      const { address, command } = RANGES[protocol]
      const list = encodeFrame({
        protocol,
        address: Math.floor(random() * (address + 1)),
        command: Math.floor(random() * (command + 1)),
      })
      const noise = (): number[] =>
        Array.from({ length: 1 + 2 * Math.floor(random() * 40) }, () => 100 + Math.floor(random() * 3000))
      const kind = n % 4
      if (kind === 0) list.splice(0, list.length, ...noise())
      else if (kind === 1)
        list.splice(2 * Math.floor(1 + random() * (list.length / 2 - 2)), 2) // a pair of durations lost
      else if (kind === 2)
        list[Math.floor(random() * list.length)]! *= 0.2 // one duration all but lost
      else list[0]! = Math.round(list[0]! * 1.5) // a leader that no protocol has
      const frame = decode(list.map(Math.round))
      if (frame && frame.protocol !== 'unknown' && frame.protocol !== 'nec-repeat')
        wrong.push(`${n}: ${protocol} became ${JSON.stringify(frame)}`)
    }
    expect(wrong).toEqual([])
  })
  it('a NEC frame whose command complement is wrong is refused', () => {
    const list = encodeFrame({ protocol: 'nec', address: 4, command: 26 })
    list[51] = list[51] === 563 ? 1688 : 563
    expect(decodeFrame({ list, from: 0, to: list.length })).toBeNull()
  })
  it('a wrong address complement is the extended form', () =>
    expect(decode(encodeFrame({ protocol: 'nec-ext', address: 0x1204, command: 26 }))).toMatchObject({
      protocol: 'nec-ext',
      address: 0x1204,
    }))
})

describe('unknown frames', () => {
  /** an invented protocol: a leader, then marks of one length and spaces of two */
  const invented = (bits: readonly number[]): number[] => [
    3400,
    2600,
    ...bits.flatMap((bit) => [430, bit ? 1290 : 430]),
    430,
  ]
  const bits = [1, 0, 0, 1, 1, 1, 0, 1, 0, 0, 1, 0, 1, 1, 0, 0]
  it('keep their hash under jitter and stretch', () => {
    const random = seeded(3)
    const hashes = new Set(
      Array.from({ length: 500 }, () =>
        JSON.stringify(decode(disturbed(invented(bits), random, Math.round(random() * 100)))),
      ),
    )
    expect([...hashes]).toHaveLength(1)
  })
  it('keep it whatever their lengths, where these are 1.6 apart: 200 codes, 40 presses each', () => {
    const random = seeded(21)
    const between = (least: number, most: number) => Math.round(least + random() * (most - least))
    const split = Array.from({ length: 200 }, () => {
      const short = between(330, 700)
      const long = Math.ceil(short * (1.6 + random()))
      const bit =
        random() < 0.5 ? (on: boolean) => [short, on ? long : short] : (on: boolean) => [on ? long : short, short]
      const leader = random() < 0.7 ? [between(14_000, 16_000), between(1500, 5000)] : []
      const data = Array.from({ length: between(12, 48) }, () => bit(random() < 0.5)).flat()
      const code = [...leader, ...data, short]
      const presses = Array.from({ length: 40 }, () => decode(disturbed(code, random, Math.round(random() * 100))))
      return new Set(presses.filter((frame) => frame?.protocol === 'unknown').map((frame) => JSON.stringify(frame)))
        .size
    })
    expect(split.filter((codes) => codes > 1)).toEqual([])
  })
  it('a 48-bit frame whose leader’s space is near to a 1 is one code, whatever its first bit', () => {
    const random = seeded(8)
    for (const first of [0, 1]) {
      const data = [first, ...Array.from({ length: 47 }, () => (random() < 0.5 ? 1 : 0))]
      const code = [3456, 1728, ...data.flatMap((bit) => [432, bit ? 1296 : 432]), 432]
      const presses = Array.from({ length: 300 }, () => decode(disturbed(code, random, Math.round(random() * 100))))
      expect(new Set(presses.map((frame) => JSON.stringify(frame))).size).toBe(1)
    }
  })
  it('whose lengths lie closer than 1.6 to 1 are said to be unreliable', () => {
    const of = (list: number[]) => closeLengths({ list, from: 0, to: list.length })
    expect(of(invented(bits))).toBeNull()
    const near = [3400, 2600, ...bits.flatMap((bit) => [430, bit ? 600 : 430]), 430]
    expect(of(near)).toEqual([480, 650])
    const marks = [3400, 2600, ...bits.flatMap((bit) => [bit ? 800 : 500, 430]), 430]
    expect(of(marks)?.map((length) => length + 50)).toEqual([430, 500])
  })
  it('differ from key to key', () =>
    expect(decode(invented(bits))).not.toEqual(decode(invented(bits.map((bit) => 1 - bit)))))
  it('a few short pulses are nothing', () => expect(decodeCapture([300, 200, 300, 250, 280])).toEqual([]))
})

describe('captures of several frames', () => {
  it('a held NEC key: the frame, then its repeats', () => {
    const list = [
      ...encodeFrame({ protocol: 'nec', address: 4, command: 26 }),
      40_000,
      ...encodeRepeat(),
      96_000,
      ...encodeRepeat(),
    ]
    expect(decodeCapture(list).map(({ frame }) => frame.protocol)).toEqual(['nec', 'nec-repeat', 'nec-repeat'])
  })
  it('a held SIRC key: three frames, 45 ms apart', () => {
    const one = encodeFrame({ protocol: 'sirc20', address: 0x1abc, command: 0x55 })
    const gap = 45_000 - one.reduce((a, b) => a + b, 0)
    expect(decodeCapture([...one, gap, ...one, gap, ...one, 30_000])).toHaveLength(3)
  })
})

describe('distance of signals', () => {
  it('is nothing to itself, and symmetric', () => {
    const a = encodeFrame({ protocol: 'nec', address: 4, command: 26 })
    const b = encodeFrame({ protocol: 'nec', address: 4, command: 27 })
    expect(signalDistance(a, a)).toBe(0)
    expect(signalDistance(a, b)).toBe(signalDistance(b, a))
  })
  it('one bit longer by 1,125 µs: what follows is out of step', () =>
    expect(signalDistance([500, 500, 500], [500, 1500, 500])).toBe(1000))
  it('names the closest pair', () =>
    expect(
      closestPair([
        { name: 'a', code: { protocol: 'rc5', address: 1, command: 1 } },
        { name: 'b', code: { protocol: 'rc5', address: 1, command: 3 } },
        { name: 'c', code: { protocol: 'nec', address: 1, command: 1 } },
      ]),
    ).toMatchObject({ a: 'a', b: 'b' }))
})

describe('speed', () => {
  it('decodes 100,000 frames a second or more', () => {
    const lists = PROTOCOLS.flatMap((protocol) => [...codes(protocol, 200)].map((code) => encodeFrame(code)))
    let best = 0
    for (let round = 0; round < 6; round++) {
      const took = cpuMilliseconds(() => {
        for (const list of lists) decodeFrame({ list, from: 0, to: list.length })
      })
      best = Math.max(best, (lists.length / took) * 1000)
    }
    console.log(`infrared: ${Math.round(best / 1000)},000 frames a second`)
    expect(best).toBeGreaterThan(100_000)
  })
})
