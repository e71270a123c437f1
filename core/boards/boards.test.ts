import { describe, expect, it } from 'vitest'
import {
  BOARDS,
  boardIn,
  BoardProfile,
  boardsIn,
  gpioSpots,
  moduleIn,
  ModuleProfile,
  MODULES,
  modulesIn,
  pinName,
  readPin,
  readProfile,
  RELAY_MODULES,
  spotOf,
} from '.'

const none = { profiles: { boards: [], modules: [] } }
const board = (id: string) => boardIn(none, id)!

describe('the profiles that ship', () => {
  it.each(BOARDS)('$id is a legal board profile', (profile) =>
    expect(BoardProfile.safeParse(profile).error?.issues ?? []).toEqual([]),
  )
  it.each(MODULES)('$id is a legal module profile', (profile) =>
    expect(ModuleProfile.safeParse(profile).error?.issues ?? []).toEqual([]),
  )
  it('ids are unique', () => {
    expect(new Set(BOARDS.map(({ id }) => id)).size).toBe(BOARDS.length)
    expect(new Set(MODULES.map(({ id }) => id)).size).toBe(MODULES.length)
  })
  it('pairs name pins that the board has', () => {
    for (const { id, pairs, ...rest } of BOARDS) {
      if (pairs === 'matrix') continue
      const known = new Set(gpioSpots({ id, pairs, ...rest }).map(({ gpio }) => gpio))
      for (const { first, second } of pairs) expect([id, known.has(first), known.has(second)]).toEqual([id, true, true])
    }
  })
  it('no pin is both brought out and hidden', () => {
    for (const profile of BOARDS)
      for (const { gpio } of profile.hidden)
        expect([profile.id, gpio, spotOf(profile, gpio)]).toEqual([profile.id, gpio, undefined])
  })
  it('relay modules come in 1, 2, 4, 8 and 16 ways, two inputs and two coils; coils draw what facts say (memory)', () => {
    expect(RELAY_MODULES).toHaveLength(20)
    for (const { coilVolts, coilOhms } of RELAY_MODULES)
      expect(Math.round((coilVolts / coilOhms) * 1000)).toBe(coilVolts === 5 ? 71 : 30)
  })
})

describe('the dual-core board (memory of the data sheet)', () => {
  const dual = board('dual-core-wifi-30')
  it.each([34, 35, 36, 39])('GPIO %i is input only, without a pull', (gpio) =>
    expect(spotOf(dual, gpio)!.can).toEqual(['input', 'interrupt', 'analogue']),
  )
  it.each([
    [12, 'low'],
    [2, 'low'],
    [5, 'high'],
    [15, 'high'],
  ] as const)('GPIO %i wants to be %s at start', (gpio, level) =>
    expect(spotOf(dual, gpio)!.startLevel!.level).toBe(level),
  )
  it.each([14, 15, 5, 1])('GPIO %i is active at start', (gpio) =>
    expect(spotOf(dual, gpio)!.startActivity).toBeDefined(),
  )
  it.each([2, 4, 12, 13, 14, 15, 25, 26, 27])('GPIO %i is of the bank that the radio takes', (gpio) =>
    expect(spotOf(dual, gpio)!.analogueNeedsRadioOff).toBe(true),
  )
  it('6 to 11 belong to the flash', () =>
    expect(dual.hidden.filter(({ why }) => why.includes('flash')).map(({ gpio }) => gpio)).toEqual([
      6, 7, 8, 9, 10, 11,
    ]))
  it('has 30 pins in two rows', () => expect([dual.left.length, dual.right.length]).toEqual([15, 15]))
})

describe('the single-core board: labels and GPIO differ (memory of the data sheet)', () => {
  const single = board('single-core-wifi-16')
  it.each([
    ['D0', 16],
    ['D1', 5],
    ['D2', 4],
    ['D3', 0],
    ['D4', 2],
    ['D5', 14],
    ['D6', 12],
    ['D7', 13],
    ['D8', 15],
    ['RX', 3],
    ['TX', 1],
  ])('%s is GPIO %i', (label, gpio) => expect(gpioSpots(single).find((spot) => spot.label === label)!.gpio).toBe(gpio))
  it('GPIO 16 has no interrupt and no pull-up, and is high at start', () =>
    expect(spotOf(single, 16)).toMatchObject({
      can: ['output', 'input', 'pull-down'],
      startActivity: { level: 'high' },
    }))
})

describe('reading a pin as written', () => {
  const single = board('single-core-wifi-16')
  const dual = board('dual-core-wifi-30')
  const gpio = (profile: typeof single, text: string) => {
    const reading = readPin(profile, text)
    return reading.kind === 'spot' ? reading.spot.gpio : reading.kind
  }
  it.each([
    ['D5', 14],
    ['d5', 14],
    ['GPIO5', 5],
    ['gpio 5', 5],
    ['GP5', 5],
    ['5', 5],
    ['A0', 17],
    [' D1 ', 5],
    ['D9', 'unknown'],
    ['6', 'hidden'],
    ['GPIO99', 'unknown'],
    ['', 'unknown'],
    ['five', 'unknown'],
  ])('%j on the single-core board is %s', (text, expected) => expect(gpio(single, text)).toBe(expected))
  it('a bare number that also stands in a label carries both readings', () => {
    const reading = readPin(single, '4')
    expect(reading).toMatchObject({ kind: 'spot', spot: { label: 'D2', gpio: 4 }, otherwise: { label: 'D4', gpio: 2 } })
  })
  it('where labels and numbers agree there is no doubt', () =>
    expect(readPin(dual, '27')).not.toHaveProperty('otherwise'))
  it('is said with its label first, then its number', () =>
    expect([
      pinName(spotOf(single, 14)!),
      pinName(spotOf(dual, 27)!),
      pinName({ ...spotOf(dual, 27)!, label: 'x1.3', gpio: 103 }),
    ]).toEqual(['D5 (GPIO 14)', 'D27 (GPIO 27)', 'x1.3']))
})

describe('a maker’s own profiles', () => {
  const mine = { ...board('eight-bit-5v'), name: 'Corrected' }
  const own = { profiles: { boards: [mine], modules: [{ ...RELAY_MODULES[0]!, id: 'my-relays', coilOhms: 55 }] } }
  it('one with a known id takes the place of ours', () => {
    expect(boardIn(own, 'eight-bit-5v')!.name).toBe('Corrected')
    expect(boardsIn(own)).toHaveLength(BOARDS.length)
  })
  it('one with a new id stands beside ours', () => {
    expect(moduleIn(own, 'relay-module', 'my-relays')!.coilOhms).toBe(55)
    expect(modulesIn(own)).toHaveLength(MODULES.length + 1)
  })
  it('a module is found only by its own kind', () => expect(moduleIn(none, 'supply', 'gsm-modem')).toBeUndefined())
  it('any shipped profile reads back from its JSON', () => {
    for (const profile of [...BOARDS, ...MODULES])
      expect(readProfile(JSON.stringify(profile))).toEqual({ ok: true, profile })
  })
})
