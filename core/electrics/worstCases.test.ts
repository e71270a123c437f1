import { describe, expect, it } from 'vitest'
import { optoModule, type RelayModule } from '../site'
import {
  bleedOhms,
  bleedWatts,
  chainOhms,
  DIVIDER,
  dividedVolts,
  lightOhms,
  OPTO,
  optoChain,
  pulledVolts,
  pullInMilliamps,
  reservoirFor,
  reservoirDip,
} from '.'
import { close, hasSpice, spice } from './spice.testkit'

/** Each worst case that a finding speaks of, against an independent simulator; the figures of hand beside them. */

const LEDS =
  `.model opto D(IS=${OPTO.opto.saturationAmps} N=${OPTO.opto.emission})\n` +
  `.model ind D(IS=${OPTO.indicator.saturationAmps} N=${OPTO.indicator.emission})\n.options temp=26.85\n`
const solve = (title: string, circuit: string, print: string) =>
  spice(`${title}\n${circuit}\n.control\nop\nprint ${print}\nquit 0\n.endc\n.end\n`)

/** mA that a coil gets through an opto of a transfer ratio and a transistor of a gain, for mA in its LED. */
function coilMilliamps(
  led: number,
  { coilVolts, coilOhms }: RelayModule,
  { transfer, gain }: { transfer: number; gain: number },
): number {
  // the transistor of the opto as a current that follows the LED's; V2 counts it
  const values = solve(
    'opto, transistor, coil',
    `I1 0 a ${led / 1000}\nV1 a 0 0\nF1 s b V1 ${transfer}\nVs s 0 ${coilVolts}\nRc s c ${coilOhms}\nQ1 c b 0 npn\n` +
      `.model npn NPN(IS=1e-14 BF=${gain})`,
    'v(s) v(c)',
  )
  return ((values['v(s)']! - values['v(c)']!) / coilOhms) * 1000
}

