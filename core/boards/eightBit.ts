import { power } from './headerPins'
import type { BoardProfile, Capability, GpioSpot } from './schema'
import { EIGHT_BIT_SETTINGS } from './settings'

const DIGITAL: Capability[] = ['output', 'input', 'pull-up']
const gpio = (number: number, more: Partial<GpioSpot> = {}): GpioSpot => ({
  kind: 'gpio',
  label: `D${number}`,
  gpio: number,
  can: DIGITAL,
  ...more,
})
const pwm: Partial<GpioSpot> = { can: [...DIGITAL, 'pwm'] }
const analogue = (number: number): GpioSpot => ({
  kind: 'gpio',
  label: `A${number}`,
  gpio: 14 + number,
  can: [...DIGITAL, 'analogue'],
})

/** 8-bit 5 V board; A0 to A5 are digital pins 14 to 19 too. Source: memory of the chip maker's data sheet. */
export const eightBit: BoardProfile = {
  id: 'eight-bit-5v',
  name: '8-bit 5 V board',
  source: "memory of the chip maker's data sheet",
  logicVolts: 5,
  link: 'none',
  port: 'avr',
  pinMilliamps: { recommended: 20, absolute: 40, total: 200 },
  internalPullKiloohms: { least: 20, most: 50 },
  // with its USB bridge and light
  drawMilliamps: { idle: 50, peak: 60 },
  lowRailMilliamps: 50,
  inputHigh: 0.6,
  supplyVolts: { least: 4.5, most: 12 },
  check: [
    'whether it is fed at 5V (5 V, regulated) or at VIN (7 to 12 V): never 12 V at 5V',
    'D13 as an input: the board’s own light and its resistor pull it down; a pull of 1 kΩ or an output is better there',
    'the 3V3 pin gives 50 mA and no more: no radio hangs on it',
  ],
  regulator: { kind: 'linear', milliamps: 800, degreesPerWatt: 90 },
  firmwareAfterMs: 950,
  storeEndurance: 100_000,
  // one serial port in hardware; on other pins it would be made by software, which misses what comes while it sends
  pairs: [
    { kind: 'serial', first: 1, second: 0 },
    { kind: 'i2c', first: 18, second: 19 },
  ],
  boxed: null,
  own: { light: { gpio: 13, lit: 'high' } },
  left: [
    power('RST', null),
    power('3V3', 3.3),
    power('5V', 5),
    power('GND', 0),
    power('GND', 0),
    power('VIN', 9),
    ...[0, 1, 2, 3, 4, 5].map(analogue),
  ],
  right: [
    gpio(13, {
      // its light and the resistor before it
      boardPull: { to: 'low', ohms: 1_500 },
      usedBy: ['light'],
      startActivity: { level: 'pulses', ms: 900, what: 'the loader blinks the on-board light' },
    }),
    gpio(12),
    gpio(11, pwm),
    gpio(10, pwm),
    gpio(9, pwm),
    gpio(8),
    gpio(7),
    gpio(6, pwm),
    gpio(5, pwm),
    gpio(4),
    gpio(3, { can: [...DIGITAL, 'pwm', 'interrupt'] }),
    gpio(2, { can: [...DIGITAL, 'interrupt'] }),
    gpio(1, {
      usedBy: ['serial-log', 'usb'],
      startActivity: { level: 'pulses', ms: 900, what: 'the loader answers here' },
    }),
    gpio(0, { usedBy: ['serial-log', 'usb'] }),
  ],
  hidden: [],
  settings: EIGHT_BIT_SETTINGS,
  programming: [
    'The loader starts by itself at each reset over USB.',
    'Take whatever is wired to D0 and D1 off before you program.',
    'First start: the on-board light must not stay on.',
  ],
}
