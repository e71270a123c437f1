import { gpioWith, power } from './headerPins'
import type { BoardProfile, Capability } from './schema'
import { SINGLE_CORE_SETTINGS } from './settings'

const FULL: Capability[] = ['output', 'input', 'pull-up', 'interrupt', 'pwm']
const gpio = gpioWith(FULL)

/** Without a driver or a pull until the firmware takes it; what hangs there sees a high. */
const FLOATS_HIGH = {
  startActivity: { level: 'high' as const, ms: 100, what: 'pulled up weakly by the chip until the firmware takes it' },
}

/**
 * Single-core 3.3 V Wi-Fi board, 16 pins. Labels and GPIO numbers differ. Source: memory of the chip maker's data
 * sheet.
 */
export const singleCoreWifi: BoardProfile = {
  id: 'single-core-wifi-16',
  name: 'Single-core 3.3 V Wi-Fi board, 16 pins',
  source: "memory of the chip maker's data sheet",
  logicVolts: 3.3,
  link: 'wifi',
  port: 'board-core',
  pinMilliamps: { recommended: 12, absolute: 12, total: 100 },
  internalPullKiloohms: { least: 30, most: 100 },
  drawMilliamps: { idle: 80, peak: 300 },
  regulator: { kind: 'linear', milliamps: 500, degreesPerWatt: 160 },
  firmwareAfterMs: 150,
  // the store is one sector of the flash, which stands about that many erasures
  storeEndurance: 100_000,
  pairs: [
    { kind: 'serial', first: 1, second: 3 },
    { kind: 'i2c', first: 4, second: 5 },
    { kind: 'i2c', first: 14, second: 12 },
  ],
  boxed: null,
  own: { light: { gpio: 2, lit: 'low' }, button: { gpio: 0, pressed: 'low', label: 'FLASH' } },
  left: [
    power('RST', null, 'reset: high to run'),
    gpio('A0', 17, { can: ['analogue'] }),
    gpio('D0', 16, {
      can: ['output', 'input', 'pull-down'],
      startActivity: { level: 'high', ms: 100, what: 'high from power until the firmware takes it' },
    }),
    gpio('D5', 14, FLOATS_HIGH),
    gpio('D6', 12, FLOATS_HIGH),
    gpio('D7', 13, FLOATS_HIGH),
    gpio('D8', 15, {
      boardPull: { to: 'low', ohms: 12_000 },
      startLevel: { level: 'low', otherwise: 'the board looks for a memory card and does not start' },
    }),
    power('3V3', 3.3),
  ],
  right: [
    gpio('TX', 1, {
      usedBy: ['serial-log', 'usb'],
      startActivity: { level: 'pulses', ms: 100, what: 'the start-up messages are sent here' },
    }),
    gpio('RX', 3, { usedBy: ['serial-log', 'usb'], ...FLOATS_HIGH }),
    gpio('D1', 5),
    gpio('D2', 4),
    gpio('D3', 0, {
      boardPull: { to: 'high', ohms: 12_000 },
      usedBy: ['button'],
      startLevel: { level: 'high', otherwise: 'the board waits for programming instead of starting' },
      startActivity: { level: 'pulses', ms: 100, what: 'swings while the chip starts' },
    }),
    gpio('D4', 2, {
      boardPull: { to: 'high', ohms: 12_000 },
      usedBy: ['light'],
      startLevel: { level: 'high', otherwise: 'the board does not start' },
      startActivity: { level: 'pulses', ms: 100, what: 'start-up messages are repeated here' },
    }),
    power('GND', 0),
    power('5V', 5),
  ],
  hidden: [6, 7, 8, 9, 10, 11].map((number) => ({
    gpio: number,
    why:
      number === 9 || number === 10
        ? 'belongs to the flash memory (free only in its two-line mode)'
        : 'belongs to the flash memory',
  })),
  supplyVolts: { least: 4.5, most: 5.5 },
  check: [
    'the volts that A0 takes: 0 to 1 V at the bare chip, 0 to 3.3 V where the board has a divider',
    'whether its 5 V pin is joined to USB: then never feed both',
    'what stands printed at D1 and D2: on some boards the two are swapped',
  ],
  settings: SINGLE_CORE_SETTINGS,
  programming: [
    'Hold D3 (GPIO 0) to ground while you press reset: the board waits for programming. Take the bridge ' +
      'off before the next start.',
    'D8 (GPIO 15) must be low and D4 (GPIO 2) high meanwhile, as the board itself arranges.',
    'First start: open the serial log at 115200 and look for the tables’ hash; a board whose serial ' +
      'line is a link says it on its `log` topic only.',
  ],
}

const FLASH_LINE = 'belongs to the flash memory'
const FREED = { freedBy: 'two-line flash' as const, usedBy: ['flash' as const] }
const PIN = Object.fromEntries([...singleCoreWifi.left, ...singleCoreWifi.right].map((spot) => [spot.label, spot]))

/**
 * The same chip on a board of 30 pins, which brings the flash memory's lines out too: SD2 and SD3 are free where the
 * firmware is written in the two-line mode. Source: memory of the chip maker's data sheet and of usual boards.
 */
export const singleCoreWifiWide: BoardProfile = {
  ...singleCoreWifi,
  id: 'single-core-wifi-30',
  name: 'Single-core 3.3 V Wi-Fi board, 30 pins',
  left: [
    PIN['A0']!,
    power('RSV', null, 'not connected'),
    power('RSV', null, 'not connected'),
    gpio('SD3', 10, FREED),
    gpio('SD2', 9, FREED),
    power('SD1', null, FLASH_LINE),
    power('CMD', null, FLASH_LINE),
    power('SD0', null, FLASH_LINE),
    power('CLK', null, FLASH_LINE),
    power('GND', 0),
    power('3V3', 3.3),
    power('EN', null, 'high to run'),
    power('RST', null, 'reset: high to run'),
    power('GND', 0),
    power('VIN', 5),
  ],
  right: [
    ...['D0', 'D1', 'D2', 'D3', 'D4'].map((label) => PIN[label]!),
    power('3V3', 3.3),
    power('GND', 0),
    ...['D5', 'D6', 'D7', 'D8', 'RX', 'TX'].map((label) => PIN[label]!),
    power('GND', 0),
    power('3V3', 3.3),
  ],
  hidden: [6, 7, 8, 11].map((number) => ({ gpio: number, why: FLASH_LINE })),
  check: [
    ...singleCoreWifi.check!,
    'SD2 and SD3: on some modules they hang on the flash memory in either mode; try the board before you wire them',
  ],
}
