import { gpioWith, power } from './headerPins'
import type { BoardProfile, Capability, GpioSpot } from './schema'
import { COPROCESSOR_SETTINGS, M0_SETTINGS, SMALL_RISC_SETTINGS } from './settings'

const FULL: Capability[] = ['output', 'input', 'pull-up', 'pull-down', 'interrupt', 'pwm']
const gpio = gpioWith(FULL)
const MEMORY = "memory of the chip maker's data sheet"

const analogue: Partial<GpioSpot> = { can: [...FULL, 'analogue'] }

/** Small RISC-V 3.3 V Wi-Fi and BLE board. Source: memory of the chip maker's data sheet. */
export const smallRiscv: BoardProfile = {
  id: 'small-risc-v-wifi',
  name: 'Small RISC-V 3.3 V Wi-Fi board',
  source: MEMORY,
  logicVolts: 3.3,
  link: 'wifi',
  port: 'board-core',
  pinMilliamps: { recommended: 20, absolute: 40, total: 500 },
  internalPullKiloohms: { least: 30, most: 60 },
  drawMilliamps: { idle: 80, peak: 350 },
  regulator: { kind: 'linear', milliamps: 500, degreesPerWatt: 160 },
  firmwareAfterMs: 300,
  storeEndurance: 1_000_000,
  pairs: 'matrix',
  serialPorts: 2,
  boxed: null,
  own: { light: { gpio: 8, lit: 'low' }, button: { gpio: 9, pressed: 'low', label: 'BOOT' } },
  left: [
    power('5V', 5),
    power('GND', 0),
    power('3V3', 3.3),
    gpio('4', 4, analogue),
    gpio('3', 3, analogue),
    gpio('2', 2, { ...analogue, startLevel: { level: 'high', otherwise: 'the board does not start' } }),
    gpio('1', 1, analogue),
    gpio('0', 0, analogue),
  ],
  right: [
    gpio('5', 5),
    gpio('6', 6),
    gpio('7', 7),
    gpio('8', 8, {
      usedBy: ['light'],
      startLevel: { level: 'high', otherwise: 'the board cannot be brought into programming' },
    }),
    gpio('9', 9, {
      usedBy: ['button'],
      startLevel: { level: 'high', otherwise: 'the board waits for programming instead of starting' },
    }),
    gpio('10', 10),
    gpio('20', 20, { usedBy: ['serial-log'] }),
    gpio('21', 21, {
      usedBy: ['serial-log'],
      startActivity: { level: 'pulses', ms: 250, what: 'the start-up messages are sent here' },
    }),
  ],
  hidden: [
    ...[12, 13, 14, 15, 16, 17].map((number) => ({ gpio: number, why: 'belongs to the flash memory' })),
    { gpio: 18, why: 'is the USB line' },
    { gpio: 19, why: 'is the USB line' },
  ],
  supplyVolts: { least: 4.5, most: 5.5 },
  check: [
    'the numbers printed at its pins: boards of one name bring out different ones',
    'whether its 5 V pin is joined to USB: then never feed both',
  ],
  settings: SMALL_RISC_SETTINGS,
  programming: [
    'Hold the button (GPIO 9) while you give it power or press reset, then let go.',
    'First start: the light on GPIO 8 is low-active; look for the tables’ hash in the serial log.',
  ],
}

/**
 * Dual-core M0+ Wi-Fi board: pulls on all pins, no boot-select among them. Source: memory of the chip maker's data
 * sheet.
 */
