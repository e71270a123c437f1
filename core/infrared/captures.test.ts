import { describe, expect, it } from 'vitest'
import type { CAPTURE_FORMATS } from '.'
import {
  CaptureRefused,
  decodeCapture,
  encodeFrame,
  formatOf,
  readCapture,
  writePulseSpace,
  writeRawList,
  writeVcd,
} from '.'
import { vcdEdges } from './vcd'

const frame = encodeFrame({ protocol: 'nec', address: 4, command: 26 })

/** A table as a logic analyser writes it: a row a change, the receiver's output low in a mark. */
const logicCsv = (head: string, scale: number): string => {
  let at = 12_345
  const rows = frame.map((us, i) => {
    const row = `${at * scale},${i % 2 === 0 ? 0 : 1}`
    at += us
    return row
  })
  return [head, `0,1`, ...rows, `${at * scale},1`, `${(at + 40_000) * scale},1`].join('\n')
}

describe('every format gives the same frame', () => {
  const texts: [string, (typeof CAPTURE_FORMATS)[number], string][] = [
    ['numbers with commas', 'raw list', writeRawList(frame)],
    [
      'signed numbers after a quiet',
      'raw list',
      `-40000 ${frame.map((us, i) => `${i % 2 ? '-' : '+'}${us}`).join(' ')}`,
    ],
    ['a C array', 'raw list', `{${frame.join(', ')}}`],
    ['pulse and space', 'pulse/space', `space 99999\n${writePulseSpace(frame)}`],
    ['a dump of a sender', 'VCD', writeVcd(frame)],
    ['seconds', 'logic CSV', logicCsv('Time [s],IR', 1e-6)],
    ['milliseconds', 'logic CSV', logicCsv('time (ms),IR', 1e-3)],
    ['no heading', 'logic CSV', logicCsv('', 1e-6).trim()],
  ]
  it.each(texts)('%s (%s)', (_, format, text) => {
    expect(formatOf(text)).toBe(format)
    const capture = readCapture(text)
    expect(decodeCapture(capture.durations).map((one) => one.frame)).toEqual([
      { protocol: 'nec', address: 4, command: 26, toggle: null },
    ])
  })
})

describe('round trips', () => {
  it('pulse/space and VCD come back as they were', () => {
    expect(readCapture(writePulseSpace(frame)).durations).toEqual(frame)
    expect(readCapture(writeVcd(frame)).durations.slice(0, frame.length)).toEqual(frame)
  })
  it('a dump with other wires and another time scale', () => {
    const text =
      '$timescale 100 ns $end $scope module m $end $var reg 8 a bus $end $var wire 1 b led $end $var wire ' +
      '1 c ir $end $upscope $end $enddefinitions $end #0 $dumpvars b0 a 0b 1c $end #200000 0c #205600 1c ' +
      '#211200 0c #216800 1c #400000'
    expect(vcdEdges(text, 'ir').map((edge) => edge.level)).toEqual([1, 0, 1, 0, 1, 0])
    expect(readCapture(text).durations.slice(0, 2)).toEqual([560, 560])
  })
})

describe('what cannot be read is refused with its place', () => {
  it.each([
    ['9000, 4500, x', /line 1: "x" is no number of µs/],
    ['pulse 9000\nspace 4500\nhello 3', /line 3: "hello 3" is neither pulse nor space/],
    ['$var wire 1 ! ir $end $enddefinitions $end #0 0!', /no \$timescale/],
    ['Time [s],IR\n0,1\nabc,0', /row 2: a time and a 0 or 1 are wanted/],
    ['', /nothing is heard/],
  ])('%j', (text, message) => {
    expect(() => readCapture(text)).toThrow(CaptureRefused)
    expect(() => readCapture(text)).toThrow(message)
  })
})