describe.skipIf(!hasSpice)('worst cases, against ngspice', () => {
  const module = optoModule(2)
  it('the least LED current holds a coil of 71 mA: 1.43 mA does, 0.475 mA does not', () => {
    const least = pullInMilliamps(module, 'least')
    close(least, 1.43)
    // at the worked current the coil has what it must have; a third of it leaves it a third
    expect(coilMilliamps(least, module, OPTO.least)).toBeGreaterThan(0.95 * 71.4)
    expect(coilMilliamps(0.475, module, OPTO.least)).toBeLessThan(0.4 * 71.4)
    expect(coilMilliamps(pullInMilliamps(module, 'usual'), module, OPTO.usual)).toBeGreaterThan(0.95 * 71.4)
  })
  it('a high-active input gets the pin’s 3.3 V whatever the jumper: 0.475 mA, and nothing when told off', () => {
    const high: RelayModule = { ...module, active: 'high', coilJumper: 'fitted' }
    const values = solve('high-active', `V1 a 0 3.3\nR1 a b 1000\nD1 b c opto\nD2 c 0 ind\n${LEDS}`, 'i(v1)')
    close(optoChain(high, 3.3).onMilliamps, -values['i(v1)']! * 1000)
    close(optoChain(high, 3.3).onMilliamps, 0.475)
    expect(optoChain(high, 3.3).offMilliamps).toBe(0)
  })
  it('the resistor that a fix names gives the current that it promises, and the next one does not', () => {
    const found = chainOhms({ ...module, chain: 'opto' }, 3.3, pullInMilliamps(module, 'least'))!
    const at = (ohms: number) =>
      -solve('chain', `V1 a 0 3.3\nR1 a b ${ohms}\nD1 b 0 opto\n${LEDS}`, 'i(v1)')['i(v1)']! * 1000
    expect(at(found)).toBeGreaterThan(1.42)
    expect(at(found * 1.25)).toBeLessThan(1.43)
  })
  it('a low-active transistor input of 5 V that is told off with 3.3 V keeps the coil in; at 5 V it lets go', () => {
    // PNP from the coil supply, base through 1 kΩ to the pin, coil to ground
    const coil = (pin: number) =>
      solve(
        'pnp',
        `Vs s 0 5\nVp p 0 ${pin}\nRb p b 1000\nQ1 c b s pnp\nRc c 0 70\n.model pnp PNP(IS=1e-14 BF=100)`,
        'v(c)',
      )['v(c)']!
    expect(coil(3.3) / 5).toBeGreaterThan(0.75)
    expect(coil(5) / 5).toBeLessThan(0.05)
  })
  it.each([
    ['1.5 kΩ up against 12 kΩ down', 1_500, 12_000, 2.93],
    ['100 kΩ up against 12 kΩ down', 100_000, 12_000, 0.354],
    ['10 kΩ up against 12 kΩ down', 10_000, 12_000, 1.8],
  ])('pulls: %s at 3.3 V', (_, up, down, byHand) => {
    const ours = pulledVolts(3.3, [
      { to: 'high', ohms: up, what: '' },
      { to: 'low', ohms: down, what: '' },
    ])!
    close(ours, solve('pulls', `V1 a 0 3.3\nR1 a b ${up}\nR2 b 0 ${down}`, 'v(b)')['v(b)']!)
    close(ours, byHand)
  })
  it('the divider brings 5 V to what a 3.3 V input stands', () => {
    const { seriesOhms, groundOhms } = DIVIDER
    close(dividedVolts(5), solve('divider', `V1 a 0 5\nR1 a b ${seriesOhms}\nR2 b 0 ${groundOhms}`, 'v(b)')['v(b)']!)
    expect(dividedVolts(5.25)).toBeLessThan(3.6)
    expect(dividedVolts(4.75)).toBeGreaterThan(0.7 * 3.3)
  })
  it('a status light gets no more than it should', () => {
    const red = '.model red D(IS=1e-18 N=2)\n.options temp=26.85'
    for (const volts of [3.3, 5]) {
      const amps = -solve('light', `V1 a 0 ${volts}\nR1 a b ${lightOhms(volts, 5)}\nD1 b 0 red\n${red}`, 'i(v1)')[
        'i(v1)'
      ]!
      expect(amps * 1000).toBeLessThan(5.6)
      expect(amps * 1000).toBeGreaterThan(3)
    }
  })
  it.each([
    [2.2, 230],
    [3.3, 230],
    [3.3, 120],
  ])('bleed of %s µF at %s V: below 50 V within a minute (NEC 460.6(A)), and cool', (microfarads, volts) => {
    const ohms = bleedOhms(microfarads, volts)
    const peak = volts * Math.SQRT2
    const values = spice(
      `bleed\nC1 a 0 ${microfarads}u IC=${peak}\nR1 a 0 ${ohms}\n.tran 10m 61 UIC\n.control\nrun\n` +
        `meas tran gone WHEN v(a)=50\nquit 0\n.endc\n.end\n`,
    )
    expect(values['gone']!).toBeLessThan(60)
    close(ohms * microfarads * 1e-6 * Math.log(peak / 50), values['gone']!)
    expect(bleedWatts(ohms, volts)).toBeLessThan(0.25)
  })
  it('the reservoir that a fix names holds a modem’s burst of two slots, the next smaller one does not', () => {
    const dip = (microfarads: number) => {
      const { low } = spice(
        `modem\nRs r c 0.05\nC1 c 0 ${microfarads * 0.8}u IC=4\nI1 r 0 PULSE(0 1 0.1m 1n 1n 1.154m 1)\nR1 r 0 1e9\n` +
          `.tran 1u 1.5m UIC\n.control\nrun\nmeas tran low MIN v(r)\nquit 0\n.endc\n.end\n`,
      )
      return 4 - low!
    }
    const found = reservoirFor(1_000, 1.154)!
    expect(dip(found)).toBeLessThanOrEqual(0.4)
    expect(dip(found / 1.5)).toBeGreaterThan(0.4)
    close(reservoirDip(1_000, 1.154, found), dip(found))
  })
})