export const dualCoreM0: BoardProfile = {
  id: 'm0-plus-wifi',
  name: 'Dual-core M0+ 3.3 V Wi-Fi board',
  source: MEMORY,
  logicVolts: 3.3,
  link: 'wifi',
  port: 'board-core',
  pinMilliamps: { recommended: 4, absolute: 12, total: 50 },
  internalPullKiloohms: { least: 50, most: 80 },
  drawMilliamps: { idle: 60, peak: 300 },
  regulator: { kind: 'buck', milliamps: 800, degreesPerWatt: 60 },
  firmwareAfterMs: 120,
  storeEndurance: 1_000_000,
  pairs: [
    { kind: 'serial', first: 0, second: 1, unit: 0 },
    { kind: 'serial', first: 4, second: 5, unit: 1 },
    { kind: 'serial', first: 8, second: 9, unit: 1 },
    { kind: 'serial', first: 12, second: 13, unit: 0 },
    { kind: 'i2c', first: 0, second: 1 },
    { kind: 'i2c', first: 2, second: 3 },
    { kind: 'i2c', first: 4, second: 5 },
    { kind: 'i2c', first: 16, second: 17 },
    { kind: 'i2c', first: 18, second: 19 },
    { kind: 'i2c', first: 20, second: 21 },
  ],
  boxed: null,
  left: Array.from({ length: 16 }, (_, number) => gpio(`GP${number}`, number)),
  right: [
    power('VBUS', 5),
    power('VSYS', 5),
    power('GND', 0),
    power('3V3', 3.3),
    gpio('GP28', 28, analogue),
    gpio('GP27', 27, analogue),
    gpio('GP26', 26, analogue),
    power('RUN', null, 'reset: high to run'),
    ...[22, 21, 20, 19, 18, 17, 16].map((number) => gpio(`GP${number}`, number)),
    power('GND', 0),
  ],
  hidden: [23, 24, 25, 29].map((number) => ({ gpio: number, why: 'belongs to the radio' })),
  supplyVolts: { least: 1.8, most: 5.5 },
  check: [
    'the strength of its outputs: 4 mA unless the firmware asks for more',
    'which GP pins are one port: 0/1 and 12/13 are the first, 4/5 and 8/9 the second',
  ],
  settings: M0_SETTINGS,
  programming: [
    'Hold the button on the board while you plug USB in: it shows itself as a drive.',
    'First start: look for the tables’ hash in the serial log.',
  ],
}

/** 8-pin Wi-Fi coprocessor: four GPIO, two of them its serial line. Source: memory of the chip maker's data sheet. */
export const eightPinCoprocessor: BoardProfile = {
  id: 'eight-pin-coprocessor',
  name: '8-pin 3.3 V Wi-Fi coprocessor',
  source: MEMORY,
  logicVolts: 3.3,
  link: 'wifi',
  port: 'board-core',
  pinMilliamps: { recommended: 12, absolute: 12, total: 48 },
  internalPullKiloohms: { least: 30, most: 100 },
  drawMilliamps: { idle: 80, peak: 300 },
  regulator: { kind: 'none', milliamps: 300, degreesPerWatt: 160 },
  firmwareAfterMs: 150,
  storeEndurance: 100_000,
  pairs: [{ kind: 'serial', first: 1, second: 3 }],
  boxed: null,
  left: [
    gpio('TX', 1, {
      can: ['output', 'input', 'pull-up', 'interrupt', 'pwm'],
      usedBy: ['serial-log'],
      startActivity: { level: 'pulses', ms: 100, what: 'the start-up messages are sent here' },
    }),
    power('EN', null, 'high to run'),
    power('RST', null, 'high to run'),
    power('3V3', 3.3, 'has no regulator: 3.3 V only'),
  ],
  right: [
    power('GND', 0),
    gpio('IO2', 2, {
      can: ['output', 'input', 'pull-up', 'interrupt', 'pwm'],
      startLevel: { level: 'high', otherwise: 'the board does not start' },
    }),
    gpio('IO0', 0, {
      can: ['output', 'input', 'pull-up', 'interrupt', 'pwm'],
      startLevel: { level: 'high', otherwise: 'the board waits for programming instead of starting' },
    }),
    gpio('RX', 3, { can: ['output', 'input', 'pull-up', 'interrupt', 'pwm'], usedBy: ['serial-log'] }),
  ],
  hidden: [],
  supplyVolts: { least: 3.0, most: 3.6 },
  check: [
    'its supply: 3.3 V and 300 mA or more, never 5 V, and never the 3V3 pin of an 8-bit board',
    'EN must be pulled high, or it stays asleep',
  ],
  settings: COPROCESSOR_SETTINGS,
  programming: [
    'Hold IO0 to ground while you give it power; take the bridge off before the next start.',
    'The programming adapter must be a 3.3 V one; connect its 3.3 V lead last.',
  ],
}
