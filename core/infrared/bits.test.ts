import { describe, expect, it } from 'vitest'
import { bitsSent, decodeCapture, encodeFrame, type Code } from '.'

const sent = (
  code: Exclude<Code, { protocol: 'unknown' }>,
  toggle: 0 | 1 = 0,
): { groups: string[]; from: number; to: number } => {
  const list = encodeFrame(code, toggle)
  const decoded = decodeCapture(list)[0]!
  const bits = bitsSent(list, decoded)
  const groups = [...new Set(bits.map((one) => one.group))].map((group) =>
    bits
      .filter((one) => one.group === group)
      .map((one) => one.bit)
      .join(''),
  )
  return { groups, from: bits[0]!.from, to: bits.at(-1)!.to }
}
const lowFirst = (value: number, count: number): string =>
  Array.from({ length: count }, (_, i) => (value >> i) & 1).join('')

// The fields and their order, from the protocols' common descriptions (common practice): NEC and SIRC send the lowest
// bit first.
describe('the bits of a frame, as they were sent', () => {
  it('NEC: address, its complement, command, its complement', () =>
    expect(sent({ protocol: 'nec', address: 0x4d, command: 0x07 }).groups).toEqual([
      lowFirst(0x4d, 8),
      lowFirst(0xb2, 8),
      lowFirst(0x07, 8),
      lowFirst(0xf8, 8),
    ]))
  it('NEC with a long address: both its bytes', () =>
    expect(sent({ protocol: 'nec-ext', address: 0x1234, command: 0x56 }).groups).toEqual([
      lowFirst(0x34, 8),
      lowFirst(0x12, 8),
      lowFirst(0x56, 8),
      lowFirst(0xa9, 8),
    ]))
  it.each([
    ['sirc12', 5],
    ['sirc15', 8],
  ] as const)('%s: seven of command, then the address', (protocol, size) =>
    expect(sent({ protocol, address: 21, command: 0x2a }).groups).toEqual([lowFirst(0x2a, 7), lowFirst(21, size)]),
  )
  it('SIRC of 20 bits: the address is device and extension', () =>
    expect(sent({ protocol: 'sirc20', address: 0x1a5, command: 0x13 }).groups).toEqual([
      lowFirst(0x13, 7),
      lowFirst(0x05, 5),
      lowFirst(0x0d, 8),
    ]))
  it('RC-5: start and field bit, toggle, address, command; the frame is seen from the middle of its start bit', () => {
    expect(sent({ protocol: 'rc5', address: 5, command: 35 }, 1)).toMatchObject({
      groups: ['11', '1', '00101', '100011'],
      from: -889,
    })
    expect(sent({ protocol: 'rc5', address: 5, command: 64 + 35 }).groups[0]).toBe('10')
  })
  it('RC-6: the toggle is twice as wide as the other bits, and all of them fill the frame after its leader', () => {
    const list = encodeFrame({ protocol: 'rc6', address: 0xa5, command: 0x3c }, 1)
    const bits = bitsSent(list, decodeCapture(list)[0]!)
    expect(bits.map((one) => one.bit).join('')).toBe('1' + '000' + '1' + '10100101' + '00111100')
    expect(bits[4]!.to - bits[4]!.from).toBe(2 * (bits[3]!.to - bits[3]!.from))
    const total = list.reduce((sum, us) => sum + us, 0)
    // the last bit's second half may be dark, and is then not in the list
    expect(Math.abs(bits.at(-1)!.to - total)).toBeLessThanOrEqual(444 + 20)
  })
  it('a repeat and an unknown code have none', () => {
    const list = [9000, 2250, 563]
    expect(bitsSent(list, decodeCapture(list)[0]!)).toEqual([])
  })
})
