import { describe, expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import { newLoad, optoModule, type Enclosure, type LoadId, type PartId, type Site } from '../site'
import {
  baseDrive,
  boxFill,
  chainMilliamps,
  contactVerdict,
  E12,
  E24,
  linearHeat,
  OPTO,
  preferred,
  pullChoice,
  reservoirDip,
  snubberFor,
  supplyBudget,
  TRANSISTOR,
} from '.'
import { startUpStrips } from '../pins'
import { SETUPS } from '../outputs/setups.testkit'
import { close, hasSpice, spice } from './spice.testkit'

describe('preferred values', () => {
  it('E12 and E24 are the lists of IEC 60063 (published; from memory): twelve and twenty-four steps of nearly 10^(1/n)', () => {
    expect([...E12]).toEqual([1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2])
    expect(E24).toHaveLength(24)
    for (const [i, step] of E12.entries()) expect(Math.abs(step / 10 ** (i / 12) - 1)).toBeLessThan(0.06)
    for (const [i, step] of E24.entries()) expect(Math.abs(step / 10 ** (i / 24) - 1)).toBeLessThan(0.06)
    for (const step of E12) expect(E24).toContain(step)
  })
  it.each([
    [731, 'down', 680],
    [731, 'up', 820],
    [731, 'nearest', 680],
    [1000, 'down', 1000],
    [1000, 'up', 1000],
    [9.9, 'up', 10],
    [0.95, 'nearest', 1],
    [4700, 'nearest', 4700],
  ] as const)('%s %s is %s', (value, rounding, expected) =>
    expect(preferred(value, E12, rounding)).toBeCloseTo(expected, 9),
  )
  it('refuses what has no preferred value', () => expect(() => preferred(0)).toThrow(RangeError))
})

describe('worked by hand (textbook; values common practice)', () => {
  it('base resistor: 5 V, 70 Ω coil, 3.3 V pin: I_C 68.6 mA, I_B 3.43 mA, R 758 Ω → 680 Ω', () => {
    const drive = baseDrive(5, 70, 3.3)
    expect(drive.coilMilliamps).toBeCloseTo(68.57, 1)
    expect(drive.baseMilliamps).toBeCloseTo(3.43, 2)
    expect(drive.baseOhms).toBe(680)
    expect(drive.pinMilliamps).toBeCloseTo(3.82, 2)
  })
  it('pull: short lead 10 kΩ → wetting 0.33 mA at 3.3 V; long lead 3.3 V / 2 mA = 1.65 kΩ → 1.5 kΩ', () => {
    expect(pullChoice(1, 3.3, 60).ohms).toBe(5600) // 3.3 V / 0.5 mA = 6.6 kΩ, E12 down
    expect(pullChoice(12, 3.3, 60).ohms).toBe(1500)
    expect(pullChoice(12, 5, 50).ohms).toBe(2200)
  })
  it('reservoir: 2 A for one slot of 577 µs from 3,300 µF, less 20 %, with 50 mΩ, falls 0.54 V; for two slots 0.97 V', () => {
    expect(reservoirDip(2000, 0.577, 3_300)).toBeCloseTo(0.537, 3)
    expect(reservoirDip(2000, 1.154, 3_300)).toBeCloseTo(0.974, 3)
  })
  it('linear drop: 12 V to 5 V at 300 mA is 2.1 W', () => expect(linearHeat(12, 5, 300)).toBeCloseTo(2.1, 9))
  it('snubber starting values', () => expect([snubberFor(0.5).ohms, snubberFor(3).nanofarads]).toEqual([100, 220]))
})

describe('box fill (NEC 314.16(B), published)', () => {
  const worked: Enclosure = {
    volumeCubicInches: 18,
    conductors: [{ awg: 14, count: 4 }],
    internalClamps: true,
    yokes: 1,
    groundingConductors: 2,
    moduleCubicCentimetres: 0,
  }
  it('the worked example: 4·2.00 + 2.00 + 2·2.00 + 2.00 = 16.00 in³ fits 18.0; with a 40 cm³ module 18.44 does not', () => {
    expect(boxFill(worked)).toMatchObject({ cubicInches: 16, fits: true })
    const more = boxFill({ ...worked, moduleCubicCentimetres: 40 })
    expect(more.cubicInches).toBeCloseTo(18.44, 2)
    expect(more.fits).toBe(false)
  })
  it('grounds beyond four take a quarter each', () =>
    expect(boxFill({ ...worked, groundingConductors: 6 }).cubicInches).toBeCloseTo(17, 9))
  it('the largest conductor counts for clamps, yokes and grounds', () =>
    expect(
      boxFill({
        ...worked,
        conductors: [
          { awg: 14, count: 2 },
          { awg: 12, count: 2 },
        ],
      }).cubicInches,
    ).toBeCloseTo(2 * 2 + 2 * 2.25 + 2.25 + 4.5 + 2.25, 9))
})

describe('contacts', () => {
  const verdict = (changes: Parameters<typeof newLoad>[2]) => {
    const site: Site = cleanSite()
    site.loads[0] = newLoad('bench-load' as LoadId, 'Load', changes)
    return contactVerdict(site, site.channels[0]!)!
  }
  it('a continuous load counts at 125 % (NEC 210.20(A)): 1840 W heater on 10 A is 80 %, continuous 100 %', () => {
    expect(verdict({ type: 'heater', watts: 1840 }).used).toBeCloseTo(0.8, 9)
    expect(verdict({ type: 'heater', watts: 1840, continuous: true }).used).toBeCloseTo(1, 9)
  })
  it('a motor gets a third of the print and a snubber', () => {
    const motor = verdict({ type: 'motor', watts: 750 })
    expect(motor.mayAmps).toBeCloseTo(3)
    expect(motor.advice).toBe('contactor')
    expect(motor.suppression?.words).toContain('X2')
  })
  it('a small LED lamp is fine', () =>
    expect(verdict({ type: 'led', watts: 9 })).toMatchObject({
      advice: 'contact',
      suppression: null,
      inrushFits: true,
    }))
})

describe('supply budget', () => {
  const supplied = (changes: Partial<NonNullable<Site['controllers'][number]['supply']>> = {}): Site => {
    const site = cleanSite()
    site.controllers[0]!.supply = {
      source: 'boxed-5v-1a',
      board: null,
      coils: null,
      own: null,
      reservoirMicrofarads: 0,
      coilsFromLogic: false,
      ...changes,
    }
    return site
  }
  const budget = (site: Site) => supplyBudget(site, site.controllers[0]!)!
  it('5 V 1 A, two relays: 2 · 71.4 mA of coils on top of the board', () => {
    const { shares, steady, peak, margin } = budget(supplied())
    expect(shares[1]!.steady).toBeCloseTo(142.86, 1)
    expect(steady).toBeCloseTo(shares[0]!.steady + shares[1]!.steady, 6)
    expect(peak).toBeGreaterThan(600)
    expect(margin).toBeCloseTo((1000 - peak) / 1000, 9)
  })
  it('a buck converter passes power on: 12 V source, 5 V at 88 %', () =>
    expect(
      budget(supplied({ source: 'boxed-12v-2a', board: 'buck-5v-3a', coils: 'buck-5v-3a' })).shares[1]!.steady,
    ).toBeCloseTo((142.857 * 5) / (12 * 0.88), 1))
  it('a linear one passes current on, and heats', () => {
    const { shares, heats } = budget(supplied({ source: 'boxed-12v-2a', board: 'linear-5v-1a', coils: 'linear-5v-1a' }))
    expect(shares[1]!.steady).toBeCloseTo(142.857, 1)
    expect(heats.find((heat) => heat.where === 'converter to the coils')!.watts).toBeCloseTo(7 * 0.142857, 3)
  })
  it('each result shows its formula with the numbers in it', () => {
    for (const { formula, source } of budget(supplied()).calculations) {
      expect(formula).toMatch(/\d/)
      expect(source).not.toBe('')
    }
  })
})

describe('who hangs on one supply', () => {
  const plan = { board: null, coils: null, own: null, reservoirMicrofarads: 0, coilsFromLogic: false }
  it('the coprocessor of a pair is in its main board’s budget, with its peak', () => {
    const site = SETUPS['pair']!()
    const budget = supplyBudget(site, site.controllers[0]!)!
    const radio = budget.shares.find(({ name }) => /coprocessor/.test(name))!
    expect([radio.steady, radio.peak]).toEqual([80, 300])
    // both peak when they join
    expect(budget.startTogether).toBeGreaterThanOrEqual(300 + 50)
  })
  it('a strike on the controller’s source is in its budget: 6 W at 12 V are 500 mA', () => {
    const site = cleanSite()
    site.controllers[0]!.supply = { source: 'boxed-12v-5a', ...plan, board: 'buck-5v-3a', coils: 'buck-5v-3a' }
    Object.assign(site.loads[0]!, { supply: 'low-voltage', watts: 6, feed: { from: 'controller' } })
    const { shares } = supplyBudget(site, site.controllers[0]!)!
    expect(shares.find(({ name }) => name === site.loads[0]!.name)!.steady).toBeCloseTo(500, 9)
  })
  it('a modem peaks at the start, and its burst counts whole until a reservoir holds it', () => {
    const site = cleanSite()
    const controller = site.controllers[0]!
    controller.parts.push({ id: 'm' as PartId, profile: 'gsm-modem', name: 'Modem' })
    const own = (reservoirMicrofarads: number) => {
      controller.supply = { source: 'boxed-12v-5a', ...plan, own: 'linear-5v-1a', reservoirMicrofarads }
      return supplyBudget(site, controller)!
    }
    const share = (budget: ReturnType<typeof own>) => budget.shares.find(({ name }) => name === 'Modem')!.peak
    expect([share(own(0)), share(own(1_000))]).toEqual([2000, 2000])
    // 1,200 mA are left to it for two of eight slots: 10,000 µF hold that
    expect(share(own(10_000))).toBeCloseTo(2000 / 4, 0)
    expect(own(0).startTogether).toBeGreaterThan(2000)
  })
})

describe('start-up strips', () => {
  it('a clean pin rests open until the firmware writes it', () => {
    const site = cleanSite()
    const [strip] = startUpStrips(site, site.controllers[0]!)
    expect(strip!.clicks).toBe(false)
    expect(strip!.stretches.map((s) => [s.fromMs, s.level, s.relay])).toEqual([
      [0, 'high', 'open'],
      [350, 'high', 'open'],
    ])
  })
  it('a pin that pulses may click; the restore comes after the firmware, staggered', () => {
    const site = cleanSite()
    site.controllers[0]!.pins['out:bench-lamp'] = { pin: 'D14', locked: true }
    for (const channel of site.channels) if ('powerUp' in channel) channel.powerUp = { policy: 'on' }
    const [first, second] = startUpStrips(site, site.controllers[0]!)
    expect(first!.clicks).toBe(true)
    expect(first!.stretches[0]).toMatchObject({ fromMs: 0, toMs: 60, relay: 'may click' })
    expect(second!.stretches.at(-1)).toMatchObject({ fromMs: 500, relay: 'closed' })
  })
})

// ngspice is an independent circuit simulator; npm test installs it.
describe.skipIf(!hasSpice)('ngspice agrees within 3 %', () => {
  it.each([
    [5, 1000, 'both'],
    [3.3, 1000, 'both'],
    [5, 470, 'both'],
    [5, 2200, 'both'],
    [12, 4700, 'both'],
    [1.7, 1000, 'opto'],
    [1.7, 470, 'opto'],
    [5, 1000, 'opto'],
  ] as const)('opto chain at %s V through %s Ω, %s', (volts, ohms, leds) => {
    const { 'i(v1)': amps } = spice(
      `opto chain\nV1 a 0 ${volts}\nR1 a b ${ohms}\nD1 b c ` +
        `opto\n${leds === 'both' ? 'D2 c 0 ind' : 'R2 c 0 1e-6'}\n.model opto ` +
        `D(IS=${OPTO.opto.saturationAmps} N=${OPTO.opto.emission})\n.model ind ` +
        `D(IS=${OPTO.indicator.saturationAmps} N=${OPTO.indicator.emission})\n.options ` +
        `temp=26.85\n.control\nop\nprint i(v1)\nquit 0\n.endc\n.end\n`,
    )
    close(chainMilliamps(volts, leds, ohms), -amps! * 1000)
  })
  it.each([
    [5, 70, 3.3],
    [5, 70, 5],
    [12, 400, 3.3],
    [12, 400, 5],
    [5, 125, 3.3],
    [12, 270, 5],
  ])(
    'transistor stage: %s V coil of %s Ω from a %s V pin pulls in with the current that we say',
    (coilVolts, coilOhms, pin) => {
      const drive = baseDrive(coilVolts, coilOhms, pin)
      const values = spice(
        `transistor stage\nVc s 0 ${coilVolts}\nRc s c ${coilOhms}\nVp p 0 ${pin}\nRb p b ` +
          `${drive.baseOhms}\nQ1 c b 0 npn\n.model npn NPN(IS=1e-14 BF=${TRANSISTOR.gain} ` +
          `RC=1)\n.control\nop\nprint i(vc) v(c)\nquit 0\n.endc\n.end\n`,
      )
      close(drive.coilMilliamps, -values['i(vc)']! * 1000)
      expect(values['v(c)']!).toBeLessThan(0.4) // saturated: the relay gets its volts
    },
  )
  it.each([
    [2000, 0.577, 1000],
    [2000, 0.577, 2200],
    [1600, 0.577, 470],
    [500, 1.154, 1000],
  ])('reservoir: %s mA for %s ms from %s µF', (milliamps, ms, microfarads) => {
    const values = spice(
      `reservoir\nRs r c 0.05\nC1 c 0 ${microfarads * 0.8}u IC=4\nI1 r 0 PULSE(0 ${milliamps / 1000} 0.1m 1n 1n ${ms}m ` +
        `1)\nR1 r 0 1e9\n.tran 1u ${0.3 + ms}m UIC\n.control\nrun\nmeas tran low MIN v(r)\nquit 0\n.endc\n.end\n`,
    )
    close(reservoirDip(milliamps, ms, microfarads), 4 - values['low']!)
  })
})

it('the module of the demo lets go with its jumper off', () => expect(optoModule(2).coilJumper).toBe('removed'))
